"""The core from the command line."""

from __future__ import annotations

import contextlib
import io
import json
import pathlib
import tempfile
from unittest import TestCase

from kagami.command_line import FORM_OF, main
from kagami.plan.document import to_json
from tests.exchange.fonts.made import small
from tests.exchange.svg_reader import area_of, paths_of
from tests.plan.marks import Builder, beams

CRYSTAL = pathlib.Path(__file__).parents[2] / "examples" / "demo" / "saltpan-cooperative.json"


class Commands(TestCase):
    def setUp(self) -> None:
        self.folder = pathlib.Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.plan = self.folder / "mark.json"
        self.plan.write_text(to_json(beams().plan))

    def run_command(self, *words: str | pathlib.Path) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(word) for word in words])
        return status, out.getvalue(), err.getvalue()

    def test_draw_writes_svg_png_and_readings(self) -> None:
        svg, png, readings = (self.folder / name for name in ("out.svg", "out.png", "readings.json"))
        self.assertEqual(self.run_command("draw", self.plan, "-o", svg, "--readings", readings)[0], 0)
        self.assertEqual(len(paths_of(svg.read_text())), 1)
        self.assertEqual(json.loads(readings.read_text())["symmetry"]["order"], 12)
        self.assertEqual(self.run_command("draw", self.plan, "-o", png, "--size", "99")[0], 0)
        self.assertEqual(png.read_bytes()[:4], b"\x89PNG")

    def test_check_prints_each_sentence_with_its_state(self) -> None:
        status, out, _ = self.run_command("check", self.plan)
        self.assertEqual(status, 0)
        self.assertIn("Turn beam round O, 12 copies: beams.", out)
        self.assertEqual(len(out.splitlines()), 6)

    def test_faults_are_named_and_the_status_tells(self) -> None:
        mark = beams()
        mark.do("set-field", step="lens", field="radius", value="reach")
        self.plan.write_text(to_json(mark.plan))
        status, out, err = self.run_command("check", self.plan)
        self.assertEqual(status, 1)
        self.assertIn("lens: radius: There is no measure “reach”", err)
        self.assertIn("failed", out)

    def test_words_in_a_face_of_ones_own(self) -> None:
        plan, out, font = (self.folder / name for name in ("mark.plan", "out.svg", "square.ttf"))
        plan.write_text("Mark: Tide\nSet “TIDE” in Vennik Square, caps 7u high, tracked 0u, its left at O: name.\n")
        status, _, err = self.run_command("draw", plan, "-o", out)
        self.assertEqual(status, 1)
        self.assertIn("There is no face “Vennik Square” at hand", err)
        font.write_bytes(small())
        self.assertEqual(self.run_command("draw", plan, "-o", out, "--face", font)[0], 0)
        # Four rectangles of 2u by 7u, as the font has them.
        self.assertAlmostEqual(abs(area_of(paths_of(out.read_text())[0].attrib["d"])) / 4**2, 4 * 14, delta=1e-3)
        font.write_bytes(b"no font")
        status, _, err = self.run_command("check", plan, "--face", font)
        self.assertEqual((status, err.startswith("kagami: This is no font")), (1, True))

    def test_a_drawing_is_told_as_a_plan(self) -> None:
        drawing = pathlib.Path(__file__).parents[2] / "examples" / "bell-buoy.svg"
        plan, out = self.folder / "buoy.plan", self.folder / "buoy.svg"
        status, _, err = self.run_command("tell", drawing, "-o", plan, "--width", "30")
        self.assertEqual(status, 0)
        self.assertIn("words (1)", err)
        self.assertTrue(plan.read_text().startswith("Mark: bell-buoy\n"))
        self.assertEqual(self.run_command("draw", plan, "-o", out)[0], 0)
        self.assertEqual({path.attrib["id"] for path in paths_of(out.read_text())} & {"hull", "lamp"}, {"hull", "lamp"})
        for wrong, reason in ((plan, "This is no SVG"), (self.folder / "none.svg", "No such file")):
            status, _, err = self.run_command("tell", wrong, "-o", self.folder / "x.plan")
            self.assertEqual(status, 1)
            self.assertIn(reason, err)
        self.assertFalse((self.folder / "x.plan").exists())

    def test_files_that_cannot_be_used_are_said_plainly(self) -> None:
        empty = self.folder / "empty.json"
        empty.write_text(to_json(Builder("Blank").plan))
        broken = self.folder / "broken.json"
        broken.write_text("{")
        for words, text in (
            (("draw", self.plan, "-o", self.folder / "out.gif"), "must end in .svg, .png, .pdf"),
            (("draw", self.folder / "none.json", "-o", self.folder / "o.svg"), "No such file"),
            (("draw", empty, "-o", self.folder / "o.svg"), "has no ink yet"),
            (("check", broken), "not readable as JSON"),
            (("draw", self.plan, "-o", self.folder / "o.png", "--size", "0"), "from 1 to 4096"),
        ):
            status, _, err = self.run_command(*words)
            with self.subTest(text):
                self.assertEqual(status, 1)
                self.assertIn(text, err)

    def test_every_form_in_a_colourway(self) -> None:
        begins = {".svg": b"<svg", ".pdf": b"%PDF", ".png": b"\x89PNG", ".webp": b"RIFF", ".ico": b"\0\0\1\0"}
        self.assertEqual({*begins, ".dxf"}, set(FORM_OF))
        for ending, begin in {**begins, ".dxf": b"  0"}.items():
            out = self.folder / f"crystal{ending}"
            words = ("draw", CRYSTAL, "-o", out, "--colourway", "Brine", "--ground", "--size", "64")
            self.assertEqual(self.run_command(*words)[0], 0)
            self.assertTrue(out.read_bytes().startswith(begin))
        self.assertIn(b'fill="#1d3b4a"', (self.folder / "crystal.svg").read_bytes())
        status, _, err = self.run_command("draw", CRYSTAL, "-o", self.folder / "x.svg", "--colourway", "Gone")
        self.assertEqual(status, 1)
        self.assertIn("There are: Brine, Clay, Dawn and Stamped.", err)
