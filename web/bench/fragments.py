"""The parts of the Bench that a change may touch, as HTML; the same partials serve the first page and every answer."""

from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest
from django.template.loader import render_to_string

from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from web.bench.mirror import NO_MIRROR, draw_mirror
from web.bench.panel import draw_panel
from web.bench.sheet import NO_SHEET, draw_sheet
from web.bench.state import VIEWS, Looking
from web.faults import Fault, guarded
from web.marks.models import Mark
from web.marks.services.evaluation import CACHE, evaluated
from web.marks.services.history import can_redo


@dataclass(frozen=True)
class Bench:
    """A mark on the Bench: its plan, evaluated whole and up to the needle."""

    mark: Mark
    plan: Plan
    state: Looking

    def whole(self) -> Result:
        """The whole plan, evaluated."""
        return evaluated(self.plan)

    def at_needle(self) -> Result:
        """The plan up to the needle."""
        return evaluate(self.plan, CACHE, self.state.position(self.plan))

    def context(self) -> dict[str, Any]:
        """What all partials of the Bench draw from."""
        whole = self.whole()
        sheet = guarded("the sheet", lambda: draw_sheet(self.plan, self.at_needle(), self.state))
        mirror = guarded("the Mirror", lambda: draw_mirror(whole))
        return {
            "mark": self.mark,
            "plan": self.plan,
            "state": self.state,
            "views": VIEWS,
            "panel": draw_panel(self.plan, whole, self.state),
            "sheet": NO_SHEET if isinstance(sheet, Fault) else sheet,
            "mirror": NO_MIRROR if isinstance(mirror, Fault) else mirror,
            "faults": [part.number for part in (sheet, mirror) if isinstance(part, Fault)],
            "can_undo": self.mark.current.parent_id is not None,
            "can_redo": can_redo(self.mark),
        }


PARTS = ("progress", "plan", "sheet", "mirror")


def fragments(bench: Bench, request: HttpRequest) -> dict[str, Any]:
    """Each part as HTML, and what the page keeps: the revision and the active step."""
    context = bench.context()
    return {
        "revision": bench.mark.current.number,
        "words": bench.mark.current.words,
        "title": bench.plan.title,
        "state": {
            "step": bench.state.step,
            "view": bench.state.view,
            "every": str(bench.state.every),
            "needle": "" if bench.state.needle is None else str(bench.state.needle),
        },
        "parts": {part: render_to_string(f"bench/_{part}.html", context, request) for part in PARTS},
    }
