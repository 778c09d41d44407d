"""Paired runs: ours, then the reference, in turn, so that both see the same machine."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from typing import NamedTuple


class Row(NamedTuple):
    """A line of the table; each time is the median of its runs, `ratio` the reference's figure by ours."""

    name: str
    ours: float
    reference: str
    its: float
    ratio: float
    unit: str = "ms"


def paired(name: str, ours: Callable[[], object], reference: str, theirs: Callable[[], object], runs: int = 15) -> Row:
    """Measure both in turn, after one warm-up each; the ratio is the median of the pairs' ratios."""
    ours()
    theirs()
    mine, other = [], []
    for _ in range(runs):
        mine.append(_milliseconds(ours))
        other.append(_milliseconds(theirs))
    ratio = statistics.median(b / a for a, b in zip(mine, other, strict=True))
    return Row(name, statistics.median(mine), reference, statistics.median(other), round(ratio, 2))


def _milliseconds(task: Callable[[], object]) -> float:
    started = time.perf_counter()
    task()
    return (time.perf_counter() - started) * 1000
