"""What a stroke may be taken as: made from known curves with the tremor of a hand, they come back in round numbers."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from unittest import TestCase

import numpy as np

from kagami.geometry.point import Point
from kagami.plan.changes.change import change
from kagami.plan.changes.taken_as import taken_as
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate, evaluate_before, inputs_of
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.steps.free import FreeOutline, FreeStroke, is_smooth, node_rows

PIXEL = 1 / 34
"""In u, where 34 pixels of the screen are one."""
WAVES = ((25, 0.5), (60, 1.2), (150, 3.0))
"""How a hand trembles: lengths of waves along its way and how far it goes aside, in pixels."""


def drawn(path: Callable[[float], tuple[float, float]], long: float, seed: int, *, closed: bool) -> str:
    """A stroke along a path, 0 to 1, of a length in u, by a hand that trembles, on whole pixels, 4 of them apart."""
    rng = np.random.default_rng(seed)
    share = np.linspace(0, 1, int(long / PIXEL / 4.2))[: -1 if closed else None]
    places = np.array([path(float(s)) for s in share]) / PIXEL
    for axis in (0, 1):
        for wave, aside in WAVES:
            phase, size = rng.uniform(0, math.tau), rng.uniform(0.4, 1.0)
            places[:, axis] += aside * size * np.sin(math.tau * share * long / PIXEL / wave + phase)
    nodes = "; ".join(f"{x:.3f}u, {y:.3f}u" for x, y in np.round(places) * PIXEL)
    form = "closed" if closed else "open"
    return f"Stroke stroke, {form}, drawn from O near {nodes}, to within 0.05u, steadied over 0.3u.\n"


def offers(text: str) -> tuple[Plan, dict[str, str]]:
    plan = parse_text(text)
    step = plan.steps[-1]
    assert isinstance(step, FreeStroke)
    return plan, dict(taken_as(step, evaluate(plan)))


def ring(x: float, y: float, width: float, height: float, turn: float = 0.0) -> Callable[[float], tuple[float, float]]:
    cos, sin = math.cos(math.radians(turn)), math.sin(math.radians(turn))

    def path(share: float) -> tuple[float, float]:
        a, b = width / 2 * math.cos(math.tau * share), height / 2 * math.sin(math.tau * share)
        return x + cos * a - sin * b, y + sin * a + cos * b

    return path


def along(corners: Sequence[tuple[float, float]]) -> Callable[[float], tuple[float, float]]:
    """From corner to corner in equal shares."""

    def path(share: float) -> tuple[float, float]:
        side, rest = divmod(min(share, 0.9999) * (len(corners) - 1), 1)
        (ax, ay), (bx, by) = corners[int(side)], corners[int(side) + 1]
        return ax + (bx - ax) * rest, ay + (by - ay) * rest

    return path


class TakenAs(TestCase):
    def test_a_circle_in_round_numbers_with_what_is_left_over(self) -> None:
        for seed in range(6):
            plan, found = offers(drawn(ring(1, 2, 9, 9), 28, seed, closed=True))
            label, sentence = next(iter(found.items()))
            with self.subTest(seed=seed):
                self.assertRegex(label, r"^a circle, within 0\.[01]\d?u$")
                self.assertEqual(sentence, "Circle circle on 1u right and 2u up from O with radius 4.5u.")
                after = change(plan, "retype-step", {"step": "stroke", "text": sentence}).plan
                self.assertEqual(evaluate(after).outcomes["stroke"].made.anchors["centre"], (1.0, 2.0))

    def test_a_centre_comes_to_an_anchor_that_is_as_near(self) -> None:
        base = "Circle lens on 1u right and 2.07u up from O with radius 1u.\n"
        _, found = offers(base + drawn(ring(1, 2.05, 9, 9), 28, 1, closed=True))
        self.assertIn("Circle circle on centre of lens with radius 4.5u.", found.values())
        later = drawn(ring(1, 2.05, 9, 9), 28, 1, closed=True) + base
        plan = parse_text(later)
        step = plan.steps[0]
        assert isinstance(step, FreeStroke)
        self.assertFalse(any("lens" in text for _, text in taken_as(step, evaluate(plan))))

    def test_an_oval_its_width_nearer_to_level(self) -> None:
        for turn, said in ((0, "10u wide and 6u high, turned by 0°."), (75, "6u wide and 10u high, turned by -15°.")):
            _, found = offers(drawn(ring(0, 0, 10, 6, turn), 26, 2, closed=True))
            with self.subTest(turn=turn):
                self.assertEqual([label.partition(",")[0] for label in found], ["an oval", list(found)[-1]])
                self.assertIn(f"Oval oval on O, {said}", found.values())

    def test_an_arc_from_end_to_end_whichever_way_it_was_drawn(self) -> None:
        def arc(share: float) -> tuple[float, float]:
            angle = math.radians(15 + 120 * share)
            return -1 + 5 * math.cos(angle), -2 + 5 * math.sin(angle)

        for way in (arc, lambda share: arc(1 - share)):
            _, found = offers(drawn(way, 10.5, 3, closed=False))
            self.assertRegex(next(iter(found.values())), r"^Arc arc on 1u left and 2u down from O with radius 5u from ")
            opens, closes = next(iter(found.values())).partition(" from ")[2].split(" from ")[1].split("° to ")
            self.assertAlmostEqual(float(opens), 15, delta=3)
            self.assertAlmostEqual(float(closes.rstrip("°.")), 135, delta=3)

    def test_a_straight_line_is_no_arc_of_a_giant(self) -> None:
        _, found = offers(drawn(lambda share: (-3 + 6 * share, 1 + 2 * share), 6.4, 4, closed=False))
        self.assertEqual([label.partition(",")[0] for label in found][:-1], ["a straight line"])
        self.assertIn("Segment segment from 3u left and 1u up from O to 3u right and 3u up from O.", found.values())

    def test_nearly_round_and_open_may_be_either(self) -> None:
        whole = ring(0, 0, 8, 8)
        _, found = offers(drawn(lambda share: whole(0.93 * share), 23, 5, closed=False))
        self.assertLessEqual({"a circle", "an arc"}, {label.partition(",")[0] for label in found})

    def test_a_wave_is_a_free_line_alone_and_stays_smooth_to_the_last_digit(self) -> None:
        plan, found = offers(drawn(lambda s: (-4 + 8 * s, 2 * math.sin(7 * s)), 14, 6, closed=False))
        ((label, sentence),) = found.items()
        self.assertRegex(label, r"^a free line of \d+ nodes$")
        after = change(plan, "retype-step", {"step": "stroke", "text": sentence}).plan
        step = after.steps[0]
        assert isinstance(step, FreeOutline)
        self.assertLess(len(step.nodes), 12)
        rows = node_rows(inputs_of(step, evaluate_before(after, Cache(), 0)))
        self.assertTrue(all(is_smooth(row) for row in rows[1:-1]))
        self.assertEqual(parse_text(write_text(after)), after)
        before, there = (evaluate(one).outcomes["stroke"].made.whole for one in (plan, after))
        for place in (k / 20 for k in range(21)):  # along it, the outline keeps to what was drawn
            at = before.curves[int(place * (len(before.curves) - 1))].at(place % 1)
            self.assertLess(min(at.distance(curve.at(t / 40)) for curve in there.curves for t in range(41)), 0.15)

    def test_straight_sides_from_corner_to_corner_and_nothing_round(self) -> None:
        square = ((3.0, -3.0), (3.0, 3.0), (-3.0, 3.0), (-3.0, -3.0), (3.0, -3.0))
        round_ones = 0
        for seed in range(8):
            plan, found = offers(drawn(along(square), 24, seed, closed=True))
            with self.subTest(seed=seed):
                labels = [label.partition(",")[0].partition(" of ")[0] for label in found]
                self.assertEqual(labels, ["straight sides from 4 corners", "a free line"])
                text = next(iter(found.values()))
                made = (
                    evaluate(change(plan, "retype-step", {"step": "stroke", "text": text}).plan).outcomes["stroke"].made
                )
                corners = [made.anchors[f"corner-{k}"] for k in range(1, 5)]
                away = [min(corner.distance(Point(*place)) for corner in corners) for place in square]
                self.assertLess(max(away), 0.12)  # about 4 pixels
                round_ones += sorted(away)[-1] == 0.0
        self.assertGreater(round_ones, 5)

    def test_straight_sides_that_stay_open_hang_on_anchors_too(self) -> None:
        base = "Circle lens on 4u right and 0.05u down from O with radius 1u.\n"
        _, found = offers(base + drawn(along(((-6.0, 0.0), (0.0, 5.0), (4.0, 0.0))), 14.2, 1, closed=False))
        said = next(text for label, text in found.items() if label.startswith("straight sides from 3 corners"))
        self.assertEqual(said, "Path path, open, through 6u left from O; 5u up from O; centre of lens.")

    def test_sides_that_bow_are_not_straight(self) -> None:
        def leaf(share: float) -> tuple[float, float]:
            side, rest = divmod(min(share, 0.9999) * 2, 1)
            angle = math.radians(30 + 120 * rest)
            x, y = 5 * math.cos(angle), 5 * math.sin(angle) - 2.5
            return (x, y) if side == 0 else (-x, -y)

        _, found = offers(drawn(leaf, 21, 2, closed=True))
        self.assertFalse([label for label in found if "straight" in label])

    def test_whatever_is_scribbled_what_is_offered_can_be_drawn(self) -> None:
        for seed in range(20):
            rng = np.random.default_rng(seed)
            count = int(rng.integers(3, 40))
            places = (rng.normal(0, 3, (count, 2)), np.cumsum(rng.normal(0, 0.4, (count, 2)), axis=0))[seed % 2]
            nodes = "; ".join(f"{x:.3f}u, {y:.3f}u" for x, y in places)
            form = ("open", "closed")[seed // 2 % 2]
            plan, found = offers(f"Stroke s, {form}, drawn from O near {nodes}, to within 0.3u, steadied over 0u.\n")
            self.assertTrue(found)
            for label, text in found.items():
                after = change(plan, "retype-step", {"step": "s", "text": text}).plan
                with self.subTest(seed=seed, label=label):
                    self.assertIsNone(evaluate(after).outcomes["s"].error)

    def test_a_name_of_ones_own_stays_and_what_is_not_drawn_offers_nothing(self) -> None:
        text = drawn(ring(0, 0, 8, 8), 25, 8, closed=True)
        _, found = offers(text.replace("Stroke stroke", "Stroke buoy"))
        self.assertTrue(all(" buoy" in sentence for sentence in found.values()))
        _, found = offers(text.replace("to within 0.05u", "to within 0u"))
        self.assertEqual(found, {})
