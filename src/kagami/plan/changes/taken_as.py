"""What a line drawn by hand may be taken as: a figure in round numbers on anchors (see `drawn_line`), or few nodes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from kagami.plan import limits
from kagami.plan.changes.drawn_line import figures_of, free_line
from kagami.plan.changes.round_figures import said
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import write_sentence
from kagami.plan.naming import free_name
from kagami.plan.steps import KINDS
from kagami.plan.steps.free import FreeStroke


def taken_as(step: FreeStroke, result: Result) -> Iterator[tuple[str, str]]:
    """What a stroke may be taken as, the nearest first: what that is called, with what is left over, and its sentence.
    Nothing where it is not drawn.
    """
    outcome = result.outcomes.get(step.id)
    if outcome is None or outcome.figure is None:
        return
    curves = outcome.figure.whole.outlines[0].curves
    earlier, closed = _before(step, result), step.form == "closed"
    tolerance = earlier.values.of(step.tolerance)
    for offer in figures_of(curves, earlier, tolerance, closed=closed):
        yield said(offer), _sentence(step, offer.kind, offer.fields, result)
    free = free_line(curves, tolerance, closed=closed)
    if free is not None:
        text = _sentence(step, free.kind, free.fields, result)
        if len(text) <= limits.SENTENCE_LENGTH:
            yield free.label, text


def _before(step: FreeStroke, result: Result) -> Result:
    """What was drawn before a step: it can hang on nothing else."""
    count = result.plan.steps.index(step)
    known = {other.id for other in result.plan.steps[:count]}
    return replace(result, outcomes={key: one for key, one in result.outcomes.items() if key in known})


def _sentence(step: FreeStroke, kind: str, fields: dict[str, Any], result: Result) -> str:
    """The step as one of another kind. A name that only says that it is a stroke says what it is instead."""
    cls = KINDS[kind]
    name = step.name
    if name == FreeStroke.noun or name.removeprefix(f"{FreeStroke.noun} ").isdigit():
        name = free_name(result.plan, cls.noun)
    kept = {"id": step.id, "name": name, "guide": step.guide, "muted": step.muted, "heading": step.heading}
    return write_sentence(cls.model_validate({**fields, **kept}), result.plan.names())
