"""Every value, place and choice of every kind of step lies on the sheet; a handle that is dragged changes its field and
nothing else, and comes to lie where it was dragged.
"""

from __future__ import annotations

import math
from unittest import TestCase, mock

import numpy as np

from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.plan.changes.change import change
from kagami.plan.changes.steps import with_fields
from kagami.plan.dimensions.drawn import stops
from kagami.plan.dimensions.kinds import Angular, Dimension, Flip, Hook, Knot, Linear, Measured, Stops, Word
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import evaluate_before, inputs_of
from kagami.plan.fields.choice import ChoiceKind
from kagami.plan.fields.figures import FigureKind, FiguresKind
from kagami.plan.fields.nodes import NodesKind
from kagami.plan.fields.numbers import NumbersKind
from kagami.plan.fields.places import PlaceKind, PlacesKind
from kagami.plan.fields.sizes import SizesKind
from kagami.plan.fields.values import ValueKind
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text
from kagami.plan.steps import KINDS, Step
from kagami.plan.steps.inputs import Inputs
from tests.plan.dimensions.samples import BASE, SAMPLES

CACHE = Cache()
LIES = (ValueKind, SizesKind, NodesKind, PlaceKind, PlacesKind, ChoiceKind, NumbersKind)
"""Kinds of field that lie on the sheet; figures, picks and tones are chosen there otherwise."""
FOOT_GOES_ALONG = {"circle-touching-two.radius", "gap.gap", "standing-polygon.length", "standing-polygon.sides"}
"""Whose foot depends on the value itself: what is dragged gets its value, while the handle goes on with its figure."""
ON_OUTLINE = (
    "circle", "oval", "ring", "arc", "wedge", "ring-part", "bar", "bar-between", "box", "square", "polygon", "star",
    "star-polygon", "leaf", "drop", "band", "taper", "widen", "inlay", "weave", "parallel",
)  # fmt: skip
"""Kinds whose lengths and angles are told by where their lines lie: the handle is on the line that it moves."""
OFF_OUTLINE = {"oval.angle", "box.angle", "square.angle", "star-polygon.skip", "weave.gap", "drop.tip"}


class Sample:
    """A plan with a step of a kind at its end."""

    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.step: Step = plan.steps[-1]
        count = len(plan.steps) - 1
        self.inputs: Inputs = inputs_of(self.step, evaluate_before(plan, CACHE, count))
        outcome = evaluate_before(plan, CACHE, count + 1).outcomes[self.step.id]
        assert outcome.error is None, (self.step.kind, outcome.error)  # type: ignore[attr-defined]
        self.made: Figure = outcome.made
        self.dimensions = dimensions_of(self.step, self.inputs, self.made)

    def value(self, dimension: Measured) -> float:
        found = self.inputs.fields[dimension.field]
        for number in dimension.part:
            found = found[number]
        return float(found)

    def same(self, dimension: Dimension) -> Dimension:
        """The dimension of the same field and part."""
        (found,) = (
            other
            for other in self.dimensions
            if type(other) is type(dimension)
            and (other.field, getattr(other, "part", ())) == (dimension.field, getattr(dimension, "part", ()))
        )
        return found

    def dragged(self, dimension: Dimension, place: Point, **more: object) -> Sample:
        part = list(getattr(dimension, "part", ()))
        given = {"step": self.step.id, "field": dimension.field, "part": part, "place": list(place), **more}
        return Sample(change(self.plan, "drag", given, CACHE).plan)


def sample(kind: str) -> Sample:
    return Sample(parse_text(BASE + SAMPLES[kind]))


def off(figure: Figure, place: Point) -> float:
    """How far a place lies from the lines of a figure."""
    table = tabulate([figure.whole])
    every = np.arange(len(table))
    places = np.tile(np.array(place), (len(table), 1))
    t = table.ask("nearest", every, places)
    found = table.ask("point", every, t, width=2) - places
    return float(np.hypot(found[:, 0], found[:, 1]).min())


