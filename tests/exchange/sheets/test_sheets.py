"""Sheets: pages as other libraries read them."""

from __future__ import annotations

import io
import re
from dataclasses import replace
from unittest import TestCase
from xml.etree import ElementTree

import numpy as np
from fontTools.ttLib import TTFont
from pypdfium2 import PdfDocument

from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.ordering import Order, order_of
from kagami.exchange.sheets.built import SECONDS, plates_of
from kagami.exchange.sheets.faces import FILES, FOLDER, broken, outlines_of, width_of
from kagami.exchange.sheets.leaf import A4, Drawn, Leaf, Words, leaf_svg, leaves_pdf
from kagami.exchange.sheets.overview import NOTATIONS
from kagami.geometry.figures import box, circle
from kagami.geometry.measure.size import Box
from kagami.geometry.point import Point
from kagami.plan.evaluation.cache import Cache
from kagami.plan.language.text import parse_text
from kagami.plan.variants.variant import Variant
from tests.plan.marks import beams

MM = 72 / 25.4


def order_for(name: str = "full") -> Order:
    mark = beams()
    mark.do("add-variant", name="full")
    mark.do("add-sentence", text="Colourway lamp: ink is #e2a93b, ground is #1f2c4a.")
    for number in range(7):
        mark.do("add-variant", name=f"further {number}")
    return replace(order_of(mark.plan, Cache(), mark.plan.variant(name), brand="Vennik", change=4))


def pixels(data: bytes, number: int = 0) -> np.ndarray:
    return np.asarray(PdfDocument(data)[number].render(scale=1).to_pil().convert("RGB"), dtype=int)


class Faces(TestCase):
    def test_words_are_as_wide_as_the_face_says(self) -> None:
        """Against fontTools' own table of advances."""
        for italic, (name, _) in FILES.items():
            font = TTFont(FOLDER / name)
            names, advances = font.getBestCmap(), font["hmtx"]
            text = "Twelve beams 4 mm"
            wide = sum(advances[names[ord(letter)]][0] for letter in text) / font["head"].unitsPerEm
            self.assertAlmostEqual(width_of(text, 10, italic), 10 * wide, places=9)

    def test_letters_that_the_face_lacks_are_boxes(self) -> None:
        self.assertTrue(outlines_of("船", 0, 0, 10))

    def test_long_words_are_broken_and_cut(self) -> None:
        lines = broken("Circle “inner ring” on O with radius 1.5u + 2gap and more of it than fits", 40, 4, most=2)
        self.assertEqual(len(lines), 2)
        self.assertTrue(lines[-1].endswith("…"))
        for line in broken("W" * 400, 40, 4):
            self.assertLessEqual(width_of(line, 4), 40)


class Leaves(TestCase):
    def test_both_writers_draw_the_same(self) -> None:
        from kagami.exchange.png import picture_of

        leaf = Leaf(100, 60)
        leaf.lay(Drawn(circle(Point(30, 30), 12), fill="#2c4f9e"), Words("Beams", 50, 20, 12))
        leaf.lay(Drawn(box(Point(80, 45), 40, 10), stroke="#b3301e", width=2, clip=Box(70, 30, 90, 60)))
        svg = picture_of(leaf_svg(leaf, "x"), 400, 240)[..., :3]
        pdf = np.asarray(
            PdfDocument(leaves_pdf([leaf], "x"))[0].render(scale=400 / (100 * MM)).to_pil().convert("RGB"), dtype=float
        )[:240, :400]
        self.assertLess(float(np.mean(np.abs(svg - pdf).max(axis=-1) > 96)), 0.004)

    def test_what_is_clipped_is_not_seen(self) -> None:
        leaf = Leaf(100, 100)
        leaf.lay(Drawn(box(Point(50, 50), 80, 80), fill="#000000", clip=Box(40, 40, 60, 60)))
        dark = np.argwhere(pixels(leaves_pdf([leaf], "x")).sum(axis=-1) < 200) / MM
        self.assertGreater(dark.min(), 39)
        self.assertLess(dark.max(), 61)


