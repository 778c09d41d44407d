"""PDF: read back by pikepdf and drawn by pypdfium2, beside the SVG that resvg draws."""

from __future__ import annotations

import io
import pathlib
from unittest import TestCase

import numpy as np
import pikepdf
import pypdfium2
from PIL import Image

from kagami.exchange.arcs import arc_cubics
from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.finished import artwork
from kagami.exchange.pdf import Inks, Spot, in_process_inks, write_pdf
from kagami.exchange.png import write_png
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.figures import circle, oval
from kagami.geometry.measure.size import Box
from kagami.geometry.point import ORIGIN, Point
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan
from kagami.plan.language.text import parse_text

EXAMPLES = sorted((pathlib.Path(__file__).parents[2] / "examples").glob("*/*"))
DISC = Artwork("Harbour disc", (Area("disc", circle(ORIGIN, 3), "#b3301e"),), Box(-3, -3, 3, 3), 4, "mm")


def page_of(case: TestCase, data: bytes) -> pikepdf.Page:
    """The one page; a page lives as long as its document."""
    pdf = pikepdf.open(io.BytesIO(data))
    case.addCleanup(pdf.close)
    return pdf.pages[0]


def drawn(data: bytes, pixels: int) -> np.ndarray:
    """The page as pypdfium2 draws it, its longer side so many pixels."""
    page = pypdfium2.PdfDocument(data)[0]
    return np.asarray(page.render(scale=pixels / max(page.get_size())).to_pil().convert("RGB")).astype(int)


def shown(art: Artwork, pixels: int) -> np.ndarray:
    """The same as resvg draws it."""
    return np.asarray(Image.open(io.BytesIO(write_png(art, pixels, "#ffffff"))).convert("RGB")).astype(int)


class Pages(TestCase):
    def test_the_page_is_as_large_as_the_mark_and_its_boxes_say_so(self) -> None:
        # ISO 32000-1, 14.11.2: page boxes are in points, 72 to an inch.
        for unit, points in (("mm", 24 * 72 / 25.4), ("in", 24 * 72.0), ("pt", 24.0), ("px", 18.0)):
            art = Artwork(DISC.title, DISC.areas, DISC.box, 4, unit)
            page = page_of(self, write_pdf(art))
            for box in (page.mediabox, page.trimbox):
                self.assertAlmostEqual(float(box[2]), points, delta=1e-5)
                self.assertAlmostEqual(float(box[3]), points, delta=1e-5)

    def test_title_and_equal_bytes(self) -> None:
        data = write_pdf(DISC, author="Vennik Light Trust")
        self.assertEqual(data, write_pdf(DISC, author="Vennik Light Trust"))
        pdf = pikepdf.open(io.BytesIO(data))
        self.assertEqual(str(pdf.docinfo["/Title"]), "Harbour disc")
        with pdf.open_metadata() as meta:
            self.assertEqual(meta["dc:title"], "Harbour disc")
            self.assertEqual(meta["dc:creator"], ["Vennik Light Trust"])

    def test_only_filled_outlines(self) -> None:
        page = page_of(self, write_pdf(DISC, ground="#ffffff"))
        operators = {str(row.operator) for row in pikepdf.parse_content_stream(page)}
        self.assertEqual(operators, {"rg", "re", "f", "m", "c", "h"})
        self.assertNotIn("/ExtGState", page.obj["/Resources"])

    def test_every_example_is_what_resvg_shows_of_the_svg(self) -> None:
        for file in EXAMPLES:
            with self.subTest(file.name):
                plan = load_plan(file.read_bytes())
                art = artwork(plan, evaluate(plan))
                one, other = drawn(write_pdf(art), 600), shown(art, 600)
                self.assertEqual(one.shape, other.shape)
                self.assertLess(float(np.abs(one - other).mean()), 1.0)


class Colours(TestCase):
    def test_process_inks(self) -> None:
        # The naive conversion of CSS Color Module Level 5, turned round: grey is black ink alone.
        for colour, inks in (
            ((0, 0, 0), [0, 0, 0, 1]),
            ((1, 1, 1), [0, 0, 0, 0]),
            ((0.5, 0.5, 0.5), [0, 0, 0, 0.5]),
            ((1, 0, 0), [0, 1, 1, 0]),
            ((0.2, 0.4, 0.4), [0.5, 0, 0, 0.6]),
        ):
            for one, other in zip(in_process_inks(*colour), inks, strict=True):
                self.assertAlmostEqual(one, other, delta=1e-12)

    def test_each_space_has_its_operators_and_no_other(self) -> None:
        for inks, operator in ((Inks.RGB, "rg"), (Inks.CMYK, "k"), (Inks.GREY, "g")):
            page = page_of(self, write_pdf(DISC, inks))
            used = {str(row.operator) for row in pikepdf.parse_content_stream(page)} - {"m", "c", "h", "f"}
            self.assertEqual(used, {operator})

    def test_a_spot_ink_keeps_its_name(self) -> None:
        for name in ("Harbour Blue", "Blå nr 7/2 (blank)", "#7"):
            page = page_of(self, write_pdf(DISC, Spot(name, "#1f2c4a")))
            space = page.obj["/Resources"]["/ColorSpace"]["/S1"]
            self.assertEqual(str(space[0]), "/Separation")
            self.assertEqual(str(space[1]), "/" + name)

    def test_gradients_stay_gradients(self) -> None:
        head = "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\nSquare p of side 6u, its centre on O, turned by 0°.\n"
        for sentence, kind in (
            ("Fill p from left of p to 2u right and 1u up from O with a gradient of sea, lamp at 40% and sea: g.\n", 2),
            ("Fill p from 1u right and 0u up from O out to 3u with a gradient of sea, lamp at 60% and #fff: g.\n", 3),
        ):
            plan = parse_text(head + sentence)
            art = artwork(plan, evaluate(plan))
            page = page_of(self, write_pdf(art))
            self.assertEqual(int(page.obj["/Resources"]["/Pattern"]["/P1"]["/Shading"]["/ShadingType"]), kind)
            off = np.abs(drawn(write_pdf(art), 400) - shown(art, 400))
            self.assertLess(float(off.mean()), 1.0)
            self.assertLess(float(np.percentile(off, 99.5)), 6)


class Arcs(TestCase):
    def test_cubics_stray_by_less_than_a_millionth_of_the_radius(self) -> None:
        for arc, radius in ((Arc(Point(1, 2), 5, 0.3, 6.0), 5.0), (Arc(ORIGIN, 2, 1, -0.4), 2.0)):
            for cubic in arc_cubics(arc, arc.end):
                for t in np.linspace(0, 1, 21).tolist():
                    self.assertAlmostEqual(cubic.at(t).distance(arc.centre), radius, delta=4e-7 * radius)

    def test_those_of_an_ellipse_lie_on_it(self) -> None:
        arc = EllipticArc(ORIGIN, 4, 1.5, 0.0, 0.2, 5.0)
        for cubic in arc_cubics(arc, arc.end):
            for t in np.linspace(0, 1, 9).tolist():
                place = cubic.at(t)
                self.assertAlmostEqual((place.x / 4) ** 2 + (place.y / 1.5) ** 2, 1, delta=1e-6)

    def test_a_tilted_oval_is_as_resvg_shows_it(self) -> None:
        art = Artwork("Oval", (Area("o", oval(ORIGIN, 4, 1.5, 0.6)),), Box(-4, -4, 4, 4))
        self.assertLess(float(np.abs(drawn(write_pdf(art), 500) - shown(art, 500)).mean()), 0.3)
