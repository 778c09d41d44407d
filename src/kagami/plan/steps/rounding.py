"""Rounding: corners given arcs."""

import math
from collections.abc import Mapping, Sequence
from typing import Annotated, ClassVar, Literal

import numpy as np

from kagami.geometry.errors import GeometryError
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.rounding import Corner, corners_of, fitting_radii, rounded, rounded_each
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import SAME
from kagami.plan.dimensions.kinds import Dimensions, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, FigureRef, Length, Sizes
from kagami.plan.fields.values import LENGTH
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.steps.base import Drawing, Inputs, Notes, register
from kagami.plan.steps.refine import Refining

MOST_TOLD = 6
USUAL = 0.5
"""The radius that a rounding begins with, in module units."""


def chosen(corners: Sequence[Corner], which: str) -> list[int]:
    """Numbers of the corners that are meant: all, outer or inner ones."""
    return [k for k, corner in enumerate(corners) if which in ("all", "outer" if corner.outward else "inner")]


@register("round")
class Round(Refining):
    """Corners of a figure given an arc."""

    hands_on: ClassVar = "own"
    title: ClassVar = "round corners"
    sentence: ClassVar = "Round {which} corners of {figure} by {radius}: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round"] = "round"
    which: Annotated[Literal["all", "outer", "inner"], CHOICE] = "all"
    figure: FigureRef
    radius: Length = f"{USUAL}u"

    @classmethod
    def about(cls, figure: Figure) -> Mapping[str, str]:
        """The usual radius; where a corner has no room for it, the largest stop that all have room for."""
        try:
            radii = fitting_radii(figure.united, USUAL) if figure.bounds_area else ()
        except GeometryError:
            return {}  # the step itself says what is wrong
        room = min(radii, default=USUAL)
        below = (stop * math.floor(room / stop) for stop in LENGTH.stops)
        fits = next((radius for radius in below if radius > 0), 0.0)
        return {"radius": LENGTH.number(fits)} if 0.0 < fits < USUAL else {}

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area, its corners rounded."""
        shape, radius = inputs.shape("figure"), inputs.positive("radius")
        corners = corners_of(shape)
        source = inputs.figure("figure")
        only = chosen(corners, self.which)
        return Drawing(Figure((rounded(shape, radius, only),), source.anchors, source.group))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The radius at the first corner that it rounds, and the word for which they are."""
        yield from _at_first(inputs, self.which)


@register("round-far")
class RoundFar(Refining):
    """Corners of a figure given an arc of a radius, or of the largest for which a corner has room."""

    hands_on: ClassVar = "own"
    title: ClassVar = "round as far as it goes"
    sentence: ClassVar = "Round {which} corners of {figure} by {radius} as far as it goes: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round-far"] = "round-far"
    which: Annotated[Literal["all", "outer", "inner"], CHOICE] = "all"
    figure: FigureRef
    radius: Length = "1u"

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area; corners with less than the radius are told with what they got."""
        shape, radius, source = inputs.shape("figure"), inputs.positive("radius"), inputs.figure("figure")
        corners = corners_of(shape)
        only = chosen(corners, self.which)
        radii = fitting_radii(shape, radius, only)
        less = [k for k in only if radii[k] < radius]
        notes: Notes = ()
        if less:
            told = "; ".join(
                f"{number_text(corners[k].place.x)}, {number_text(corners[k].place.y)} by {number_text(radii[k])}u"
                for k in less[:MOST_TOLD]
            )
            more = f" and {len(less) - MOST_TOLD} more" if len(less) > MOST_TOLD else ""
            notes = (("round-reduced", {"radius": number_text(radius), "places": told + more}),)
        return Drawing(Figure((rounded_each(shape, radii),), source.anchors, source.group), notes)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The radius at the first corner that it rounds, and the word for which they are."""
        yield from _at_first(inputs, self.which)


