"""The kinds of step. Each module holds a kind whole: its values, its sentence, what it draws."""

from kagami.plan.steps.bar import Bar
from kagami.plan.steps.base import KINDS, Chapter, Step
from kagami.plan.steps.carve import Carve, Pick
from kagami.plan.steps.circle import Circle
from kagami.plan.steps.combine import Difference, Exclusion, Intersection, Union
from kagami.plan.steps.guides import CentreLines, GuideLine, PointStep
from kagami.plan.steps.polygon import Polygon
from kagami.plan.steps.turn import Turn

__all__ = [
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
]
