"""Tones by hand: laid by a click and by a sweep, picked, made a ramp; the light turned; colourways made and chosen."""

from __future__ import annotations

import math
import re

from playwright.sync_api import expect

from kagami.geometry.measure.size import area, centroid
from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.seeing import lightness
from tests.web.browser.test_assistive import sound
from tests.web.browser.test_by_hand import HandCase
from web.marks.services.palettes import take_in

GEM = (
    "Tone: sea = #3f8f98\nTone: lamp = #e2a93b\n"
    "Polygon gem of 8 sides on O, corners 7u out, the first at 22.5°.\nLine ray through O at 22.5°.\n"
    "Turn ray round O, 8 copies: rays.\nDivide gem and rays: pieces facets.\n"
)


def laid(plan: Plan) -> list[tuple[str, Point]]:
    """Each tone, and where it lies."""
    return [(piece.tone, centroid(piece.shape)) for piece in pieces(evaluate(plan))]


class Laid(HandCase):
    refusals = (422,)

    def take_up(self, name: str) -> None:
        self.page.get_by_role("button", name=f"lay or pick {name}", exact=True).click()
        expect(self.page.locator("#laying")).to_be_visible()

    def test_a_ramp_is_laid_on_a_faceted_body_by_sweeps(self) -> None:
        mark = self.bench(GEM)
        page = self.page
        self.take_up("sea")
        page.get_by_role("button", name="two lighter and two darker").click()
        self.settled(2)
        self.assertEqual(len(self.stored(mark).tones), 6)
        page.get_by_role("button", name="here alone").click()
        self.sweep((-1, 5.5), (4.5, 4.5))
        self.settled(3)
        self.take_up("sea-light 2")
        self.sweep((-5.5, 1), (-4.5, 4.5))
        self.settled(4)
        self.take_up("sea-dark 2")
        page.mouse.click(*self.at(4.5, -3.5))
        self.settled(5)
        plan = self.stored(mark)
        fill = plan.steps[-1]
        self.assertEqual((fill.id, [step.id for step in plan.steps].count("toned")), ("toned", 1))
        tones = [tone for tone in fill.tones if tone != "its own"]  # type: ignore[attr-defined]
        self.assertEqual(sorted(set(tones)), ["sea", "sea-dark 2", "sea-light 2"])
        self.assertEqual(len(tones), 5)
        colours = tone_colours(plan.tones).colours
        for piece in pieces(evaluate(plan)):
            if piece.tone in colours:
                self.assertEqual(piece.colour, colours[piece.tone])
        self.assertGreater(lightness(colours["sea-light 2"]), lightness(colours["sea-dark 2"]))
        page.keyboard.press("Escape")
        expect(page.locator("#laying")).to_be_hidden()

    def test_what_a_click_would_do_shows_before_and_a_click_beside_is_refused(self) -> None:
        mark = self.bench("Tone: lamp = #e2a93b\nCircle one on O with radius 3u.\n")
        page = self.page
        self.take_up("lamp")
        page.mouse.move(*self.at(1, 1))
        expect(page.locator(".ink path[fill='#e2a93b']")).to_have_count(1)
        self.assertEqual(len(self.stored(mark).steps), 1)
        page.mouse.move(*self.at(8, 8))
        expect(page.locator(".ink path[fill='#e2a93b']")).to_have_count(0)
        page.mouse.click(*self.at(8, 8))
        expect(page.locator("#banner")).to_contain_text("No piece lies there")
        page.mouse.click(*self.at(1, 1))
        self.settled(2)
        self.assertEqual(self.stored(mark).steps[-1].kind, "fill")  # type: ignore[attr-defined]
        page.keyboard.press("Control+z")
        self.settled(1)

    def test_regions_are_laid_where_they_are_chosen(self) -> None:
        mark = self.bench(
            "Tone: lamp = #e2a93b\nCircle low on O with radius 3u.\n"
            "Circle high on 3u right and 0u up from O with radius 3u.\n"
            "Of low and high keep in low, 1 of 1, here, the rest kept: piece cut.\n",
            "?step=cut&view=regions",
        )
        self.take_up("lamp")
        self.page.mouse.click(*self.at(1.5, 0))
        self.settled(2)
        self.sweep((1.5, 1), (4.5, 0))
        self.settled(3)
        plan = self.stored(mark)
        self.assertEqual([step.id for step in plan.steps], ["low", "high", "cut", "piece", "toned"])
        lens, moon = 2 * 9 * math.acos(0.5) - 1.5 * math.sqrt(27), 9 * math.pi
        (kept,) = [piece for piece in pieces(evaluate(plan)) if piece.tone == "lamp"]
        self.assertAlmostEqual(area(kept.shape), moon, places=6)
        self.assertGreater(moon, lens)

    def test_a_tone_is_picked_by_its_sliders_and_taken_from_a_piece(self) -> None:
        mark = self.bench(GEM + "Fill facets with sea and lamp: pieces toned.\n")
        page = self.page
        self.take_up("sea")
        hue = page.locator(".picker [name=hue]")
        expect(hue).to_be_visible()
        hue.focus()
        page.keyboard.press("ArrowRight")
        self.settled(2)
        sea = self.stored(mark).tones[0]
        self.assertRegex(sea.colour, r"oklch\([\d.]+% [\d.]+ \d+\)")
        expect(page.locator(".picker [name=hue]")).to_be_focused()
        cell = page.locator("[data-picks]").nth(40)
        wanted = cell.get_attribute("data-picks")
        cell.click()
        self.settled(3)
        self.assertEqual(self.stored(mark).tones[0].colour, wanted)
        page.get_by_role("button", name="take the tone of a piece").click()
        expect(page.locator("#laying .name")).to_have_text("sea")
        toned = evaluate(self.stored(mark)).outcomes["toned"].made
        lit = next(shape for shape, tone in zip(toned.copies, toned.tones, strict=True) if tone == "lamp")
        page.mouse.click(*self.at(*centroid(lit)))
        expect(page.locator("#laying .name")).to_have_text("lamp")
        self.assertEqual(len(self.stored(mark).steps), 5)

    def test_a_typed_colour_that_is_none_and_a_tone_in_use_are_said_where_they_stand(self) -> None:
        mark = self.bench(GEM + "Fill facets with sea and lamp: pieces toned.\n")
        page = self.page
        field = page.locator("[data-key='tone:sea']")
        field.fill("seagreen-ish")
        field.press("Enter")
        expect(page.locator("[role=alert]").filter(has_text="no tone “seagreen-ish”")).to_be_visible()
        self.assertEqual(self.stored(mark).tones[0].colour, "#3f8f98")
        field.press("Escape")
        page.get_by_role("button", name="remove tone sea").click()
        expect(page.locator("#banner")).to_contain_text("toned")
        self.assertEqual(len(self.stored(mark).tones), 2)