class Sheets(TestCase):
    def test_the_construction_sheet_names_what_is_drawn(self) -> None:
        """The words are outlines; so the leaf itself is asked for them."""
        from kagami.exchange.sheets.setting_out import set_out
        from kagami.plan.evaluation.forms import formed

        order = order_for()
        leaf = set_out(order.result, order.art, order.variant, formed(order.result, order.variant), 4)
        said = {item.text for item in leaf.items if isinstance(item, Words)}
        for text in ("lens", "1.5u", "foot", "1.5u + 4gap = 2.5u", "rim", "8u", "Beams · full", "clear 2u"):
            self.assertIn(text, said)
        (foot,) = (text for text in said if "Vennik" in text)
        self.assertIn("u = 4 mm, gap = u/4", foot)
        self.assertIn("change 4", foot)

    def test_words_are_told_by_their_face_and_not_by_dimensions(self) -> None:
        from kagami.exchange.sheets.setting_out import set_out
        from kagami.plan.evaluation.forms import formed

        text = (
            "Mark: Tide\nCircle course on O with radius 6u.\nSet “TIDE” in Jost, weight 600, caps 1.2u high, "
            "tracked 0.2u, along course, its middle at top of course, outside it by 0.4u: name.\n"
        )
        plan = parse_text(text)
        order = order_of(plan, Cache(), Variant(name="full"), brand="Vennik")
        leaf = set_out(order.result, order.art, order.variant, formed(order.result, order.variant), 0)
        said = {item.text for item in leaf.items if isinstance(item, Words)}
        self.assertIn("Jost 600, capitals 1.2u", said)
        self.assertFalse([words for words in said if "°" in words])

    def test_every_label_points_at_its_figure(self) -> None:
        from kagami.exchange.sheets.setting_out import LABELS, set_out
        from kagami.plan.evaluation.forms import formed

        order = order_for()
        leaf = set_out(order.result, order.art, order.variant, formed(order.result, order.variant), 4)
        ends = [
            (curve.start, curve.end)
            for item in leaf.items
            if isinstance(item, Drawn)
            for curve in item.shape.curves
            if abs(curve.end.x - (LABELS - 1.5)) < 1e-9
        ]
        circles = [item for item in leaf.items if isinstance(item, Drawn) and item.stroke and item.place.scale != 1.0]
        self.assertEqual(len(ends), 4)
        for start, _ in ends:
            near = min(
                abs(start.distance(one.place.at(Point(0, 0))) - one.place.scale * radius)
                for one in circles
                for radius in (1.5, 2.5, 8.0)
            )
            on_bar = start.x < 120
            self.assertTrue(near < 1e-6 or on_bar)

    def test_pages_of_how_it_was_built(self) -> None:
        order = order_for()
        plates = plates_of(order.result)
        self.assertEqual(len(plates), len(order.plan.steps))
        document = PdfDocument(FORMS["built"].write(order))
        self.assertEqual(len(document), -(-(len(plates) + 1) // 8))
        np.testing.assert_allclose([side / MM for side in document[0].get_size()], A4, atol=1e-3)

    def test_long_plans_are_shown_part_by_part(self) -> None:
        lines = [f"Circle c{k} on O with radius {k + 1}u." for k in range(30)]
        text = "\n".join(["Part: The rings", *lines[:20], "Part: The rest", *lines[20:]])
        order = order_of(parse_text(text), Cache(), None)
        self.assertEqual([plate.words for plate in plates_of(order.result)], ["The rings", "The rest"])

    def test_the_drawing_that_plays_shows_its_end_where_nothing_plays(self) -> None:
        order = order_for()
        root = ElementTree.fromstring(FORMS["built-played"].write(order))
        paths = root.findall("{http://www.w3.org/2000/svg}path")
        moving = [path for path in paths if len(path)]
        for path in moving:
            (animation,) = path
            keys = [float(key) for key in animation.attrib["keyTimes"].split(";")]
            values = animation.attrib["values"].split(";")
            self.assertEqual(keys, sorted(keys))
            self.assertEqual((keys[0], len(keys)), (0.0, len(values)))
            self.assertEqual(path.get("opacity") == "0", values[-1] == "0")
        plates = len(plates_of(order.result))
        whole = float(re.match(r"[\d.]+", moving[0][0].attrib["dur"])[0])
        self.assertGreater(whole, plates * SECONDS)

    def test_the_overview_shows_all_variants_and_the_specimen_all_colourways(self) -> None:
        order = order_for()
        self.assertEqual(len(PdfDocument(FORMS["overview"].write(order))), 3)  # eight variants, and their tones
        specimen = FORMS["specimen"].write(order)
        self.assertEqual(len(PdfDocument(specimen)), 1)
        colours = {tuple(one) for one in pixels(specimen).reshape(-1, 3)}
        self.assertIn((0x1F, 0x2C, 0x4A), colours)
        self.assertIn((0xE2, 0xA9, 0x3B), colours)

    def test_sheets_do_not_change_from_one_time_to_the_next(self) -> None:
        for key in ("sheet-svg", "sheet-pdf", "built", "built-played", "overview", "specimen"):
            self.assertEqual(FORMS[key].write(order_for()), FORMS[key].write(order_for()), key)


class Notations(TestCase):
    def test_a_tone_in_every_one(self) -> None:
        """OKLCH by CSS Color Module Level 4's sample of rebeccapurple; hsl and cmyk by their definitions."""
        written = {name: write("#663399") for name, write in NOTATIONS}
        self.assertEqual(written["hex"], "#663399")
        self.assertEqual(written["rgb"], "102 51 153")
        self.assertEqual(written["hsl"], "270° 50 % 40 %")
        self.assertEqual(written["oklch"], "44.0 % 0.160 303°")
        self.assertEqual(written["cmyk"], "33 67 0 40")

    def test_readers_take_the_files(self) -> None:
        order = order_for()
        ElementTree.parse(io.BytesIO(FORMS["sheet-svg"].write(order)))
