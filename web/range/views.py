"""The Range page: one finished mark for each of a row of values of a measure; one of them is taken."""

from dataclasses import dataclass

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from kagami.plan import ranges
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from web.bench.mirror import Picture, picture_of
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.services.evaluation import CACHE
from web.marks.services.history import StaleRevision, make_change

USUAL_COUNT = 9


@dataclass(frozen=True)
class Card:
    """A value and the mark that it makes."""

    value: str
    picture: Picture
    sound: bool


@dataclass(frozen=True)
class Asked:
    """What is shown: a measure over `count` values from `low` to `high`."""

    name: str
    low: str
    high: str
    count: int


@require_GET
def over_range(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    mark = mark_of(request.user, mark_id)
    return _page(request, mark, _asked(request, mark.current.read()))


@require_POST
def take(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Set the measure to the value that was picked, and go back to the Bench."""
    mark = mark_of(request.user, mark_id)
    name, value = request.POST.get("name", ""), request.POST.get("value", "")
    base = request.POST.get("base", "")
    try:
        made = make_change(mark, int(base) if base.isdecimal() else 0, "set-measure", {"name": name, "value": value})
    except StaleRevision as error:
        return _page(request, mark, _asked(request, mark.current.read()), str(error), 409)
    except PlanError as error:
        return _page(request, mark, _asked(request, mark.current.read()), str(error), 422)
    return redirect("bench", made.mark.id)


def _asked(request: HttpRequest, plan: Plan) -> Asked:
    data = request.GET or request.POST
    names = [measure.name for measure in plan.measures]
    name = data.get("name", "")
    name = name if name in names else (names[0] if names else "")
    low, high = ranges.usual_range(plan, name, CACHE)
    count = data.get("count", "")
    return Asked(
        name,
        data.get("low", "")[:120] or low,
        data.get("high", "")[:120] or high,
        min(int(count), ranges.MOST) if count.isdecimal() and len(count) < 4 else USUAL_COUNT,
    )


def _page(request: HttpRequest, mark: Mark, asked: Asked, fault: str = "", status: int = 200) -> HttpResponse:
    plan = mark.current.read()
    cards: list[Card] = []
    if asked.name:
        try:
            samples = ranges.over_range(plan, asked.name, asked.low, asked.high, asked.count, CACHE)
            cards = [Card(sample.value, picture_of(sample.result), sample.result.sound) for sample in samples]
        except PlanError as error:
            fault, status = fault or str(error), 422
    context = {"mark": mark, "plan": plan, "page": "range", "asked": asked, "cards": cards, "fault": fault}
    return render(request, "range/range.html", context, status=status)