class Lit(HandCase):
    def test_the_light_is_turned_by_dragging_and_all_facets_follow(self) -> None:
        mark = self.bench(
            GEM + "Light facets from 90° with 5 tones about sea, by direction: pieces lit.\n", "?step=lit"
        )
        page = self.page
        before = laid(self.stored(mark))
        self.drag("angle", 9 * math.cos(math.radians(30)), 9 * math.sin(math.radians(30)), let_go=False)
        expect(page.locator("[data-key='lit:angle']")).to_have_value("30")
        lightest = page.locator(".ink path[data-tone='tone 1 of 5 about sea']")
        box = lightest.bounding_box()
        assert box is not None
        self.assertGreater(box["x"] + box["width"] / 2, self.at(0, 0)[0])
        page.mouse.up()
        self.settled(2)
        step = self.stored(mark).step("lit")
        self.assertEqual(step.angle, "30")  # type: ignore[union-attr]
        self.assertNotEqual(laid(self.stored(mark)), before)

    def test_a_gradient_shows_and_follows_its_end(self) -> None:
        text = "Tone: sea = #3f8f98\nCircle one on O with radius 4u.\n"
        self.bench(
            text + "Fill one from left of one to right of one with a gradient of sea and #ffffff: pieces g.\n",
            "?step=g",
        )
        page = self.page
        path = page.locator(".ink path[data-step=g]")
        expect(path).to_have_attribute("fill", re.compile(r"url\(#paint-"))
        fill = path.get_attribute("fill")
        field = page.locator("textarea[data-field=stops]")
        field.fill("sea, #ffffff at 40% and sea")
        field.press("Enter")
        self.settled(2)
        expect(path).not_to_have_attribute("fill", fill or "")
        self.assertEqual(page.locator("#paints linearGradient").count(), 1)

    def test_a_gradient_that_stays_stands_in_the_page_once(self) -> None:
        mark = self.bench(
            "Tone: sea = #3f8f98\nCircle one on O with radius 2u.\n"
            "Fill one from 4u left from O to 4u right from O with a gradient of sea and #ffffff: pieces g.\n",
            "?step=one",
        )
        gradients = self.page.locator("#drawing linearGradient")
        self.assertEqual(gradients.count(), 1)
        self.drag("radius", 3, 1.4, let_go=False)
        expect(self.page.locator(".ghost")).not_to_have_count(0)
        self.assertEqual(gradients.count(), 1)
        self.page.mouse.up()
        self.settled(2)
        self.assertEqual(gradients.count(), 1)
        self.assertNotEqual(self.stored(mark).step("one").radius, "2u")


