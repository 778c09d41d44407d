"""The parts of the Bench's page as they are sent: what evaluators draw, and what the page keeps of it."""

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.urls import reverse

from kagami.plan.messages import number_text
from web.bench.live.tokens import token_for
from web.bench.state import Looking
from web.bench.works import Standing, Under, draw_bench
from web.evaluation.door import ask
from web.marks.models import Mark
from web.marks.references import current_of
from web.marks.services import history
from web.sketches.models import Sketch


def parts_of(user: AbstractBaseUser, mark: Mark, standing: Standing, state: Looking, since: str = "") -> dict[str, Any]:
    """The parts of the page, and what the page keeps: the revision and what is looked at; `since` is what it shows."""
    return {
        "revision": mark.current.number,
        "words": mark.current.words,
        "title": mark.name,
        "token": token_for(user, mark.pk, mark.current.number, mark.brand.studio_id),
        "state": {
            "step": state.step,
            "view": state.view,
            "every": str(state.every),
            "without": " ".join(state.without),
            "needle": "" if state.needle is None else str(state.needle),
        },
        **ask(draw_bench, current_of(mark), mark.pk, standing, state, since),
    }


def standing_of(mark: Mark, can_redo: bool | None = None) -> Standing:
    """Where a mark stands in its history, and its sketches; `can_redo` where that is known already."""
    revision = mark.current
    further = history.can_redo(mark) if can_redo is None else can_redo
    sketches = list(mark.sketches.all())
    return Standing(
        revision.number,
        revision.words,
        revision.parent_id is not None,
        further,
        next((_under(one) for one in sketches if one.under), None),
        tuple(_under(one) for one in sketches if not one.under),
    )


def _under(sketch: Sketch) -> Under:
    """A sketch as evaluators draw it."""
    return Under(
        sketch=sketch.pk,
        name=sketch.name,
        address=reverse("bench-sketch", args=[sketch.mark_id, sketch.pk]),
        shown=sketch.shown,
        darkness=sketch.darkness,
        middle=sketch.lying.middle,
        size=(sketch.wide, sketch.wide * sketch.height / sketch.width),
        turned=sketch.turned,
        values={
            "wide": number_text(sketch.wide),
            "turned": number_text(sketch.turned),
            "right": number_text(sketch.right),
            "up": number_text(sketch.up),
        },
        has_before=sketch.before is not None,
    )
