"""Whole figures combined: union, difference, intersection, exclusion; divided, split and gathered."""

from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from kagami.geometry import boolean
from kagami.geometry.boolean import Operation
from kagami.plan.dimensions.drawn import corner_of
from kagami.plan.dimensions.kinds import Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, FigureRef, FigureRefs
from kagami.plan.figure import Figure
from kagami.plan.messages import listing
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register


class _Combination(Step):
    """All copies of all figures, combined by one operation."""

    takes_lines: ClassVar = False
    chapter: ClassVar = Chapter.CARVE
    noun: ClassVar = "piece"
    needs_several: ClassVar = True
    operation: ClassVar[Operation]

    figures: FigureRefs

    def draw(self, inputs: Inputs) -> Drawing:
        """One shape; an empty result is refused, since nothing could be seen or picked of it."""
        figures, notes = inputs.operands("figures", 2)
        shape = boolean.combine(self.operation, [figure.united for figure in figures])
        if not shape:
            raise PlanError("nothing-left", field="figures", name=listing([o.name for o in inputs.outcomes("figures")]))
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

    hands_on: ClassVar = "own"
    largest_first: ClassVar = True
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
            raise PlanError("nothing-left", field="figures", name=inputs.name("figure"))
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


@register("divide")
class Divide(Step):
    """All regions into which figures cut each other, as copies."""

    hands_on: ClassVar = "own"
    title: ClassVar = "divide"
    chapter: ClassVar = Chapter.CARVE
    sentence: ClassVar = "Divide {figures}: pieces {name}."
    noun: ClassVar = "pieces"

    kind: Literal["divide"] = "divide"
    figures: FigureRefs

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a region that some figure covers; lines cut."""
        inputs.require_several("figures", 1)
        figures = inputs.all_figures("figures")
        found = boolean.divide(*(shape for figure in figures for shape in figure.copies))
        return Drawing(Figure(tuple(shape for shape, _ in found), {}, figures[0].group))


@register("split")
class Split(Step):
    """A figure cut by a line, both parts kept as copies."""

    hands_on: ClassVar = "own"
    along: ClassVar = "line"
    along_all: ClassVar = True
    title: ClassVar = "split"
    chapter: ClassVar = Chapter.CARVE
    sentence: ClassVar = "Split {figure} along {line}: pieces {name}."
    noun: ClassVar = "pieces"

    kind: Literal["split"] = "split"
    figure: FigureRef
    line: FigureRef

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a part, in the order in which they are found; a line that misses the figure is refused."""
        shape, cut = inputs.area("figure"), inputs.figure("line")
        found = boolean.divide(shape, *cut.copies)
        parts = tuple(part for part, covers in found if 0 in covers)
        if len(parts) < 2:
            name = inputs.name("line")
            raise PlanError("line-misses", field="line", line=name, name=inputs.name("figure"))
        return Drawing(Figure(parts))


@register("order")
class Order(Step):
    """A figure brought before or behind all others."""

    takes_lines: ClassVar = False
    title: ClassVar = "order"
    chapter: ClassVar = Chapter.PLACING
    sentence: ClassVar = "Bring {figure} {way} of all: {name}."
    noun: ClassVar = "ordered"

    kind: Literal["order"] = "order"
    figure: FigureRef
    way: Annotated[Literal["nearest", "farthest"], CHOICE] = "nearest"

    def draw(self, inputs: Inputs) -> Drawing:
        """The figure as it is; of several that are brought there, the later step lies further out."""
        source = inputs.areas("figure", 1)[0]
        return Drawing(replace(source, layer=1 if self.way == "nearest" else -1))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The word of its way, at the figure."""
        yield Word("way", corner_of(inputs.figure("figure")))


@register("group")
class GroupStep(Step):
    """Figures gathered as copies of one, on top of all before."""

    title: ClassVar = "group"
    chapter: ClassVar = Chapter.CARVE
    sentence: ClassVar = "Group {figures}: {name}."
    noun: ClassVar = "group"

    kind: Literal["group"] = "group"
    figures: FigureRefs

    def draw(self, inputs: Inputs) -> Drawing:
        """All copies in order; anchors of figure k begin with `k.`; the symmetry is known when all share it, and
        tones stay when all have some.
        """
        inputs.require_several("figures", 1)
        figures = inputs.all_figures("figures")
        anchors = {
            f"{k}.{name}": place for k, figure in enumerate(figures, 1) for name, place in figure.anchors.items()
        }
        groups = {figure.group for figure in figures}
        group = groups.pop() if len(groups) == 1 else None
        toned = all(figure.tones for figure in figures)
        tones = tuple(tone for figure in figures for tone in figure.tones) if toned else ()
        return Drawing(Figure(tuple(shape for figure in figures for shape in figure.copies), anchors, group, tones))
