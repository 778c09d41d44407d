"""Carved regions: chosen by what identifies them, so that the choice survives edits."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.geometry.outline import Shape
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.ink import pieces
from kagami.plan.steps import Carve
from tests.plan.marks import Builder, beams


def notes_of(mark: Builder) -> list[str]:
    drawing = mark.result.outcomes["light"].drawing
    assert drawing is not None
    return [code for code, _ in drawing.notes]


def light_of(mark: Builder) -> Shape:
    (shape,) = [piece.shape for piece in pieces(mark.result) if piece.id == "light"]
    return shape


def carve_of(mark: Builder) -> Carve:
    step = mark.plan.step("light")
    assert isinstance(step, Carve)
    return step


class AllRound(TestCase):
    def test_one_pick_reaches_all_round_the_turn(self) -> None:
        mark = beams()
        self.assertEqual(mark.detail("light").kept.sum(), 12)
        self.assertEqual(len(carve_of(mark).picks), 1)

    def test_one_pick_reaches_both_sides_of_a_reflection(self) -> None:
        mark = Builder()
        mark.do("add-sentence", text="Line axis through O at 90°.")
        mark.do("add-sentence", text="Circle eye on O with radius 3u.")
        mark.do("add-sentence", text="Move eye by 2u right and 0u up: right.")
        mark.do("add-sentence", text="Reflect right across axis, the original kept: eyes.")
        mark.do("add-sentence", text="Of eyes keep nothing, the rest dropped: piece face.")
        mark.pick("face", 4, 0)
        self.assertEqual((mark.kept_at("face", 4, 0), mark.kept_at("face", -4, 0)), (True, True))
        self.assertFalse(mark.kept_at("face", 0, 0))
        mark.pick("face", 4, 0, every=0)
        self.assertEqual((mark.kept_at("face", 4, 0), mark.kept_at("face", -4, 0)), (False, True))

    def test_every_second_takes_half_of_them(self) -> None:
        mark = beams()
        mark.pick("light", 0, 5, every=2)
        self.assertEqual(mark.detail("light").kept.sum(), 6)
        self.assertFalse(mark.kept_at("light", 0, 5))
        self.assertTrue(mark.kept_at("light", -2.5, 4.33))

    def test_one_alone_can_be_dropped(self) -> None:
        mark = beams()
        mark.pick("light", 5, 0, every=0)
        self.assertEqual(mark.detail("light").kept.sum(), 11)

    def test_two_clicks_are_no_click(self) -> None:
        mark = beams()
        before = mark.plan
        for every in (1, 2, 0):
            mark.pick("light", 0, 8.5, every=every)
            mark.pick("light", 0, 8.5, every=every)
            self.assertEqual(mark.plan, before)

    def test_a_choice_that_covers_an_older_one_replaces_it(self) -> None:
        mark = beams()
        mark.pick("light", 5, 0, every=0)
        mark.pick("light", 0, 5, every=1)
        self.assertEqual(mark.detail("light").kept.sum(), 0)
        mark.pick("light", 0, 5, every=1)
        self.assertEqual([pick.every for pick in carve_of(mark).picks], [1])

    def test_the_rest_may_be_kept_instead(self) -> None:
        mark = beams()
        mark.do("set-field", step="light", field="rest", value="kept")
        mark.pick("light", 0, 0.3)
        self.assertFalse(mark.kept_at("light", 0, 0.3))
        self.assertTrue(mark.kept_at("light", 0, 8.5))


class Survival(TestCase):
    def test_the_choice_survives_every_change_of_size(self) -> None:
        for step, field, value in (
            ("rim", "radius", "5u"),
            ("rim", "radius", "8.9u"),
            ("lens", "radius", "0.8u"),
            ("foot", "radius", "4u"),
            ("beam", "width", "0.3u"),
            ("beam", "direction", "37"),
        ):
            mark = beams()
            mark.do("set-field", step=step, field=field, value=value)
            with self.subTest(step=step, field=field, value=value):
                self.assertEqual(mark.detail("light").kept.sum(), 12)
                self.assertEqual(notes_of(mark), [])

    def test_a_changed_measure_moves_the_kept_area_as_it_should(self) -> None:
        mark = beams()
        before = area(light_of(mark))
        mark.do("set-measure", name="gap", value="u/2")
        # Each of the twelve beams is shorter by 4·(1/2 − 1/4) u along its middle; both its ends are the same circle's.
        after = area(light_of(mark))
        self.assertLess(abs((before - after) - 12 * 1.1 * 1.0), 0.2)
        self.assertEqual(mark.detail("light").kept.sum(), 12)

    def test_more_or_fewer_copies_are_chosen_all_round_again(self) -> None:
        for copies in ("5", "8", "16", "24"):
            mark = beams()
            mark.do("set-field", step="beams", field="copies", value=copies)
            with self.subTest(copies=copies):
                self.assertEqual(mark.detail("light").kept.sum(), int(copies))

    def test_every_second_of_an_odd_number_is_remarked_upon(self) -> None:
        mark = beams()
        mark.pick("light", 0, 8.5, every=2)
        mark.do("set-field", step="beams", field="copies", value="9")
        self.assertIn("pick-uneven", notes_of(mark))

    def test_a_region_that_is_gone_is_remarked_upon_and_its_pick_kept(self) -> None:
        mark = beams()
        picks = carve_of(mark).picks
        mark.do("set-field", step="rim", field="radius", value="1u")
        self.assertEqual(notes_of(mark), ["pick-gone"])
        self.assertEqual(carve_of(mark).picks, picks)
        mark.do("set-field", step="rim", field="radius", value="8u")
        self.assertEqual(notes_of(mark), [])
        self.assertEqual(mark.detail("light").kept.sum(), 12)

    def test_a_figure_that_is_added_to_the_carve_leaves_the_choice(self) -> None:
        mark = beams()
        before = area(light_of(mark))
        mark.add("polygon", name="hexagon", sides="6", radius="6u")
        mark.do("move-step", step="hexagon", position=0)
        mark.do("set-field", step="light", field="figures", value=["lens", "foot", "rim", "beams", "hexagon"])
        self.assertAlmostEqual(area(light_of(mark)), before, places=10)
        self.assertEqual(notes_of(mark), [])
        mark.do("set-field", step="light", field="figures", value=["lens", "foot", "rim", "beams"])
        self.assertAlmostEqual(area(light_of(mark)), before, places=10)

    def test_the_order_of_figures_does_not_matter(self) -> None:
        mark = beams()
        names = [region.cover for region in mark.detail("light").regions.names]
        mark.do("set-field", step="light", field="figures", value=["beams", "rim", "foot", "lens"])
        self.assertEqual({*names}, {region.cover for region in mark.detail("light").regions.names})
        self.assertEqual(mark.detail("light").kept.sum(), 12)


class Refusals(TestCase):
    def test_regions_that_are_not_there_cannot_be_picked(self) -> None:
        mark = beams()
        for region in (0, -1, 100_000):
            with self.subTest(region), self.assertRaises(ChangeRefused):
                mark.do("pick", step="light", region=region, every=1)
        with self.assertRaises(ChangeRefused):
            mark.do("pick", step="lens", region=1, every=1)
