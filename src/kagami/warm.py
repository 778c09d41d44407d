"""What is loaded when it is first needed, so that a short command starts soon; a server loads it before it is ready."""

from __future__ import annotations

import importlib
from typing import Final

import numpy as np

from kagami.geometry.arrays import Floats, Ints

LATER: Final = (
    "coloraide",
    "kagami.geometry.compiled.cubic_pairs",
    "kagami.geometry.compiled.fitting",
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
    from kagami.geometry import hermite
    from kagami.geometry.crossings import cubic_cubic
    from kagami.geometry.table import use_compiled

    use_compiled()

    cubic_cubic.meet_all(np.array([[0.0, 0.0, 1.0, 2.0, 2.0, 2.0, 3.0, 0.0], [0.0, 1.0, 1.0, 0.0, 2.0, 0.0, 3.0, 1.0]]))

    def quarter(_index: Ints, t: Floats) -> tuple[Floats, Floats]:
        return np.column_stack([np.cos(t), np.sin(t)]), np.column_stack([-np.sin(t), np.cos(t)])

    hermite.fitted(quarter, np.zeros(1), np.ones(1))
