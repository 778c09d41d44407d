"""Whole figures combined: union, difference, intersection, exclusion."""

from __future__ import annotations

from typing import ClassVar, Literal

from kagami.geometry import boolean
from kagami.geometry.boolean import Operation
from kagami.plan.errors import PlanError
from kagami.plan.fields import FigureRef, FigureRefs
from kagami.plan.figure import Figure
from kagami.plan.messages import listing
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


class _Combination(Step):
    """All copies of all figures, combined by one operation."""

    takes_lines: ClassVar = False
    chapter: ClassVar = Chapter.CARVE
    noun: ClassVar = "piece"
    operation: ClassVar[Operation]

    figures: FigureRefs

    def draw(self, inputs: Inputs) -> Drawing:
        """One shape; an empty result is refused, since nothing could be seen or picked of it."""
        figures, notes = inputs.operands("figures", 2)
        shape = boolean.combine(self.operation, [figure.united for figure in figures])
        if not shape:
            raise PlanError("nothing-left", field="figures", name=listing([o.name for o in inputs.figures["figures"]]))
        return Drawing(Figure((shape,)), notes)


@register("union")
class Union(_Combination):
    """The area in any of the figures."""

    title: ClassVar = "unite"
    sentence: ClassVar = "Unite {figures}: piece {name}."
    operation: ClassVar = Operation.UNION
    kind: Literal["union"] = "union"

    def draw(self, inputs: Inputs) -> Drawing:
        """One shape from all copies at once; a single figure's own copies may be united too."""
        figures = inputs.areas("figures", 1)
        return Drawing(Figure((boolean.union(*(shape for figure in figures for shape in figure.copies)),)))


@register("difference")
class Difference(Step):
    """The area in the first figure and in none of the others."""

    takes_lines: ClassVar = False
    title: ClassVar = "subtract"
    chapter: ClassVar = Chapter.CARVE
    noun: ClassVar = "piece"
    sentence: ClassVar = "From {figure} take {figures}: piece {name}."

    kind: Literal["difference"] = "difference"
    figure: FigureRef
    figures: FigureRefs

    def draw(self, inputs: Inputs) -> Drawing:
        """One shape; an empty result is refused."""
        first = inputs.areas("figure", 1)[0]
        others = inputs.areas("figures", 1)
        taken = [shape for figure in others for shape in figure.copies]
        shape = boolean.difference(first.united, *taken)
        if not shape:
            raise PlanError("nothing-left", field="figures", name=inputs.figures["figure"][0].name)
        return Drawing(Figure((shape,)))


@register("intersection")
class Intersection(_Combination):
    """The area that all figures share."""

    title: ClassVar = "intersect"
    sentence: ClassVar = "Keep what {figures} have in common: piece {name}."
    operation: ClassVar = Operation.INTERSECTION
    kind: Literal["intersection"] = "intersection"


@register("exclusion")
class Exclusion(_Combination):
    """The area in an odd number of the figures."""

    title: ClassVar = "exclude"
    sentence: ClassVar = "Of {figures} leave out every second overlap: piece {name}."
    operation: ClassVar = Operation.EXCLUSION
    kind: Literal["exclusion"] = "exclusion"
