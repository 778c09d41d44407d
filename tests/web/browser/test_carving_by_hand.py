"""Regions and pieces by hand: gathered by a sweep, cut by fewer figures, united, split, and checked."""

from __future__ import annotations

from playwright.sync_api import expect

from tests.web.browser.test_by_hand import HandCase


class Carving(HandCase):
    def test_a_sweep_gathers_regions_and_with_alt_takes_them_away(self) -> None:
        mark = self.bench(
            "Circle low on O with radius 3u.\nCircle high on 3u right and 0u up from O with radius 3u.\n"
            "Of low and high keep nothing, the rest dropped: piece cut.\n",
            "?step=cut&view=regions",
        )
        page = self.page
        self.sweep((-2, 0), (5, 0))
        self.settled(2)
        expect(page.locator(".region.kept")).to_have_count(3)
        page.keyboard.down("Alt")
        self.sweep((1, 0), (5, 0))
        page.keyboard.up("Alt")
        self.settled(3)
        expect(page.locator(".region.kept")).to_have_count(1)
        self.click_sheet(1.5, 0)
        self.settled(4)
        expect(page.locator(".region.kept")).to_have_count(2)
        self.assertEqual(len(self.stored(mark).step("cut").picks), 2)

    def test_escape_leaves_a_sweep_off(self) -> None:
        mark = self.bench(
            "Circle low on O with radius 3u.\nOf low keep nothing, the rest dropped: piece cut.\n",
            "?step=cut&view=regions",
        )
        mouse = self.page.mouse
        mouse.move(*self.at(-1, 0))
        mouse.down()
        mouse.move(*self.at(1, 0), steps=4)
        expect(self.page.locator(".region.gathered")).to_have_count(1)
        self.page.keyboard.press("Escape")
        expect(self.page.locator(".region.gathered")).to_have_count(0)
        mouse.up()
        expect(self.page.locator(".region.kept")).to_have_count(0)
        self.assertEqual(self.stored(mark).step("cut").picks, ())


class Crumbs(HandCase):
    def test_crumbs_light_up_on_the_sheet_and_a_click_mends_them(self) -> None:
        mark = self.bench(
            "Square one of side 4u, its right on O, turned by 0°.\n"
            "Square two of side 4u, its left on 0.01u right and 0u up from O, turned by 0°.\n"
            "Box whole, 12u wide and 4u high, its centre on O, turned by 0°.\n"
            "Of one, two and whole keep in one + whole, 1 of 1, here; in two + whole, 1 of 1, here, "
            "the rest dropped: piece kept.\n",
            "?step=kept",
        )
        crumb = self.page.locator(".crumb")
        expect(crumb).to_have_count(1)
        crumb.first.hover()
        expect(self.page.locator("#pill")).to_contain_text("too small to be meant")
        crumb.first.click()
        self.settled(2)
        expect(crumb).to_have_count(0)
        self.assertEqual(len(self.stored(mark).step("kept").picks), 3)


class Coarse(HandCase):
    def test_a_figure_clicked_in_the_sentence_is_left_out_of_the_cutting(self) -> None:
        mark = self.bench(
            "Circle lens on O with radius 2u.\nCircle rim on O with radius 5u.\n"
            "Bar beam from O at 90°, 1u wide and 8u long.\nTurn beam round O, 7 copies: beams.\n"
            "Of lens, rim and beams keep nothing, the rest dropped: piece light.\n",
            "?step=light&view=regions",
        )
        page = self.page
        shards = page.locator(".region").count()
        page.locator("#s-light .slot.figures .named[data-lights=beams] .glyph").click()
        expect(page.locator(".region")).to_have_count(2)
        self.assertGreater(shards, 20)
        expect(page.locator("#s-light .named.uncut")).to_have_text("beams")
        expect(page.get_by_role("button", name="beams", exact=True)).to_have_attribute("aria-pressed", "false")
        page.mouse.click(*self.at(0.3, 0.4))
        self.settled(2)
        (pick,) = self.stored(mark).step("light").picks
        self.assertEqual((pick.cover, pick.among), (("lens", "rim"), ("lens", "rim")))
        page.get_by_role("button", name="beams", exact=True).click()
        expect(page.locator(".region")).to_have_count(shards)
        page.mouse.click(*self.at(0.1, 1.4))
        self.settled(3)
        self.assertEqual(len(self.stored(mark).step("light").picks), 2)
        page.locator("#s-rim .number").click()
        page.locator("#s-light .number").click()
        expect(page.locator("#main")).to_have_attribute("data-without", "")


