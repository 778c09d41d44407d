"""What a contact sheet is asked to show: read from the address or the form, completed with what is usual."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from kagami.plan import limits, ranges
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache

USUAL_COUNT: Final = 9
USUAL_IN_GRID: Final = 5


@dataclass(frozen=True)
class Way:
    """One way across the sheet: a subject over `count` values from `low` to `high`, as typed."""

    number: int
    subject: ranges.Subject | None
    low: str = ""
    high: str = ""
    count: int = USUAL_COUNT

    @property
    def key(self) -> str:
        """The subject's key, empty where nothing varies this way."""
        return self.subject.key if self.subject else ""

    def row(self, plan: Plan, cache: Cache) -> ranges.Row:
        """The values that the subject is shown with.

        Raises:
            PlanError: an end cannot be read, or the count is too small or too large.
        """
        assert self.subject is not None
        return ranges.row_between(plan, self.subject, self.low, self.high, self.count, cache)


def asked(plan: Plan, data: Mapping[str, str], cache: Cache) -> tuple[Way, Way]:
    """The way across and the way down; a mark without anything to vary has neither."""
    known = {subject.key: subject for subject in ranges.subjects(plan)}
    first = known.get(data.get("of1", "")) or next(iter(known.values()), None)
    second = known.get(data.get("of2", ""))
    return _way(plan, data, 1, first, second is not None, cache), _way(plan, data, 2, second, True, cache)


def _way(
    plan: Plan, data: Mapping[str, str], number: int, subject: ranges.Subject | None, in_grid: bool, cache: Cache
) -> Way:
    if subject is None:
        return Way(number, None)
    low, high = ranges.usual_range(plan, subject, cache)
    # Ends that were meant for another subject are not taken over.
    if data.get(f"was{number}", subject.key) == subject.key:
        low = data.get(f"low{number}", "")[: limits.EXPRESSION_LENGTH] or low
        high = data.get(f"high{number}", "")[: limits.EXPRESSION_LENGTH] or high
    count = data.get(f"count{number}", "")
    usual = USUAL_IN_GRID if in_grid else USUAL_COUNT
    return Way(number, subject, low, high, int(count) if count.isdecimal() and len(count) < 4 else usual)
