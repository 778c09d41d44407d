"""Files that a faulty writer could have made: each is noticed, in every form, and what is right is let pass."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import replace
from unittest import TestCase

import numpy as np
import pikepdf
import shapely
from PIL import Image

from kagami.exchange.artwork import Area, Artwork, Shading
from kagami.exchange.delivery.comparing import farthest_from
from kagami.exchange.delivery.forms import FORMS, Form
from kagami.exchange.delivery.ordering import Order, measured, order_of
from kagami.exchange.delivery.reading_back import read_back
from kagami.exchange.delivery.reading_back.found import Paint, PaintKind
from kagami.exchange.delivery.report import report_on
from kagami.exchange.dxf import write_dxf
from kagami.exchange.pdf import Inks, Spot, Spots, write_pdf
from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.boolean import difference
from kagami.geometry.curves import Arc, Line
from kagami.geometry.figures import circle, oval
from kagami.geometry.measure.size import Box, area
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.table import places_along, tabulate
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.language.text import parse_text

CACHE = Cache()
OUTLINES = [form for form in FORMS.values() if form.reads in ("svg", "pdf", "dxf")]


def lantern() -> Plan:
    """A plate with a hole, a crooked outline of cubics and an oval, in three tones, laid over each other."""
    return parse_text(
        "Mark: Lantern\n"
        "Tone: sea = #2f7f86\n"
        "Tone: lamp = #e2a93b\n"
        "Tone: night = #1f2c4a\n"
        "Box plate, 10u wide and 8u high, its centre on O, turned by 0°.\n"
        "Circle port on 2u right and 1u up from O with radius 1u.\n"
        "From plate take port: piece holed.\n"
        "Outline flame, closed, drawn from O through -3u, -3u [0, 0 | 2u, 0.6u]; 1u, -1.5u [-1u, 1u | 1u, 1.8u]; "
        "-2u, 2u [2u, 0.4u | -1u, 0].\n"
        "Oval egg on 3u right and 2u down from O, 2.4u wide and 1u high, turned by 25°.\n"
        "Fill holed with sea: board.\n"
        "Fill flame with lamp: fire.\n"
        "Fill egg with night: stone.\n"
        "Variant full: nothing changed; as svg.\n"
        "Variant dark, on its plate: nothing changed; as svg.\n"
        "Package: {brand}-{mark}-{variant}-{size}, 16, 48 and 300 px, 60mm high\n"
    )


def order_for(form: Form, variant: str = "full") -> Order:
    plan = lantern()
    order = order_of(plan, CACHE, plan.variant(variant), brand="Vennik")
    if form.one_colour:
        order = replace(order, art=replace(order.art, areas=tuple(replace(a, fill="#b3301e") for a in order.art.areas)))
    return order


def with_piece(art: Artwork, number: int, **changed: object) -> Artwork:
    areas = list(art.areas)
    areas[number] = replace(areas[number], **changed)
    return replace(art, areas=tuple(areas))


def moved(shape: Shape, number: int, right: float) -> Shape:
    outlines = list(shape.outlines)
    outlines[number] = outlines[number].mapped(Affine(1, 0, 0, 1, right, 0))
    return Shape(tuple(outlines))


def mistakes(art: Artwork) -> Iterator[tuple[str, Artwork]]:
    """What a writer could get wrong, without changing the area in any colour or the box."""
    plate, flame = art.areas[0], art.areas[1]
    yield "a hole that is off by a thousandth of the mark", with_piece(art, 0, shape=moved(plate.shape, 1, 0.01))
    yield "a piece that is off by as much", with_piece(art, 1, shape=moved(flame.shape, 0, 0.01))
    about = flame.shape.mapped(Affine(1, 0, 0, -1, 0, -1))
    yield "a piece that is mirrored", with_piece(art, 1, shape=about)
    yield (
        "a hole turned the other way round, so that it is filled",
        with_piece(art, 0, shape=Shape((plate.shape.outlines[0], plate.shape.outlines[1].reversed()))),
    )
    yield "pieces in another order", replace(art, areas=(art.areas[2], *art.areas[:2]))
    yield "a piece that is there twice", replace(art, areas=(*art.areas, art.areas[2]))
    yield "a piece that lacks", replace(art, areas=art.areas[:-1])


class Mistakes(TestCase):
    def test_each_is_noticed_in_every_form_of_outlines(self) -> None:
        for form in OUTLINES:
            order = order_for(form)
            self.assertEqual(report_on(order, form, form.write(order), CACHE).faults, ())
            for what, art in mistakes(order.art):
                if form.reads == "dxf" and "other way round" in what:
                    continue  # contours of a DXF have no direction
                if form is FORMS["cut"] and ("another order" in what or "twice" in what):
                    continue  # what is cut is what is seen, in an order of its own
                with self.subTest(form.kind, what=what):
                    data = form.write(replace(order, art=art))
                    self.assertNotEqual(report_on(order, form, data, CACHE).faults, ())

    def test_colours_and_inks_are_compared(self) -> None:
        for form in OUTLINES:
            if form.paints is PaintKind.TEXT:
                continue
            order = order_for(form)
            nearly = "#b3301f" if form.one_colour else "#2f7f87"
            changed = replace(order, art=with_piece(order.art, 0, fill=nearly))
            if form.one_colour:
                areas = tuple(replace(one, fill=nearly) for one in order.art.areas)
                changed = replace(order, art=replace(order.art, areas=areas))
            with self.subTest(form.kind):
                found = "; ".join(report_on(order, form, form.write(changed), CACHE).faults)
                self.assertIn("is painted with", found)

    def test_gradients_are_compared_by_their_stops_and_where_they_lie(self) -> None:
        for kind in (
            "to right of plate with a gradient of sea, lamp at 40% and sea",
            "out to 3u with a gradient of sea, lamp at 60% and night",
        ):
            start = "left of plate" if kind.startswith("to") else "1u right and 0u up from O"
            plan = parse_text(
                "Tone: sea = #2f7f86\nTone: lamp = #e2a93b\nTone: night = #1f2c4a\n"
                f"Square plate of side 6u, its centre on O, turned by 0°.\nFill plate from {start} {kind}: graded.\n"
            )
            order = order_of(plan, CACHE, None)
            shading = order.art.areas[0].fill
            assert isinstance(shading, Shading)
            frame, last = shading.frame, shading.stops[-1]
            for key in ("svg", "web", "pdf", "print-cmyk", "print-grey"):
                form = FORMS[key]
                self.assertEqual(report_on(order, form, form.write(order), CACHE).faults, ())
                for wrong, other in (
                    ("lies elsewhere", replace(shading, frame=replace(frame, e=frame.e + 0.01))),
                    ("other tones", replace(shading, stops=(*shading.stops[:-1], (last[0], "#ffffff")))),
                    ("other tones", replace(shading, stops=((0.1, shading.stops[0][1]), *shading.stops[1:]))),
                ):
                    with self.subTest(key, wrong=wrong, kind=kind):
                        data = form.write(replace(order, art=with_piece(order.art, 0, fill=other)))
                        self.assertIn(wrong, "; ".join(report_on(order, form, data, CACHE).faults))

    def test_the_ground_is_compared_too(self) -> None:
        for key in ("svg", "web", "pdf", "print-cmyk", "print-grey"):
            form = FORMS[key]
            order = order_for(form, "dark")
            self.assertEqual(report_on(order, form, form.write(order), CACHE).faults, ())
            for what, other in (
                ("lacks", replace(order, on_ground=False)),
                ("another", replace(order, ground="#eeddcc")),
            ):
                with self.subTest(key, what=what):
                    self.assertNotEqual(report_on(order, form, form.write(other), CACHE).faults, ())

    def test_a_file_in_another_kind_of_colours(self) -> None:
        order = order_for(FORMS["print-cmyk"])
        found = report_on(order, FORMS["print-cmyk"], write_pdf(order.art, Inks.RGB), CACHE).faults
        self.assertIn("is painted with #2f7f86", found[0])

    def test_a_colour_that_is_wrong_in_a_picture(self) -> None:
        for key in ("png", "webp", "icon-192", "favicon"):
            form = FORMS[key]
            order = measured(replace(order_for(form), size=form.pixels or 48))
            self.assertEqual(report_on(order, form, form.write(order), CACHE).faults, ())
            other = form.write(replace(order, art=with_piece(order.art, 0, fill="#378790")))
            with self.subTest(key):
                self.assertIn("levels apart", "; ".join(report_on(order, form, other, CACHE).faults))

    def test_an_icon_whose_smallest_picture_is_another_one(self) -> None:
        form = FORMS["favicon"]
        order = measured(order_for(form))
        large, middle, small = read_back("ico", form.write(order)).pictures
        images = [Image.fromarray(one, "RGBA") for one in (large, middle, np.ascontiguousarray(small[:, ::-1]))]
        out = io.BytesIO()
        images[0].save(out, "ICO", sizes=[image.size for image in images], append_images=images[1:])
        found = report_on(order, form, out.getvalue(), CACHE).faults
        self.assertTrue(found and all(fault.startswith("at 16 pixels") for fault in found), found)


class Farthest(TestCase):
    def test_places_off_a_circle(self) -> None:
        shape = circle(ORIGIN, 5.0)
        for far in (0.0, 1e-6, 0.3, 40.0):
            angles = np.linspace(0, 6, 25)
            places = (5.0 + far) * np.stack([np.cos(angles), np.sin(angles)], axis=1)
            self.assertAlmostEqual(farthest_from(tabulate([shape]), places), far, delta=1e-9)

    def test_places_among_long_and_short_curves_as_a_reference_finds_them(self) -> None:
        """Outlines of a line a hundred times as long as others; shapely's distance to their fine polygons."""
        generator = np.random.default_rng(7)
        for _ in range(20):
            corners = [Point(0, 0), Point(40, 0), *(Point(40 - 0.4 * k, 0.3 + 0.2 * (k % 2)) for k in range(12))]
            lines = [Line(a, b) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
            egg = oval(Point(20, 9), 6.0, generator.uniform(0.4, 3), generator.uniform(0, 3))
            shape = Shape((Outline(tuple(lines)), *egg.outlines))
            places = generator.uniform((-2, -2), (42, 14), (30, 2))
            curves = [curve for outline in shape.outlines for curve in outline.curves]
            ways = shapely.MultiLineString([shapely.LineString(way) for way in places_along(curves, 4001)])
            reference = max(ways.distance(shapely.Point(place)) for place in places)
            self.assertAlmostEqual(farthest_from(tabulate([shape]), places), reference, delta=1e-4)

    def test_a_line_a_hundred_thousand_times_as_long_as_others(self) -> None:
        """A box of 40 km with a comb of short lines on top: places off its lower side, and off a tooth."""
        teeth = [Point(40_000 - 0.4 * k, 5 + 0.4 * (k % 2)) for k in range(9)]
        corners = [Point(0, 0), Point(40_000, 0), *teeth, Point(0, 5)]
        lines = [Line(a, b) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True)]
        shape = Shape((Outline(tuple(lines)),))
        self.assertAlmostEqual(
            farthest_from(tabulate([shape]), np.array([[123.4, -0.25], [9000, 0.0]])), 0.25, places=9
        )
        self.assertAlmostEqual(farthest_from(tabulate([shape]), np.array([[39_999.6, 5.9]])), 0.5, places=9)

    def test_where_near_is_enough_the_same_is_found_of_what_is_far(self) -> None:
        """Places a hair off random ovals, and one of them far off: what is told is neither less nor more."""
        generator = np.random.default_rng(11)
        for off in (1e-7, 1e-4, 2.5):
            table = tabulate([oval(Point(20, 9), 6.0, generator.uniform(0.4, 3), generator.uniform(0, 3))])
            index = generator.integers(0, len(table), 40)
            places = table.ask("point", index, generator.uniform(0, 1, 40), width=2)
            places[7] += off * (places[7] - (20, 9))  # off the oval by its lesser half axis times that at least
            exact = farthest_from(table, places)
            self.assertGreater(exact, 0.39 * off)
            self.assertAlmostEqual(farthest_from(table, places, 1e-3), exact, delta=1e-9)

    def test_no_outline_is_endlessly_far(self) -> None:
        self.assertEqual(farthest_from(tabulate([]), np.zeros((1, 2))), float("inf"))
        self.assertEqual(farthest_from(tabulate([]), np.zeros((0, 2))), 0.0)


