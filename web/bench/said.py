"""What the pill says of a handle in hand."""

from django.utils.translation import gettext as _

from kagami.plan.changes.dragging import Dragged
from kagami.plan.document import Plan
from kagami.plan.messages import number_text
from kagami.plan.places.described import describe
from kagami.plan.translation import tr


def said_of(meant: Dragged, plan: Plan) -> str:
    """What is changed, what it was and is, and in which stops it goes."""
    step = plan.step(str(meant.given.get("step")))
    before, after = meant.before, meant.after
    if step is not None and step.field_kinds()[str(meant.given["field"])].is_place:
        names = plan.names()
        before, after = describe(before, names), describe(after, names)
    what = meant.owner or tr(str(meant.given["field"]).replace("_", " "))
    moved = _("{what} {before} → {after}") if before != after else _("{what} {before}")
    text = moved.format(what=what, before=before, after=after)
    nth, many = meant.among
    text = f"{text} · {nth} / {many}" if many > 1 else text
    return f"{text} · {_('stops of {stop}').format(stop=_stop(meant.stop))}" if meant.stop else text


def _stop(stop: float) -> str:
    """A stop as people say it: a quarter of u, not 0.25."""
    parts = round(1 / stop)
    return f"1/{parts}" if parts in (2, 4, 8, 16) and abs(stop * parts - 1) < 1e-9 else number_text(stop)
