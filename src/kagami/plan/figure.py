"""What a step makes: shapes, anchors, and the symmetry that it is known to have."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from kagami.geometry.boolean import union
from kagami.geometry.measure.size import Box, box
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point


@dataclass(frozen=True, slots=True)
class TurnGroup:
    """Turns by 1/order of a whole turn about a centre."""

    centre: Point
    order: int


@dataclass(frozen=True)
class Figure:
    """The outcome of a step. A repeat has several `copies`, all else one; `anchors` are places by name."""

    copies: tuple[Shape, ...]
    anchors: Mapping[str, Point] = field(default_factory=dict)
    turn: TurnGroup | None = None

    @cached_property
    def whole(self) -> Shape:
        """All copies' outlines as they are, overlaps included."""
        return Shape(tuple(outline for shape in self.copies for outline in shape))

    @cached_property
    def united(self) -> Shape:
        """All copies as one area."""
        return self.copies[0] if len(self.copies) == 1 else union(*self.copies)

    @cached_property
    def box(self) -> Box | None:
        """The tight box of all copies; None when there is no curve."""
        return box(self.whole) if self.whole else None

    @property
    def bounds_area(self) -> bool:
        """Whether it can carry ink."""
        return all(shape.closed for shape in self.copies)

    @property
    def curves(self) -> int:
        """How many curves it has."""
        return sum(len(outline.curves) for shape in self.copies for outline in shape)
