"""Where a cubic crosses itself."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats, lengths
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.kinds import cubic
from kagami.geometry.loading import quick
from kagami.geometry.tolerance import LENGTH, ROUNDING


def meet(rows: Floats) -> Meetings:
    """The loop of each cubic that has one: both parameters of its double point, t < s.

    With B = a₀ + a₁t + a₂t² + a₃t³ and B(t) = B(s), dividing by t − s leaves a₃(σ² − π) + a₂σ + a₁ = 0, where σ = t + s
    and π = ts: two linear equations for σ² − π and σ.
    """
    compiled = quick("cubic_forms")
    if compiled is not None:
        return Meetings(*compiled.double_points(rows))
    p = cubic.power(rows)
    det = p[:, 3, 0] * p[:, 2, 1] - p[:, 3, 1] * p[:, 2, 0]
    scale = np.abs(p[:, 1:]).max(axis=(1, 2)) ** 2
    bent = np.abs(det) > ROUNDING * scale
    safe = np.where(bent, det, 1.0)
    mixed = (p[:, 1, 1] * p[:, 2, 0] - p[:, 1, 0] * p[:, 2, 1]) / safe
    total = (p[:, 1, 0] * p[:, 3, 1] - p[:, 1, 1] * p[:, 3, 0]) / safe
    discriminant = total**2 - 4 * (total**2 - mixed)
    apart = np.sqrt(np.maximum(discriminant, 0.0))
    t, s = (total - apart) / 2, (total + apart) / 2
    # A loop that closes in an end of the curve may come out a hair beyond it.
    inside_t, inside_s = np.clip(t, 0.0, 1.0), np.clip(s, 0.0, 1.0)
    gap = lengths(cubic.point(rows, inside_t) - cubic.point(rows, inside_s))
    loops = np.flatnonzero(bent & (discriminant > ROUNDING) & (inside_s > inside_t) & (gap <= LENGTH))
    return Meetings(loops, inside_t[loops], inside_s[loops])
