"""What a value would do while a hand still moves: only what changes, against the revision that the page shows.

Nothing is stored. Areas are not united for looking: the outlines of all copies are filled together by the non-zero
rule, which looks the same. The frame stays that of the page, so that nothing moves that did not change. What would not
be drawn within the first moments is left for a second call, which finds the rest done.
"""

from collections import Counter, OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import replace
from math import inf
from typing import Any, Final, TypeAlias

from django.template.loader import render_to_string
from django.utils.translation import gettext as _

from kagami.exchange.face_paths import face_paths
from kagami.exchange.shown import shown_data
from kagami.exchange.svg import Frame
from kagami.geometry.outline import Shape, one_shape
from kagami.plan.changes.dragging import Dragged, as_typed
from kagami.plan.changes.picks import carve_detail
from kagami.plan.changes.tentative import tentative
from kagami.plan.changes.ties import ties
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache, Passing
from kagami.plan.evaluation.evaluate import evaluate, evaluate_before, evaluate_steps, inking
from kagami.plan.evaluation.ink import Piece, painted
from kagami.plan.evaluation.patience import Patience
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.solution import Solution
from kagami.plan.language.measures import measure_text
from kagami.plan.language.sentences import write_sentence
from kagami.plan.outcome import Outcome
from kagami.plan.steps import Step
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.paint import Paint
from web.bench.handles import handles_html, joined, quiet_html
from web.bench.panel import fault_text, measure_result, notes_of
from web.bench.said import said_of
from web.bench.sheet import active_handles, frame_of, has_lines, lines_of, region_name
from web.bench.state import Looking
from web.pictures.mirror import draw_mirror
from web.pictures.paint import each_once, paint_of

FIRST_SECONDS: Final = 0.016
"""When an answer is given with what is drawn by then: about a frame of a screen."""
BY_HAND: Final = ("drag", "nudge")
BY_SENTENCE: Final = ("add-step", "add-sentence", "draw-step", "unite-swept", "split-at")
TRIED: Final = (*BY_HAND, *BY_SENTENCE, "lay-tone", "set-field", "set-measure", "set-values", "set-tone", "retype-step")
"""Changes that can be looked at before they are made."""
_passing: Final[OrderedDict[tuple[int, int], Passing]] = OrderedDict()
MOST_PASSING: Final = 8
Inked: TypeAlias = Mapping[tuple[str, str, int], tuple[Piece, Shape]]
"""By step, tone and which it is of those (see `sheet.Line`): how it is painted, and where."""


def preview(
    plan: Plan, cache: Cache, key: tuple[int, int], kind: str, given: Mapping[str, Any], state: Looking, whole: bool
) -> dict[str, Any]:
    """What would change, were a change made: path data by id, texts by key, faults by step.

    With `whole` it is complete; else it may say `more`, and the same call with `whole` gives all of it.

    Raises:
        PlanError: the change could not be made.
    """
    passing = _passing_of(key, cache)
    meant = as_typed(plan, kind, given, passing) if kind in BY_HAND else None
    tried = tentative(plan, meant.kind, meant.given, passing) if meant else tentative(plan, kind, given, passing)
    upto = state.position(plan)
    new = _new_step(plan, tried)
    looks = replace(state, step=new.id) if new else state
    before = evaluate_before(plan, passing, upto)
    found = {name: found.value for name, found in before.findings.items() if isinstance(found, Solution)}
    # The handle in the hand goes with it, so that the step that is worked on is in every answer.
    patience = Patience(inf if whole else FIRST_SECONDS, passing.pace, looks.step)
    after = evaluate_steps(tried, passing, upto + (new is not None), patience, found)
    frame, _window = frame_of(plan, before)
    return {
        "more": not after.complete,
        "lines": dict(_lines(before, after, frame, looks)),
        **_ink(before, before if _at_fault(new, after) else after, _inked_before(before, passing, upto), frame),
        "regions": dict(_regions(before, after, state, frame)),
        "texts": dict(_texts(before, after)),
        "fields": dict(_fields(plan, tried)),
        "handles": _handles(tried, before, after, looks, frame, meant),
        "said": said_of(meant, plan) if meant else _new_in_words(new, plan, tried, after, begun=kind == "add-step"),
        "new": new.id if new else "",
        "ties": _ties(plan, given, meant, passing) if meant else [],
        "faults": dict(_faults(before, after)),
    }