class EveryKind(TestCase):
    def test_there_is_a_sample_of_every_kind(self) -> None:
        self.assertEqual(set(SAMPLES), set(KINDS))

    def test_every_value_place_and_choice_lies_on_the_sheet(self) -> None:
        for kind in SAMPLES:
            found = sample(kind)
            self.assertEqual(found.step.kind, kind)  # type: ignore[attr-defined]
            wanted = {name for name, field in found.step.field_kinds().items() if isinstance(field, LIES)}
            with self.subTest(kind):
                self.assertEqual({dimension.field for dimension in found.dimensions} & wanted, wanted)

    def test_a_dragged_value_is_where_it_was_dragged_and_nothing_else_changed(self) -> None:
        dragged = 0
        for kind in SAMPLES:
            before = sample(kind)
            for dimension in before.dimensions:
                if not isinstance(dimension, Linear | Angular | Stops):
                    continue
                with self.subTest(f"{kind}.{dimension.field}{list(dimension.part)}"):
                    self._drag_value(kind, before, dimension)
                dragged += 1
        self.assertGreater(dragged, 100)

    def _drag_value(self, kind: str, before: Sample, dimension: Measured) -> None:
        now = before.value(dimension)
        turned = round(10.0 / abs(dimension.per), 2) if isinstance(dimension, Angular) else 0.0
        target = now + (turned if isinstance(dimension, Angular) else 1.0 if isinstance(dimension, Stops) else 0.11)
        if isinstance(dimension, Stops) and target > dimension.stops[-1][0]:
            target = now - 1
        place = dimension.tip(target)
        self.assertAlmostEqual(dimension.value_at(place, now), target, delta=1e-9)
        after = before.dragged(dimension, place, free=True)
        self.assertAlmostEqual(after.value(dimension), target, delta=1e-9)
        self._only(before, after, dimension.field)
        anew = after.same(dimension)
        assert isinstance(anew, Linear | Angular | Stops)
        if f"{kind}.{dimension.field}" not in FOOT_GOES_ALONG:
            self.assertLess(anew.tip(target).distance(place), 1e-9)

    def _only(self, before: Sample, after: Sample, field: str) -> None:
        """All but a field is as it was."""
        self.assertEqual(before.plan.model_dump() | {"steps": []}, after.plan.model_dump() | {"steps": []})
        self.assertEqual(before.plan.steps[:-1], after.plan.steps[:-1])
        was, now = before.step.model_dump(), after.step.model_dump()
        self.assertNotEqual(was.pop(field), now.pop(field))
        self.assertEqual(was, now)

    def test_a_dragged_place_hangs_on_the_anchor_that_is_near(self) -> None:
        for kind in SAMPLES:
            before = sample(kind)
            for ring in (found for found in before.dimensions if isinstance(found, Hook)):
                with self.subTest(f"{kind}.{ring.field}{list(ring.part)}"):
                    given = {"step": "x", "field": ring.field, "part": list(ring.part), "place": [7.25, 1.75]}
                    plan = change(before.plan, "drag", given, CACHE).plan
                    anew = inputs_of(plan.steps[-1], evaluate_before(plan, CACHE, len(plan.steps) - 1))
                    found = dict(plan.steps[-1].field_kinds()[ring.field].rings(anew.fields[ring.field]))
                    self.assertEqual(found[ring.part], Point(7.3, 1.7))
                    self.assertEqual(plan.steps[:-1], before.plan.steps[:-1])

    def test_a_dragged_node_goes_along_and_its_handles_with_it(self) -> None:
        before = sample("free-outline")
        knot = next(found for found in before.dimensions if isinstance(found, Knot) and found.part == (1,))
        after = before.dragged(knot, Point(4.6, 0.9))
        self._only(before, after, "nodes")
        self.assertEqual(after.inputs.rows("nodes")[1], (4.5, 1.0, -1.0, 0.0, 1.0, 1.0, 0.0))
        self.assertEqual(after.inputs.rows("nodes")[0], before.inputs.rows("nodes")[0])

    def test_handles_lie_on_what_they_move(self) -> None:
        for kind in ON_OUTLINE:
            found = sample(kind)
            for dimension in found.dimensions:
                name = f"{kind}.{dimension.field}"
                if isinstance(dimension, Linear | Angular | Stops) and name not in OFF_OUTLINE:
                    with self.subTest(name):
                        self.assertLess(off(found.made, dimension.tip(found.value(dimension))), 1e-6)

    def test_extreme_values_cost_no_step_its_sheet(self) -> None:
        """With whatever stands in a field, dimensions are found or left out; no fault of the program is logged."""
        tried = 0
        for kind in SAMPLES:
            before = sample(kind)
            for name, field in before.step.field_kinds().items():
                if not isinstance(field, ValueKind):
                    continue
                for value in ("0", "-1", "10^-320", "-10^-12", "9999", "1/0", "radius of disc"):
                    plan = with_fields(before.plan, before.step, **{name: value})
                    with self.subTest(f"{kind}.{name} {value}"), self.assertNoLogs("kagami", "ERROR"):
                        self._look_at(plan, name)
                    tried += 1
        self.assertGreater(tried, 500)

    def _look_at(self, plan: Plan, field: str) -> None:
        count = len(plan.steps) - 1
        result = evaluate_before(plan, CACHE, count + 1)
        try:
            inputs = inputs_of(plan.steps[-1], result)
        except PlanError:
            return
        outcome = result.outcomes[plan.steps[-1].id]
        for dimension in dimensions_of(plan.steps[-1], inputs, outcome.figure):
            if isinstance(dimension, Linear | Angular | Stops) and dimension.field == field and not dimension.part:
                self.assertFalse(math.isnan(dimension.tip(float(inputs.fields[field])).x))

    def test_a_fault_of_a_kind_costs_its_dimensions_alone(self) -> None:
        found = sample("circle")
        with (
            mock.patch.object(type(found.step), "dimensions", side_effect=ZeroDivisionError("of the program")),
            self.assertLogs("kagami", "ERROR") as logged,
        ):
            drawn = dimensions_of(found.step, found.inputs, found.made)
        self.assertEqual([type(dimension) for dimension in drawn], [Hook])
        self.assertIn("while a step of kind circle was drawn", logged.output[0])

    def test_odd_figures_and_empty_lists_are_no_fault_of_the_program(self) -> None:
        """Each figure in turn is another one of the plan, a point or a guide too, and each list is empty."""
        for kind in SAMPLES:
            plan = parse_text(BASE + SAMPLES[kind])
            step, before = plan.steps[-1], ("disc", "floor", "mark", "words", "plait")
            given: list[tuple[str, object]] = []
            for field, held in step.field_kinds().items():
                if isinstance(step[field], tuple):
                    given.append((field, ()))
                if isinstance(held, FigureKind):
                    given.extend((field, other) for other in before)
                elif isinstance(held, FiguresKind):
                    given.extend((field, (other,)) for other in before)
            for field, value in given:
                with self.subTest(kind, field=field, value=value), self.assertNoLogs("kagami", "ERROR"):
                    odd = with_fields(plan, step, **{field: value})
                    made = evaluate_before(odd, CACHE, len(odd.steps)).outcomes[step.id].figure
                    try:
                        inputs = inputs_of(odd.steps[-1], evaluate_before(odd, CACHE, len(odd.steps) - 1))
                    except PlanError:
                        continue
                    dimensions_of(odd.steps[-1], inputs, made)

    def test_a_repeat_without_copies_offers_none(self) -> None:
        self.assertEqual(list(stops("number", 1, 0, lambda n: Point(n, 0), 1.0)), [])
        self.assertEqual(len(list(stops("number", 1, 3, lambda n: Point(n, 0), 1.0))), 1)

    def test_words_and_crossings_lie_at_finite_places(self) -> None:
        counted = 0
        for kind in SAMPLES:
            for dimension in sample(kind).dimensions:
                if isinstance(dimension, Word | Flip):
                    counted += 1
                    self.assertTrue(math.isfinite(dimension.place.x) and math.isfinite(dimension.place.y), kind)
        self.assertGreater(counted, 30)
