"""What is loaded when it is first needed, so that a short command starts soon; a server loads it before it is ready."""

from __future__ import annotations

import importlib
from typing import Final

from kagami.geometry.loading import compiled, use_compiled
from kagami.plan.steps.reading import make_schemas

LATER: Final = (
    "kagami.exchange.path_text",
    "bidi",
    "coloraide",
    "fontTools.unicodedata",
    "scipy.interpolate",
    "scipy.optimize",
    "scipy.sparse.csgraph",
    "scipy.spatial",
    "scipy.special",
    "uharfbuzz",
)
COMPILED: Final = ("cubic_pairs", "fitting")


def warm() -> None:
    """Load all of it, and have compiled what is compiled (kept on disk), so that nobody's first edit waits."""
    for name in LATER:
        importlib.import_module(name)
    make_schemas()
    for name in COMPILED:
        compiled(name)
    use_compiled()


if __name__ == "__main__":
    warm()
