"""What an open measure was solved to."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Solution:
    """What an open measure was solved to, in u; `others` are further solutions in its range."""

    value: float
    others: tuple[float, ...]
