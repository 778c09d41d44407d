"""The Bench's parts as the server draws them."""

from __future__ import annotations

import re
from unittest import mock

from django.contrib.auth.models import User
from django.urls import reverse
from lxml import html

from kagami.plan.language.text import parse_text
from tests.web.studio import StudioCase
from web.bench.slip import verbs
from web.marks.access import mark_of
from web.marks.models import Mark
from web.marks.services.shelving import remove_mark


class Parts(StudioCase):
    def state(self, mark, **query: str) -> dict:
        return self.client.get(reverse("bench-state", args=[mark.id]), query).json()

    def test_the_regions_view_offers_every_region_with_its_orbit(self) -> None:
        sheet = self.state(self.mark(), step="light", view="regions")["parts"]["sheet"]
        regions = re.findall(
            r'class="region( kept)?"\s+data-region="([^"]+)"\s+data-orbit="(\d+)"\s+data-hint="([^"]+)"', sheet
        )
        self.assertEqual(sum(kept != "" for kept, *_ in regions), 12)
        self.assertEqual(len({orbit for kept, _, orbit, _ in regions if kept}), 1)
        self.assertIn("drop 12 regions: in beams and rim", {hint for *_, hint in regions})

    def test_beside_what_the_page_has_already_everything_has_an_id(self) -> None:
        """Else the page would take something for it that merely stands where it stood."""
        mark = self.mark()
        shown = self.state(mark)["shown"]
        parts = self.state(mark, needle="2", step="lens", view="both", shown=shown)["parts"]
        counted = 0
        for part in ("plan", "sheet"):
            for one in html.fromstring(f"<div>{parts[part]}</div>").xpath("//*[@data-same]"):
                counted += 1
                self.assertEqual([other.tag for other in one.getparent() if not other.get("id")], [])
        self.assertGreater(counted, 10)

    def test_how_far_a_pick_reaches_is_offered(self) -> None:
        plan = self.state(self.mark(), step="light", view="regions", every="2")["parts"]["plan"]
        self.assertIn("all round: 12", plan)
        self.assertRegex(plan, r'data-every="2"[^>]*aria-pressed="true"[^>]*>every 2nd: 6<')

    def test_views_show_lines_and_ink_together_or_alone(self) -> None:
        mark = self.mark()
        for view, lines, ink in (("both", True, True), ("lines", True, False), ("ink", False, True)):
            sheet = self.state(mark, view=view)["parts"]["sheet"]
            with self.subTest(view):
                self.assertEqual('class="hair"' in sheet, lines)
                self.assertEqual('<path id="i-light-"' in sheet, ink)

    def test_the_needle_shows_the_construction_at_that_moment(self) -> None:
        sheet = self.state(self.mark(), needle="2")["parts"]["sheet"]
        self.assertIn('data-step="foot"', sheet)
        self.assertIn('class="line later" data-step="rim"', sheet)  # what comes later is pale
        self.assertNotIn('<path id="i-light-"', sheet)

    def test_where_the_rest_is_kept_the_sentence_says_what_is_not(self) -> None:
        mark = self.mark()
        answer = self.change(mark, "set-field", step="light", field="rest", value="kept").json()
        self.assertRegex(answer["parts"]["plan"], r"all (regions|but \d+ regions?)</b>")
        self.assertNotRegex(answer["parts"]["plan"], r"<b class=\"kept\">\d+ region")

    def test_a_failed_step_shows_its_reason_in_place(self) -> None:
        mark = self.mark()
        answer = self.change(mark, "set-field", step="lens", field="radius", value="gap - 3u").json()
        self.assertIn("it must be more than 0", answer["parts"]["plan"])
        self.assertIn("This step waits for lens", answer["parts"]["plan"])
        self.assertIn("wants mending", answer["parts"]["mirror"])

    def test_the_mirror_shows_sizes_reversed_and_flipped_with_readings(self) -> None:
        mirror = self.state(self.mark())["parts"]["mirror"]
        for text in ('width="64"', 'width="32"', 'width="16"', "reversed", "scale(-1 1)", "12-fold, mirrored", "± 0"):
            self.assertIn(text, mirror)

    def test_every_verb_has_a_slip(self) -> None:
        mark = self.mark()
        for _, families in verbs():
            for verb in (verb for family in families for verb in family.verbs):
                answer = self.client.get(reverse("bench-slip", args=[mark.id, verb.kind]))
                with self.subTest(verb.kind):
                    self.assertContains(answer, f'data-kind="{verb.kind}"')
        self.assertEqual(self.client.get(reverse("bench-slip", args=[mark.id, "blob"])).status_code, 404)

    def test_choices_are_those_before_the_step(self) -> None:
        address = reverse("bench-choices", args=[self.mark().id])
        anchors = self.client.get(address, {"what": "anchors", "of": "rim"}).content.decode()
        self.assertIn('data-value="lens.top"', anchors)
        self.assertNotIn('data-value="beam.head"', anchors)
        figures = self.client.get(address, {"what": "figures", "of": "light", "many": "1", "chosen": "lens"})
        self.assertRegex(figures.content.decode(), r'data-value="lens"[^>]*aria-pressed="true"')

    def test_lines_are_offered_only_where_they_are_of_use(self) -> None:
        mark = self.mark()
        self.change(mark, "add-step", step_kind="centre-lines", fields={"name": "axes"})
        address = reverse("bench-choices", args=[mark.id])
        for kind, offered in (("carve", True), ("turn", True), ("union", False), ("difference", False)):
            found = self.client.get(address, {"what": "figures", "kind": kind}).content.decode()
            with self.subTest(kind):
                self.assertEqual('data-value="axes"' in found, offered)

    def test_what_something_goes_by_has_a_straight_line(self) -> None:
        mark = self.mark()
        self.change(mark, "add-step", step_kind="centre-lines", fields={"name": "axes"})
        address = reverse("bench-choices", args=[mark.id])
        for kind, field, offered in (
            ("reflect", "line", {"axes", "beam"}),
            ("reflect", "figure", {"axes", "beam", "rim"}),
            ("split", "line", {"axes", "beam", "rim"}),
            ("union", "figures", {"beam", "rim"}),
        ):
            asked = {"what": "figures", "kind": kind, "field": field}
            found = self.client.get(address, asked).content.decode()
            with self.subTest(kind, field=field):
                there = {name for name in ("axes", "beam", "rim") if f'data-value="{name}"' in found}
                self.assertEqual(there, offered)
                self.assertIn('data-only="Only ', found)

    def test_a_new_carve_opens_its_regions(self) -> None:
        mark = self.mark()
        answer = self.change(mark, "add-step", step_kind="carve", fields={"figures": ["lens", "rim"]}).json()
        self.assertEqual((answer["state"]["view"], answer["state"]["step"]), ("regions", "piece"))


class Deleted(StudioCase):
    def test_a_mark_that_is_deleted_while_it_is_looked_at_is_not_found(self) -> None:
        def found_and_deleted(actor: User, mark_id: int) -> Mark:
            mark = mark_of(actor, mark_id)
            remove_mark(actor, mark_of(actor, mark_id))
            return mark

        for view in ("bench", "bench-checks", "bench-state"):
            mark = self.mark()
            with self.subTest(view), mock.patch("web.bench.views.mark_of", found_and_deleted):
                self.assertEqual(self.client.get(reverse(view, args=[mark.id])).status_code, 404)


class Remarks(StudioCase):
    def test_a_choice_in_a_muted_figure_is_remarked_with_the_figures_name(self) -> None:
        plan = parse_text(
            "Circle a on O with radius 3u.\n"
            "[b-1] Circle “the moon” on 2u right and 0u up from O with radius 3u, muted.\n"
            "Of a and “the moon” keep in “the moon”, 1 of 1, here; in a, 1 of 1, here, the rest dropped: piece kept.\n"
        )
        text = self.client.get(reverse("bench", args=[self.mark(plan).id]), {"step": "kept"}).content.decode()
        self.assertIn("A chosen region in the moon is not there at these measures.", text)
