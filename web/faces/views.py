"""The page Faces: a mark's words in every face at hand, one chosen; and the faces that a studio has brought."""

from urllib.parse import urlencode

from django.http import Http404, HttpRequest, HttpResponse, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.exchange.fonts.checking import MOST_BYTES, checked_font
from kagami.lettering.errors import LetteringError
from kagami.plan.limits import FACE_LENGTH, NAME_LENGTH
from kagami.plan.messages import explain
from web.evaluation.door import ask
from web.faces import services
from web.faces.models import Typeface
from web.faces.works import spread_of
from web.faults import Fault, guarded
from web.leaves import changed, looked_at, walked
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.references import current_of
from web.marks.services import history


@require_safe
def faces(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    return _page(request, mark_of(request.user, mark_id))


@require_POST
def choose(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Set words in a face: those that are looked at or, where the mark has none, its name."""
    mark = mark_of(request.user, mark_id)
    face, step = request.POST.get("face", "")[:FACE_LENGTH], looked_at(request)
    kind, given = ("set-field", {"step": step, "field": "face", "value": face}) if step else _first_words(mark, face)
    made = changed(request, mark, kind, given, _page)
    if isinstance(made, HttpResponse):
        return made
    return _back(mark_id, step or made.step or "")


def _first_words(mark: Mark, face: str) -> tuple[str, dict[str, str]]:
    words = mark.name.replace("”", "””")
    return "add-sentence", {"text": f"Set “{words}” in {face}"}


@require_POST
def walk(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Undo or redo."""
    return walked(request, mark_id, _page, lambda: _back(mark_id, looked_at(request)))


@require_POST
def bring(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Take in a face's file."""
    mark = mark_of(request.user, mark_id)
    file = request.FILES.get("font")
    if file is None:
        return _page(request, mark, _("Choose a font first: a TrueType, OpenType, WOFF or WOFF2 file."), 422)
    try:
        services.bring(request.user, mark.brand.studio_id, checked_font(file.read(MOST_BYTES + 1)))
    except LetteringError as error:
        return _page(request, mark, explain(error.code, error.values), 422)
    return _back(mark_id, looked_at(request))


@require_POST
def away(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Take a face of the studio away."""
    mark = mark_of(request.user, mark_id)
    try:
        services.take_away(request.user, mark.brand.studio_id, request.POST.get("face", "")[:FACE_LENGTH])
    except Typeface.DoesNotExist as error:
        raise Http404("There is no such face.") from error
    except LetteringError as error:
        return _page(request, mark, explain(error.code, error.values), 422)
    return _back(mark_id, looked_at(request))


def _back(mark_id: int, at: str) -> HttpResponseRedirect:
    address = reverse("faces", args=[mark_id])
    return redirect(f"{address}?{urlencode({'at': at})}" if at else address)


def _page(request: HttpRequest, mark: Mark, fault: str = "", status: int = 200) -> HttpResponse:
    at = looked_at(request)[:NAME_LENGTH]
    spread = guarded("Faces", lambda: ask(spread_of, current_of(mark), at))
    if isinstance(spread, Fault):
        return render(request, "bench/way_back.html", {"mark": mark, "number": spread.number}, status=500)
    context = {
        "mark": mark,
        "title": mark.name,
        "page": "faces",
        "spread": spread,
        "brought": Typeface.objects.filter(studio=mark.brand.studio_id),
        "fault": fault,
        "can_undo": mark.current.parent_id is not None,
        "can_redo": history.can_redo(mark),
    }
    return render(request, "faces/faces.html", context, status=status)
