"""What is remembered is complete: after each kind of change, in every view, the page is what a fresh process draws."""

from __future__ import annotations

import itertools

from django.urls import reverse

from kagami.plan.language.text import parse_text
from tests.web.studio import StudioCase
from web.bench import panel, sheet, stencils
from web.bench.state import VIEWS
from web.evaluation.door import HERE
from web.marks.models import Mark
from web.pictures import mirror

PLAN = """Mark: Trial
Module: 3 mm
Sheet: 24u
Measure: gap = u/4
Tone: dark = #1f2c4a
Tone: pale = 40% lighter than dark

Line axis through O at 90°.
Circle rim on O with radius 6u.
Circle eye on 1u right and gap up from O with radius width of rim / 6.
Bar beam from top of eye at 90°, 1u wide and 5u long.
Turn beam round O, 6 copies: beams.
Of rim and beams keep nothing, the rest dropped: piece light.
Unite every second copy of beams: piece evens.
Fill evens with dark and pale: pieces toned.
"""
CHANGES = (
    ("set-tone", {"name": "dark", "value": "#0f6b57"}),
    ("set-module", {"value": "5 mm"}),
    ("set-measure", {"name": "gap", "value": "u/2"}),
    ("rename-measure", {"name": "gap", "new": "air"}),
    ("rename-step", {"step": "rim", "name": "old rim"}),
    ("rename-tone", {"name": "pale", "new": "fair"}),
    ("set-field", {"step": "beams", "field": "copies", "value": "8"}),
    ("set-field", {"step": "toned", "field": "tones", "value": "fair"}),
    ("set-guide", {"step": "evens", "guide": True}),
    ("add-sentence", {"text": "Move eye by 1u right and 0u up: moved."}),
    ("move-step", {"step": "axis", "position": 3}),
    ("set-field", {"step": "eye", "field": "radius", "value": "gapless"}),
    ("rename-mark", {"title": "Other"}),
    ("set-measure", {"name": "air", "value": "1u / 0"}),
    ("remove-step", {"step": "moved"}),
    ("add-tone", {"name": "night", "value": "80%"}),
)


def forget() -> None:
    """What a fresh process knows: nothing."""
    HERE.forget()
    for memo in (mirror.MIRRORS, panel.LINES, sheet.PATHS, sheet.INK, stencils.STENCILS):
        memo.clear()


class Remembered(StudioCase):
    def parts(self, mark: Mark) -> list[dict]:
        views = itertools.product(VIEWS, ("", "light", "eye"), ("", "3"))
        address = reverse("bench-state", args=[mark.id])
        queries = [{"view": view, "step": step, "needle": needle, "every": "2"} for view, step, needle in views]
        return [self.client.get(address, query).json()["parts"] for query in queries]

    def test_warm_pages_equal_fresh_ones_after_each_kind_of_change(self) -> None:
        forget()
        mark = self.mark(parse_text(PLAN))
        other = self.mark(parse_text(PLAN.replace("Sheet: 24u", "Sheet: 30u").replace("Module: 3 mm", "Module: 4 mm")))
        self.parts(other)
        for kind, given in CHANGES:
            self.parts(mark)
            answer = self.change(mark, kind, **given)
            self.assertEqual(answer.status_code, 200, (kind, answer.content[:200]))
            warm = self.parts(mark)
            forget()
            with self.subTest(kind, **given):
                self.assertEqual(warm, self.parts(mark))
                self.assertEqual(self.post("bench-undo", mark).status_code, 200)
                again = self.parts(mark)
                forget()
                self.assertEqual(again, self.parts(mark))
                self.post("bench-redo", mark)
