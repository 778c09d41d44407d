"""Measures of faces as they are seen, against their tables and against closed forms."""

from __future__ import annotations

from unittest import TestCase

from fontTools.ttLib import TTFont

from kagami.geometry.measure.size import box
from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Face, FontFile
from kagami.lettering.metrics import cap_height, overshoot, stem, x_height
from kagami.lettering.outlines import EM, glyph_outline
from kagami.lettering.shelf import FOLDER, SHIPPED, face_named


class Metrics(TestCase):
    def test_heights_are_about_those_of_the_tables(self) -> None:
        for name, (_sort, folder, parts) in SHIPPED.items():
            font = TTFont(FOLDER / folder / f"{parts[0][0]}.ttf")
            em, told = font["head"].unitsPerEm, font["OS/2"]
            cut = face_named(name).cut(400)
            with self.subTest(name):
                self.assertAlmostEqual(cap_height(cut), told.sCapHeight / em, delta=0.02)
                self.assertGreaterEqual(overshoot(cut), 0)
                if name != "Cinzel":  # its small letters are capitals, which its table does not tell
                    self.assertAlmostEqual(x_height(cut), told.sxHeight / em, delta=0.03)

    def test_the_stem_of_a_plain_letter_is_its_width(self) -> None:
        for name in ("Jost", "Hanken Grotesk", "Barlow Condensed"):
            cut = face_named(name).cut(500)
            shape = glyph_outline(cut, 0, cut.fonts[0].get_nominal_glyph(ord("I")))
            with self.subTest(name):  # a sans serif's I is a rectangle
                self.assertAlmostEqual(stem(cut), box(shape).width / EM, delta=1e-9)

    def test_stems_grow_with_weight(self) -> None:
        for name in SHIPPED:
            face = face_named(name)
            least, most = face.weights[0], face.weights[-1]
            stems = [stem(face.cut(weight)) for weight in (least, (least + most) / 2, most)]
            with self.subTest(name):
                self.assertEqual(stems, sorted(stems))
                self.assertGreater(stems[-1], 1.2 * stems[0])

    def test_a_face_without_stems_says_so(self) -> None:
        part = FontFile((FOLDER / "noto-sans-hebrew" / "hebrew-wdth.ttf").read_bytes)
        with self.assertRaises(LetteringError) as caught:
            stem(Face("Hebrew alone", "", ((part,),)).cut(400))
        self.assertEqual(caught.exception.code, "no-stem")
