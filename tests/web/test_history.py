"""Changes, undo, redo, and changes that come too late."""

from __future__ import annotations

from django.test import Client
from django.urls import reverse

from kagami.plan.document import Plan
from tests.web.studio import StudioCase
from web.marks.models import Mark, Revision


class History(StudioCase):
    def test_a_change_makes_a_revision_and_names_it(self) -> None:
        mark = self.mark()
        answer = self.change(mark, "set-field", step="rim", field="radius", value="7u").json()
        self.assertEqual((answer["revision"], answer["words"]), (2, "rim: radius 7u"))
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")
        self.assertEqual(Revision.objects.get(mark=mark, number=1).load().step("rim").radius, "8u")

    def test_a_change_that_changes_nothing_makes_none(self) -> None:
        mark = self.mark()
        self.assertEqual(self.change(mark, "set-field", step="rim", field="radius", value="8u").json()["revision"], 1)

    def test_undo_and_redo_walk_the_revisions_even_after_signing_in_again(self) -> None:
        mark = self.mark()
        for value in ("7u", "6u", "5u"):
            self.change(mark, "set-field", step="rim", field="radius", value=value)
        self.post("bench-undo", mark)
        again = Client()
        self.assertTrue(again.login(username="designer", password="a long password"))
        self.post("bench-undo", mark, again)
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")
        self.post("bench-redo", mark, again)
        self.post("bench-redo", mark, again)
        self.assertEqual(self.plan_of(mark).step("rim").radius, "5u")
        self.assertEqual(self.post("bench-redo", mark).status_code, 422)

    def test_nothing_is_lost_when_a_change_follows_an_undo(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="7u")
        self.post("bench-undo", mark)
        self.change(mark, "set-field", step="rim", field="radius", value="6u")
        self.assertEqual([r.load().step("rim").radius for r in mark.revisions.all()], ["8u", "7u", "6u"])
        self.post("bench-undo", mark)
        self.post("bench-redo", mark)
        self.assertEqual(self.plan_of(mark).step("rim").radius, "6u")

    def test_the_first_revision_cannot_be_undone(self) -> None:
        answer = self.post("bench-undo", self.mark())
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "nothing-further"))

    def test_undo_takes_back_a_title(self) -> None:
        mark = self.mark()
        self.change(mark, "rename-mark", title="New name")
        self.assertEqual(Mark.objects.get(pk=mark.pk).name, "New name")
        self.post("bench-undo", mark)
        self.assertEqual(Mark.objects.get(pk=mark.pk).name, "Beams")


class Stale(StudioCase):
    def test_a_stale_change_is_refused_and_changes_nothing(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="7u")
        answer = self.change(mark, "set-field", base=1, step="rim", field="radius", value="3u")
        self.assertEqual((answer.status_code, answer.json()["code"], answer.json()["current"]), (409, "stale", 2))
        self.assertIn("you saw change 1, it is now at change 2", answer.json()["error"])
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")
        self.assertEqual(self.post("bench-undo", mark, base=1).status_code, 409)

    def test_the_work_can_be_kept_as_a_new_mark(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="7u")
        given = {"step": "lens", "field": "radius", "value": "2u"}
        answer = self.post("bench-keep", mark, base=1, kind="set-field", given=given)
        new = Mark.objects.exclude(pk=mark.pk).get()
        self.assertEqual(answer.json()["address"], reverse("bench", args=[new.id]))
        plan = new.current.load()
        self.assertEqual((plan.step("lens").radius, plan.step("rim").radius), ("2u", "8u"))
        self.assertEqual(plan.title, "Beams (other)")
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")

    def test_an_unknown_revision_cannot_be_kept(self) -> None:
        self.assertEqual(self.post("bench-keep", self.mark(), base=77, kind="x", given={}).status_code, 400)


class Limits(StudioCase):
    def test_bodies_that_are_too_large_or_unreadable_are_refused(self) -> None:
        mark = self.mark()
        address = reverse("bench-change", args=[mark.id])
        large = self.client.post(address, "x" * 65_000, content_type="application/json")
        self.assertEqual(large.status_code, 413)
        self.assertIn("64,000 is the most", large.json()["error"])
        for body in ("", "[]", "{", '{"base": "1"}', '{"base": true}', '{"base": 1}', "[" * 50_000):
            with self.subTest(body[:12]):
                self.assertEqual(self.client.post(address, body, content_type="application/json").status_code, 400)
        self.assertEqual(mark.revisions.count(), 1)

    def test_a_form_in_place_of_json_is_refused(self) -> None:
        """What looks for the token against forged requests has taken the form in before the view asks for it."""
        mark, page = self.mark(), Client(enforce_csrf_checks=True)
        page.force_login(self.owner)
        page.get(reverse("bench", args=[mark.id]))
        token = page.cookies["csrftoken"].value
        for name in ("bench-change", "bench-try", "bench-undo", "bench-redo", "bench-keep"):
            with self.subTest(name):
                answer = page.post(reverse(name, args=[mark.id]), {"kind": "x"}, headers={"X-CSRFToken": token})
                self.assertEqual((answer.status_code, answer.json()["error"][:11]), (400, "The request"))

    def test_refusals_name_field_and_position(self) -> None:
        answer = self.change(self.mark(), "set-field", step="rim", field="radius", value="3u $")
        self.assertEqual(answer.status_code, 422)
        data = answer.json()
        self.assertEqual((data["code"], data["position"]), ("unexpected-sign", 3))

    def test_odd_states_of_the_view_are_taken_as_defaults(self) -> None:
        mark = self.mark()
        query = {"step": "x" * 500, "view": "<b>", "every": "-4", "needle": "9" * 40}
        self.assertEqual(self.client.get(reverse("bench", args=[mark.id]), query).status_code, 200)

    def test_an_empty_plan_has_a_bench_and_a_delivery(self) -> None:
        mark = self.mark(Plan(title="Blank"))
        self.assertContains(self.client.get(reverse("bench", args=[mark.id])), "An empty sheet")
        self.assertContains(self.client.get(reverse("delivery", args=[mark.id])), "nothing to deliver")
        self.assertEqual(self.client.get(reverse("delivery-svg", args=[mark.id])).status_code, 404)
