"""Segments and broken lines: lines that are given a width, cut with, or closed to an outline."""

import itertools
from typing import Annotated, ClassVar, Literal

from kagami.geometry import figures
from kagami.geometry.curves import Line
from kagami.geometry.measure.winding import drawn_freely
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.tolerance import LENGTH
from kagami.plan.dimensions.kinds import Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, AnchorRefs
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register


@register("segment")
class Segment(Step):
    """A straight line between two places."""

    title: ClassVar = "segment"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Segment {name} from {first} to {second}."
    noun: ClassVar = "segment"
    press: ClassVar = "first"
    release: ClassVar = "second"

    kind: Literal["segment"] = "segment"
    first: AnchorRef = "O"
    second: AnchorRef = "O"

    def draw(self, inputs: Inputs) -> Drawing:
        """The segment; anchors are its start, middle and end."""
        a, b = inputs.apart("first", "second")
        line = Line(a, b)
        anchors = {"start": a, "end": b, "middle": line.middle}
        return Drawing(Figure((Shape((Outline((line,), closed=False),)),), anchors))


@register("path")
class PathStep(Step):
    """A broken line, or a polygon, through places."""

    title: ClassVar = "path"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Path {name}, {form}, through {places}."
    noun: ClassVar = "path"
    presses: ClassVar = "places"

    kind: Literal["path"] = "path"
    form: Annotated[Literal["open", "closed"], CHOICE] = "open"
    places: AnchorRefs = ()

    def draw(self, inputs: Inputs) -> Drawing:
        """The path in the order of the places; anchors are its corners and the middles of its sides."""
        places = inputs.places("places")
        least = 3 if self.form == "closed" else 2
        if len(places) < least:
            raise PlanError("too-few-places", field="places", least=least, given=len(places))
        ring = (*places, places[0]) if self.form == "closed" else places
        for a, b in itertools.pairwise(ring):
            if a.distance(b) <= LENGTH:
                raise PlanError("same-place", field="places", what="two places that follow each other")
        if self.form == "closed":
            shape = figures.polygon(places)
        else:
            sides = tuple(Line(a, b) for a, b in itertools.pairwise(ring))
            shape = Shape((Outline(sides, closed=False),))
        anchors = {f"corner-{k}": place for k, place in enumerate(places, 1)}
        anchors.update((f"side-{k}", curve.middle) for k, curve in enumerate(shape.curves, 1))
        return Drawing(Figure((Shape(tuple(drawn_freely(outline) for outline in shape)),), anchors))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Whether it is closed, at its last place."""
        places = inputs.places("places")
        if places:
            yield Word("form", places[-1])
