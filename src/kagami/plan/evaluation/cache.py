"""Drawings and solutions that were computed before, by the hash of what they were made from."""

from __future__ import annotations

from collections import OrderedDict, deque
from dataclasses import dataclass, field
from threading import Lock
from typing import Any, Final

from kagami.plan.errors import PlanError
from kagami.plan.evaluation.solution import Solution
from kagami.plan.outcome import Drawing

MOST_BYTES: Final = 256_000_000
"""What all drawings together may weigh; the longest unused go first."""
LARGEST: Final = 64_000_000
"""A drawing that weighs more than this is not kept."""
MOST_DRAWINGS: Final = 4000
MOST_SOLUTIONS: Final = 1000
MOST_RESULTS: Final = 24
PASSING_BYTES: Final = 16_000_000
"""What drawings that are merely passed may weigh."""
OF_A_CURVE: Final = 700
"""Bytes that a curve takes, as a value and in what is worked out from it."""


@dataclass
class Cache:
    """Drawings and solutions by key; the longest unused go first. Threads may share one."""

    most_bytes: int = MOST_BYTES
    drawings: OrderedDict[str, Drawing | PlanError] = field(default_factory=OrderedDict)
    solutions: OrderedDict[str, Solution | PlanError] = field(default_factory=OrderedDict)
    hits: int = 0
    misses: int = 0
    weight: int = 0
    _weights: dict[str, int] = field(default_factory=dict, repr=False)
    _results: deque[tuple[object, object, Any]] = field(default_factory=lambda: deque(maxlen=MOST_RESULTS), repr=False)
    _lock: Lock = field(default_factory=Lock, repr=False)

    def get(self, key: str) -> Drawing | PlanError | None:
        """The drawing that is stored under a key."""
        with self._lock:
            found = self.drawings.get(key)
            if found is None:
                self.misses += 1
                return None
            self.hits += 1
            self.drawings.move_to_end(key)
            return found

    def put(self, key: str, drawing: Drawing | PlanError) -> None:
        """Store a drawing, unless it is larger than is sensible."""
        weight = 1000 if isinstance(drawing, PlanError) else drawing.weight(OF_A_CURVE)
        if weight > LARGEST:
            return
        with self._lock:
            self.weight += weight - self._weights.pop(key, 0)
            self.drawings[key], self._weights[key] = drawing, weight
            while self.weight > self.most_bytes or len(self.drawings) > MOST_DRAWINGS:
                oldest, _ = self.drawings.popitem(last=False)
                self.weight -= self._weights.pop(oldest)

    def solution(self, key: str) -> Solution | PlanError | None:
        """The solution that is stored under a key."""
        with self._lock:
            return self.solutions.get(key)

    def put_solution(self, key: str, found: Solution | PlanError) -> None:
        """Store a solution."""
        with self._lock:
            self.solutions[key] = found
            while len(self.solutions) > MOST_SOLUTIONS:
                self.solutions.popitem(last=False)

    def result(self, plan: object, of: object) -> Any | None:
        """What a plan came to, where that very plan was evaluated a moment ago; `of` tells how much of it."""
        with self._lock:
            return next((found for known, what, found in self._results if known is plan and what == of), None)

    def put_result(self, plan: object, of: object, result: object) -> None:
        """Note what a plan, or so much of it, came to, for the next questions about it."""
        with self._lock:
            self._results.append((plan, of, result))

    def forget(self) -> None:
        """Be as new."""
        with self._lock:
            self.drawings.clear()
            self.solutions.clear()
            self._weights.clear()
            self._results.clear()
            self.weight = 0

    def __contains__(self, key: str) -> bool:
        return key in self.drawings


class Passing(Cache):
    """For values that a hand drags through: it finds what another cache holds, and keeps the rest by itself, little of
    it, so that nothing that was merely passed stays.
    """

    def __init__(self, below: Cache, most_bytes: int = PASSING_BYTES) -> None:
        super().__init__(most_bytes)
        self.below = below
        self.pace: dict[str, float] = {}
        """What steps took lately (see `patience`)."""

    def get(self, key: str) -> Drawing | PlanError | None:
        """The drawing under a key, wherever it is."""
        return self.below.get(key) if key in self.below else super().get(key)

    def solution(self, key: str) -> Solution | PlanError | None:
        """The solution under a key, wherever it is."""
        return self.below.solution(key) or super().solution(key)
