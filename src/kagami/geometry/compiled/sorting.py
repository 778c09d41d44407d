"""Positions sorted by small numbers, and within them by values."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrays import Floats, Ints
from kagami.geometry.compiled.decorator import compiled


@compiled
def bucketed(keys: Ints, buckets: int) -> tuple[Ints, Ints]:
    """Positions sorted by a small number each, in their order; and where each bucket begins (one more at the end)."""
    begin = np.zeros(buckets + 1, np.int64)
    for k in range(len(keys)):
        begin[keys[k] + 1] += 1
    for k in range(buckets):
        begin[k + 1] += begin[k]
    order, at = np.empty(len(keys), np.int64), begin[:-1].copy()
    for k in range(len(keys)):
        order[at[keys[k]]] = k
        at[keys[k]] += 1
    return order, begin


@compiled
def sort_bucket(order: Ints, low: int, high: int, by: Floats) -> None:
    """Sort order[low:high] by a value each; what is equal keeps its order. A long bucket is sorted by merging."""
    if high - low > 32:
        part = order[low:high].copy()
        order[low:high] = part[np.argsort(by[part], kind="mergesort")]
        return
    for k in range(low + 1, high):
        item, m = order[k], k
        while m > low and by[order[m - 1]] > by[item]:
            order[m] = order[m - 1]
            m -= 1
        order[m] = item