@register("round-each")
class RoundEach(Refining):
    """Corners of a figure given arcs of radii of their own."""

    hands_on: ClassVar = "own"
    title: ClassVar = "round one by one"
    sentence: ClassVar = "Round the corners of {figure} one by one by {radii}: {name}."
    noun: ClassVar = "rounded"

    kind: Literal["round-each"] = "round-each"
    figure: FigureRef
    radii: Sizes = (("0.5u",),)

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies as one area; the list begins again where there are more corners, and 0 leaves a corner sharp."""
        shape, source = inputs.shape("figure"), inputs.figure("figure")
        given = [row[0] for row in inputs.rows("radii")]
        if not given or any(radius < 0 for radius in given):
            raise PlanError("radii-missing", field="radii")
        count = len(corners_of(shape))
        radii = [given[k % len(given)] for k in range(count)]
        return Drawing(Figure((rounded_each(shape, radii),), source.anchors, source.group))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Each radius at its corner."""
        shape = inputs.shape("figure")
        corners = corners_of(shape)
        for k, corner in enumerate(corners[: len(inputs.rows("radii"))]):
            yield _at_corner("radii", shape, corner, (k, 0))


@register("round-one")
class RoundOne(Refining):
    """One corner of a figure given an arc, or all that are its images round the turn."""

    hands_on: ClassVar = "own"
    title: ClassVar = "round one corner"
    sentence: ClassVar = "Round the corner of {figure} at {place} by {radius}, {reach}: {name}."
    noun: ClassVar = "rounded"
    press: ClassVar = "place"
    corner_of: ClassVar = "figure"

    kind: Literal["round-one"] = "round-one"
    figure: FigureRef
    place: AnchorRef = "O"
    radius: Length = "0.5u"
    reach: Annotated[Literal["there alone", "all round"], CHOICE] = "there alone"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """From the corner along a side to where the arc begins, were it a right angle."""
        return {"radius": start.distance(end)}

    def draw(self, inputs: Inputs) -> Drawing:
        """The corner at that place; with “all round” its images under the symmetry that the figure is known to have."""
        source, shape, place = inputs.figure("figure"), inputs.shape("figure"), inputs.place("place")
        wanted = [place]
        if self.reach == "all round" and source.group is not None:
            wanted = list(source.group.orbit(place))
        corners = corners_of(shape)
        only = [k for k, corner in enumerate(corners) if any(corner.place.distance(at) <= SAME for at in wanted)]
        if not only:
            name = inputs.name("figure")
            raise PlanError("nothing-there", field="place", what="corner", name=name)
        return Drawing(Figure((rounded(shape, inputs.positive("radius"), only),), source.anchors, source.group))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The radius at the corner, and the word for its reach."""
        shape, place = inputs.shape("figure"), inputs.place("place")
        for corner in corners_of(shape):
            if corner.place.distance(place) <= SAME:
                yield _at_corner("radius", shape, corner)
                break
        yield Word("reach", place)


def _at_first(inputs: Inputs, which: str) -> Dimensions:
    """The radius at the first of the corners that are meant; at the farthest from it the word for which they are."""
    shape = inputs.shape("figure")
    corners = corners_of(shape)
    meant = [corners[k] for k in chosen(corners, which)]
    for first in meant[:1]:
        yield _at_corner("radius", shape, first)
        yield Word("which", max((corner.place for corner in meant), key=first.place.distance))


def _at_corner(field: str, shape: Shape, corner: Corner, part: tuple[int, ...] = ()) -> Linear:
    """A radius at a corner between straight sides, from the corner to the arc's centre along the bisector; between bent
    sides about so.

    Source: the centre of a circle of radius r in a corner of opening θ lies r / sin(θ / 2) from it (right triangle).
    """
    table = tabulate([shape])
    before = np.array([corner.before], dtype=np.intp)
    arriving = float(table.ask("heading", before, np.ones(1))[0])
    half = (math.pi - abs(corner.turn)) / 2
    side = math.copysign(math.pi / 2, corner.turn)
    heading = arriving + corner.turn / 2 + side
    return Linear(field, corner.place, heading, per=1.0 / max(math.sin(half), 0.05), part=part)
