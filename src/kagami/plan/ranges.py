"""A value shown over a row of values: one finished mark for each, to choose by eye."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluate import Cache, Result, evaluate
from kagami.plan.messages import number_text
from kagami.plan.solving import with_value

MOST: Final = 25
DECIMALS: Final = 3


@dataclass(frozen=True, slots=True)
class Sample:
    """A measure's value, as it would be typed, and the plan evaluated with it."""

    value: str
    result: Result


def over_range(
    plan: Plan, name: str, low: str, high: str, count: int, cache: Cache | None = None
) -> tuple[Sample, ...]:
    """The plan with a measure at `count` even values from `low` to `high` (typed values, both included).

    Values are rounded to a thousandth of u, so that the one that is picked reads well.

    Raises:
        ChangeRefused: there is no such measure, or the count is not from 2 to `MOST`.
        PlanError: an end of the range cannot be read or computed.
    """
    if all(measure.name != name for measure in plan.measures):
        raise ChangeRefused("no-measure", name=name)
    if not 2 <= count <= MOST:
        raise ChangeRefused("range-count", most=MOST, given=count)
    cache = Cache() if cache is None else cache
    values = evaluate(plan, cache).values
    ends = values.of(low), values.of(high)
    texts = [
        f"{number_text(round(value, DECIMALS)).replace('−', '-')}u" for value in np.linspace(*ends, count).tolist()
    ]
    return tuple(Sample(text, evaluate(with_value(plan, name, text), cache)) for text in dict.fromkeys(texts))


def usual_range(plan: Plan, name: str, cache: Cache | None = None) -> tuple[str, str]:
    """Ends to begin with: half and one and a half times what the measure comes to now."""
    value = evaluate(plan, cache).measures.values.get(name, 1.0) or 1.0
    low, high = (f"{number_text(round(value * share, DECIMALS)).replace('−', '-')}u" for share in (0.5, 1.5))
    return low, high
