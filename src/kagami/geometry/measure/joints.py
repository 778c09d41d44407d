"""The joints of outlines: where tangent or curvature break, and which nodes are not needed."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum
from typing import Final

import numpy as np

from kagami.geometry.bezier import Cubic
from kagami.geometry.joining import join
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import KINK, LENGTH, SAME, SMOOTH

NEAR_SHARE: Final = 0.02
"""Nodes nearer to each other than this share of their outline's mean side are too near."""


class Form(Enum):
    """How two curves follow each other."""

    CORNER = "corner"
    KINK = "kink"
    """A small turn, most likely meant to be smooth."""
    SMOOTH = "smooth"
    """Tangents agree, curvatures do not: a line into an arc."""
    EVEN = "even"
    """Tangents and curvatures agree."""


@dataclass(frozen=True, slots=True)
class Joint:
    """The joint of curve `before` with curve `after` (numbered through the shape): the turn of the tangent there
    (radians, positive to the left) and the curvatures on both sides (1/u, positive where it bends to the left).
    """

    place: Point
    before: int
    after: int
    turn: float
    curvature_before: float
    curvature_after: float

    @property
    def form(self) -> Form:
        """How the curves follow each other."""
        if abs(self.turn) > KINK:
            return Form.CORNER
        if abs(self.turn) > SMOOTH:
            return Form.KINK
        slack = SAME * max(1.0, abs(self.curvature_before), abs(self.curvature_after))
        return Form.EVEN if abs(self.curvature_after - self.curvature_before) <= slack else Form.SMOOTH


class Fault(Enum):
    """What is wrong with a node."""

    NEEDLESS = "needless"
    """The curves on both sides are one curve."""
    DOUBLED = "doubled"
    """The next node is in the same place."""
    TOO_NEAR = "too near"
    """The next node is very near."""
    STILL = "still"
    """A handle of no length: the curve has no speed there."""
    KINKED = "kinked"
    """The handles break a joint that is nearly smooth."""


@dataclass(frozen=True, slots=True)
class NodeFault:
    """A node that should be mended, where it is and why."""

    place: Point
    after: int
    fault: Fault


def joints(shape: Shape) -> tuple[Joint, ...]:
    """All joints of a shape, outline by outline."""
    table = tabulate([shape])
    every = np.arange(len(table))
    zeros, ones = np.zeros(len(every)), np.ones(len(every))
    leaving, arriving = table.ask("heading", every, zeros), table.ask("heading", every, ones)
    begins, ends = table.curvature(every, zeros), table.curvature(every, ones)
    answer = []
    for before, after, place in _neighbours(shape):
        turn = math.remainder(float(leaving[after] - arriving[before]), math.tau)
        answer.append(Joint(place, before, after, turn, float(ends[before]), float(begins[after])))
    return tuple(answer)


def _neighbours(shape: Shape) -> list[tuple[int, int, Point]]:
    """Pairs of curves that follow each other, and the node between; a whole circle or ellipse has none."""
    answer = []
    first = 0
    for outline in shape:
        count = len(outline.curves)
        lone = count == 1 and not isinstance(outline.curves[0], Cubic)
        for k in range(0 if lone else count if outline.closed else count - 1):
            answer.append((first + k, first + (k + 1) % count, outline.curves[k].end))
        first += count
    return answer


def node_faults(shape: Shape) -> tuple[NodeFault, ...]:
    """Nodes that an outline would be better without, or that need mending."""
    answer = []
    curves = shape.curves
    near = _near_limits(shape)
    for joint in joints(shape):
        first, second = curves[joint.before], curves[joint.after]
        if second.length <= LENGTH * 100:
            answer.append(NodeFault(joint.place, joint.after, Fault.DOUBLED))
        elif joint.before != joint.after and join(first, second) is not None:
            answer.append(NodeFault(joint.place, joint.after, Fault.NEEDLESS))
        elif second.length <= near[joint.after]:
            answer.append(NodeFault(joint.place, joint.after, Fault.TOO_NEAR))
        elif joint.form is Form.KINK:
            answer.append(NodeFault(joint.place, joint.after, Fault.KINKED))
        elif _stands_still(first, second):
            answer.append(NodeFault(joint.place, joint.after, Fault.STILL))
    return tuple(answer)


def _near_limits(shape: Shape) -> list[float]:
    answer: list[float] = []
    for outline in shape:
        lengths = [curve.length for curve in outline.curves]
        answer.extend([NEAR_SHARE * sum(lengths) / len(lengths)] * len(lengths))
    return answer


def _stands_still(first: object, second: object) -> bool:
    ends = isinstance(first, Cubic) and first.second_handle.distance(first.end) <= LENGTH
    return ends or (isinstance(second, Cubic) and second.start.distance(second.first_handle) <= LENGTH)
