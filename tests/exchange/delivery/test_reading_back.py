"""Files as other libraries read them, against closed forms."""

from __future__ import annotations

import math
from dataclasses import replace
from unittest import TestCase

import numpy as np

from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.delivery.reading_back import Unreadable, pdf_picture, read_back
from kagami.exchange.dxf import write_dxf
from kagami.exchange.pdf import Inks, write_pdf
from kagami.exchange.png import picture_of, write_png
from kagami.exchange.svg import write_svg
from kagami.geometry.boolean import difference
from kagami.geometry.figures import box, circle, oval
from kagami.geometry.measure.size import Box
from kagami.geometry.point import ORIGIN, Point

RING = difference(circle(ORIGIN, 5.0), circle(ORIGIN, 3.0))
ART = Artwork("Ring", (Area("ring", RING, "#1f2c4a"),), Box(-5, -5, 5, 5), 2.0)
"""A ring of radii 5u and 3u on a module of 2 mm: 16 π · 4 mm²."""
AREA = 16 * math.pi * 4


class Areas(TestCase):
    def test_a_ring_in_every_form(self) -> None:
        for reads, data, within in (
            ("svg", write_svg(ART).encode(), 1e-6),
            ("svg", write_svg(ART, arcs=False).encode(), 1e-6),
            ("pdf", write_pdf(ART), 1e-6),
            ("dxf", write_dxf(ART), 1e-9),
        ):
            with self.subTest(reads):
                found = read_back(reads, data)
                self.assertAlmostEqual(sum(found.areas.values()) / AREA, 1.0, delta=within)
                self.assertEqual(found.contours, 2)
                self.assertEqual(found.foreign, ())

    def test_arcs_stay_arcs_where_the_format_has_them(self) -> None:
        self.assertEqual(read_back("svg", write_svg(ART).encode()).arcs, 4)
        self.assertEqual(read_back("svg", write_svg(ART, arcs=False).encode()).arcs, 0)
        self.assertEqual(read_back("dxf", write_dxf(ART)).arcs, 4)

    def test_an_ellipse(self) -> None:
        art = replace(ART, areas=(Area("egg", oval(ORIGIN, 5.0, 2.0, 0.3)),))
        for reads, data in (("svg", write_svg(art).encode()), ("pdf", write_pdf(art))):
            found = read_back(reads, data)
            self.assertAlmostEqual(sum(found.areas.values()), 10 * math.pi * 4, delta=1e-3)

    def test_boxes_and_real_sizes(self) -> None:
        art = replace(ART, areas=(Area("block", box(Point(1, 2), 4, 2)),))
        for reads, data in (("svg", write_svg(art).encode()), ("pdf", write_pdf(art))):
            with self.subTest(reads):
                found = read_back(reads, data)
                np.testing.assert_allclose(found.size, (20, 20), atol=1e-5)
                np.testing.assert_allclose(found.box, (8, 12, 16, 16), atol=1e-5)

    def test_the_box_of_a_curve_that_turns_back_between_its_ends(self) -> None:
        found = read_back("pdf", write_pdf(replace(ART, areas=(Area("egg", oval(ORIGIN, 5.0, 2.0, 0.7)),))))
        right, top = (
            math.hypot(5 * a, 2 * b) for a, b in ((math.cos(0.7), math.sin(0.7)), (math.sin(0.7), math.cos(0.7)))
        )
        np.testing.assert_allclose(found.box, (10 - 2 * right, 10 - 2 * top, 10 + 2 * right, 10 + 2 * top), atol=2e-3)


class Faults(TestCase):
    def test_what_is_no_such_file_is_unreadable(self) -> None:
        for reads in ("svg", "pdf", "png", "webp", "ico", "dxf"):
            for data in (b"", b"nothing", b"<svg", b"%PDF-1.4 broken", b"\x89PNG\r\n\x1a\n"):
                with self.subTest(reads, data=data), self.assertRaises(Unreadable):
                    read_back(reads, data)

    def test_what_is_no_filled_outline_is_told(self) -> None:
        plain = write_svg(ART)
        for foreign, text in (
            ("stroke", plain.replace("<path id", '<path stroke="#000" id', 1)),
            ("mask", plain.replace("<path id", '<path mask="url(#m)" id', 1)),
            ("image", plain.replace("</svg>", "<image/></svg>")),
            ("text", plain.replace("</svg>", "<text>x</text></svg>")),
            ("hidden", plain.replace("<path id", '<path visibility="hidden" id', 1)),
        ):
            with self.subTest(foreign):
                self.assertIn(foreign, read_back("svg", text.encode()).foreign)

    def test_entities_are_not_resolved(self) -> None:
        bomb = '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' + write_svg(ART)
        found = read_back("svg", bomb.replace("<title>Ring", "<title>&b;").encode())
        self.assertEqual(found.contours, 2)

    def test_needless_nodes_are_counted(self) -> None:
        plain = write_svg(replace(ART, areas=(Area("block", box(ORIGIN, 4, 2)),)))
        self.assertEqual(read_back("svg", plain.encode()).needless, 0)
        path = plain.partition(' d="')[2].partition('"')[0]
        more = plain.replace(path, "M6 8H10H14V12H6Z")
        self.assertEqual(read_back("svg", more.encode()).needless, 1)
        arcs = plain.replace(path, "M15 10A5 5 0 0 1 10 15A5 5 0 0 1 5 10A5 5 0 0 1 15 10Z")
        self.assertGreaterEqual(read_back("svg", arcs.encode()).needless, 1)


class Pictures(TestCase):
    def test_two_rasterisers_agree(self) -> None:
        first = picture_of(write_svg(ART, ground="#f3e7d0"), 200, 200)[..., :3]
        second = pdf_picture(write_pdf(ART, Inks.RGB, "#f3e7d0"), 200, 200)
        self.assertLess(float(np.abs(first - second).max()), 24)

    def test_a_picture_covers_as_much_as_the_mark(self) -> None:
        """The sum of a picture's alpha is the mark's area: a pixel of a 16-pixel one is 10/16 u square."""
        for size in (16, 32, 64, 256):
            alpha = read_back("png", write_png(ART, size)).pictures[0][..., 3] / 255
            self.assertAlmostEqual(float(alpha.sum()) * (10 / size) ** 2, 16 * math.pi, delta=0.16)
