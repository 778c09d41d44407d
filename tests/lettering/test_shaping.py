"""Advances, kerning and features, against what the files' own tables say by another library (fontTools)."""

from __future__ import annotations

import itertools
import pathlib
from unittest import TestCase

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Cut
from kagami.lettering.shaping import Dress, shaped
from kagami.lettering.shelf import FOLDER, SHIPPED, face_named

PLAIN = Dress()
UNKERNED = Dress(kerned=False)
WORDS = ("VENNIK HARBOUR", "Light & Tide", "AVATAR To Wave, Yolk.")


def font_of(path: str, **axes: float) -> TTFont:
    font = TTFont(pathlib.Path(FOLDER) / path)
    return instantiateVariableFont(font, axes) if axes else font


def letters(text: str, cut: Cut, dress: Dress = PLAIN) -> list[str]:
    return [letter.text for letter in shaped(text, cut, dress)]


def pair_kerning(font: TTFont, left: str, right: str) -> int:
    """The kerning of a pair of glyphs by the table GPOS: lookups of the feature kern in their order, of each the first
    subtable that covers the pair (OpenType 1.9.1, GPOS, lookup type 2).
    """
    table = font["GPOS"].table
    kern = {
        i
        for record in table.FeatureList.FeatureRecord
        if record.FeatureTag == "kern"
        for i in record.Feature.LookupListIndex
    }
    total = 0
    for number in sorted(kern):
        lookup = table.LookupList.Lookup[number]
        for subtable in lookup.SubTable:
            inner = subtable.ExtSubTable if subtable.LookupType == 9 else subtable
            if inner.LookupType != 2 or left not in inner.Coverage.glyphs:
                continue
            value = _of_subtable(inner, left, right)
            if value is not None:
                total += value
                break
    return total


def _of_subtable(inner: object, left: str, right: str) -> int | None:
    if inner.Format == 1:
        pairs = inner.PairSet[inner.Coverage.glyphs.index(left)].PairValueRecord
        found = next((pair for pair in pairs if pair.SecondGlyph == right), None)
        return None if found is None else (found.Value1.XAdvance if found.Value1 else 0)
    first = inner.ClassDef1.classDefs.get(left, 0)
    second = inner.ClassDef2.classDefs.get(right, 0)
    record = inner.Class1Record[first].Class2Record[second]
    return record.Value1.XAdvance if record.Value1 and hasattr(record.Value1, "XAdvance") else 0


class Advances(TestCase):
    FACES = (
        ("Jost", "jost/latin-wght.ttf", 650.0),
        ("Bitter", "bitter/latin-wght.ttf", 700.0),
        ("EB Garamond", "eb-garamond/500.ttf", 500.0),
    )

    def test_advances_are_those_of_the_file(self) -> None:
        for name, path, weight in self.FACES:
            cut = face_named(name).cut(weight)
            font = font_of(path, **({"wght": weight} if face_named(name).varies else {}))
            cmap, widths, em = font.getBestCmap(), font["hmtx"], font["head"].unitsPerEm
            checked = 0
            for text in WORDS:
                for letter in shaped(text, cut, Dress(kerned=False, joined=False)):
                    wanted = widths[cmap[ord(letter.text)]][0]
                    with self.subTest(f"{name} {letter.text}"):  # the other library rounds varied widths to whole units
                        self.assertAlmostEqual(
                            letter.advance * em, wanted, delta=0.51 if face_named(name).varies else 1e-9
                        )
                    checked += 1
            self.assertGreater(checked, 40)

    def test_kerning_is_that_of_the_file(self) -> None:
        for name, path, weight in self.FACES:
            cut = face_named(name).cut(weight)
            font = font_of(path, **({"wght": weight} if face_named(name).varies else {}))
            cmap, em = font.getBestCmap(), font["head"].unitsPerEm
            kerned = 0
            for one, other in itertools.product("AVTLYPo", "AVToyWe,"):
                with_kerning, without = (shaped(one + other, cut, dress) for dress in (PLAIN, UNKERNED))
                found = (with_kerning[0].advance - without[0].advance) * em
                wanted = pair_kerning(font, cmap[ord(one)], cmap[ord(other)])
                with self.subTest(f"{name} {one}{other}"):
                    self.assertAlmostEqual(found, wanted, delta=0.51 if face_named(name).varies else 1e-9)
                kerned += bool(wanted)
            self.assertGreater(kerned, 5)


