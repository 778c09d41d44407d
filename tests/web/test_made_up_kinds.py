"""The Bench takes a kind of step and of field that it has never heard of."""

from __future__ import annotations

from django.urls import reverse

from tests.plan.fields.ramp import ramps
from tests.web.studio import StudioCase
from web.marks.models import Mark


class MadeUpKinds(StudioCase):
    def test_it_has_a_verb_a_slip_a_token_and_takes_what_is_typed(self) -> None:
        with ramps():
            mark = self.mark()
            self.assertContains(self.client.get(reverse("bench", args=[mark.id])), ">ramp</button>")
            slip = self.client.get(reverse("bench-slip", args=[mark.id, "ramp"]))
            self.assertContains(slip, ">3u over 4u</textarea>")
            answer = self.change(mark, "add-step", step_kind="ramp", fields={"slope": "1u over 2u"}, position=99)
            self.assertIn(">1u over 2u</textarea>", answer.json()["parts"]["plan"])
            answer = self.change(mark, "set-field", step="ramp", field="slope", value="1u over")
            self.assertEqual(answer.status_code, 422)
            answer = self.change(mark, "set-field", step="ramp", field="slope", value="lens.radius over 2u")
            self.assertEqual(answer.status_code, 422)
            self.change(mark, "set-field", step="ramp", field="slope", value="width of lens over 2u")
            stored = Mark.objects.get(id=mark.id).current.load().step("ramp")
            self.assertEqual(stored["slope"], ("width of “lens”", "2u"))
