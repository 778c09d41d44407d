"""What files say of themselves: chunks of PNG, boxes of PDF, manifests of icons."""

from __future__ import annotations

import io
import json
import struct
from unittest import TestCase

import pikepdf

from kagami.exchange.artwork import Area, Artwork, Unwritable
from kagami.exchange.icons import write_manifest
from kagami.exchange.pdf import Inks, Spot, Spots, write_pdf
from kagami.exchange.png import write_png
from kagami.exchange.svg import write_svg
from kagami.geometry.figures import box
from kagami.geometry.measure.size import Box
from kagami.geometry.point import ORIGIN

ART = Artwork(
    "Block", (Area("block", box(ORIGIN, 8, 8), "#1f2c4a"),), Box(-5, -5, 5, 5), 4.0, "mm", 1.0, "A note.", "Vennik"
)


def chunks(png: bytes) -> dict[bytes, bytes]:
    """Source: Portable Network Graphics (PNG) Specification (Third Edition), W3C 2025, chapter 5."""
    found, at = {}, 8
    while at < len(png):
        (length,) = struct.unpack(">I", png[at : at + 4])
        found.setdefault(png[at + 4 : at + 8], png[at + 8 : at + 8 + length])
        at += 12 + length
    return found


class Pictures(TestCase):
    def test_they_tell_their_colours_and_their_density(self) -> None:
        """10u of 4 mm on 400 pixels are 10 pixels a millimetre: 10000 a metre (unit 1)."""
        for size in (16, 400, 1024):
            found = chunks(write_png(ART, size))
            self.assertEqual(found[b"sRGB"], b"\0")
            self.assertEqual(
                struct.unpack(">IIB", found[b"pHYs"]), (round(size / 40 * 1000), round(size / 40 * 1000), 1)
            )


class Pages(TestCase):
    def test_boxes_are_the_page_and_the_ink(self) -> None:
        """ISO 32000-1, 14.11.2."""
        with pikepdf.open(io.BytesIO(write_pdf(ART))) as pdf:
            page = pdf.pages[0].obj
            side = 40 * 72 / 25.4
            for name, ends in (("/MediaBox", (0, side)), ("/TrimBox", (0, side)), ("/ArtBox", (side / 10, side * 0.9))):
                values = [float(value) for value in page[name]]
                for value, end in zip(values, (ends[0], ends[0], ends[1], ends[1]), strict=True):
                    self.assertAlmostEqual(value, end, places=5)

    def test_several_named_inks_each_at_full_strength(self) -> None:
        """ISO 32000-1, 8.6.6.4: a Separation each, told by its name."""
        areas = (Area("a", box(ORIGIN, 8, 8), "#1f2c4a", "night"), Area("b", box(ORIGIN, 2, 2), "#e2a93b", "lamp / 2"))
        inks = Spots((("#1f2c4a", "night"), ("#e2a93b", "lamp / 2")))
        with pikepdf.open(io.BytesIO(write_pdf(Artwork("x", areas, ART.box, 4.0), inks))) as pdf:
            page = pdf.pages[0]
            spaces = page.obj["/Resources"]["/ColorSpace"]
            named = {str(key): str(space[1]) for key, space in spaces.items()}
            self.assertEqual(named, {"/S1": "/night", "/S2": "/lamp / 2"})
            used = [
                [str(one) for one in row.operands]
                for row in pikepdf.parse_content_stream(page)
                if str(row.operator) in ("cs", "scn")
            ]
            self.assertEqual(used, [["/S1"], ["1"], ["/S2"], ["1"]])
            painted = {str(row.operator) for row in pikepdf.parse_content_stream(page)}
            self.assertFalse(painted & {"rg", "g", "k", "sc"})

    def test_no_page_holds_transparency(self) -> None:
        """ISO 32000-1, 11: no graphics state, no soft mask, no group."""
        for inks in (Inks.RGB, Inks.CMYK, Inks.GREY, Spot("ink", "#1f2c4a")):
            with pikepdf.open(io.BytesIO(write_pdf(ART, inks))) as pdf:
                page = pdf.pages[0].obj
                self.assertNotIn("/Group", page)
                self.assertNotIn("/ExtGState", page["/Resources"])

    def test_pages_that_are_too_large_or_too_small_are_refused(self) -> None:
        for scale in (0.01, 5000.0):
            with self.assertRaises(Unwritable) as caught:
                write_pdf(Artwork("x", ART.areas, ART.box, scale))
            self.assertIn("set a height", str(caught.exception))


class Documents(TestCase):
    def test_an_svg_tells_its_title_its_note_and_whose_it_is(self) -> None:
        text = write_svg(ART)
        for part in ("<title>Block</title>", "<desc>A note.</desc>", "<dc:creator>Vennik</dc:creator>"):
            self.assertIn(part, text)

    def test_a_manifest_names_its_icons(self) -> None:
        """Web Application Manifest, W3C: members name, icons, src, sizes, type, purpose."""
        data = json.loads(write_manifest("Block", "#ffffff", [("icon-192.png", 192, "any")]))
        self.assertEqual(
            data["icons"], [{"src": "icon-192.png", "sizes": "192x192", "type": "image/png", "purpose": "any"}]
        )