class Uniting(HandCase):
    PLAN = (
        "Circle a on O with radius 3u.\nCircle b on 4u right and 0u up from O with radius 3u.\n"
        "Circle c on -6u right and 2u up from O with radius 2u.\nLine upright through O at 90°.\n"
    )

    def test_a_sweep_from_piece_to_piece_unites_them_in_one_step(self) -> None:
        mark = self.bench(self.PLAN)
        mouse = self.page.mouse
        mouse.move(*self.at(-6, 2))
        mouse.down()
        mouse.move(*self.at(-2, 0.3), steps=3)
        mouse.move(*self.at(5, 0.4), steps=3)
        expect(self.page.locator("#pill")).to_have_text("Unite c, a and b: piece piece.")
        self.assertEqual(len(self.stored(mark).steps), 4)
        mouse.up()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite c, a and b: piece piece.")
        self.page.keyboard.press("Control+z")
        self.settled(1)
        self.assertEqual(len(self.stored(mark).steps), 4)

    def test_a_sweep_from_line_to_line_unites_figures_and_escape_leaves_it_off(self) -> None:
        mark = self.bench(self.PLAN, "?view=lines")
        mouse = self.page.mouse
        mouse.move(*self.at(-3, 0))
        mouse.down()
        mouse.move(*self.at(2, 0.2), steps=6)
        expect(self.page.locator("#pill")).to_have_text("Unite a and b: piece piece.")
        self.page.keyboard.press("Escape")
        mouse.up()
        expect(self.page.locator(".sweep")).to_have_count(0)
        expect(self.page.locator(".line.tried")).to_have_count(0)
        self.assertEqual(len(self.stored(mark).steps), 4)
        self.sweep((-3, 0), (2, 0.2))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Unite a and b: piece piece.")

    def test_a_click_with_the_split_verb_divides_where_a_line_crosses(self) -> None:
        mark = self.bench(self.PLAN)
        page = self.page
        self.verb("split")
        page.mouse.move(*self.at(0.3, 1))
        expect(page.locator("#pill")).to_have_text("Split a along upright: pieces pieces.")
        page.mouse.click(*self.at(-6, 2))
        expect(page.locator("#banner")).to_contain_text("Nothing cuts c in two.")
        self.complaints.clear()
        page.mouse.click(*self.at(0.3, 1))
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Split a along upright: pieces pieces.")
        expect(page.locator("form.slip")).to_have_count(0)


class Checked(HandCase):
    def test_checks_come_when_the_hand_rests_and_show_their_places(self) -> None:
        self.bench("Circle a on 5u right and 0u up from O with radius 1u.\nTurn a round O, 8 copies: ring.\n")
        page = self.page
        row = page.locator("#checks [data-marks]", has_text="Narrowest gap")
        expect(row).to_contain_text("1.8268u")
        expect(page.locator("#checks")).to_contain_text("8 of 8")
        row.hover()
        shown = page.locator("#marks").get_attribute("d") or ""
        self.assertRegex(shown, r"^M[-\d.]+ [-\d.]+L[-\d.]+ [-\d.]+$")
        page.locator("h2", has_text="Mirror").hover()
        expect(page.locator("#marks")).to_have_attribute("d", "")
        self.type_in("a:radius", "1.5u")
        expect(row).to_contain_text("0.8268u")

    def test_pieces_that_meet_are_parted_or_made_one_by_a_click(self) -> None:
        mark = self.bench(
            "Tone: lamp = #e2a93b\nTone: night = #1f2c4a\n"
            "Box left, 3u wide and 4u high, its centre on -1.5u right and 0u up from O, turned by 0°.\n"
            "Box right, 3u wide and 4u high, its centre on 1.5u right and 0u up from O, turned by 0°.\n"
            "Fill left with lamp: pieces warm.\nFill right with night: pieces cold.\n"
        )
        row = self.page.locator("#checks [data-marks]", has_text="Pieces touch")
        expect(row).to_contain_text("1 place")
        row.get_by_role("button", name="part", exact=True).click()
        self.settled(2)
        self.assertEqual(self.sentences(mark)[-1], "Part warm and cold by 0.25u, each giving half: parted.")
        expect(row).to_have_count(0)
        expect(self.page.locator("#checks")).to_contain_text("Narrowest gap")
        self.page.keyboard.press("Control+z")
        self.settled(1)
        row.get_by_role("button", name="unite", exact=True).click()
        self.settled(3)
        self.assertTrue(self.sentences(mark)[-1].startswith("Unite warm and cold"))
        expect(row).to_have_count(0)

    def test_a_region_names_all_that_covers_it(self) -> None:
        self.bench(
            "Circle a on O with radius 3u.\nCircle b on 2u right and 0u up from O with radius 3u.\n"
            "Of a and b keep in a, 1 of 1, all round, the rest dropped: piece kept.\n",
            "?view=regions",
        )
        self.page.mouse.move(*self.at(1, 0))
        expect(self.page.locator("#pill")).to_have_text("keep 1 region: in a and b")
        expect(self.page.locator(".line.covering")).to_have_count(2)