class Letters(TestCase):
    def test_a_ligature_is_one_letter_and_is_off_where_letters_are_tracked(self) -> None:
        cut = face_named("EB Garamond").cut(400)
        self.assertEqual(letters("office", cut), ["o", "ffi", "c", "e"])
        self.assertEqual(letters("office", cut, Dress(joined=False)), list("office"))

    def test_a_mark_goes_with_its_letter(self) -> None:
        cut = face_named("Jost").cut(400)
        self.assertEqual(letters("e\u0301", cut), ["é"])
        hebrew = shaped("\u05e9\u05c1", face_named("Noto Sans Hebrew").cut(400), PLAIN)  # shin with its dot
        self.assertEqual(len(hebrew), 1)

    def test_small_capitals_and_figures_are_other_glyphs(self) -> None:
        cut = face_named("EB Garamond").cut(400)
        usual, small = (shaped("Tide 12", cut, dress) for dress in (PLAIN, Dress("small capitals", "old style")))
        names = [cut.fonts[0].glyph_to_string(letter.glyphs[0].number) for letter in small]
        self.assertEqual(usual[0].glyphs[0].number, small[0].glyphs[0].number)
        self.assertTrue(
            all(a.glyphs[0].number != b.glyphs[0].number for a, b in zip(usual[1:4], small[1:4], strict=True))
        )
        self.assertTrue(names[1].endswith((".sc", ".smcp")), names)

    def test_parts_of_a_face_join_in_one_line(self) -> None:
        cut = face_named("Jost").cut(500)
        found = shaped("Łódź", cut, PLAIN)
        self.assertEqual([letter.text for letter in found], list("Łódź"))
        self.assertEqual({glyph.part for letter in found for glyph in letter.glyphs}, {0, 1})
        for before, after in itertools.pairwise(found):
            self.assertAlmostEqual(before.start + before.advance, after.start, delta=1e-12)

    def test_what_a_face_lacks_is_told_with_those_that_have_it(self) -> None:
        with self.assertRaises(LetteringError) as caught:
            shaped("tide ש", face_named("Jost").cut(400), PLAIN)
        self.assertEqual((caught.exception.code, caught.exception.values["letters"]), ("face-lacks", "ש"))
        self.assertEqual(caught.exception.values["others"], "Noto Sans Hebrew")
        with self.assertRaises(LetteringError) as caught:
            shaped("潮", face_named("Jost").cut(400), PLAIN)
        self.assertEqual(caught.exception.code, "faces-lack")


class Faces(TestCase):
    def test_every_shipped_face_sets_the_usual_letters_and_has_its_licence(self) -> None:
        self.assertGreaterEqual(len(SHIPPED), 8)
        for name, (_sort, folder, _parts) in SHIPPED.items():
            face = face_named(name)
            with self.subTest(name):
                self.assertEqual(len(shaped("Hamburgefonstiv 0123456789 & ÄÖÜ", face.cut(500), PLAIN)), 32)
                self.assertIn("SIL Open Font License", (FOLDER / folder / "LICENSE").read_text())

    def test_weights_are_met_where_they_vary_and_nearest_where_not(self) -> None:
        self.assertEqual(face_named("Jost").cut(637.5).weight, 637.5)
        self.assertEqual(face_named("Jost").cut(990).weight, 900)
        self.assertEqual(face_named("EB Garamond").cut(560).weight, 600)
        self.assertEqual(face_named("EB Garamond").weights, (400, 500, 600, 700, 800))
