"""Random plans: the evaluator never falls over, every error names its field, equal plans give equal results."""

from __future__ import annotations

import math
from typing import Any
from unittest import TestCase

from hypothesis import HealthCheck, given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st

from kagami.exchange.finished import NothingToDraw, artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.measure.size import area
from kagami.plan.document import Plan, from_data, from_json, to_json
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.readings import measure_mark
from kagami.plan.fields import FieldKind
from kagami.plan.fields.figures import BESIDE, FIGURE, FIGURES
from kagami.plan.fields.lettering import WORDS
from kagami.plan.fields.nodes import NODES
from kagami.plan.fields.numbers import NUMBERS
from kagami.plan.fields.picks import PICKS
from kagami.plan.fields.places import PLACE, PLACES
from kagami.plan.fields.sizes import SIZES
from kagami.plan.fields.tones import LAST_TONE, STOPS, TONE, TONES
from kagami.plan.fields.values import ANGLE, COUNT, LENGTH, NUMBER, PERCENT
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.steps import in_order_of_work, kind_of

BASE = parse_text(
    """
    Measure: gap = u/4
    Circle disc on O with radius 3u.
    Square plate of side 4u, its left on O, turned by 30°.
    Segment cut from left of disc to corner 2 of plate.
    Arc bow on top of disc with radius 2u from 20° to 200°.
    Star star of 5 points on right of disc, tips 2u and notches 0.8u out, the first tip at 90°.
    Turn plate round O, 3 copies: plates.
    Oval oval on O, 5u wide and 2u high, turned by 20°.
    Outline free, closed, drawn from O through 0u, 0u [0, 0 | 1u, 0u]; 3u, 1u [0u, -1u | 0u, 1u]; 0u, 3u.
    """
)
ids = st.sampled_from([step.id for step in BASE.steps])
places = st.sampled_from(
    ["O", "disc.top", "plate.corner-1", "cut.middle", "star.tip-2", "plates.2.corner-3", "oval.right", "disc.box-left"]
    + ["crossing(disc,plate,1)", "between(O,star.tip-1)", "nearest(oval,disc.top)", "touch(disc,star.tip-1,1)"]
)
lengths = st.sampled_from(
    ["0.3u", "1u", "2gap", "4.7u", "-1u", "0u", "width of “oval” / 3", "gap between “disc” and “star”"]
)
angles = st.sampled_from(["0", "30", "90", "-45", "360", "123.4"])
counts = st.sampled_from(["1", "2", "3", "5", "12", "0", "2.5"])
OF_KIND: dict[FieldKind, st.SearchStrategy[Any]] = {
    LENGTH: lengths,
    ANGLE: angles,
    COUNT: counts,
    PERCENT: st.sampled_from(["30", "0", "100", "120"]),
    NUMBER: st.sampled_from(["0.5", "1.3", "0", "-1"]),
    PLACE: places,
    PLACES: st.lists(places, max_size=4),
    FIGURE: ids,
    BESIDE: ids,
    WORDS: st.sampled_from(["Vennik", "TIDE ¶ house", "Łódź", "", "שלום"]),
    FIGURES: st.lists(ids, max_size=4, unique=True),
    NUMBERS: st.lists(st.integers(1, 6), max_size=2),
    TONES: st.just(["dark"]),
    TONE: st.sampled_from(["dark", "30% lighter than dark", "ink"]),
    LAST_TONE: st.sampled_from(["dark", "70% lighter than dark"]),
    STOPS: st.just([{"tone": "dark"}, {"tone": "60% lighter than dark", "at": 70.0}]),
    SIZES: st.lists(st.sampled_from([["1"], ["0.5", "2"], ["0"], ["gap"]]), max_size=3),
    NODES: st.lists(
        st.one_of(st.fixed_dictionaries({"x": lengths, "y": lengths}), st.fixed_dictionaries({"on": places})),
        max_size=5,
    ),
    PICKS: st.just([]),
}


@st.composite
def plans(draw: st.DrawFn) -> Plan:
    data = BASE.model_dump(mode="json")
    for number in range(draw(st.integers(1, 4))):
        kind = draw(st.sampled_from(in_order_of_work()))
        step: dict[str, Any] = {"kind": kind_of(kind), "id": f"x-{number}", "name": f"x {number}"}
        for name, field_kind in kind.field_kinds().items():
            known = st.sampled_from(field_kind.words) if field_kind.words else OF_KIND[field_kind]
            step[name] = draw(known)
        data["steps"].append(step)
    return from_data(data)


class RandomPlans(TestCase):
    @given(plans())
    @hypothesis_settings(deadline=None, max_examples=150, suppress_health_check=[HealthCheck.too_slow])
    def test_they_are_evaluated_or_refused_with_a_reason(self, plan: Plan) -> None:
        result = evaluate(plan)
        for step in plan.steps:
            outcome = result.outcomes[step.id]
            self.assertTrue((outcome.drawing is None) != (outcome.error is None))
            if outcome.error is not None:
                self.assertGreater(len(str(outcome.error)), 20)
            else:
                figure = outcome.figure
                assert figure is not None
                if figure.bounds_area:
                    self.assertTrue(math.isfinite(area(figure.whole)))
        measure_mark(result)
        try:
            write_svg(artwork(plan, result))
        except NothingToDraw:
            # Then all that bounds an area went into a later step, be it one that failed or holds an open line as well.
            used = {name for step in plan.steps for name in step.figure_ids()}
            for step in plan.steps:
                figure = result.outcomes[step.id].figure
                bounds = figure is not None and figure.bounds_area
                self.assertFalse(bounds and step.id not in used and not step.carries_no_ink, step.name)

    @given(plans())
    @hypothesis_settings(deadline=None, max_examples=40, suppress_health_check=[HealthCheck.too_slow])
    def test_equal_plans_give_equal_results_and_equal_files(self, plan: Plan) -> None:
        again = from_json(to_json(plan))
        self.assertEqual(again, plan)
        self.assertEqual(to_json(again), to_json(plan))
        self.assertEqual(parse_text(write_text(plan)), plan)
        first, second = evaluate(plan), evaluate(again)
        for step in plan.steps:
            one, other = first.outcomes[step.id], second.outcomes[step.id]
            self.assertEqual(one.key, other.key)
            self.assertEqual(one.figure and one.figure.copies, other.figure and other.figure.copies)
