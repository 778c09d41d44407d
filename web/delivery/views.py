"""Delivery: the finished mark as files."""

import json
from collections.abc import Callable
from typing import Final

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_safe

from kagami.exchange.finished import NothingToDraw
from kagami.plan.document import to_json
from kagami.plan.language.text import write_text
from kagami.plan.limits import NAME_LENGTH
from web.delivery.packaging import package_of, safe_name
from web.delivery.works import FORMS, Wanted, file_of, offered
from web.evaluation.door import ask, ask_heavy
from web.evaluation.evaluators import Busy, Stopped
from web.evaluation.references import current_of
from web.faults import Fault, guarded
from web.marks.access import mark_of
from web.marks.models import Mark

PNG_SIZES: Final = (256, 512, 1024, 2048)


@require_safe
def delivery(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What can be taken away."""
    return _page(request, mark_of(request.user, mark_id))


def _page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    name = request.GET.get("colourway", "")[:NAME_LENGTH]
    found = ask(offered, current_of(mark), name)
    shown = {"colourway": name, "suffix": f" {name}"} if found.ground else {"colourway": "", "suffix": ""}
    context = {"mark": mark, "title": mark.name, "page": "delivery", "offered": found, "sizes": PNG_SIZES, **shown}
    return render(request, "delivery/delivery.html", {**context, "fault": fault}, status=status)


@require_safe
def svg(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The SVG file, in the mark's own tones."""
    return _written(request, mark_id, "svg", Wanted())


@require_safe
def png(request: HttpRequest, mark_id: int, size: int) -> HttpResponse:
    """A PNG file, transparent round the ink, in the mark's own tones."""
    return _written(request, mark_id, "png", Wanted(size=_size(size)), f" {size}")


@require_safe
def file(request: HttpRequest, mark_id: int, form: str) -> HttpResponse:
    """A file in one of the forms, as the query wants it: `colourway`, `ground`, `size`."""
    if form not in FORMS:
        raise Http404("There is no such form.")
    query = request.GET
    text = query.get("size", "1024")
    size = _size(int(text) if text.isdecimal() and len(text) < 6 else 0)
    wanted = Wanted(query.get("colourway", "")[:NAME_LENGTH], query.get("ground") == "1", size)
    named = "".join(
        [f" {wanted.colourway}" if wanted.colourway else "", FORMS[form].suffix]
        + ([f" {size}"] if form in ("png", "webp") else [])
    )
    return _written(request, mark_id, form, wanted, named)


@require_safe
def package(request: HttpRequest, mark_id: int) -> HttpResponse:
    """All chosen colourways in every form, as one ZIP."""
    mark = mark_of(request.user, mark_id)
    name = f"{safe_name([mark.brand.name, mark.name])}.zip"
    return _made(
        request, mark, lambda: ask_heavy(package_of, current_of(mark), mark.brand.name), "application/zip", name
    )


def _size(size: int) -> int:
    if size not in PNG_SIZES:
        raise Http404("There is no such size.")
    return size


def _written(request: HttpRequest, mark_id: int, form: str, wanted: Wanted, named: str = "") -> HttpResponse:
    mark = mark_of(request.user, mark_id)
    name = f"{mark.name}{named}.{FORMS[form].ending}"
    return _made(request, mark, lambda: ask_heavy(file_of, current_of(mark), form, wanted), FORMS[form].kind, name)


def _made(request: HttpRequest, mark: Mark, make: Callable[[], bytes], kind: str, name: str) -> HttpResponse:
    """A file; where it takes too long, or others are being made, the page says so."""
    try:
        return _file(_drawn(make), kind, name)
    except (Busy, Stopped) as error:
        return _page(request, mark, str(error), 503)


@require_safe
def plan(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The plan file: as it is stored, where it cannot be read."""
    mark = mark_of(request.user, mark_id)
    text = guarded("the plan file", lambda: to_json(mark.current.load()))
    if isinstance(text, Fault):
        text = json.dumps(mark.current.plan, ensure_ascii=False, indent=1)
    return _file(text.encode(), "application/json", f"{mark.name}.json")


@require_safe
def text(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The plan as a text of sentences."""
    found = mark_of(request.user, mark_id).current.load()
    return _file(write_text(found).encode(), "text/plain; charset=utf-8", f"{found.title}.plan")


def _drawn(draw: Callable[[], bytes]) -> bytes:
    """A file; a mark without ink has none."""
    try:
        return draw()
    except NothingToDraw as error:
        raise Http404(str(error)) from error


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    """A download; the browser never shows it in place, so that it cannot act on the site."""
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = content_disposition_header(True, name.replace("/", "-"))
    response["X-Content-Type-Options"] = "nosniff"
    return response
