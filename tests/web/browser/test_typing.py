"""Jobs built by typing sentences and picking; completion, faults at the word, steps said anew, a range."""

from __future__ import annotations

import pathlib
import re

from playwright.sync_api import Page, Route, expect

from kagami.geometry.measure.size import area
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.language.measures import measure_text
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.text import parse_text
from tests.exchange.svg_reader import area_of, paths_of
from tests.web.browser.browser_case import BrowserCase
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark

JOBS = pathlib.Path(__file__).parents[3] / "examples" / "jobs"


class Typing(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = make_mark(self.designer, make_brand(self.designer, "Tidehouse Museum"), Plan(title="Typed"))

    def say(self, text: str) -> None:
        """Type a sentence at the needle and press Enter."""
        line = self.page.locator(".typing .sentence-input")
        line.fill(text)
        line.press("Enter")

    def add_tone(self, name: str, value: str) -> None:
        page = self.page
        page.get_by_role("button", name="+ tone").click()
        page.get_by_label("name of the tone").fill(name)
        page.get_by_label("colour of the tone").fill(value)
        page.get_by_label("colour of the tone").press("Enter")

    def add_measure(self, name: str, value: str) -> None:
        page = self.page
        page.get_by_role("button", name="+ measure").click()
        page.get_by_label("name of the measure").fill(name)
        page.get_by_label("value of the measure").fill(value)
        page.keyboard.press("Enter")
        expect(page.locator(f"[data-key='measure:{name}']")).to_have_value(value)

    def type_job(self, file: str) -> Plan:
        """Type a job's measures and sentences, one after the other."""
        job = parse_text((JOBS / file).read_text(encoding="utf-8"))
        self.open(self.mark)
        module = self.page.locator("[data-key=u]")
        module.fill(f"{job.module.size:g} {job.module.unit}")
        module.press("Enter")
        self.settled(2)
        number = 2
        for measure in job.measures:
            self.add_measure(measure.name, measure_text(measure, job.names()))
            number += 1
            self.settled(number)
        for tone in job.tones:
            self.add_tone(tone.name, tone.colour)
            number += 1
            self.settled(number)
        for step in job.steps:
            self.say(write_sentence(step, job.names()))
            number += 1
            self.settled(number)
        return job

    def delivered(self) -> float:
        """The area of the SVG that a user takes from Delivery, in square millimetres."""
        page = self.page
        page.get_by_role("link", name="Delivery").click()
        with page.expect_download() as download:
            page.locator("#take-svg").click()
        text = pathlib.Path(download.value.path()).read_text()
        return sum(abs(area_of(path.attrib["d"])) for path in paths_of(text))

    def assert_built(self, job: Plan) -> None:
        stored = self.stored(self.mark)
        self.assertEqual(stored.steps, job.steps)
        self.assertEqual(
            [(m.name, m.value, m.solve) for m in stored.measures], [(m.name, m.value, m.solve) for m in job.measures]
        )
        expected = sum(area(piece.shape) for piece in pieces(evaluate(job))) * job.module.millimetres**2
        self.assertAlmostEqual(self.delivered(), expected, delta=1e-3 * expected)

    def test_a_letter_of_nested_circles(self) -> None:
        self.assert_built(self.type_job("j18-nested-letter.plan"))

    def test_a_knot_over_and_under(self) -> None:
        job = self.type_job("j07-mooring-knot.plan")
        expect(self.page.locator("#mirror")).to_contain_text("4-fold")
        self.assert_built(job)

    def test_a_faceted_body_then_changed_on_the_last_day(self) -> None:
        job = self.type_job("j10-heap-of-salt.plan")
        self.type_in("measure:a", "8u")
        expect(self.page.locator("[data-key='measure:a']")).to_have_value("8u")
        self.settled(len(job.steps) + len(job.measures) + len(job.tones) + 3)
        changed = job.model_copy(
            update={
                "measures": tuple(m.model_copy(update={"value": "8u"}) if m.name == "a" else m for m in job.measures)
            }
        )
        self.assert_built(changed)

    def test_a_rose_typed_and_picked(self) -> None:
        page = self.open(self.mark)
        self.say("Circle heart on O with radius 4u.")
        self.settled(2)
        self.say("Circle tide on top of heart with radius 4u")
        self.settled(3)
        self.say("Turn tide round O, 6 copies: tides.")
        self.settled(4)
        self.say("Of heart and tides keep nothing, the rest dropped: piece rose.")
        self.settled(5)
        expect(page.locator(".view-regions .region").first).to_be_attached()
        self.click_sheet(0, 6.5)
        self.settled(6)
        (pick,) = self.stored(self.mark).step("rose").picks
        self.assertEqual((pick.every, pick.keep), (1, True))
        self.assertEqual(len(evaluate(self.stored(self.mark)).outcomes["rose"].figure.copies[0].outlines), 6)

    def test_what_may_come_next_is_offered_and_taken_by_keyboard(self) -> None:
        page = self.open(self.mark)
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        line = page.locator(".typing .sentence-input")
        line.press_sequentially("Circle dot on to")
        option = page.locator(".words-next li").first
        expect(option).to_have_text("top of lens")
        line.press("ArrowDown")
        expect(option).to_have_attribute("aria-selected", "true")
        line.press("Enter")
        expect(line).to_have_value("Circle dot on top of lens ")
        expect(page.locator(".words-next li").first).to_have_text("with radius")
        line.press("Tab")
        line.press_sequentially("1u")
        line.press("Escape")
        line.press("Enter")
        self.settled(3)
        self.assertEqual(self.stored(self.mark).step("dot").centre, "lens.top")

    def test_a_sentence_that_does_not_fit_is_told_at_its_word(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        self.say("Circle lens beside O with radius 3u.")
        expect(page.locator(".typing .fault")).to_be_visible()
        expect(page.locator(".typing .fault")).to_contain_text("“on”")
        line = page.locator(".typing .sentence-input")
        expect(line).to_have_value("Circle lens beside O with radius 3u.")
        self.assertEqual(line.evaluate("field => field.selectionStart"), 12)
        self.assertEqual(self.stored(self.mark).steps, ())

    def test_what_could_be_read_of_a_refused_sentence_stands_in_a_slip(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        self.say("Circle lens on (2, 1) with radius 2u.")
        self.settled(2)
        self.say("mirror lens left to right")
        line, slip = page.locator(".typing .sentence-input"), page.locator("form.slip[data-kind=reflect]")
        expect(slip.locator("[data-field=figure]")).to_have_text(re.compile("lens"))
        expect(line).to_be_focused()
        expect(line).to_have_value("mirror lens left to right")
        self.assertEqual(line.evaluate("field => field.selectionStart"), len("mirror lens "))
        slip.get_by_role("button", name="an upright one").click()
        self.settled(3)
        expect(slip.locator(".slot[data-field=line]")).to_have_text(re.compile("axis"))
        page.keyboard.press("Enter")
        self.settled(4)
        self.assertEqual(self.stored(self.mark).steps[-1].kind, "reflect")
        expect(line).to_have_value("")
        expect(page.locator(".typing .fault")).to_have_count(0)

    def test_a_slip_of_what_was_read_does_not_come_when_it_was_given_up_before(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)

        def late(route: Route) -> None:
            page.wait_for_timeout(400)
            route.continue_()

        page.route("**/change/", late)
        line = page.locator(".typing .sentence-input")
        line.fill("Circle lens beside O with radius 3u.")
        with page.expect_response("**/change/"):
            line.press("Enter")
            for _ in range(3):
                page.keyboard.press("Escape")
        expect(page.locator(".typing .fault")).to_be_visible()
        page.wait_for_timeout(300)
        expect(page.locator("form.slip")).to_have_count(0)

    def test_a_slip_of_what_was_read_makes_way_but_an_open_one_stays(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        self.say("Circle lens beside O with radius 3u.")
        expect(page.locator("form.slip[data-kind=circle] input[name=name]")).to_have_value("lens")
        self.say("Box plate beside O")
        expect(page.locator("form.slip[data-kind=box]")).to_be_visible()
        expect(page.locator("form.slip")).to_have_count(1)
        page.reload()
        expect(page.locator("form.slip[data-kind=box][data-read]")).to_be_visible()
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        expect(page.locator("form.slip")).to_have_count(0)
        page.locator(".chapter [data-verb=ring]").evaluate("verb => verb.click()")
        expect(page.locator("form.slip[data-kind=ring]")).to_be_visible()
        self.say("Circle rim beside O with radius 3u.")
        expect(page.locator(".typing .fault")).to_be_visible()
        expect(page.locator("form.slip[data-kind=ring]")).to_be_visible()
        expect(page.locator("form.slip")).to_have_count(1)

    def test_an_open_slip_marks_the_place_that_a_press_gives_and_is_kept_over_a_reload(self) -> None:
        page = self.open(self.mark)
        page.locator(".chapter [data-verb=bar]").evaluate("verb => verb.click()")
        length = page.locator("form.slip input[name=length]")
        expect(page.locator("form.slip .asked")).to_have_attribute("data-field", "foot")
        length.fill("4u")
        expect(page.locator("#pill")).to_contain_text("4u long")
        page.reload()
        expect(length).to_have_value("4u")
        expect(page.locator("form.slip .asked")).to_have_attribute("data-field", "foot")

    def test_a_step_is_said_anew_as_another_kind(self) -> None:
        page = self.open(self.mark)
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        page.get_by_role("button", name="say it anew").click()
        again = page.locator(".step[data-step=lens] .sentence-input")
        expect(again).to_have_value("Circle lens on O with radius 3u.")
        again.fill("Square lens of side 5u, its centre on O, turned by 45°")
        again.press("Enter")
        self.settled(3)
        self.assertEqual(self.stored(self.mark).step("lens").kind, "square")

    def test_escape_leaves_the_line_and_keeps_what_was_typed(self) -> None:
        page = self.open(self.mark)
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        page.locator(".chapter [data-verb=circle]").evaluate("verb => verb.click()")
        expect(page.locator("form.slip")).to_be_visible()
        line = page.locator(".typing .sentence-input")
        line.click()
        page.keyboard.type("Circle rim on right of lens with radius 1u")
        expect(page.locator(".line.tried")).to_have_count(1)
        page.keyboard.press("Escape")
        expect(line).to_be_focused()
        page.keyboard.press("Escape")
        expect(page.locator("#drawing")).to_be_focused()
        expect(page.locator(".line.tried")).to_have_count(0)
        page.keyboard.press("Escape")
        expect(page.locator("form.slip")).to_have_count(0)
        expect(line).to_have_value("Circle rim on right of lens with radius 1u")

    def test_escape_leaves_a_step_that_was_to_be_said_anew_as_it_is(self) -> None:
        page = self.open(self.mark)
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        anew = page.locator("#s-lens [data-act=retype]")
        anew.click()
        line = page.locator("#s-lens .sentence-input")
        line.fill("Circle lens on O with radius 5u.")
        expect(page.locator(".ink path")).not_to_have_count(0)
        for _ in range(2):
            page.keyboard.press("Escape")
        expect(line).to_have_count(0)
        expect(anew).to_be_focused()
        anew.click()
        expect(line).to_have_value("Circle lens on O with radius 3u.")
        self.assertEqual(self.stored(self.mark).step("lens").radius, "3u")

    def test_a_value_is_chosen_by_eye_from_a_range(self) -> None:
        page = self.open(self.mark)
        self.add_measure("r", "2u")
        self.settled(2)
        self.say("Circle lens on O with radius r.")
        self.settled(3)
        page.locator(".ranger").click()
        expect(page.locator(".sample")).to_have_count(9)
        page.get_by_label("from", exact=True).fill("4u")
        page.get_by_label("to", exact=True).fill("5u")
        page.get_by_label("in", exact=True).fill("3")
        page.get_by_role("button", name="Show").click()
        expect(page.locator(".sample")).to_have_count(3)
        page.get_by_role("button", name="take r = 4.5u").click()
        self.ready()
        self.settled(4)
        self.assertEqual(self.stored(self.mark).measures[0].value, "4.5u")
        page.goto(f"{self.live_server_url}/marks/{self.mark.id}/range/?of1=r&low1=gone")
        expect(page.locator(".fault")).to_contain_text("There is no measure “gone”")
        self.complaints.clear()  # the page answers 422, which the browser notes

    def rim_over_a_range(self) -> Page:
        """The Range of a ring's width."""
        page = self.open(self.mark)
        self.say("Circle lens on O with radius 3u.")
        self.settled(2)
        self.say("Band rim, 0.5u wide, on lens, ends butt and corners mitred.")
        self.settled(3)
        page.get_by_role("link", name="see it over a range").click()
        expect(page.locator(".sample")).to_have_count(9)
        self.ready()
        return page

    def test_two_values_are_chosen_by_eye_from_a_grid(self) -> None:
        page = self.rim_over_a_range()
        page.get_by_label("what varies from line to line").select_option(label="radius of lens")
        page.get_by_role("button", name="Show").click()
        expect(page.locator(".contact-grid tbody tr")).to_have_count(5)
        page.get_by_label("from", exact=True).nth(1).fill("2u")
        page.get_by_label("to", exact=True).nth(1).fill("4u")
        page.get_by_label("in", exact=True).nth(1).fill("3")
        page.get_by_role("button", name="Show").click()
        page.get_by_role("button", name="take width of rim = 0.75u, radius of lens = 4u").click()
        self.ready()
        self.settled(4)
        stored = self.stored(self.mark)
        self.assertEqual((stored.step("lens").radius, stored.step("rim").width), ("4u", "0.75u"))

    def test_what_is_typed_over_a_slow_answer_stays(self) -> None:
        page = self.rim_over_a_range()

        def slowly(route: Route) -> None:
            page.wait_for_timeout(600)
            route.continue_()

        page.route("**/range/?*", slowly)
        page.get_by_label("what varies from line to line").select_option(label="radius of lens")
        page.get_by_label("from", exact=True).first.fill("0.25u")
        page.get_by_label("to", exact=True).first.fill("2u")
        expect(page.locator(".contact-grid tbody tr")).to_have_count(5)
        expect(page.get_by_label("from", exact=True).first).to_have_value("0.25u")
        expect(page.get_by_label("to", exact=True).first).to_have_value("2u")
        page.unroute("**/range/?*")
        page.get_by_role("button", name="Show").click()
        expect(page.get_by_role("button", name="take width of rim = 2u, radius of lens")).to_have_count(5)

    def test_tones_are_listed_laid_and_changed(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        self.say("Circle disc on O with radius 3u.")
        self.settled(2)
        self.say("Turn disc round top of disc, 2 copies: pair.")
        self.settled(3)
        self.add_tone("night", "#1f2c4a")
        self.settled(4)
        self.add_tone("dusk", "40% lighter than night")
        self.settled(5)
        self.say("Fill pair with night and dusk: pieces toned.")
        self.settled(6)
        paths = page.locator(".drawing .ink path")
        fills = paths.evaluate_all("paths => paths.map((path) => getComputedStyle(path).fill)")
        self.assertEqual(fills[0], "rgb(31, 44, 74)")
        self.assertEqual(len(set(fills)), 2)
        page.get_by_label("tone night", exact=True).fill("#b3321c")
        page.get_by_label("tone night", exact=True).press("Enter")
        self.settled(7)
        written = page.request.get(f"{self.live_server_url}/marks/{self.mark.id}/delivery/mark.svg").text()
        self.assertIn('fill="#b3321c"', written)
        self.assertNotIn("#1f2c4a", written)
        page.get_by_role("button", name="remove tone night").click()
        expect(page.locator("#banner")).to_contain_text("night is used by dusk and toned")
        self.add_tone("again", "#b3321c")
        expect(page.locator(".fault").first).to_contain_text("is #b3321c already")

    def test_crumbs_are_told_and_absorbed_and_a_needed_measure_frozen(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        self.add_measure("off", "0.01u")
        self.settled(2)
        sentences = (
            "Square one of side 4u, its right on O, turned by 0°.",
            "Point beside, off right and 0u up from O.",
            "Square two of side 4u, its left on beside, turned by 0°.",
            "Box whole, 12u wide and 4u high, its centre on O, turned by 0°.",
            "Of one, two and whole keep in one + whole, 1 of 1, here; in two + whole, 1 of 1, here, "
            "the rest dropped: piece x.",
        )
        for number, sentence in enumerate(sentences, 3):
            self.say(sentence)
            self.settled(number)
        expect(page.locator(".step[data-step=x] .note").first).to_contain_text("too small to be meant")
        page.get_by_role("button", name="absorb the crumbs").click()
        self.settled(8)
        self.assertEqual(len(self.stored(self.mark).step("x").picks), 3)
        expect(page.locator(".step[data-step=x] .note")).to_have_count(0)
        page.locator("[data-key='remove-measure:off']").click(force=True)
        expect(page.locator("#banner")).to_contain_text("off is used by beside")
        page.get_by_role("button", name="Freeze the values and remove it").click()
        self.settled(9)
        self.assertEqual(self.stored(self.mark).step("beside").right, "0.01")


class Files(BrowserCase):
    def test_a_plan_as_text_is_taken_away_and_brought_back(self) -> None:
        job = parse_text((JOBS / "j04-interlaced-cross.plan").read_text(encoding="utf-8"))
        brand = make_brand(self.designer, "Ropewalk Works")
        mark = make_mark(self.designer, brand, job)
        page = self.open(mark)
        page.get_by_role("link", name="Delivery").click()
        with page.expect_download() as download:
            page.get_by_role("link", name="as sentences").click()
        self.assertEqual(download.value.suggested_filename, f"{job.title}.plan")
        page.goto(f"{self.live_server_url}/brands/{brand.id}/marks/")
        page.get_by_label("Begin from a plan file").set_input_files(download.value.path())
        page.get_by_role("button", name="Begin", exact=True).click()
        self.ready()
        self.assertEqual(Mark.objects.latest("id").current.load(), job)