class Ways(HandCase):
    refusals = (422,)

    def ways(self, text: str) -> tuple[object, str]:
        mark = self.bench(text)
        take_in(self.designer, mark.brand, "fog", "#dfe4e6")
        take_in(self.designer, mark.brand, "signal", "#b3301e")
        take_in(self.designer, mark.brand, "tar", "#2a2420")
        take_in(self.designer, mark.brand, "moss", "#4d5a33")
        take_in(self.designer, mark.brand, "wave", "#1f6a8c")
        self.page.get_by_role("link", name="Colourways").click()
        expect(self.page.locator("#main[data-ready]")).to_be_visible()
        return mark, self.page.url

    def test_one_is_made_chosen_and_undone(self) -> None:
        mark, _ = self.ways(GEM + "Fill facets with sea and lamp: pieces toned.\n")
        page = self.page
        page.get_by_role("button", name="+ colourway").click()
        expect(page.locator(".plates li")).to_have_count(2)
        field = page.locator("[data-key='role:sea']")
        field.fill("signl")
        field.press("Enter")
        expect(page.locator("[role=alert]")).to_contain_text("no tone “signl”")
        expect(page.locator("[data-key='role:sea']")).to_have_value("signl")
        page.locator("[data-key='role:sea']").fill("signal")
        page.locator("[data-key='role:sea']").press("Enter")
        expect(page.locator(".plates .told").nth(1)).to_have_text("sea is signal")
        page.get_by_role("button", name="Choose it").click()
        expect(page.locator(".chosen")).to_have_count(1)
        (made,) = self.stored(mark).colourways  # type: ignore[arg-type]
        self.assertTrue(made.chosen)
        self.assertEqual(made.tone_of("sea"), "signal")
        page.get_by_role("button", name="undo").click()
        expect(page.locator(".chosen")).to_have_count(0)
        self.assertFalse(self.stored(mark).colourways[0].chosen)  # type: ignore[arg-type]

    def test_ten_at_once_from_the_palette_and_contrast_too_low_is_said(self) -> None:
        mark, _ = self.ways(GEM + "Fill facets with sea and lamp: pieces toned.\n")
        page = self.page
        page.locator(".many summary").click()
        page.get_by_role("button", name="make them").click()
        expect(page.locator(".plates li")).to_have_count(11)
        self.assertEqual(len(self.stored(mark).colourways), 10)  # type: ignore[arg-type]
        for role, tone in (("ground", "#7d7d7d"), ("sea", "#8a8a8a"), ("lamp", "#777777")):
            field = page.locator(f"[data-key='role:{role}']")
            field.fill(tone)
            field.press("Enter")
            expect(page.locator(".roles")).to_contain_text(role)
            expect(field).to_have_attribute("value", tone)
        expect(page.locator(".one .low")).to_contain_text("too low for a mark")
        page.locator("select[name=beside]").select_option("cw-0")
        page.get_by_role("button", name="compare").click()
        expect(page.locator(".beside figure")).to_have_count(2)

    def test_it_is_walked_by_the_keyboard(self) -> None:
        self.ways("Colourway dusk: ink is #ffffff, ground is #000000.\n" + GEM)
        page = self.page
        page.locator(".plates a").first.focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Enter")
        expect(page.locator(".titled input[name=new]")).to_have_value("dusk")
        self.assertIn("at=dusk", page.url)


class AssistiveTones(HandCase):
    def test_the_tone_bar_and_colourways(self) -> None:
        mark = self.bench(
            "Colourway dusk, chosen: sea is lamp, ground is #1f2c4a.\n" + GEM + "Fill facets with sea and lamp: t.\n"
        )
        page = self.page
        page.get_by_role("button", name="lay or pick sea", exact=True).click()
        expect(page.locator(".picker")).to_be_visible()
        sound(self, "laying a tone")
        for query in ("", "?at=dusk", "?at=dusk&beside=cw-0"):
            page.goto(f"{self.live_server_url}/marks/{mark.id}/colourways/{query}")
            page.locator(".many summary").click()
            sound(self, f"colourways {query}")