def rested(
    plan: Plan, cache: Cache, key: tuple[int, int], kind: str, given: Mapping[str, Any], state: Looking
) -> dict[str, Any]:
    """When the hand rests: the Mirror, with its readings and small pictures, as it would be.

    Raises:
        PlanError: the change could not be made.
    """
    passing = _passing_of(key, cache)
    tried = tentative(plan, kind, given, passing)
    found = evaluate(tried, passing)
    mirror = draw_mirror(evaluate(plan, passing) if _at_fault(_new_step(plan, tried), found) else found)
    return {"mirror": render_to_string("bench/_mirror.html", {"mirror": mirror, "faults": []})}


def _passing_of(key: tuple[int, int], cache: Cache) -> Passing:
    """The drawings that are merely passed, of one revision; those of earlier ones go."""
    for known in [known for known in _passing if known[0] == key[0] and known != key]:
        del _passing[known]
    if key not in _passing:
        _passing[key] = Passing(cache)
    _passing.move_to_end(key)
    while len(_passing) > MOST_PASSING:
        _passing.popitem(last=False)
    return _passing[key]


def _changed(before: Result, after: Result) -> Iterable[tuple[Outcome, Outcome | None]]:
    """The outcomes that are new, and what stood in their place."""
    for outcome in after.outcomes.values():
        known = before.outcomes.get(outcome.id)
        if known is None or known.key != outcome.key or (known.drawing is None) != (outcome.drawing is None):
            yield outcome, known


def _lines(before: Result, after: Result, frame: Frame, looks: Looking) -> Iterable[tuple[str, str]]:
    """Lines that are new, of steps that show theirs, or are new themselves."""
    for outcome, known in _changed(before, after):
        step = after.plan.step(outcome.id)
        if known is None or step is None or has_lines(step, looks):
            yield outcome.id, lines_of(outcome.figure, frame) if outcome.figure else ""


def _ink(before: Result, after: Result, was: Inked, frame: Frame) -> dict[str, Any]:
    """Inked areas that are new or gone, each with the step and tone that tell it, and its fill; and the elements of the
    gradients that fills name. `was` tells those before.
    """
    now = _inked(after)
    pending = {step.id for step in after.plan.steps} - after.outcomes.keys()
    gone = [place for place in was if place not in now and place[0] not in pending]
    found: list[dict[str, Any]] = [
        {"step": step, "tone": tone, "nth": nth, "d": "", "fill": ""} for step, tone, nth in gone
    ]
    paints = []
    for (step, tone, nth), (piece, outlines) in now.items():
        known = was.get((step, tone, nth))
        old, new = before.outcomes.get(step), after.outcomes[step]
        same = known is not None and (known[0].colour, known[0].gradient) == (piece.colour, piece.gradient)
        if same and old is not None and old.key == new.key:
            continue
        fill, paint = paint_of(piece, frame)
        paints.append(paint)
        data = shown_data(outlines, frame)
        found.append({"step": step, "tone": tone, "nth": nth, "d": data, "fill": fill if tone else ""})
    return {"ink": found, "paints": each_once(paints)}


def _inked_before(before: Result, passing: Passing, upto: int) -> Inked:
    """The same of what the page shows, which is asked for at every move of a hand."""
    known: Inked | None = passing.result(before.plan, ("inked", upto))
    if known is None:
        known = _inked(before)
        passing.put_result(before.plan, ("inked", upto), known)
    return known


def _inked(result: Result) -> Inked:
    """Each tone of each figure that is seen in the end, and all outlines of it, as they are."""
    found: dict[tuple[str, str, int], tuple[Piece, Shape]] = {}
    colours = tone_colours(result.plan.tones)
    for step in inking(result.plan, result.outcomes):
        figure = result.outcomes[step.id].made
        tones: tuple[Paint, ...] = figure.tones or ("",) * len(figure.copies)
        count: Counter[str] = Counter()
        for tone in dict.fromkeys(tones):
            shape = one_shape([copy for copy, own in zip(figure.copies, tones, strict=True) if own == tone])
            found[step.id, str(tone), count[str(tone)]] = painted(step.id, step.name, shape, tone, colours), shape
            count[str(tone)] += 1
    return found


