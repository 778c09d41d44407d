"""What is loaded when it is first needed, so that a short command starts soon; a server loads it before it is ready."""

from __future__ import annotations

import importlib
from typing import Final

import numpy as np

LATER: Final = (
    "coloraide",
    "kagami.geometry.compiled.cubic_pairs",
    "scipy.interpolate",
    "scipy.optimize",
    "scipy.sparse.csgraph",
    "scipy.spatial",
    "scipy.special",
)


def warm() -> None:
    """Load all of it, and have compiled what is compiled (kept on disk), so that nobody's first edit waits."""
    for name in LATER:
        importlib.import_module(name)
    from kagami.geometry.crossings import cubic_cubic

    cubic_cubic.meet_all(np.array([[0.0, 0.0, 1.0, 2.0, 2.0, 2.0, 3.0, 0.0], [0.0, 1.0, 1.0, 0.0, 2.0, 0.0, 3.0, 1.0]]))
