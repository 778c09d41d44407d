"""Plans that once took a mark and the Shelf down: every page answers, and the way back works."""

from __future__ import annotations

import time
from unittest import mock

from django.urls import reverse

from kagami.plan.language.text import parse_text
from tests.web.studio import StudioCase
from web.evaluation.door import HERE
from web.evaluation.evaluators import Busy, Stopped

HEAD = "Mark: Trial\nModule: 3 mm\nSheet: 30u\n\n"
FREE = "Outline free, closed, drawn from O through 0u, 0u [0, 0 | 1u, 0u]; 3u, 1u [0u, -1u | 0u, 1u]; 0u, 3u.\n"
PLANS = {
    "a band on a node without handles": FREE + "Band b, 1u wide, on free, ends butt and corners mitred.\n",
    "drawn to points": "Oval bud on O, 13u wide and 26u high, turned by 0°.\nDraw bud to points at both ends: blade.\n"
    "Circle eye on O with radius 2u.\nFrom blade take eye: piece mark.\n",
    "a cross-hatch": "Bar b from O at 0°, 0.01u wide and 9u long.\n"
    "March b by 0u right and 0.03u up, 300 altogether: m.\n"
    "Turn m round O in steps of 17°, 2 altogether: t.\n",
    "too many copies": "Circle c on O with radius 3u.\nMarch c by 0.01u right and 0.003u up, 360 altogether: m.\n"
    "Turn m round O, 50 copies: t.\n",
    "forty slices": "Wedge slice on O with radius 10u from 0° to 9°.\nTurn slice round O, 40 copies: slices.\n"
    "Part slices by 0.1u, each giving half: parted.\n",
}
DRAWN = {"a band on a node without handles", "drawn to points", "forty slices"}


class Heavy(StudioCase):
    def test_every_page_answers_and_every_step_can_be_removed(self) -> None:
        for name, text in PLANS.items():
            mark = self.mark(parse_text(HEAD + text))
            with self.subTest(name):
                begun = time.thread_time()
                pages = [self.client.get(reverse("shelf"))]
                pages += [self.client.get(reverse(page, args=[mark.id])) for page in ("bench", "delivery", "range")]
                self.assertEqual([page.status_code for page in pages[:3]], [200, 200, 200])
                self.assertIn(pages[3].status_code, (200, 422))
                self.assertLess(time.thread_time() - begun, 60)  # a hang, not a slow machine
                self.assertEqual(b'class="fault"' in pages[1].content, name not in DRAWN)
                last = self.plan_of(mark).steps[-1].id
                answer = self.change(mark, "remove-step", step=last)
                self.assertEqual(answer.status_code, 200, answer.content[:200])
                self.assertEqual(self.post("bench-undo", mark).status_code, 200)

    def test_a_fault_of_ours_is_shown_with_its_number_and_logged(self) -> None:
        from kagami.plan.steps.circle import Circle

        mark = self.mark(
            parse_text(HEAD + "Circle c on O with radius 3.21u.\nBar b from O at 0°, 1u wide and 9u long.\n")
        )
        HERE.forget()
        with (
            mock.patch.object(Circle, "draw", side_effect=ZeroDivisionError("inside")),
            self.assertLogs("kagami") as log,
        ):
            page = self.client.get(reverse("bench", args=[mark.id])).content.decode()
        number = log.records[0].getMessage().split()[1]
        self.assertIn(f"noted under the number {number}", page)
        self.assertIsNotNone(log.records[0].exc_info)
        self.assertIn('data-step="b"', page)
        HERE.forget()

    def test_a_mark_that_cannot_be_pictured_says_so_on_its_card(self) -> None:
        with (
            mock.patch("web.marks.services.works.picture_of", side_effect=RuntimeError("no")),
            self.assertLogs("web.faults"),
        ):
            self.mark()
        page = self.client.get(reverse("shelf"))
        self.assertContains(page, "cannot be pictured")

    def test_where_the_bench_cannot_be_drawn_there_is_a_way_back(self) -> None:
        mark = self.mark()
        self.change(mark, "set-field", step="rim", field="radius", value="7u")
        with (
            mock.patch("web.bench.works.draw_panel", side_effect=RuntimeError("no")),
            self.assertLogs("web.faults"),
        ):
            page = self.client.get(reverse("bench", args=[mark.id]))
            answer = self.change(mark, "set-field", step="rim", field="radius", value="6u").json()
        self.assertEqual(page.status_code, 500)
        self.assertIn("Undo the last change", page.content.decode())
        self.assertTrue(answer["kept"])
        self.assertEqual(self.plan_of(mark).step("rim").radius, "6u")
        self.client.post(reverse("bench-step-back", args=[mark.id]))
        self.assertEqual(self.plan_of(mark).step("rim").radius, "7u")
        self.assertEqual(self.client.get(reverse("delivery-plan", args=[mark.id])).status_code, 200)

    def test_large_sheets_have_an_end(self) -> None:
        mark = self.mark()
        address = reverse("range", args=[mark.id])
        with mock.patch("kagami.plan.limits.RANGE_SECONDS", -1.0):
            self.assertContains(self.client.get(address), "as long as one sheet may take", status_code=422)
        self.assertEqual(self.client.get(address).status_code, 200)

    def test_what_an_evaluator_does_not_answer_is_said_and_is_no_fault(self) -> None:
        mark = self.mark()
        for error, status in ((Busy("others draw"), 429), (Stopped("too large"), 422)):
            with mock.patch("web.bench.views.ask_heavy", side_effect=error):
                answer = self.client.get(reverse("bench-checks", args=[mark.id]))
            self.assertEqual((answer.status_code, answer.json()["error"]), (status, str(error)))
            with mock.patch("web.delivery.views.ask", side_effect=error):
                tiles = reverse("delivery-tiles", args=[mark.id])
                page, told = self.client.get(tiles), self.client.get(tiles, headers={"accept": "application/json"})
            self.assertContains(page, str(error), status_code=503)
            self.assertEqual((told.status_code, told.json()["error"]), (503, str(error)))
