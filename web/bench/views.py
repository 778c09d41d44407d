"""The Bench's page and its JSON views. Each parses, calls one function, renders."""

import contextlib
from dataclasses import replace
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST, require_safe

from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.limits import SENTENCE_LENGTH
from kagami.plan.steps import KINDS, Carve
from web.bench.choices import anchor_choices, figure_choices, suggestions
from web.bench.fragments import Bench, fragments
from web.bench.requests import BadRequest, answers_refusals, base_of, body_of, identity_of
from web.bench.slip import draw_slip, verbs
from web.bench.state import Looking, looking
from web.bench.words import words
from web.faults import Fault, guarded
from web.marks.access import mark_of
from web.marks.services import history
from web.marks.services.evaluation import CACHE


@require_safe
def bench(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page."""
    mark = mark_of(request.user, mark_id)
    state = looking(request.GET)
    context = guarded("the Bench", lambda: Bench(mark, mark.current.load(), state).context())
    if isinstance(context, Fault):
        return render(request, "bench/way_back.html", {"mark": mark, "number": context.number}, status=500)
    return render(request, "bench/bench.html", {**context, "verbs": verbs(), "words": words(), "page": "bench"})


@require_POST
def step_back(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Undo by a plain form: the way back where the Bench itself cannot be drawn."""
    mark = mark_of(request.user, mark_id)
    with contextlib.suppress(history.NothingFurther, history.StaleRevision, history.MarkGone):
        history.undo(mark, mark.current.number)
    return redirect("bench", mark_id)


@require_safe
def state(request: HttpRequest, mark_id: int) -> HttpResponse:
    """The page's parts, as the query looks at them."""
    mark = mark_of(request.user, mark_id)
    return JsonResponse(fragments(Bench(mark, mark.current.load(), looking(request.GET)), request))


@require_POST
@answers_refusals
def change(request: HttpRequest, mark_id: int) -> HttpResponse:
    """Change the plan."""
    data = body_of(request)
    mark, kind = mark_of(request.user, mark_id), str(data.get("kind"))
    made = history.make_change(mark, base_of(data), kind, _given(data), identity_of(data))
    seen = looking(data.get("state"))
    if kind in ("add-step", "add-sentence"):
        seen = _after_new_step(made, seen)
    return _answer(request, made, seen)


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
    made = history.keep_as_new(mark, base, str(data.get("kind")), _given(data))
    return JsonResponse({"address": reverse("bench", args=[made.id])})


@require_safe
@answers_refusals
def slip(request: HttpRequest, mark_id: int, kind: str) -> HttpResponse:
    """The slip of a new step."""
    if kind not in KINDS:
        raise BadRequest(_("There is no such kind of step."), 404)
    mark = mark_of(request.user, mark_id)
    plan = mark.current.load()
    position = looking(request.GET).position(plan)
    drawn = draw_slip(plan, evaluate(plan, CACHE, position), kind, position, request.GET.get("figure", "")[:40])
    return render(request, "bench/_slip.html", {"slip": drawn})


@require_safe
def choices(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What may be chosen for a field of a step, or of a new one at the needle: a list, and anchors for the sheet."""
    mark = mark_of(request.user, mark_id)
    plan = mark.current.load()
    position = looking(request.GET).position(plan)
    identifiers = [step.id for step in plan.steps]
    of = request.GET.get("of", "")
    if of in identifiers:
        position = identifiers.index(of)
    result = evaluate(plan, CACHE, position)
    if request.GET.get("what") == "anchors":
        found = anchor_choices(plan, result)
    else:
        target = plan.step(of)
        kind = type(target) if target else KINDS.get(request.GET.get("kind", ""))
        found = figure_choices(plan, result, areas_only=kind is None or not kind.takes_lines)
    many = request.GET.get("many") == "1"
    chosen = request.GET.get("chosen", "").split()
    return render(request, "bench/_choices.html", {"choices": found, "many": many, "chosen": chosen})


@require_POST
@answers_refusals
def complete(request: HttpRequest, mark_id: int) -> HttpResponse:
    """What may come next in a sentence that is being typed at the needle, or in place of a step."""
    mark = mark_of(request.user, mark_id)
    data = body_of(request)
    plan = mark.current.load()
    position = looking(data).position(plan)
    identifiers = [step.id for step in plan.steps]
    if data.get("of") in identifiers:
        position = identifiers.index(str(data["of"]))
    result = evaluate(plan, CACHE, position)
    at, words = suggestions(plan, result, str(data.get("text", ""))[:SENTENCE_LENGTH])
    return JsonResponse({"at": at, "words": words})


def _given(data: dict[str, Any]) -> dict[str, Any]:
    given = data.get("given")
    if not isinstance(given, dict):
        raise BadRequest(_("The change lacks its values, “given”."))
    return given


def _walk(request: HttpRequest, mark_id: int, step: Any) -> HttpResponse:
    data = body_of(request)
    made = step(mark_of(request.user, mark_id), base_of(data), identity_of(data))
    return _answer(request, made, looking(data.get("state")))


def _answer(request: HttpRequest, made: history.Made, seen: Looking) -> JsonResponse:
    """What a change came to. Should the page fail to be drawn, the answer says that the change was kept."""
    parts = guarded("the Bench", lambda: fragments(Bench(made.mark, made.plan, seen), request))
    if isinstance(parts, Fault):
        text = _("Your change was kept, but the page could not be drawn (number {number}). Reload it, or undo.")
        revision = made.mark.current.number
        return JsonResponse({"kept": True, "revision": revision, "error": text.format(number=parts.number)})
    return JsonResponse(parts)


def _after_new_step(made: history.Made, seen: Looking) -> Looking:
    """A new step is active, the needle stands behind it, and a new carve shows its regions."""
    needle = None if seen.needle is None else seen.needle + 1
    is_carve = isinstance(made.plan.step(made.step or ""), Carve)
    view = "regions" if is_carve else "both" if seen.view == "regions" else seen.view
    return replace(seen, step=made.step or "", needle=needle, view=view, every=1)
