"""The Range page: the finished mark over a row or a grid of values; one of them is taken."""

from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from kagami.plan import ranges
from kagami.plan.errors import PlanError
from web.evaluation.door import ask, ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.references import current_of
from web.marks.services.history import StaleRevision, make_change
from web.range.works import contact_sheet, drawn_on


@require_safe
def over_range(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    return _page(request, mark_of(request.user, mark_id))


@require_safe
def nudge(request: HttpRequest, mark_id: int) -> JsonResponse:
    """An end of a range, or the number of its values, that is drawn on `by` so many stops: what it would read."""
    mark, given = mark_of(request.user, mark_id), request.GET.dict()
    try:
        return JsonResponse({"text": ask(drawn_on, current_of(mark), given)})
    except (PlanError, Stopped) as error:
        return JsonResponse({"fault": str(error)})


@require_POST
def take(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Set what was varied to the values that were picked, in one change, and go back to the Bench."""
    mark = mark_of(request.user, mark_id)
    base = request.POST.get("base", "")
    known = {subject.key: subject for subject in ranges.subjects(mark.current.load())}
    ways = [(way, known.get(request.POST.get(f"of{way}", ""))) for way in (1, 2)]
    values = [subject.change(request.POST.get(f"value{way}", "")) for way, subject in ways if subject]
    try:
        made = make_change(request.user, mark, int(base) if base.isdecimal() else 0, "set-values", {"values": values})
    except StaleRevision as error:
        return _page(request, mark, str(error), 409)
    except PlanError as error:
        return _page(request, mark, str(error), 422)
    return redirect("bench", made.mark.id)


def _page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    context: dict[str, Any] = {"mark": mark, "title": mark.name, "page": "range"}
    try:
        sheet = ask_heavy(contact_sheet, current_of(mark), (request.GET or request.POST).dict())
    except (Busy, Stopped) as error:
        return render(request, "range/range.html", {**context, "busy": True, "fault": str(error)}, status=503)
    across, down = sheet.ways
    context |= {"subjects": sheet.subjects, "ways": sheet.ways, "across": across, "down": down, "lines": sheet.lines}
    if sheet.fault and not fault:
        fault, status = sheet.fault, 422
    return render(request, "range/range.html", {**context, "fault": fault}, status=status)
