"""The Delivery page and its forms. Each parses, calls one function, renders or sends back to the page."""

import json
from typing import Any
from urllib.parse import urlencode

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.http import content_disposition_header
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.exchange.finished import NothingToDraw
from kagami.plan.document import to_json
from kagami.plan.errors import PlanError
from kagami.plan.language.text import write_text
from kagami.plan.limits import PATTERN_LENGTH
from web.delivery.asked import FORMS, looked_at_after
from web.delivery.files import Made, examined, named_file, plain_file
from web.delivery.proposals import proposed_for
from web.delivery.seeing import NotSeen, seen_file
from web.delivery.services.ordering import packages_of
from web.delivery.works import example_name, lines_of, needs_of, spread_of
from web.evaluation.door import ask, ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.faults import Fault, guarded
from web.leaves import changed, looked_at, walked
from web.marks.access import mark_of
from web.marks.models import Mark, Revision
from web.marks.references import current_of, reference_to
from web.marks.services import history

MOST_FILE_NAME = 400
MOST_REFUSED = 40
PLAIN_SIZES = (256, 512, 1024, 2048)
SIZES = (16, 24, 32, 48, 64)
"""Pixels for which proposals are made."""


@require_safe
def delivery(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    return page(request, mark_of(request.user, mark_id))


@require_POST
def change(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Make the change that a form asks for."""
    mark, kind = mark_of(request.user, mark_id), request.POST.get("kind", "")
    if kind not in FORMS:
        return page(request, mark, _("There is no such change here."), 400)
    before = {one.name for one in mark.current.load().variants}
    given = FORMS[kind](request.POST)
    made = changed(request, mark, kind, given, page)
    if isinstance(made, HttpResponse):
        return made
    names = [one.name for one in made.mark.current.load().variants]
    return back(mark.id, looked_at_after(kind, given, before, names, looked_at(request)))


@require_POST
def walk(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Undo or redo."""
    return walked(request, mark_id, page, lambda: back(mark_id, looked_at(request)))


@require_safe
def tiles(request: HttpRequest, mark_id: int) -> HttpResponse:
    """All variants as they look: a part of the Mirror."""
    mark = mark_of(request.user, mark_id)
    return render(request, "delivery/_tiles.html", {"mark": mark, "lines": ask(lines_of, current_of(mark))})


@require_safe
def naming(request: HttpRequest, mark_id: int) -> JsonResponse:
    """What a file would be called under another `pattern`, or why it cannot be."""
    mark, pattern = mark_of(request.user, mark_id), request.GET.get("pattern", "")[:PATTERN_LENGTH]
    try:
        return JsonResponse({"example": ask(example_name, current_of(mark), mark.brand.name, pattern)})
    except PlanError as error:
        return JsonResponse({"fault": str(error)})


@require_safe
def plain(request: HttpRequest, mark_id: int, form: str) -> HttpResponse:
    """The mark as it is built, as one file."""
    return _plain(request, mark_of(request.user, mark_id), form, 0)


@require_safe
def plain_png(request: HttpRequest, mark_id: int, size: int) -> HttpResponse:
    """The mark as it is built, as a picture."""
    if size not in PLAIN_SIZES:
        raise Http404("There is no such size.")
    return _plain(request, mark_of(request.user, mark_id), "png", size)


def _plain(request: HttpRequest, mark: Mark, form: str, size: int) -> HttpResponse:
    try:
        made = ask_heavy(plain_file, current_of(mark), form, size, mark.brand.name)
    except NothingToDraw as error:
        raise Http404(str(error)) from error
    except (PlanError, Busy, Stopped) as error:
        return page(request, mark, str(error), 503)
    if not made.report.sound:
        return page(request, mark, _("This file is not handed out: {why}").format(why=made.report.faults[0]), 422)
    return download(made.data, made.media, f"{mark.name}{f' {size}' if size else ''}.{form}")


@require_safe
def file(request: HttpRequest, mark_id: int) -> HttpResponse:
    """One file of the package, by its `name`: made and read back now, and handed out if it is as it should be."""
    mark, name = mark_of(request.user, mark_id), request.GET.get("name", "")[:MOST_FILE_NAME]
    try:
        made = ask_heavy(named_file, current_of(mark), name, mark.brand.name, mark.current.number)
    except NothingToDraw as error:
        raise Http404(str(error)) from error
    except PlanError as error:
        return page(request, mark, str(error), 422)
    except (Busy, Stopped) as error:
        return page(request, mark, str(error), 503)
    if made is None:
        raise Http404("A package of this mark holds no such file.")
    if not made.report.sound:
        return page(request, mark, _("This file is not handed out: {why}").format(why=made.report.faults[0]), 422)
    return _file(made, name)


def _file(made: Made, name: str) -> HttpResponse:
    return download(made.data, made.media, name.rpartition("/")[2])


@require_safe
def seen(request: HttpRequest, mark_id: int) -> HttpResponse:
    """A picture of a file as it is, or as it was at the `change` that the page shows."""
    mark, name = mark_of(request.user, mark_id), request.GET.get("name", "")[:MOST_FILE_NAME]
    shown = _shown(request, mark)
    try:
        picture = ask_heavy(seen_file, reference_to(shown), name, mark.brand.name, shown.number)
    except (NotSeen, PlanError, NothingToDraw) as error:
        raise Http404(str(error)) from error
    except (Busy, Stopped):
        return HttpResponse(status=503)
    return HttpResponse(picture, content_type="image/png")


@require_safe
def report(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The clean report of a file at the `change` that the page shows, and who will take it: a part of the page."""
    mark, name = mark_of(request.user, mark_id), request.GET.get("name", "")[:MOST_FILE_NAME]
    shown = _shown(request, mark)
    context: dict[str, Any] = {"mark": mark, "name": name, "change": shown.number}
    try:
        context["examined"] = ask_heavy(examined, reference_to(shown), name, mark.brand.name, shown.number)
        if context["examined"] is not None and context["examined"].sound:
            context["needs"] = ask_heavy(needs_of, reference_to(shown), looked_at(request))
    except (PlanError, NothingToDraw, Busy, Stopped) as error:
        context["fault"] = str(error)
    return render(request, "delivery/_report.html", context)


def _shown(request: HttpRequest, mark: Mark) -> Revision:
    """The change that a page shows, or 404. A newer one may have renamed the files it asks about."""
    number = request.GET.get("change", "")
    if not number:
        return mark.current
    revisions = mark.revisions.select_related("mark__brand").defer("plan", "picture")
    return get_object_or_404(revisions, number=number if number.isdecimal() and len(number) < 10 else -1)


@require_safe
def proposals(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What would make a variant fit for a size: a part of the page."""
    mark, size = mark_of(request.user, mark_id), request.GET.get("pixels", "")
    pixels = int(size[:6]) if size.isdecimal() and int(size[:6]) in SIZES else SIZES[0]
    refused = tuple(text[:200] for text in request.GET.getlist("refused")[:MOST_REFUSED])
    context: dict[str, Any] = {"mark": mark, "at": looked_at(request), "sizes": SIZES, "pixels": pixels}
    context |= {"refused": refused, "asked": True}
    try:
        context["proposed"] = ask_heavy(proposed_for, current_of(mark), context["at"], pixels, refused)
    except (PlanError, Busy, Stopped) as error:
        context["fault"] = str(error)
    return render(request, "delivery/_proposals.html", context)


@require_safe
def plan(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The plan file: as it is stored, where it cannot be read."""
    mark = mark_of(request.user, mark_id)
    text = guarded("the plan file", lambda: to_json(mark.current.load()))
    if isinstance(text, Fault):
        text = json.dumps(mark.current.plan, ensure_ascii=False, indent=1)
    return download(text.encode(), "application/json", f"{mark.name}.json")


@require_safe
def text(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The plan as a text of sentences."""
    found = mark_of(request.user, mark_id).current.load()
    return download(write_text(found).encode(), "text/plain; charset=utf-8", f"{found.title}.plan")


def download(content: bytes, kind: str, name: str) -> HttpResponse:
    """A download; the browser never shows it in place, so that it cannot act on the site."""
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = content_disposition_header(True, name.replace("/", "-"))
    response["X-Content-Type-Options"] = "nosniff"
    return response


def back(mark_id: int, at: str) -> HttpResponseRedirect:
    """To the page, with a variant looked at."""
    address = reverse("delivery", args=[mark_id])
    return redirect(f"{address}?{urlencode({'at': at})}" if at else address)


def page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    """The page, with what went wrong."""
    name = request.GET.get("file", "")[:MOST_FILE_NAME]
    spread = guarded("Delivery", lambda: ask(spread_of, current_of(mark), mark.brand.name, looked_at(request), name))
    if isinstance(spread, Fault):
        return render(request, "bench/way_back.html", {"mark": mark, "number": spread.number}, status=500)
    context = {
        "mark": mark,
        "title": mark.name,
        "page": "delivery",
        "spread": spread,
        "at": spread.at.variant.name if spread.at else "",
        "fault": fault,
        "sizes": SIZES,
        "pixels": SIZES[0],
        "deliveries": packages_of(mark),
        "can_undo": mark.current.parent_id is not None,
        "can_redo": history.can_redo(mark),
    }
    return render(request, "delivery/delivery.html", context, status=status)
