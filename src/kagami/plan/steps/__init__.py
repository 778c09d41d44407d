"""The kinds of step. Each module holds kinds whole: their values, their sentence, what they draw."""

from typing import Final

from kagami.plan.steps.arcs import ArcStep, Ring, RingPart, Wedge
from kagami.plan.steps.bar import Bar, BarBetween, BoxBetween, BoxStep, Square
from kagami.plan.steps.base import KINDS, Chapter, Step, kind_of
from kagami.plan.steps.carve import Carve, Pick
from kagami.plan.steps.circle import (
    Circle,
    CircleBetween,
    CircleDiameter,
    CircleFitted,
    CircleThree,
    CircleThrough,
    CircleTouching,
    CircleTouchingTwo,
    Oval,
)
from kagami.plan.steps.combine import Difference, Exclusion, Intersection, Union
from kagami.plan.steps.free import FreeOutline, FreeStroke
from kagami.plan.steps.guides import (
    CentreLines,
    Diagonals,
    Grid,
    GuideLine,
    LineBetween,
    Parallel,
    PointStep,
    PolarGrid,
    PolarPoint,
)
from kagami.plan.steps.leaf import Drop, Leaf, Shield
from kagami.plan.steps.lines import PathStep, Segment
from kagami.plan.steps.placing import Against, Align, Move, Place, Rotate, Scale, Size, SizeInProportion, Widen
from kagami.plan.steps.polygon import Polygon, StandingPolygon, Star, StarPolygon
from kagami.plan.steps.refine import Band, Cast, Gap, Inlay, Offset, Round, RoundEach, RoundFar, RoundOne, Taper, Weave
from kagami.plan.steps.repeats import Echo, LetGo, March, Reflect, Spread
from kagami.plan.steps.reshaping import (
    BowStep,
    Divide,
    DrawToPoints,
    GroupStep,
    NodeForm,
    NodeOut,
    Split,
    TrueCurves,
)
from kagami.plan.steps.tone import Fill
from kagami.plan.steps.turn import Open, Turn, TurnPart, TurnReflect, TurnSizes

IN_ORDER_OF_WORK: Final[tuple[type[Step], ...]] = (
    CentreLines,
    Diagonals,
    GuideLine,
    LineBetween,
    Parallel,
    PointStep,
    PolarPoint,
    Grid,
    PolarGrid,
    Circle,
    CircleThrough,
    CircleDiameter,
    CircleThree,
    CircleTouching,
    CircleTouchingTwo,
    CircleBetween,
    CircleFitted,
    Oval,
    Ring,
    ArcStep,
    Wedge,
    RingPart,
    Bar,
    BarBetween,
    BoxStep,
    BoxBetween,
    Square,
    Polygon,
    StandingPolygon,
    Star,
    StarPolygon,
    Segment,
    PathStep,
    Leaf,
    Drop,
    Shield,
    FreeOutline,
    FreeStroke,
    Turn,
    TurnPart,
    TurnReflect,
    TurnSizes,
    Reflect,
    March,
    Spread,
    Echo,
    Open,
    LetGo,
    Move,
    Place,
    Rotate,
    Scale,
    Against,
    Align,
    Size,
    SizeInProportion,
    Widen,
    Carve,
    Union,
    Difference,
    Intersection,
    Exclusion,
    Divide,
    Split,
    GroupStep,
    Band,
    Taper,
    Offset,
    Gap,
    Weave,
    Inlay,
    Round,
    RoundFar,
    RoundEach,
    RoundOne,
    Cast,
    BowStep,
    DrawToPoints,
    NodeOut,
    NodeForm,
    TrueCurves,
    Fill,
)
"""All kinds of step, as a designer meets them."""

__all__ = [
    "IN_ORDER_OF_WORK",
    "KINDS",
    "Carve",
    "Chapter",
    "Circle",
    "FreeOutline",
    "Pick",
    "Step",
    "Turn",
    "kind_of",
]
