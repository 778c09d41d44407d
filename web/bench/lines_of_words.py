"""What a slip about words begins with: the line that they run along or are held off from, and where on it."""

from collections.abc import Mapping, Sequence
from typing import Any, Final

from kagami.geometry.rounding import corners_of
from kagami.plan.evaluation.result import Result
from kagami.plan.figure import Figure
from kagami.plan.places.selecting import plain_id
from kagami.plan.steps import Chapter, Step

GONE_BY: Final = ("course", "edge")
"""Fields for a figure that words go by."""


def gone_by(
    cls: type[Step], before: Sequence[Step], result: Result, asked: Sequence[str], found: Mapping[str, Any]
) -> dict[str, str]:
    """What words run along, or are held off from: of the figures that were asked for the one that is not the words;
    that along which the words run that it is about; the newest line without corners; or the newest that is no words.
    Words that run along it begin where there are none yet: at its top, its bottom or its middle.
    """
    field = next((name for name in GONE_BY if name in cls.field_kinds()), None)
    figures = [step for step in before if step.chapter is not Chapter.LETTER and _has_line(step.id, result)]
    if field is None or not figures:
        return {}
    known = {step.id for step in figures}
    wanted = [one for one in asked if one in known] or _along_already(before, found)
    line = wanted[-1] if wanted else _newest_smooth(figures, result)
    if not cls.runs_along:
        return {field: line}
    taken = {step["place"] for step in before if step.runs_along and step[step.runs_along] == line}
    places = [f"{line}.{name}" for name in _places(_made(line, result))]
    free = [place for place in places if place not in taken] or places
    return {field: line, **({cls.press: free[0]} if free else {})}


def _made(identifier: str, result: Result) -> Figure | None:
    outcome = result.outcomes.get(identifier)
    return outcome.figure if outcome else None


def _along_already(before: Sequence[Step], found: Mapping[str, Any]) -> list[str]:
    """The line of the words that a step is about, which may have been spaced or fitted since they were set."""
    steps = {step.id: step for step in before}
    about = str(found.get("like") or found.get("figure") or "")
    while (step := steps.get(plain_id(about))) is not None:
        if step.runs_along:
            return [plain_id(step[step.runs_along])]
        about = next(iter((*step.figure_ids(), *step.beside_ids())), "")
    return []


def _has_line(identifier: str, result: Result) -> bool:
    figure = _made(identifier, result)
    return figure is not None and bool(figure.whole.outlines)


def _newest_smooth(figures: Sequence[Step], result: Result) -> str:
    """The newest figure without corners that does not only set out; else the newest."""
    drawn = (step.id for step in reversed(figures) if step.chapter is not Chapter.SETTING_OUT)
    return next((one for one in drawn if _is_smooth(one, result)), figures[-1].id)


def _is_smooth(identifier: str, result: Result) -> bool:
    """Whether a figure is a line, or an area of no corners."""
    figure = _made(identifier, result)
    return figure is not None and not (figure.bounds_area and corners_of(figure.whole))


def _places(figure: Figure | None) -> list[str]:
    """Where on a figure words are held, the usual place first."""
    if figure is None or figure.box is None:
        return []
    if not figure.bounds_area and "middle" in figure.anchors:
        return ["middle"]
    return ["top", "bottom"]