def _regions(before: Result, after: Result, state: Looking, frame: Frame) -> Iterable[tuple[str, str]]:
    carve = state.carve(after.plan) if state.view == "regions" else None
    detail = carve_detail(after.outcomes.get(carve.id)) if carve else None
    known = before.outcomes.get(carve.id) if carve else None
    if carve is None or detail is None or (known is not None and known.key == after.outcomes[carve.id].key):
        return
    regions = detail.cutting.among(state.among(carve)).regions
    paths = face_paths(regions.arrangement, frame)
    for face in range(1, len(paths)):
        yield region_name(regions, face), paths[face]


def _texts(before: Result, after: Result) -> Iterable[tuple[str, str]]:
    """What measures come to, where that is new, by the key of their field."""
    for name, value in after.measures.values.items():
        if before.measures.values.get(name) != value:
            yield f"measure:{name}", measure_result(after, name)


def _fields(plan: Plan, tried: Plan) -> Iterable[tuple[str, str]]:
    """What stands in sentences and measures, where that is new, by the key of its field."""
    names = tried.names()
    for measure, was in zip(tried.measures, plan.measures, strict=False):
        if measure != was:
            yield f"measure:{measure.name}", measure_text(measure, names)
    known = {step.id: step for step in plan.steps}
    for step in tried.steps:
        old = known.get(step.id)
        if step is old or (old is not None and type(step) is not type(old)):
            continue
        for name, kind in step.field_kinds().items():
            if old is None or step[name] != old[name]:
                yield f"{step.id if old else 'new'}:{name}", kind.write(step[name], names)


def _handles(tried: Plan, before: Result, after: Result, looks: Looking, frame: Frame, meant: Dragged | None) -> str:
    """The active step's handles, and in a drag what hangs on it; a place is joined to where it was."""
    handles, step = active_handles(tried, after, looks, frame), tried.step(looks.step)
    if meant is None or step is None:
        return handles_html(handles)
    if not meant.stop:  # a place
        were = {handle.key: handle for handle in active_handles(before.plan, before, looks, frame)}
        handles = tuple(joined(handle, were.get(handle.key)) for handle in handles)
    return handles_html(handles) + quiet_html(step, after, frame)


def _ties(plan: Plan, given: Mapping[str, Any], meant: Dragged, cache: Cache) -> list[dict[str, Any]]:
    """What a dragged value could be tied to: what is said, and the change that ties it."""
    said = {
        "as": _("as {value}"),
        "touching": _("touching {value}"),
        "through": _("through {value}"),
        "on": _("on {value}"),
    }
    found = ties(plan, given, meant, cache)
    return [{"kind": tie.kind, "given": tie.given, "said": said[tie.form].format(value=tie.to)} for tie in found]


def _new_in_words(step: Step | None, plan: Plan, tried: Plan, after: Result, *, begun: bool) -> str:
    """The sentence of a step that would be added, what would be wrong with it or remarked; or the measure or tone.

    One that is `begun` and still wants its places from the sheet is not yet wrong.
    """
    if step is None:
        measures, tones = tried.measures[len(plan.measures) :], tried.tones[len(plan.tones) :]
        said = [_("Measure {name} = {value}").format(name=one.name, value=one.value) for one in measures]
        said += [_("Tone {name} = {value}").format(name=one.name, value=one.colour) for one in tones]
        return ", ".join(said)
    names, outcome = tried.names(), after.outcomes.get(step.id)
    wants = begun and step.begun_by_hand()
    wrong = [str(outcome.error)] if outcome and outcome.error and not wants else []
    return " ".join([write_sentence(step, names), *wrong, *(notes_of(outcome, names) if outcome else ())])


def _new_step(plan: Plan, tried: Plan) -> Step | None:
    """The step that would be added, if one would."""
    known = {step.id for step in plan.steps}
    return next((step for step in tried.steps if step.id not in known), None)


def _at_fault(new: Step | None, result: Result) -> bool:
    """Whether a step that would be added is not drawn: until it is, it takes nothing away from the mark."""
    outcome = result.outcomes.get(new.id) if new else None
    return outcome is not None and outcome.error is not None


def _faults(before: Result, after: Result) -> Iterable[tuple[str, str]]:
    """Faults that are new, by step; those that are gone are empty."""
    for identifier, outcome in after.outcomes.items():
        known = before.outcomes.get(identifier)
        text = fault_text(outcome)
        if known is None or fault_text(known) != text:
            yield identifier, text
