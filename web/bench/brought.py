"""Work on drawings that are brought, for evaluators (see `web.evaluation.door`): reading one, which may be made to
harm, and showing what it comes to.
"""

from __future__ import annotations

from django.template.loader import render_to_string

from kagami.exchange.brought.telling import Sentences, sentences_of
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.messages import number_text
from web.pictures.picture import picture_of


def drawing_read(plan: Plan, _cache: Cache, data: bytes, called: str) -> str:
    """What a drawing would come to, as the form in which it is brought (raises `DrawingError`)."""
    found = sentences_of(data, plan, called)
    alone = change(Plan(sheet=plan.sheet), "add-sentences", {"text": found.text}).plan
    context = {
        "called": called,
        "picture": picture_of(evaluate(alone)),
        "steps": len(alone.steps),
        "counts": found.counts,
        "width": f"{number_text(round(found.width, 4))}u",
        "remarks": [str(remark) for remark in found.remarks],
    }
    return render_to_string("bench/_outlines.html", context)


def drawing_told(plan: Plan, _cache: Cache, data: bytes, called: str, width: float) -> Sentences:
    """A drawing as sentences, so wide in u (raises `DrawingError`)."""
    return sentences_of(data, plan, called, width)
