"""What the Bench has drawn of a plan: work for evaluators (see `web.evaluation.door`). It knows no request."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.template.loader import render_to_string

from kagami.exchange.svg import Frame
from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.checks import check_mark
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.steps import KINDS
from web.bench.checks import check_rows
from web.bench.choices import anchor_choices, figure_choices, suggestions
from web.bench.panel import draw_panel
from web.bench.picker import draw_picker
from web.bench.sheet import NO_SHEET, draw_sheet, frame_of
from web.bench.shown import Shown, handle_of, known, remember, without_known
from web.bench.slip import draw_slip
from web.bench.state import VIEWS, Looking
from web.faults import Fault, guarded
from web.pictures.mirror import NO_MIRROR, draw_mirror
from web.pictures.picture import picture_frame


@dataclass(frozen=True)
class Under:
    """A sketch of the mark: the one under the sheet, or one that was laid aside. `middle` and `size` are in u, `turned`
    degrees counter-clockwise; `values` are how it lies, as it is typed.
    """

    sketch: int
    name: str
    address: str
    shown: bool
    darkness: int
    middle: Point
    size: tuple[float, float]
    turned: float
    values: Mapping[str, str]
    has_before: bool


@dataclass(frozen=True)
class Standing:
    """Where a mark stands in its history, and what lies under its sheet, as the Bench shows it."""

    revision: int
    words: str
    can_undo: bool
    can_redo: bool
    under: Under | None = None
    laid_aside: tuple[Under, ...] = ()


def draw_bench(
    plan: Plan, cache: Cache, mark: int, standing: Standing, state: Looking, since: str = ""
) -> dict[str, Any]:
    """The parts of the Bench that a change may touch, as HTML, and the handle of what is shown then (see `shown`). With
    the handle of what a page shows already, only what is new is in them.
    """
    whole = evaluate(plan, cache)
    at_needle = evaluate(plan, cache, state.position(plan))
    sheet = guarded("the sheet", lambda: draw_sheet(plan, at_needle, state, whole))
    mirror = guarded("the Mirror", lambda: draw_mirror(whole))
    faults = [part.number for part in (sheet, mirror) if isinstance(part, Fault)]
    seen: dict[str, Any] = {"mirror": NO_MIRROR if isinstance(mirror, Fault) else mirror, "faults": faults}
    if not faults:
        seen["from_sheet"] = _from_sheet(plan, whole, at_needle)
    now = Shown(
        draw_panel(plan, whole, state),
        NO_SHEET if isinstance(sheet, Fault) else sheet,
        {
            "progress": render_to_string("bench/_progress.html", {"standing": standing}),
            "mirror": render_to_string("bench/_mirror.html", seen),
        },
    )
    handle = handle_of(standing.revision, state)
    before = known(mark, since) if since else None
    remember(mark, handle, now)
    sent = now if before is None else without_known(now, before)
    context = {"plan": plan, "state": state, "views": VIEWS, "panel": sent.panel, "sheet": sent.sheet}
    context["standing"] = standing
    context["under"] = standing.under and _laid(standing.under, frame_of(plan, at_needle)[0])
    parts = {part: render_to_string(f"bench/_{part}.html", context) for part in ("plan", "sheet")}
    return {"parts": {**parts, **sent.whole}, "shown": handle}


def _laid(under: Under, frame: Frame) -> dict[str, str]:
    """Where the sketch lies on the sheet, as the attributes of its picture there."""
    x, y = frame.place(under.middle).split()
    width, height = (side * frame.scale for side in under.size)
    return {
        "place": f"translate({x} {y}) rotate({-under.turned:.4f})",
        "x": f"{-width / 2:.3f}",
        "y": f"{-height / 2:.3f}",
        "width": f"{width:.3f}",
        "height": f"{height:.3f}",
    }


def _from_sheet(plan: Plan, whole: Result, at_needle: Result) -> str:
    """The transform that lays what the sheet shows into the Mirror's picture, while a hand moves."""
    (sheet, _window), picture = frame_of(plan, at_needle), picture_frame(whole)
    if picture is None:
        return ""
    scale = picture.scale / sheet.scale
    right, down = (sheet.left - picture.left) * picture.scale, (picture.top - sheet.top) * picture.scale
    return f"translate({right:.4f} {down:.4f}) scale({scale:.6f})"


def checks_of(plan: Plan, cache: Cache, state: Looking) -> str:
    """What was checked of the finished mark, as HTML, with the places on the sheet as it is looked at."""
    frame, _window = frame_of(plan, evaluate(plan, cache, state.position(plan)))
    rows = check_rows(check_mark(evaluate(plan, cache)), plan, frame)
    return render_to_string("bench/_checks.html", {"rows": rows})


def picker_of(plan: Plan, _cache: Cache, name: str) -> str:
    """The picker of a listed tone, as HTML; empty where there is none of that name."""
    picker = draw_picker(plan, name)
    return render_to_string("bench/_picker.html", {"picker": picker}) if picker else ""


def slip_of(
    plan: Plan,
    cache: Cache,
    kind: str,
    state: Looking,
    figures: Sequence[str],
    fields: Mapping[str, Any],
    at: Point | None,
    read: bool,
) -> str:
    """The slip of a new step at the needle, as HTML; `figures` are those to begin with, `fields` what stood in it, or
    was `read` in a sentence, `at` where a figure of it was picked.
    """
    position = state.position(plan)
    drawn = draw_slip(plan, evaluate(plan, cache, position), kind, position, figures, fields, at)
    return render_to_string("bench/_slip.html", {"slip": drawn, "read": read})


@dataclass(frozen=True)
class Asked:
    """What choices are asked for: `what` is “anchors” or “figures”, `of` the step that they are for (else a new one of
    a kind, at the needle), `field` which of its fields, `many` whether several may be chosen, `chosen` those that are.
    """

    what: str
    of: str
    kind: str
    field: str
    many: bool
    chosen: tuple[str, ...]


def choices_of(plan: Plan, cache: Cache, asked: Asked, state: Looking) -> str:
    """What may be chosen for a field, as HTML: a list, and anchors for the sheet."""
    result = evaluate(plan, cache, _position(plan, asked.of, state))
    if asked.what == "anchors":
        found = anchor_choices(plan, result)
    else:
        target = plan.step(asked.of)
        kind = type(target) if target else KINDS.get(asked.kind)
        found = figure_choices(plan, result, kind, asked.field)
    context = {"choices": found, "many": asked.many, "chosen": asked.chosen}
    return render_to_string("bench/_choices.html", context)


def completions_of(plan: Plan, cache: Cache, text: str, of: str, state: Looking) -> tuple[int, list[str]]:
    """Where something may come next in a sentence that is being typed, and what."""
    return suggestions(plan, evaluate(plan, cache, _position(plan, of, state)), text)


def _position(plan: Plan, of: str, state: Looking) -> int:
    """The number of steps before the step that is meant, or before the needle."""
    identifiers = [step.id for step in plan.steps]
    return identifiers.index(of) if of in identifiers else state.position(plan)
