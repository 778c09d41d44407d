"""Words to look at, as another library (svgelements) reads their path data, against their outlines."""

from __future__ import annotations

from unittest import TestCase

from svgelements import Path

from kagami.geometry.measure.size import box
from kagami.lettering.outlines import EM as OUTLINE_EM
from kagami.lettering.outlines import glyph_outline
from kagami.lettering.preview import EM, glyph_path, preview
from kagami.lettering.shaping import Dress, shaped
from kagami.lettering.shelf import face_named


class Previews(TestCase):
    def test_glyphs_reach_as_far_as_their_outlines(self) -> None:
        for name, weight in (("Jost", 633.0), ("EB Garamond", 500.0), ("Bodoni Moda", 700.0)):
            cut = face_named(name).cut(weight)
            for letter in shaped("HgOR&", cut, Dress()):
                (glyph,) = letter.glyphs
                seen = Path(glyph_path(cut, glyph.part, glyph.number)).bbox()
                outline = box(glyph_outline(cut, glyph.part, glyph.number))
                wanted = [side * EM / OUTLINE_EM for side in (outline.left, outline.bottom, outline.right, outline.top)]
                with self.subTest(f"{name} {letter.text}"):
                    for one, other in zip(seen, wanted, strict=True):
                        self.assertAlmostEqual(one, other, delta=0.1)

    def test_a_line_is_as_wide_as_what_is_seen_of_it(self) -> None:
        cut = face_named("Jost").cut(500)
        found = preview("HI", cut, Dress())
        assert found is not None
        self.assertEqual(len(found.glyphs), 2)
        # From the left side of H (0.0775 of the em) to the right side of I, whose stem is 0.12 wide.
        letters = shaped("HI", cut, Dress())
        self.assertAlmostEqual(found.box.left, 77.5, delta=1)
        self.assertAlmostEqual(found.box.right, (letters[1].start + 0.0775 + 0.12) * EM, delta=1)
        self.assertAlmostEqual(found.box.height, 700, delta=1)

    def test_nothing_is_seen_of_blanks(self) -> None:
        self.assertIsNone(preview("  ", face_named("Jost").cut(500), Dress()))
