"""The marks of a contact sheet: work for evaluators (see `web.evaluation.door`)."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from kagami.plan import limits, ranges
from kagami.plan.changes.grain import Grain
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from web.faults import Fault, guarded
from web.pictures.picture import Picture, pictures_alike
from web.range.asked import Way, asked

MOST_DIGITS: Final = 5


@dataclass(frozen=True)
class Card:
    """Values and the mark that they make."""

    values: tuple[tuple[int, str], ...]
    """The number of the way, and the value."""
    caption: str
    picture: Picture
    now: bool
    """Whether this is the mark as it is."""


@dataclass(frozen=True)
class ContactSheet:
    """What can be varied, what is, and the marks line by line; `fault` says why there are none."""

    subjects: tuple[ranges.Subject, ...]
    ways: tuple[Way, Way]
    lines: tuple[tuple[Card, ...], ...]
    fault: str = ""


def contact_sheet(plan: Plan, cache: Cache, data: Mapping[str, str]) -> ContactSheet:
    """The sheet that is asked for."""
    ways = asked(plan, data, cache)
    try:
        return ContactSheet(ranges.subjects(plan), ways, _cards(plan, ways, cache))
    except PlanError as error:
        return ContactSheet(ranges.subjects(plan), ways, (), str(error))


def drawn_on(plan: Plan, cache: Cache, data: Mapping[str, str]) -> str:
    """The `text` of an end of the range of a subject `of`, or a number of values where it is none, `by` so many stops
    on; `free` lets go of stops.

    Raises:
        PlanError: there is no such subject, or its end cannot be moved.
    """
    text, by = data.get("text", "")[: limits.EXPRESSION_LENGTH], data.get("by", "")
    on = int(by) if by.lstrip("-").isdecimal() and len(by) < MOST_DIGITS else 0
    if not data.get("of"):
        count = int(text) if text.isdecimal() and len(text) < MOST_DIGITS else ranges.LEAST
        return str(min(max(count + on, ranges.LEAST), ranges.MOST))
    subject = ranges.subject_of(plan, data["of"][: limits.EXPRESSION_LENGTH])
    return ranges.end_nudged(plan, subject, text, on, Grain(free=data.get("free") == "1"), cache)


def _cards(plan: Plan, ways: tuple[Way, Way], cache: Cache) -> tuple[tuple[Card, ...], ...]:
    """The marks, line by line, all at one scale."""
    open_ways = [way for way in ways if way.subject]
    if not open_ways:
        return ()
    sheet = ranges.contact_sheet(plan, [way.row(plan, cache) for way in open_ways], cache)
    now = _drawn(evaluate(plan, cache))
    results = [sample.result for line in sheet for sample in line]
    drawn = guarded("the range", lambda: pictures_alike(results))
    pictures = iter([Picture()] * len(results) if isinstance(drawn, Fault) else drawn)
    return tuple(
        tuple(
            Card(
                tuple((way.number, value) for way, value in zip(open_ways, sample.values, strict=True)),
                ", ".join(_caption(way, value) for way, value in zip(open_ways, sample.values, strict=True)),
                next(pictures),
                _drawn(sample.result) == now,
            )
            for sample in line
        )
        for line in sheet
    )


def _drawn(result: Result) -> list[str]:
    """What tells drawings of one plan apart."""
    return [outcome.key for outcome in result.outcomes.values()]


def _caption(way: Way, value: str) -> str:
    label = way.subject.label if way.subject else ""
    return f"{label} {value}" if way.subject and way.subject.choices else f"{label} = {value}"
