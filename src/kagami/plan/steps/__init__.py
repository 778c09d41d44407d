"""The kinds of step. Each module holds a kind whole: its values, its sentence, what it draws."""

from typing import Final

from kagami.plan.steps.bar import Bar
from kagami.plan.steps.base import KINDS, Chapter, Step, kind_of
from kagami.plan.steps.carve import Carve, Pick
from kagami.plan.steps.circle import Circle
from kagami.plan.steps.combine import Difference, Exclusion, Intersection, Union
from kagami.plan.steps.guides import CentreLines, GuideLine, PointStep
from kagami.plan.steps.polygon import Polygon
from kagami.plan.steps.turn import Turn

IN_ORDER_OF_WORK: Final[tuple[type[Step], ...]] = (
    CentreLines,
    GuideLine,
    PointStep,
    Circle,
    Bar,
    Polygon,
    Turn,
    Carve,
    Union,
    Difference,
    Intersection,
    Exclusion,
)
"""All kinds of step, as a designer meets them."""

__all__ = [
    "IN_ORDER_OF_WORK",
    "KINDS",
    "Bar",
    "Carve",
    "CentreLines",
    "Chapter",
    "Circle",
    "Difference",
    "Exclusion",
    "GuideLine",
    "Intersection",
    "Pick",
    "PointStep",
    "Polygon",
    "Step",
    "Turn",
    "Union",
    "kind_of",
]
