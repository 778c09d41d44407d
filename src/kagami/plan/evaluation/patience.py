"""How long somebody waits for an evaluation before they would rather see what there is."""

from __future__ import annotations

import math
import time
from dataclasses import dataclass, field
from typing import Final

OVERRUN: Final = 1.5


@dataclass
class Patience:
    """For one evaluation: after `seconds` no further step is begun, nor is one that would, going by its `pace`, not be
    done within half as much again. What comes before the step `until`, and that step, is drawn whatever it takes.
    """

    seconds: float = math.inf
    pace: dict[str, float] = field(default_factory=dict)
    """Seconds that steps took lately, by id; it is brought up to date."""
    until: str = ""
    _begun: float = field(default_factory=time.perf_counter)

    def allows(self, step: str) -> bool:
        """Whether a step is drawn now."""
        if self.until:
            return True
        spent = time.perf_counter() - self._begun
        return spent <= self.seconds and spent + self.pace.get(step, 0.0) <= OVERRUN * self.seconds

    def drawn(self, step: str, seconds: float) -> None:
        """Note that a step was drawn. One that was slow a moment ago is soon taken for quick where it was so again."""
        self.pace[step] = max(seconds, self.pace.get(step, 0.0) / 2)
        if step == self.until:
            self.until = ""
