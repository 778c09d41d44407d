"""The sketch under the sheet: bringing one, laying it, and its picture."""

from collections.abc import Callable
from functools import partial
from typing import Any

from django.core.files.storage import default_storage
from django.http import FileResponse, Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.exchange.sketches.checking import MOST_BYTES
from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.lying import SHORTEST
from kagami.exchange.sketches.squaring import proportion_of
from kagami.geometry.point import ORIGIN
from kagami.plan.messages import explain, number_text
from web.bench.parts import parts_of, standing_of
from web.bench.requests import BadRequest, answers_refusals, body_of, identity_of
from web.bench.state import looking
from web.evaluation.door import ask_heavy
from web.marks.access import mark_of, require_designer
from web.marks.models import Mark
from web.marks.references import current_of
from web.sketches import services
from web.sketches.given import corners_of, length_of, line_of, place_of, way_of
from web.sketches.models import Sketch
from web.sketches.works import figures_at, line_along, read_picture, seen_from_above

MOST_NAME = 200


@require_safe
def picture(request: HttpRequest, mark_id: int, sketch_id: int) -> FileResponse:
    """The picture itself; it never changes, and is its owner's alone."""
    sketch = get_object_or_404(mark_of(request.user, mark_id).sketches, pk=sketch_id)
    try:
        file = default_storage.open(sketch.path)
    except FileNotFoundError as error:
        raise Http404("The picture was taken away.") from error
    answer = FileResponse(file, content_type="image/jpeg")
    answer["Cache-Control"] = "private, max-age=3600, immutable"
    answer["X-Content-Type-Options"] = "nosniff"
    return answer


@require_POST
@answers_refusals
def bring(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Take in a picture, and lay it under the sheet."""
    mark = mark_of(request.user, mark_id)
    require_designer(request.user, mark.brand.studio_id)  # before anything is read for who may only look
    file = request.FILES.get("sketch")

    def act() -> None:
        if file is None:
            raise SketchError("sketch-none")
        checked = ask_heavy(read_picture, current_of(mark), file.read(MOST_BYTES + 1))
        services.bring(request.user, mark, (file.name or "")[:MOST_NAME], checked, current_of(mark).plan().sheet)

    return _done(request, mark_id, act, looking(request.POST), request.POST.get("shown", ""))


@require_POST
@answers_refusals
def change(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Lay, move, show or take away a sketch."""
    data = body_of(request)
    mark, doing, given = mark_of(request.user, mark_id), str(data.get("doing", "")), data.get("given")
    known = doing in services.DOINGS and isinstance(given, dict)
    if not known or (doing == "set" and given.get("field") not in services.FIELDS):
        raise BadRequest(_("There is no such thing to do with a sketch."))
    act = partial(services.change, request.user, mark, doing, given, identity_of(data))
    return _done(request, mark_id, act, looking(data.get("state")), str(data.get("shown", "")))


@require_POST
@answers_refusals
def line(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What a line that was drawn on the sketch measures now, in words, for the form where its true length is typed."""
    mark_of(request.user, mark_id)
    try:
        drawn = line_of(body_of(request))
        if drawn.length < SHORTEST:
            raise SketchError("sketch-line-short")
    except SketchError as error:
        return _refused(error)
    length, off = number_text(round(drawn.length, 2)), number_text(round(abs(drawn.off), 2))
    way = _("upright") if drawn.upright else _("level")
    text = _("This line is {length}u long now, and stands {off}° off {way}.").format(length=length, off=off, way=way)
    return JsonResponse({"text": text, "length": f"{length}u", "way": way})


@require_POST
@answers_refusals
def pull(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What is drawn on the sketch at a place, or along a way: what it may be meant as, and the new step's sentence."""
    data = body_of(request)
    mark = mark_of(request.user, mark_id)
    try:
        sketch = _under(mark)
        work, where = (line_along, way_of(data)) if "way" in data else (figures_at, place_of(data))
        found = ask_heavy(work, current_of(mark), sketch.path, sketch.lying, where, looking(data).needle)
    except SketchError as error:
        return _refused(error)
    return JsonResponse({"found": [{"said": said, "text": text} for said, text in found]})


@require_POST
@answers_refusals
def corners(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What a rectangle whose corners were pressed on the sketch seems to be, for the form where its size is typed."""
    try:
        sketch = _under(mark_of(request.user, mark_id))
        places, pixels = corners_of(body_of(request), sketch)
    except SketchError as error:
        return _refused(error)
    proportion = proportion_of(pixels, (float(sketch.width), float(sketch.height)))
    across = (places[0].distance(places[1]) + places[3].distance(places[2])) / 2
    wide, high = (number_text(round(value, 1)) for value in (across, across / proportion))
    text = _("Seen from straight above, this is about {wide}u by {high}u.").format(wide=wide, high=high)
    return JsonResponse({"text": text, "wide": f"{wide}u", "high": f"{high}u"})


@require_POST
@answers_refusals
def square(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Square the sketch up: make it anew as if it were seen from straight above, and lay it in its place."""
    data = body_of(request)
    mark = mark_of(request.user, mark_id)
    require_designer(request.user, mark.brand.studio_id)

    def act() -> None:
        if services.is_done(mark, identity_of(data)):
            return  # the corners are told of the sketch that lay there before
        sketch = _under(mark)
        places, _pixels = corners_of(data, sketch)
        wide, high = (length_of(data, name) for name in ("wide", "high"))
        given = (sketch.path, sketch.lying, places, wide / high, data.get("cut") is True)
        made = ask_heavy(seen_from_above, current_of(mark), *given)
        middle = ORIGIN if data.get("on_middle") is True else places[0].middle(places[2])
        services.lay_squared(request.user, sketch, made, wide, middle, identity_of(data))

    return _done(request, mark_id, act, looking(data.get("state")), str(data.get("shown", "")))


def _under(mark: Mark) -> Sketch:
    found = services.under(mark)
    if found is None:
        raise SketchError("no-sketch")
    return found


def _done(request: HttpRequest, mark_id: int, act: Callable[[], None], seen: Any, since: str) -> HttpResponse:
    """The page's parts after something was done; or why it was not."""
    try:
        act()
    except SketchError as error:
        return _refused(error)
    mark = mark_of(request.user, mark_id)
    return JsonResponse(parts_of(request.user, mark, standing_of(mark), seen, since))


def _refused(error: SketchError) -> JsonResponse:
    return JsonResponse({"error": explain(error.code, error.values), "code": error.code}, status=422)