class Cut(TestCase):
    """What ezdxf reads of outlines that no polyline can hold."""

    def test_chains_of_lines_arcs_ovals_and_cubics_have_their_areas(self) -> None:
        order = order_for(FORMS["dxf"])
        found = read_back("dxf", write_dxf(order.art))
        real = order.art.millimetres
        self.assertEqual(found.pieces, 3)
        for piece, drawn in zip(order.art.areas, found.drawn, strict=True):
            self.assertAlmostEqual(sum(drawn.areas) / (area(piece.shape) * real**2), 1.0, delta=1e-7)
            self.assertEqual(drawn.paint.colour, piece.fill)

    def test_an_arc_of_an_oval_in_a_chain_is_told_either_way(self) -> None:
        """An ellipse of a DXF runs counter-clockwise: a chain that turns the other way leads through it backwards."""
        half = difference(oval(ORIGIN, 4.0, 1.5, 0.3), circle(Point(0, 3), 2.6))
        for by in (Affine(1, 0, 0, 1, 0, 0), Affine(-1, 0, 0, 1, 0, 0)):
            shape = half.mapped(by)
            art = Artwork("Half", (Area("half", shape),), Box(-5, -5, 5, 5))
            found = read_back("dxf", write_dxf(art))
            self.assertEqual(found.foreign, ())
            self.assertAlmostEqual(sum(found.drawn[0].areas), abs(area(shape)), delta=1e-6)

    def test_an_outline_that_begins_with_a_hair_is_one_outline(self) -> None:
        """A line of a ten-thousandth of a millimetre leaves its end where it began, for a reader."""
        begin, hair = Point(40, 40), Point(40, 40 + 1e-5)
        sail = (Line(begin, hair), Cubic(hair, Point(40, 60), Point(20, 60), Point(20, 40)), Line(Point(20, 40), begin))
        found = read_back(
            "dxf", write_dxf(Artwork("Hair", (Area("sail", Shape((Outline(sail),))),), Box(0, 0, 60, 60)))
        )
        self.assertEqual((found.foreign, found.contours), ((), 1))
        # A cubic covers three fifths of the box of its control points (integral of y dx by Bernstein polynomials).
        self.assertAlmostEqual(sum(found.drawn[0].areas), 0.6 * 20 * 20, delta=1e-3)

    def test_an_outline_that_is_left_open_is_told(self) -> None:
        arc = Arc(ORIGIN, 3.0, 0.2, 4.0)
        art = Artwork("Open", (Area("gate", Shape((Outline((arc,), False),))),), Box(-5, -5, 5, 5))
        self.assertEqual(
            read_back("dxf", write_dxf(art)).foreign, ("an outline on the layer gate that does not close",)
        )


