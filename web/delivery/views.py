"""Delivery: the finished mark as files."""

import json
from typing import Final

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.http import content_disposition_header
from django.utils.translation import gettext as _
from django.views.decorators.http import require_safe

from kagami.exchange.artwork import Artwork
from kagami.exchange.finished import NothingToDraw, artwork
from kagami.exchange.png import write_png
from kagami.exchange.svg import write_svg
from kagami.plan.document import to_json
from kagami.plan.language.text import write_text
from web.bench.mirror import NO_MIRROR, draw_mirror
from web.faults import Fault, guarded
from web.marks.access import mark_of
from web.marks.services.evaluation import evaluated

PNG_SIZES: Final = (256, 512, 1024, 2048)


@require_safe
def delivery(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What can be taken away."""
    mark = mark_of(request.user, mark_id)
    result = evaluated(mark.current.load())
    drawn = guarded("the Mirror", lambda: draw_mirror(result))
    mirror = NO_MIRROR if isinstance(drawn, Fault) else drawn
    size = next((reading.value for reading in mirror.readings if reading.name == _("Size")), "")
    context = {"mark": mark, "page": "delivery", "mirror": mirror, "sizes": PNG_SIZES, "size": size}
    return render(request, "delivery/delivery.html", {**context, "plan": result.plan, "sound": result.sound})


@require_safe
def svg(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The SVG file."""
    art = _artwork(request, mark_id)
    return _file(write_svg(art).encode(), "image/svg+xml", f"{art.title}.svg")


@require_safe
def png(request: HttpRequest, mark_id: int, size: int) -> HttpResponse:
    """A PNG file, transparent round the ink."""
    if size not in PNG_SIZES:
        raise Http404("There is no such size.")
    art = _artwork(request, mark_id)
    return _file(write_png(art, size), "image/png", f"{art.title} {size}.png")


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


def _artwork(request: HttpRequest, mark_id: int) -> Artwork:
    found = mark_of(request.user, mark_id).current.load()
    try:
        return artwork(found, evaluated(found))
    except NothingToDraw as error:
        raise Http404(str(error)) from error


def _file(content: bytes, kind: str, name: str) -> HttpResponse:
    """A download; the browser never shows it in place, so that it cannot act on the site."""
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = content_disposition_header(True, name.replace("/", "-"))
    response["X-Content-Type-Options"] = "nosniff"
    return response
