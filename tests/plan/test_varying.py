"""Variants: what they alter, and what settles them."""

from __future__ import annotations

from unittest import TestCase

from kagami.geometry.measure.size import area
from kagami.plan.document import from_json, to_json
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import formed, ground_of, sizes_of
from kagami.plan.language.text import parse_text, write_text
from kagami.plan.varying import varied
from tests.plan.marks import Builder, beams


def small() -> Builder:
    mark = beams()
    mark.do("add-variant", name="small")
    return mark


class Varying(TestCase):
    def test_a_measure_has_another_value_in_it_alone(self) -> None:
        mark = small()
        mark.do("set-variant-value", name="small", measure="gap", value="1u")
        variant = mark.plan.variant("small")
        self.assertEqual(evaluate(varied(mark.plan, variant)).measures.values["gap"], 1.0)
        self.assertEqual(mark.result.measures.values["gap"], 0.25)
        mark.do("set-variant-value", name="small", measure="gap", value="")
        self.assertFalse(mark.plan.variant("small").alters)

    def test_a_muted_step_is_muted_in_it_alone(self) -> None:
        mark = small()
        lens = next(step.id for step in mark.plan.steps if step.name == "lens")
        mark.do("hush-in-variant", name="small", step=lens, state="muted")
        changed = varied(mark.plan, mark.plan.variant("small"))
        self.assertTrue(changed.step(lens).muted)
        self.assertFalse(mark.plan.step(lens).muted)

    def test_a_step_said_anew_has_its_own_ink(self) -> None:
        mark = small()
        rim = next(step.id for step in mark.plan.steps if step.name == "rim")
        mark.do("retype-in-variant", name="small", step=rim, text="Circle rim on O with radius 6u.")
        whole, less = (
            sum(area(piece.shape) for piece in formed(evaluate(varied(mark.plan, variant)), variant))
            for variant in (None, mark.plan.variant("small"))
        )
        self.assertLess(less, whole)

    def test_other_fields_by_the_bench_s_own_changes(self) -> None:
        mark = small()
        rim = next(step.id for step in mark.plan.steps if step.name == "rim")
        change = {"kind": "set-field", "step": rim, "field": "radius", "value": "7u"}
        mark.do("vary", name="small", changes=[change])
        self.assertEqual(str(varied(mark.plan, mark.plan.variant("small")).step(rim)["radius"]), "7u")
        with self.assertRaises(PlanError):
            mark.do("vary", name="small", changes=[{"kind": "add-step", "step_kind": "circle", "fields": {}}])

    def test_what_is_removed_leaves_no_trace_in_it(self) -> None:
        mark = small()
        extra = mark.add("circle", name="dot", radius="9u")
        mark.measure("w", "2u")
        mark.do("hush-in-variant", name="small", step=extra, state="muted")
        mark.do("set-variant-value", name="small", measure="w", value="3u")
        mark.do("remove-step", step=extra)
        mark.do("remove-measure", name="w")
        self.assertFalse(mark.plan.variant("small").alters)

    def test_measures_that_are_renamed_are_renamed_in_it(self) -> None:
        mark = small()
        mark.measure("w", "2u")
        mark.do("set-variant-value", name="small", measure="w", value="2gap")
        mark.do("rename-measure", name="gap", new="slit")
        mark.do("rename-measure", name="w", new="breadth")
        (entry,) = mark.plan.variant("small").values
        self.assertEqual((entry.measure, entry.value), ("breadth", "2slit"))

    def test_the_ground_of_a_reversed_one_is_its_ink(self) -> None:
        mark = small()
        mark.do("add-sentence", text="Colourway lamp: ink is #e2a93b, ground is #1f2c4a.")
        mark.do("set-variant", name="small", field="colourway", value="lamp")
        self.assertEqual(ground_of(mark.result, mark.plan.variant("small")), "#1f2c4a")
        mark.do("set-variant", name="small", field="form", value="reversed")
        variant = mark.plan.variant("small")
        self.assertEqual(ground_of(mark.result, variant), "#e2a93b")
        self.assertEqual({piece.colour for piece in formed(mark.result, variant)}, {"#1f2c4a"})

    def test_an_outlined_circle_is_a_ring(self) -> None:
        """Closed form: π (R² − (R − w)²)."""
        mark = Builder()
        mark.add("circle", name="disc", radius="5u")
        mark.do("add-variant", name="line")
        mark.do("set-variant", name="line", field="form", value="outlined")
        mark.do("set-variant", name="line", field="line", value="0.5u")
        (piece,) = formed(mark.result, mark.plan.variant("line"))
        self.assertAlmostEqual(area(piece.shape), 3.141592653589793 * (25 - 4.5**2), places=9)

    def test_the_smallest_size_follows_the_finest_part(self) -> None:
        """Two bars 1u wide and 0.5u apart, 10u long: a gap of a pixel asks for 10 / 0.5 = 20 pixels."""
        mark = Builder()
        mark.plan = parse_text(
            "Box left, 1u wide and 10u high, its centre on -0.75u right and 0u up from O, turned by 0°.\n"
            "Box right, 1u wide and 10u high, its centre on 0.75u right and 0u up from O, turned by 0°.\n"
        )
        sizes = sizes_of(mark.result, None, formed(mark.result, None))
        self.assertAlmostEqual(sizes.smallest_pixels(), 20.0, places=6)
        self.assertAlmostEqual(sizes.smallest_millimetres(), 5.0, places=6)


