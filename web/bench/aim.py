"""What lies under a hand that is about to press: the anchors there, by name, or lengths from the sheet's middle."""

from collections.abc import Mapping
from typing import Any

from kagami.plan.changes.given import Given
from kagami.plan.changes.grain import grain_of, nth_given, place_given
from kagami.plan.changes.hanging import nearest
from kagami.plan.changes.sketching import aimed, line_under
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate_before
from kagami.plan.places.anchors import resolve
from kagami.plan.places.described import describe
from kagami.plan.references.places import parse_reference
from kagami.plan.steps import KINDS
from kagami.plan.translation import tr
from web.bench.sheet import frame_of
from web.bench.state import Looking


def aim(plan: Plan, cache: Cache, given: Mapping[str, Any], state: Looking) -> dict[str, Any]:
    """Where a press would take hold, as numbers of the drawing, and that in words; `nth` walks on among several. For
    a step of `step_kind` that runs along a line, also along which.

    Raises:
        PlanError: the place is none.
    """
    count = Given(given, cache).position(plan) if "position" in given else state.position(plan)
    result = evaluate_before(plan, cache, count)
    place, grain = place_given(given, "place"), grain_of(given)
    near = nearest(place, grain.reach, result)
    nth = nth_given(given) % len(near) if near else 0
    cls = KINDS.get(str(given.get("step_kind", "")))
    line = line_under(cls, {}, place, grain, result) if cls else ""
    reference = aimed(place, grain, result, nth, of=line)
    frame, _window = frame_of(plan, evaluate_before(plan, cache, state.position(plan)))
    x, y = frame.place(resolve(parse_reference(reference), result.outcomes, result.values.of)).split()
    words = describe(reference, plan.names())
    if line:
        words = tr("{place}, along {line}").format(place=words, line=plan.names()[line])
    said = f"{words} · {nth + 1} / {len(near)}" if len(near) > 1 else words
    return {"more": False, "aim": {"x": x, "y": y, "hung": bool(near)}, "said": said}
