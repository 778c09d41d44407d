"""Where a cubic crosses itself."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.crossings.meeting import Meetings
from kagami.geometry.kinds import cubic
from kagami.geometry.tolerance import ROUNDING


def meet(rows: Floats) -> Meetings:
    """The loop of each cubic that has one: both parameters of its double point, t < s.

    With B = a₀ + a₁t + a₂t² + a₃t³ and B(t) = B(s), dividing by t − s leaves a₃(σ² − π) + a₂σ + a₁ = 0, where σ = t + s
    and π = ts: two linear equations for σ² − π and σ.
    """
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
    loops = np.flatnonzero(bent & (discriminant > ROUNDING) & (t >= 0.0) & (s <= 1.0))
    return Meetings(loops, t[loops], s[loops])
