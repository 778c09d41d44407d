"""The Bench's page and its JSON views. Each parses, calls one function, renders."""

import contextlib
from dataclasses import replace
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.utils.translation import get_language
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.plan.limits import FIGURES_PER_STEP, NAME_LENGTH, SENTENCE_LENGTH
from kagami.plan.steps import KINDS
from web.bench.keys import keys
from web.bench.live.answers import answer
from web.bench.live.tokens import token_for
from web.bench.offered import OFFERED
from web.bench.parts import parts_of, standing_of
from web.bench.preview import BY_SENTENCE
from web.bench.requests import BadRequest, answers_refusals, base_of, body_of, fields_of, identity_of, place_of
from web.bench.slip import verbs
from web.bench.state import Looking, looking
from web.bench.words import words
from web.bench.works import Asked, checks_of, choices_of, completions_of, draw_bench, picker_of, slip_of
from web.evaluation.door import ask, ask_heavy
from web.faults import Fault, guarded
from web.marks.access import mark_of
from web.marks.references import current_of
from web.marks.services import history
from web.marks.services.holding import MarkGone


@require_safe
def bench(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    mark = mark_of(request.user, mark_id)
    state = looking(request.GET)
    drawn = guarded("the Bench", lambda: ask(draw_bench, current_of(mark), mark.pk, standing_of(mark), state))
    if isinstance(drawn, Fault):
        return render(request, "bench/way_back.html", {"mark": mark, "number": drawn.number}, status=500)
    parts = {name: mark_safe(html) for name, html in drawn["parts"].items()}
    context = {"mark": mark, "title": mark.name, "state": state, "page": "bench", "parts": parts}
    context["shown"] = drawn["shown"]
    context["socket"] = (
        "kagami.socket" in request.META
    )  # where only plain requests are served, no page tries another way
    context["token"] = token_for(request.user, mark.pk, mark.current.number, mark.brand.studio_id)
    context = {**context, "verbs": verbs(), "offered": OFFERED, "words": words(), "keys": keys()}
    return render(request, "bench/bench.html", context)


@require_POST
def step_back(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Undo by a plain form: the way back where the Bench itself cannot be drawn."""
    mark = mark_of(request.user, mark_id)
    with contextlib.suppress(history.NothingFurther, history.StaleRevision, MarkGone):
        history.undo(request.user, mark, mark.current.number)
    return redirect("bench", mark_id)


@require_safe
def state(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page's parts, as the query looks at them."""
    mark = mark_of(request.user, mark_id)
    return JsonResponse(
        parts_of(request.user, mark, standing_of(mark), looking(request.GET), request.GET.get("shown", ""))
    )


@require_POST
@answers_refusals
def change(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Change the plan."""
    data = body_of(request)
    mark, kind = mark_of(request.user, mark_id), str(data.get("kind"))
    made = history.make_change(request.user, mark, base_of(data), kind, _given(data), identity_of(data))
    seen = looking(data.get("state"))
    if kind in (*BY_SENTENCE, "add-sentences"):
        text = str(data["given"].get("text", ""))
        several = [line for line in text.splitlines() if line.strip() and not line.startswith("Measure:")]
        seen = _after_new_step(made, seen, max(1, len(several)) if kind == "add-sentences" else 1)
    return _answer(request, made, seen, data)


@require_POST
@answers_refusals
def undo(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Go back by one change."""
    return _walk(request, mark_id, history.undo)


@require_POST
@answers_refusals
def redo(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Go on by one change."""
    return _walk(request, mark_id, history.redo)


@require_POST
@answers_refusals
def keep(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Keep a change that came too late as a new mark; answers with its address."""
    data = body_of(request)
    mark = mark_of(request.user, mark_id)
    base = base_of(data)
    if not mark.revisions.filter(number=base).exists():
        raise BadRequest(_("There is no such revision."))
    made = history.keep_as_new(request.user, mark, base, str(data.get("kind")), _given(data))
    return JsonResponse({"address": reverse("bench", args=[made.id])})


@require_POST
@answers_refusals
def try_out(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What a change would do, without making it: for pages that have no socket, or an old token."""
    data = body_of(request)
    mark = mark_of(request.user, mark_id)
    revision = base_of(data)
    if not mark.revisions.filter(number=revision).exists():
        raise BadRequest(_("There is no such revision."))
    token = token_for(request.user, mark.pk, revision, mark.brand.studio_id)
    return JsonResponse({**answer({**data, "token": token, "language": get_language()}), "token": token})


@require_safe
@answers_refusals
def slip(request: HttpRequest, mark_id: int, kind: str) -> HttpResponse:
    """The slip of a new step."""
    if kind not in KINDS:
        raise BadRequest(_("There is no such kind of step."), 404)
    mark = mark_of(request.user, mark_id)
    figures = request.GET.get("figures", "").split()[:FIGURES_PER_STEP]
    fields, at = fields_of(request.GET.get("fields", "")), place_of(request.GET.get("at", ""))
    return HttpResponse(
        ask(slip_of, current_of(mark), kind, looking(request.GET), figures, fields, at, "read" in request.GET)
    )


@require_safe
@answers_refusals
def checks(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What was checked of the finished mark; it is asked for when the hand rests, and stands in nobody's way."""
    return HttpResponse(ask_heavy(checks_of, current_of(mark_of(request.user, mark_id)), looking(request.GET)))


@require_safe
@answers_refusals
def picker(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The picker of a listed tone."""
    mark = mark_of(request.user, mark_id)
    return HttpResponse(ask(picker_of, current_of(mark), request.GET.get("tone", "")[:NAME_LENGTH]))


@require_safe
@answers_refusals
def choices(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What may be chosen for a field of a step, or of a new one at the needle: a list, and anchors for the sheet."""
    mark, query = mark_of(request.user, mark_id), request.GET
    chosen = tuple(query.get("chosen", "").split())
    what, of, kind, field = (query.get(name, "") for name in ("what", "of", "kind", "field"))
    asked = Asked(what, of, kind, field, query.get("many") == "1", chosen)
    return HttpResponse(ask(choices_of, current_of(mark), asked, looking(query)))


@require_POST
@answers_refusals
def complete(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What may come next in a sentence that is being typed at the needle, or in place of a step."""
    mark = mark_of(request.user, mark_id)
    data = body_of(request)
    text, of = str(data.get("text", ""))[:SENTENCE_LENGTH], str(data.get("of", ""))
    at, words = ask(completions_of, current_of(mark), text, of, looking(data))
    return JsonResponse({"at": at, "words": words})


def _given(data: dict[str, Any]) -> dict[str, Any]:
    given = data.get("given")
    if not isinstance(given, dict):
        raise BadRequest(_("The change lacks its values, “given”."))
    return given


def _walk(request: HttpRequest, mark_id: int, step: Any) -> HttpResponse:
    data = body_of(request)
    made = step(request.user, mark_of(request.user, mark_id), base_of(data), identity_of(data))
    return _answer(request, made, looking(data.get("state")), data)


def _answer(request: HttpRequest, made: history.Made, seen: Looking, data: dict[str, Any]) -> JsonResponse:
    """What a change came to. Should the page fail to be drawn, the answer says that the change was kept."""
    since = str(data.get("shown", ""))
    parts = guarded(
        "the Bench", lambda: parts_of(request.user, made.mark, standing_of(made.mark, made.can_redo), seen, since)
    )
    if isinstance(parts, Fault):
        text = _("Your change was kept, but the page could not be drawn (number {number}). Reload it, or undo.")
        revision = made.mark.current.number
        return JsonResponse({"kept": True, "revision": revision, "error": text.format(number=parts.number)})
    return JsonResponse(parts)


def _after_new_step(made: history.Made, seen: Looking, count: int) -> Looking:
    """A new step is active, the needle stands behind it, and a new carve shows its regions."""
    needle = None if seen.needle is None else seen.needle + count
    is_carve = made.is_carve
    view = "regions" if is_carve else "both" if seen.view == "regions" else seen.view
    return replace(seen, step=made.step or "", needle=needle, view=view, every=1)