class Documents(TestCase):
    def test_variants_come_back_from_documents_and_from_sentences(self) -> None:
        mark = small()
        mark.do("add-sentence", text="Colourway “night watch”: ink is #e2a93b, ground is #1f2c4a.")
        mark.do(
            "add-sentence",
            text="Variant “on dark”, in “night watch”, on its plate, below 24 px: gap is 0.4u, without lens; "
            "clear 2u; smallest 9mm; as svg, icons.",
        )
        mark.do("set-variant", name="on dark", field="note", value="For the boats.")
        rim = next(step.id for step in mark.plan.steps if step.name == "rim")
        mark.do("retype-in-variant", name="on dark", step=rim, text="Circle rim on O with radius 7.5u.")
        mark.do("set-package", pattern="{mark}-{variant}", pixels="16 and 48", height="60 mm")
        self.assertEqual(from_json(to_json(mark.plan)), mark.plan)
        text = write_text(mark.plan)
        self.assertIn("Variant “on dark”, in “night watch”, on its plate, below 24 px: gap is 0.4u, without lens", text)
        self.assertIn("Instead in “on dark”: Circle rim on O with radius 7.5u.", text)
        again = parse_text(text)
        self.assertEqual(again.package, mark.plan.package)
        self.assertEqual(write_text(again), text)
        self.assertEqual(
            [(one.name, one.colourway, one.plate, one.below, one.note, one.formats) for one in again.variants],
            [(one.name, one.colourway, one.plate, one.below, one.note, one.formats) for one in mark.plan.variants],
        )

    def test_names_of_several_words_need_no_quotes(self) -> None:
        mark = small()
        mark.do("add-sentence", text="Colourway night watch, chosen: ink is #e2a93b.")
        mark.do("add-sentence", text="Variant on-dark 1st, in night watch, below 24 px: nothing changed.")
        mark.do("add-sentence", text="Variant one ink: nothing changed.")
        self.assertEqual([one.name for one in mark.plan.colourways], ["night watch"])
        found = {one.name: one.colourway for one in mark.plan.variants}
        self.assertEqual(found, {"small": "", "on-dark 1st": "night watch", "one ink": ""})
        for text in ("Variant large in night watch: nothing changed.", "Variant large below 24 px: nothing changed."):
            with self.subTest(text), self.assertRaises(PlanError):
                mark.do("add-sentence", text=text)

    def test_what_is_no_variant_is_refused_with_a_form_of_words(self) -> None:
        mark = small()
        for text in (
            "Variant x, in nowhere: nothing changed.",
            "Variant x: gap is .",
            "Variant x: depth is 2u.",
            "Variant x, below 9999 px: nothing changed.",
            "Variant x: nothing changed; as gif.",
        ):
            with self.subTest(text), self.assertRaises(PlanError):
                mark.do("add-sentence", text=text)

    def test_copies_moves_and_names(self) -> None:
        mark = small()
        mark.do("copy-variant", name="small")
        self.assertEqual([one.name for one in mark.plan.variants], ["small", "small 2"])
        mark.do("move-variant", name="small 2", position=0)
        self.assertEqual([one.name for one in mark.plan.variants], ["small 2", "small"])
        with self.assertRaises(PlanError):
            mark.do("rename-variant", name="small 2", new="small")
        mark.do("remove-variant", name="small")
        self.assertEqual([one.name for one in mark.plan.variants], ["small 2"])
        with self.assertRaises(PlanError):
            mark.do("set-format", name="gone", format="svg", on=True)
