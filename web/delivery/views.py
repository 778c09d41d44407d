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
from web.delivery.works import offered, png_file, svg_file
from web.evaluation.door import ask, ask_heavy
from web.evaluation.references import current_of
from web.faults import Fault, guarded
from web.marks.access import mark_of

PNG_SIZES: Final = (256, 512, 1024, 2048)


@require_safe
def delivery(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What can be taken away."""
    mark = mark_of(request.user, mark_id)
    found = ask(offered, current_of(mark))
    context = {"mark": mark, "title": mark.name, "page": "delivery", "offered": found, "sizes": PNG_SIZES}
    return render(request, "delivery/delivery.html", context)


@require_safe
def svg(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The SVG file."""
    mark = mark_of(request.user, mark_id)
    return _file(_drawn(lambda: ask(svg_file, current_of(mark))), "image/svg+xml", f"{mark.name}.svg")


@require_safe
def png(request: HttpRequest, mark_id: int, size: int) -> HttpResponse:
    """A PNG file, transparent round the ink."""
    if size not in PNG_SIZES:
        raise Http404("There is no such size.")
    mark = mark_of(request.user, mark_id)
    content = _drawn(lambda: ask_heavy(png_file, current_of(mark), size))
    return _file(content, "image/png", f"{mark.name} {size}.png")


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
