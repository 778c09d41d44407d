"""The Range page: the finished mark over a row or a grid of values; one of them is taken."""

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from kagami.plan import ranges
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from web.bench.mirror import Picture, pictures_alike
from web.faults import Fault, guarded
from web.heavy import Busy, heavy_work
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.services.evaluation import CACHE
from web.marks.services.history import StaleRevision, make_change
from web.range.asked import Way, asked


@dataclass(frozen=True)
class Card:
    """Values and the mark that they make."""

    values: tuple[tuple[int, str], ...]
    """The number of the way, and the value."""
    caption: str
    picture: Picture
    sound: bool
    now: bool
    """Whether this is the mark as it is."""


@require_safe
def over_range(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    return _page(request, mark_of(request.user, mark_id))


@require_POST
def take(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Set what was varied to the values that were picked, in one change, and go back to the Bench."""
    mark = mark_of(request.user, mark_id)
    base = request.POST.get("base", "")
    ways = [way for way in asked(mark.current.load(), request.POST) if way.subject]
    values = [way.subject.change(request.POST.get(f"value{way.number}", "")) for way in ways if way.subject]
    try:
        made = make_change(mark, int(base) if base.isdecimal() else 0, "set-values", {"values": values})
    except StaleRevision as error:
        return _page(request, mark, str(error), 409)
    except PlanError as error:
        return _page(request, mark, str(error), 422)
    return redirect("bench", made.mark.id)


def _page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    plan = mark.current.load()
    ways = asked(plan, request.GET or request.POST)
    lines: tuple[tuple[Card, ...], ...] = ()
    try:
        with heavy_work():
            lines = _cards(plan, ways)
    except PlanError as error:
        fault, status = fault or str(error), 422
    except Busy as error:
        fault, status = str(error), 503
    context = {
        "mark": mark,
        "plan": plan,
        "page": "range",
        "subjects": ranges.subjects(plan),
        "ways": ways,
        "across": ways[0],
        "down": ways[1],
        "lines": lines,
        "fault": fault,
    }
    return render(request, "range/range.html", context, status=status)


def _cards(plan: Plan, ways: tuple[Way, Way]) -> tuple[tuple[Card, ...], ...]:
    """The marks, line by line, all at one scale."""
    open_ways = [way for way in ways if way.subject]
    if not open_ways:
        return ()
    sheet = ranges.contact_sheet(plan, [way.row(plan) for way in open_ways], CACHE)
    now = _drawn(evaluate(plan, CACHE))
    results = [sample.result for line in sheet for sample in line]
    drawn = guarded("the range", lambda: pictures_alike(results))
    pictures = iter([Picture(())] * len(results) if isinstance(drawn, Fault) else drawn)
    return tuple(
        tuple(
            Card(
                tuple((way.number, value) for way, value in zip(open_ways, sample.values, strict=True)),
                ", ".join(_said(way, value) for way, value in zip(open_ways, sample.values, strict=True)),
                next(pictures),
                sample.result.sound,
                _drawn(sample.result) == now,
            )
            for sample in line
        )
        for line in sheet
    )


def _drawn(result: Result) -> list[str]:
    """What tells drawings of one plan apart."""
    return [outcome.key for outcome in result.outcomes.values()]


def _said(way: Way, value: str) -> str:
    label = way.subject.label if way.subject else ""
    return f"{label} {value}" if way.subject and way.subject.choices else f"{label} = {value}"
