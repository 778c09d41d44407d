"""What is loaded when it is first needed, so that a short command starts soon; a server loads it before it is ready."""

from __future__ import annotations

import importlib
from typing import Final

LATER: Final = (
    "coloraide",
    "scipy.interpolate",
    "scipy.optimize",
    "scipy.sparse.csgraph",
    "scipy.spatial",
    "scipy.special",
)


def warm() -> None:
    """Load all of it, so that nobody's first edit waits."""
    for name in LATER:
        importlib.import_module(name)
