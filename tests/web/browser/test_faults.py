"""Wrong values, saves that come too late, marks of others, a server that is gone."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from playwright.sync_api import Route, expect

from tests.plan.marks import beams
from tests.web.browser.browser_case import PASSWORD, BrowserCase
from web.marks.models import Mark
from web.marks.services.shelving import make_brand, make_mark


class Faults(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.mark = make_mark(self.designer, make_brand(self.designer, "Vennik Light Trust"), beams().plan)

    def test_a_value_that_cannot_be_read_is_told_at_its_field_and_not_stored(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        before = page.locator(".ink path").get_attribute("d")
        self.type_in("rim:radius", "(8u")
        fault = page.locator(".step[data-step=rim] .fault")
        expect(fault).to_contain_text("a closing bracket is missing")
        expect(page.locator("[data-key='rim:radius']")).to_have_attribute("aria-invalid", "true")
        self.assertEqual(page.locator(".ink path").get_attribute("d"), before)
        self.assertEqual(self.stored(self.mark).step("rim").radius, "8u")
        self.type_in("lens:radius", "2u")  # another change leaves it where it is, and what is wrong with it
        expect(page.locator(".step[data-step=lens] .value[name=radius]")).to_have_value("2u")
        self.settled(2)
        expect(fault).to_contain_text("a closing bracket is missing")
        expect(page.locator("[data-key='rim:radius']")).to_have_value("(8u")
        page.locator("[data-key='rim:radius']").press("Escape")
        expect(fault).to_have_count(0)
        expect(page.locator("[data-key='rim:radius']")).to_have_value("8u")

    def test_a_value_that_cannot_be_computed_stays_as_typed_with_its_reason(self) -> None:
        page = self.open(self.mark)
        self.type_in("lens:radius", "reach / 0")
        expect(page.locator(".step[data-step=lens] .fault")).to_contain_text("There is no measure “reach”")
        expect(page.locator(".step[data-step=light]")).to_have_class("step faulty waiting")
        self.assertEqual(page.locator(".line[data-step=rim]").count(), 1)
        self.assertEqual(self.stored(self.mark).step("lens").radius, "reach / 0")
        self.type_in("lens:radius", "2u")
        expect(page.locator(".fault")).to_have_count(0)
        expect(page.locator("#mirror")).to_contain_text("12-fold")

    def test_a_measure_in_a_circle_of_measures_says_so(self) -> None:
        page = self.open(self.mark)
        self.type_in("measure:gap", "gap + 1")
        expect(page.locator(".measures .fault")).to_contain_text("wait for each other: gap → gap")

    def test_a_new_step_with_a_wrong_value_keeps_its_slip(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark)
        page.locator(".verb[data-verb=circle]").click()
        slip = page.locator("form.slip")
        slip.locator("[name=radius]").fill("3 $")
        slip.get_by_role("button", name="Add").click()
        expect(slip.locator(".fault")).to_contain_text("“$” cannot stand here")
        expect(slip.locator("[name=radius]")).to_have_value("3 $")
        slip.locator("[name=radius]").fill("3u")
        slip.get_by_role("button", name="Add").click()
        self.settled(2)

    def test_a_step_in_use_is_not_removed_and_its_users_are_named(self) -> None:
        self.refusals = (422,)
        page = self.open(self.mark, "?step=beam")
        page.get_by_role("button", name="remove beam", exact=True).click()
        expect(page.locator("#banner")).to_contain_text("beam is used by beams")
        self.assertIsNotNone(self.stored(self.mark).step("beam"))

    def test_a_stale_save_is_refused_and_can_be_kept_as_a_new_mark(self) -> None:
        self.refusals = (409,)
        page = self.open(self.mark)
        other = self.open(self.mark, page=self.new_page())
        field = other.locator("[data-key='rim:radius']")
        field.fill("7u")
        field.press("Enter")
        self.settled(2, other)
        other.context.close()
        self.type_in("lens:radius", "2.25u")
        banner = page.locator("#banner")
        expect(banner).to_contain_text("you saw change 1, it is now at change 2")
        self.assertEqual(self.stored(self.mark).step("lens").radius, "1.5u")
        banner.get_by_role("button", name="Keep mine as a new mark").click()
        expect(page.locator("#mark-name")).to_have_value("Beams (other)")
        kept = Mark.objects.exclude(pk=self.mark.pk).get().current.load()
        self.assertEqual((kept.step("lens").radius, kept.step("rim").radius), ("2.25u", "8u"))

    def test_the_newest_can_be_shown_instead(self) -> None:
        self.refusals = (409,)
        page = self.open(self.mark)
        other = self.open(self.mark, page=self.new_page())
        other.locator("[data-key=u]").fill("5 mm")
        other.locator("[data-key=u]").press("Enter")
        self.settled(2, other)
        other.context.close()
        self.type_in("lens:radius", "2.25u")
        page.get_by_role("button", name="Show the newest").click()
        self.settled(2)
        expect(page.locator("[data-key=u]")).to_have_value("5 mm")

    def test_a_mark_of_another_designer_is_not_there(self) -> None:
        self.refusals = (404,)
        get_user_model().objects.create_user("neighbour", password=PASSWORD)
        page = self.sign_in(name="neighbour")
        page.goto(f"{self.live_server_url}/marks/{self.mark.id}/")
        expect(page.get_by_role("heading", name="Not here")).to_be_visible()
        expect(page.locator("body")).not_to_contain_text("Beams")

    def test_a_wrong_password_is_told(self) -> None:
        page = self.page
        page.goto(f"{self.live_server_url}/sign-in/")
        page.get_by_label("Name").fill("designer")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.locator(".fault")).to_contain_text("do not belong together")

    def tolerate_outage(self) -> None:
        self.complaints = [text for text in self.complaints if "ERR_" not in text]

    def test_an_edit_made_during_an_outage_is_shown_as_unsaved_and_saved_once_afterwards(self) -> None:
        page = self.open(self.mark)
        page.route("**/change/", lambda route: route.abort())
        self.type_in("rim:radius", "7.5u")
        expect(page.locator("#silence")).to_contain_text("The server does not answer")
        field = page.locator("[data-key='rim:radius']")
        expect(field).to_have_value("7.5u")
        expect(field).to_have_class("value unsaved")
        self.assertEqual(self.stored(self.mark).step("rim").radius, "8u")
        page.unroute("**/change/")
        self.settled(2)
        expect(page.locator("#silence")).to_be_hidden()
        expect(field).to_have_class("value")
        self.assertEqual(self.stored(self.mark).step("rim").radius, "7.5u")
        self.assertEqual(self.mark.revisions.count(), 2)
        self.tolerate_outage()

    def test_an_edit_whose_answer_got_lost_is_made_once(self) -> None:
        page = self.open(self.mark)
        lost = []

        def lose_the_answer(route: Route) -> None:
            route.fetch()  # the server makes the change, and the page never hears of it
            lost.append(route.request.post_data_json["id"])
            route.abort()
            page.unroute("**/change/")

        page.route("**/change/", lose_the_answer)
        self.type_in("rim:radius", "7.5u")
        self.settled(2)
        self.assertEqual(len(lost), 1)
        self.assertEqual(self.mark.revisions.count(), 2)
        self.assertEqual(self.stored(self.mark).step("rim").radius, "7.5u")
        self.tolerate_outage()

    def test_an_edit_that_was_not_sent_survives_a_reload_of_the_page(self) -> None:
        page = self.open(self.mark)
        page.route("**/change/", lambda route: route.abort())
        self.type_in("rim:radius", "7.5u")
        self.type_in("lens:radius", "1.25u")
        expect(page.locator("#silence")).to_be_visible()
        page.reload()
        self.ready(page)
        expect(page.locator("[data-key='rim:radius']")).to_have_value("7.5u")
        expect(page.locator("[data-key='lens:radius']")).to_have_class("value unsaved")
        page.unroute("**/change/")
        self.settled(3)
        plan = self.stored(self.mark)
        self.assertEqual((plan.step("rim").radius, plan.step("lens").radius), ("7.5u", "1.25u"))
        self.tolerate_outage()

    def test_a_silent_server_is_told_after_two_seconds(self) -> None:
        page = self.open(self.mark)
        held: list[Route] = []
        page.route("**/change/", lambda route: held.append(route))
        self.type_in("rim:radius", "7.5u")
        expect(page.locator("#silence")).to_be_visible(timeout=4_000)
        for route in held:
            route.continue_()
        self.settled(2)
        expect(page.locator("#silence")).to_be_hidden()

    def test_what_is_typed_elsewhere_stays_while_an_answer_comes(self) -> None:
        page = self.open(self.mark)
        held: list[Route] = []
        page.route("**/change/", lambda route: held.append(route))
        self.type_in("rim:radius", "7.5u")
        page.locator("[data-key='sentence']").fill("Circle dot on O with")
        page.locator("[data-key='lens:radius']").focus()
        while not held:
            page.wait_for_timeout(20)
        held[0].continue_()
        self.settled(2)
        expect(page.locator("[data-key='sentence']")).to_have_value("Circle dot on O with")
