"""The Colourways page and its forms. Each parses, calls one function, renders or sends back to the page."""

from typing import Any
from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.limits import EXPRESSION_LENGTH, NAME_LENGTH
from web.colourways.asked import FORMS, looked_at_after
from web.colourways.photographs import NoPhotograph, main_colours
from web.colourways.works import spread_of
from web.evaluation.door import ask, ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.faults import Fault, guarded
from web.leaves import changed, looked_at, walked
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.references import current_of
from web.marks.services import history, palettes


@require_safe
def colourways(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    return _page(request, mark_of(request.user, mark_id))


@require_POST
def change(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Make the change that a form asks for."""
    mark, kind = mark_of(request.user, mark_id), request.POST.get("kind", "")
    if kind not in FORMS:
        return _page(request, mark, _("There is no such change here."), 400)
    given = FORMS[kind](request.POST)
    if kind == "add-colourways":
        given["palette"] = mark.brand.palette if request.POST.get("from") == "brand" else []
    elif kind == "set-role":
        given["palette"] = mark.brand.palette
    return _made(request, mark, kind, given)


@require_POST
def walk(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Undo or redo."""
    return walked(request, mark_id, _page, lambda: _back(request, mark_id, looked_at(request)))


@require_POST
def palette(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Take a tone into the brand's palette, or out of it."""
    mark = mark_of(request.user, mark_id)
    name, colour = request.POST.get("name", "")[:NAME_LENGTH], request.POST.get("colour", "")[:120]
    try:
        if request.POST.get("way") == "out":
            palettes.take_out(request.user, mark.brand, name)
        else:
            palettes.take_in(request.user, mark.brand, name, colour)
    except PlanError as error:
        return _page(request, mark, str(error), 422)
    return _back(request, mark_id, looked_at(request))


@require_POST
def photograph(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Colourways from a photograph's main colours."""
    mark = mark_of(request.user, mark_id)
    file = request.FILES.get("photograph")
    if file is None:
        return _page(request, mark, _("Choose a photograph first: a JPEG, PNG or WebP file."), 422)
    try:
        found = ask_heavy(main_colours, current_of(mark), file.read(palettes.MOST_BYTES + 1))
    except NoPhotograph as error:
        return _page(request, mark, str(error), 422)
    except (Busy, Stopped) as error:
        return _page(request, mark, str(error), 503)
    return _made(request, mark, "add-colourways", {"way": "palette", "count": 10, "palette": found})


def _made(request: HttpRequest, mark: Mark, kind: str, given: dict[str, Any]) -> HttpResponse:
    before: Plan = mark.current.load()
    made = changed(request, mark, kind, given, _page)
    if isinstance(made, HttpResponse):
        return made
    names = [one.name for one in made.mark.current.load().colourways]
    at = looked_at_after(kind, given, {one.name for one in before.colourways}, names, looked_at(request))
    return _back(request, mark.id, at)


def _back(request: HttpRequest, mark_id: int, at: str) -> HttpResponseRedirect:
    query = {key: value for key, value in (("at", at), ("beside", request.POST.get("beside", ""))) if value}
    address = reverse("colourways", args=[mark_id])
    return redirect(f"{address}?{urlencode(query)}" if query else address)


def _page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    beside = (request.POST if request.method == "POST" else request.GET).get("beside", "")[:NAME_LENGTH]
    spread = guarded("Colourways", lambda: ask(spread_of, current_of(mark), looked_at(request), beside))
    if isinstance(spread, Fault):
        return render(request, "bench/way_back.html", {"mark": mark, "number": spread.number}, status=500)
    context = {
        "mark": mark,
        "title": mark.name,
        "page": "colourways",
        "spread": spread,
        "fault": fault,
        "palette": mark.brand.palette,
        "kept": [tone["name"] for tone in mark.brand.palette],
        "can_undo": mark.current.parent_id is not None,
        "can_redo": history.can_redo(mark),
        "room": palettes.MOST,
        # What could not be taken stays as it was typed.
        "typed_role": request.POST.get("role", "") if fault else "",
        "typed_tone": request.POST.get("tone", "")[:EXPRESSION_LENGTH],
    }
    return render(request, "colourways/colourways.html", context, status=status)
