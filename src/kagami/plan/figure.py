"""What a step makes: shapes, anchors, and the symmetry that it is known to have."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from kagami.geometry.outline import Shape
from kagami.geometry.point import Point


@dataclass(frozen=True, slots=True)
class TurnGroup:
    """Turns by 1/order of a whole turn about a centre."""

    centre: Point
    order: int


@dataclass(frozen=True, slots=True)
class Figure:
    """The outcome of a step. A repeat has several `copies`, all else one; `anchors` are places by name."""

    copies: tuple[Shape, ...]
    anchors: Mapping[str, Point] = field(default_factory=dict)
    turn: TurnGroup | None = None

    @property
    def bounds_area(self) -> bool:
        """Whether it can carry ink."""
        return all(shape.closed for shape in self.copies)

    @property
    def curves(self) -> int:
        """How many curves it has."""
        return sum(len(outline.curves) for shape in self.copies for outline in shape)
