"""Drawings that are brought: reading an SVG, and adding the steps that draw it."""

from pathlib import PurePath
from typing import Final

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.http import require_POST

from kagami.exchange.brought.document import MOST_BYTES
from kagami.exchange.brought.errors import DrawingError
from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.typed import LENGTH, number_of
from kagami.plan.messages import explain
from web.bench.brought import drawing_read, drawing_told
from web.bench.parts import parts_of, standing_of
from web.bench.requests import answers_refusals, base_of, identity_of
from web.bench.state import looking
from web.evaluation.door import ask_heavy
from web.marks.access import mark_of, require_designer
from web.marks.references import current_of
from web.marks.services import history

MOST_NAME: Final = 40
"""Signs of a file's name that head the steps."""


@require_POST
@answers_refusals
def read(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What a drawing would come to: the form in which its width is typed."""
    mark = mark_of(request.user, mark_id)
    require_designer(request.user, mark.brand.studio_id)  # before anything is read for who may only look
    try:
        html = ask_heavy(drawing_read, current_of(mark), *_drawing(request))
    except DrawingError as error:
        return _refused(error.code, error.values)
    return JsonResponse({"html": html})


@require_POST
@answers_refusals
def bring(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Add what a drawing comes to, as wide as was typed, at the needle."""
    mark = mark_of(request.user, mark_id)
    require_designer(request.user, mark.brand.studio_id)
    seen = looking(request.POST)
    base = request.POST.get("base", "")
    given = {"base": int(base) if base.isdecimal() else None, "id": request.POST.get("id")}
    try:
        width = number_of(request.POST.get("width", ""), LENGTH)
        found = ask_heavy(drawing_told, current_of(mark), *_drawing(request), width)
    except (DrawingError, SketchError) as error:
        return _refused(error.code, error.values)
    change = {"text": found.text} if seen.needle is None else {"text": found.text, "position": seen.needle}
    made = history.make_change(request.user, mark, base_of(given), "add-sentences", change, identity_of(given))
    parts = parts_of(
        request.user, made.mark, standing_of(made.mark, made.can_redo), seen, request.POST.get("shown", "")
    )
    return JsonResponse(parts)


def _drawing(request: HttpRequest) -> tuple[bytes, str]:
    """The file, and what it is called without its ending.

    Raises:
        DrawingError: there is none.
    """
    file = request.FILES.get("drawing")
    if file is None:
        raise DrawingError("svg-missing")
    return file.read(MOST_BYTES + 1), PurePath(file.name or "").stem[:MOST_NAME].strip()


def _refused(code: str, values: dict[str, object]) -> JsonResponse:
    return JsonResponse({"error": explain(code, values), "code": code}, status=422)
