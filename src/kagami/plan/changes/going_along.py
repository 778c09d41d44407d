"""Steps that go by a straight line of another figure: which of its lines, where that has several."""

from __future__ import annotations

from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.figures import FigureKind
from kagami.plan.places.selecting import lines_of, plain_id
from kagami.plan.steps import Step


def done_to(cls: type[Step]) -> str:
    """The field of the figure that something is done to along a line; empty where there is none."""
    kinds = cls.field_kinds().items()
    return next((name for name, kind in kinds if isinstance(kind, FigureKind) and name != cls.along), "")


def along_one_line(step: Step, result: Result, at: Point | None) -> Step:
    """The step by one of the lines (see `one_line`)."""
    cls = type(step)
    if not cls.along:
        return step
    other = done_to(cls)
    meant = one_line(cls, step[cls.along], step[other] if other else "", result, at)
    return step if meant == step[cls.along] else cls.model_validate({**step.model_dump(), cls.along: meant})


def one_line(cls: type[Step], line: str, figure: str, result: Result, at: Point | None = None) -> str:
    """The reference to one of the lines, where what a step goes by has several: to that which was pointed `at`; else to
    one that has the whole figure on one side of it, an upright one first. What goes by all lines does so.
    """
    outcome = result.outcomes.get(line)
    lines = lines_of(outcome.figure) if outcome and outcome.figure and not cls.along_all else {}
    if len(lines) < 2:
        return line
    made = result.outcomes.get(plain_id(figure))
    box = made.figure.box if made and made.figure else None
    corners = [Point(x, y) for x in (box.left, box.right) for y in (box.bottom, box.top)] if box else []

    def straddled(way: str) -> bool:
        sides = [lines[way].side_of(corner) for corner in corners]
        return min(sides, default=0.0) < -LENGTH and max(sides, default=0.0) > LENGTH

    def order(way: str) -> tuple[float, bool]:
        return (abs(lines[way].side_of(at)) if at else 0.0, straddled(way))

    return f"{line}#{min(lines, key=order)}"