class Inked(TestCase):
    """Paints as the content of a PDF says them. Source: ISO 32000-1:2008, 8.6."""

    ART = Artwork("Disc", (Area("disc", circle(ORIGIN, 3), "#b3301e", "brick"),), Box(-3, -3, 3, 3), 4.0)

    def paint(self, inks: Inks | Spot | Spots, fill: str = "#b3301e") -> Paint:
        return read_back("pdf", write_pdf(with_piece(self.ART, 0, fill=fill), inks)).drawn[0].paint

    def test_process_inks(self) -> None:
        paint = self.paint(Inks.CMYK)
        self.assertEqual((paint.kind, paint.colour, paint.told), (PaintKind.PROCESS, "#b3301e", "C 0 M 73 Y 83 K 30"))
        self.assertEqual(self.paint(Inks.CMYK, "#808080").values[:3], (0, 0, 0))

    def test_grey(self) -> None:
        paint = self.paint(Inks.GREY, "#333333")
        self.assertEqual((paint.kind, paint.told), (PaintKind.GREY, "K 80"))

    def test_an_ink_prints_its_own_colour_in_full(self) -> None:
        """Whatever the colour of an ink, white for dark cloth too: nothing of it may be a tint."""
        for colour in ("#b3301e", "#000000", "#ffffff", "#f3e7d0"):
            paint = self.paint(Spot("brick", colour), colour)
            self.assertEqual(
                (paint.kind, paint.name, paint.values, paint.colour), (PaintKind.INK, "brick", (1.0,), colour)
            )

    def test_a_lighter_colour_is_a_tint_of_the_ink(self) -> None:
        """Half as far from white in luma (Rec. ITU-R BT.709) is half the strength: #808080 of black."""
        self.assertAlmostEqual(self.paint(Spot("night", "#000000"), "#808080").values[0], 1 - 128 / 255, places=5)

    def test_named_inks_one_a_tone(self) -> None:
        paint = self.paint(Spots((("#b3301e", "brick"), ("#ffffff", "chalk"))))
        self.assertEqual((paint.told, paint.values), ("brick", (1.0,)))

    def test_what_fills_nothing_counts_for_nothing(self) -> None:
        """Content that names a paint and ends its path without filling it (8.5.3.1, n) paints nothing."""
        with pikepdf.open(io.BytesIO(write_pdf(self.ART))) as pdf:
            pdf.pages[0].contents_add(b"1 0 0 rg 0 0 m 4 0 l 4 4 l h n")
            out = io.BytesIO()
            pdf.save(out)
        self.assertEqual([drawn.paint.colour for drawn in read_back("pdf", out.getvalue()).drawn], ["#b3301e"])
