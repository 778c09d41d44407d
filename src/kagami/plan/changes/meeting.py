"""Pieces that meet without a gap: parted, or made one, by one step at the end of the plan."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import SAME
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.steps import add_step
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.checks import Checks, check_mark
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.messages import number_text


def part_meeting(plan: Plan, given: Given) -> Changed:
    """A step that parts the pieces that meet, by the mark's narrowest gap where it has one.

    Raises:
        ChangeRefused: no pieces meet.
    """
    checks, figures = _meeting(plan, given)
    fields: dict[str, object] = {"figures": figures}
    if checks.gaps:
        fields["gap"] = f"{number_text(checks.gaps[0].distance)}u"
    return _add("gap", fields, given, plan)


def unite_meeting(plan: Plan, given: Given) -> Changed:
    """A step that makes the pieces that meet one.

    Raises:
        ChangeRefused: no pieces meet.
    """
    _checks, figures = _meeting(plan, given)
    return _add("union", {"figures": figures}, given, plan)


def _meeting(plan: Plan, given: Given) -> tuple[Checks, list[str]]:
    result = evaluate(plan, given.cache)
    checks = check_mark(result)
    figures = list(dict.fromkeys(_at(result, checks.touching)))
    if not figures:
        raise ChangeRefused("nothing-meets")
    return checks, figures


def _at(result: Result, places: Sequence[Point]) -> Iterator[str]:
    """The steps whose pieces reach a place, in the plan's order."""
    for piece in pieces(result):
        if places and _reaches(piece.shape, places):
            yield piece.id


def _reaches(shape: Shape, places: Sequence[Point]) -> bool:
    """Whether the outline of a shape comes to one of the places."""
    table, at = tabulate([shape]), np.array(places)
    curve, which = (side.ravel() for side in np.meshgrid(np.arange(len(table)), np.arange(len(at))))
    near = table.ask("point", curve, table.ask("nearest", curve, at[which]), width=2) - at[which]
    return bool((np.hypot(near[:, 0], near[:, 1]) <= SAME).any())


def _add(kind: str, fields: dict[str, object], given: Given, plan: Plan) -> Changed:
    return add_step(plan, Given({"step_kind": kind, "fields": fields}, given.cache))
