"""What a step makes: shapes, anchors, and the symmetry that it is known to have."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Final

from kagami.geometry.boolean import filled, union, unions
from kagami.geometry.measure.size import Box, box
from kagami.geometry.outline import Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.plan.tones.paint import Paint


def _box_places() -> dict[str, Callable[[Box], Point]]:
    """Places of a box by name: its sides' middles, corners and centre."""
    level = {"left": 0.0, "": 0.5, "right": 1.0}
    upright = {"bottom": 0.0, "": 0.5, "top": 1.0}

    def at(x: float, y: float) -> Callable[[Box], Point]:
        return lambda box: Point(box.left + x * box.width, box.bottom + y * box.height)

    return {
        "-".join(["box", *(word for word in (row, column) if word)] if row or column else ["box", "centre"]): at(x, y)
        for row, y in upright.items()
        for column, x in level.items()
    }


BOX_PLACES: Final = _box_places()
"""Places of a box, as shares of it: box-left, box-top-left, box-centre and so on."""


FEW_CURVES: Final = 400
"""So many curves of all tones are arranged at once; with more, what crosses what of other tones could cost too much."""


@dataclass(frozen=True)
class Figure:
    """The outcome of a step. A repeat has several `copies`, all else one; `anchors` are places by name."""

    copies: tuple[Shape, ...]
    anchors: Mapping[str, Point] = field(default_factory=dict)
    group: Group | None = None
    """The symmetry that it is known to have by its making."""
    tones: tuple[Paint, ...] = ()
    """What the copies are filled with, by name or as it is made; empty where nothing was laid."""
    layer: int = 0
    """Where it lies among all that is seen: 0 in the plan's order, above 0 nearer than all of that, below 0 farther."""
    apart: bool = False
    """Whether the copies are known to lie apart from each other by their making, so that together they are one area."""
    readings: Mapping[str, float] = field(default_factory=dict)
    """What is known of it by its making, such as the stem of letters: lengths in u, angles in degrees."""

    @cached_property
    def whole(self) -> Shape:
        """All copies' outlines as they are, overlaps included."""
        return one_shape(self.copies)

    @cached_property
    def united(self) -> Shape:
        """All copies as one area; what crosses itself is filled."""
        return self._one_area(self.copies)

    @cached_property
    def areas(self) -> tuple[Shape, ...]:
        """The area of each copy; what crosses itself is filled."""
        return (self.united,) if len(self.copies) == 1 else tuple(filled(copy) for copy in self.copies)

    def _one_area(self, copies: Sequence[Shape]) -> Shape:
        if self.apart:
            return one_shape(copies)
        return filled(copies[0]) if len(copies) == 1 else union(*copies)

    @cached_property
    def inks(self) -> tuple[tuple[Paint, Shape], ...]:
        """The areas that carry ink, with the name of the tone of each (empty where none was laid); those of one tone
        are one area, in the order in which the tones first come.
        """
        if not self.tones:
            return (("", self.united),) if self.united else ()
        by_tone: dict[Paint, list[Shape]] = {}
        for shape, tone in zip(self.copies, self.tones, strict=True):
            by_tone.setdefault(tone, []).append(shape)
        areas = zip(by_tone, self._areas(list(by_tone.values())), strict=True)
        return tuple((tone, shape) for tone, shape in areas if shape)

    def _areas(self, groups: Sequence[Sequence[Shape]]) -> list[Shape]:
        """Each of several groups of copies as one area; a few curves are arranged at once."""
        several = [copies for copies in groups if len(copies) > 1]
        if self.apart or len(several) < 2 or sum(copy.count for copies in several for copy in copies) > FEW_CURVES:
            return [self._one_area(copies) for copies in groups]
        united = iter(unions(several))
        return [next(united) if len(copies) > 1 else filled(copies[0]) for copies in groups]

    @cached_property
    def box(self) -> Box | None:
        """The tight box of all copies; None when there is no curve."""
        return box(self.whole) if self.whole else None

    def anchor(self, path: str) -> Point | None:
        """A place by name: one of `anchors`, of the box (`box-left`, `box-top-right`, `box-centre` …), or the k-th node
        (`node-k`, counted along the outlines from 1); None when there is none. A figure that has no `top-right` of its
        own has that of its box.
        """
        if path in self.anchors:
            return self.anchors[path]
        if path.startswith("box-") and self.box is not None:
            return BOX_PLACES[path](self.box) if path in BOX_PLACES else None
        if f"box-{path}" in BOX_PLACES and self.box is not None:
            return BOX_PLACES[f"box-{path}"](self.box)
        if path.startswith("node-") and path[5:].isdecimal():
            nodes, number = self.whole.nodes, int(path[5:])
            return nodes[number - 1] if 1 <= number <= len(nodes) else None
        return None

    @cached_property
    def bounds_area(self) -> bool:
        """Whether it can carry ink."""
        return all(shape.closed for shape in self.copies)

    @property
    def curves(self) -> int:
        """How many curves it has."""
        return sum(shape.count for shape in self.copies)
