"""What all repeats do: copies under maps, with the anchors of each copy."""

from collections.abc import Mapping, Sequence

from kagami.geometry.affine import Affine
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.symmetry_groups import Group
from kagami.geometry.table import MOST_CURVES
from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Drawing
from kagami.plan.tones.paint import mapped_paint


def repeated(
    source: Figure, maps: Sequence[Affine], anchors: Mapping[str, Point], group: Group | None = None
) -> Drawing:
    """The copies of a figure under maps; anchor `k.a` is anchor a of copy k, counted from 1.

    Raises:
        PlanError: they have too many curves together.
    """
    require_size(source, len(maps), "copies")
    shapes = tuple(shape.mapped(by) for by in maps for shape in source.copies)
    tones = tuple(mapped_paint(paint, by) for by in maps for paint in source.tones)
    return Drawing(Figure(shapes, {**anchors, **anchors_of_copies(source, maps)}, group, tones))


def require_size(source: Figure, copies: int, field: str) -> None:
    """Refuse more curves than the kernel takes on.

    Raises:
        PlanError: with how many there would be.
    """
    if len(source.copies) * copies > limits.COPIES_IN_ALL:
        count = len(source.copies) * copies
        raise PlanError("too-many-copies", field=field, count=count, most=limits.COPIES_IN_ALL)
    if source.curves * copies > MOST_CURVES:
        raise PlanError("too-large", field=field, curves=source.curves * copies, most=MOST_CURVES)


def anchors_of_copies(source: Figure, maps: Sequence[Affine]) -> dict[str, Point]:
    """The anchors of copies of a figure under maps, by the number of the copy and their name."""
    return {
        f"{number}.{name}": by.point(place)
        for number, by in enumerate(maps, 1)
        for name, place in source.anchors.items()
    }


def moved(source: Figure, by: Affine) -> Figure:
    """A figure moved, with its anchors and copies; its known symmetry moves along."""
    anchors = {name: by.point(place) for name, place in source.anchors.items()}
    group = source.group.mapped(by) if source.group else None
    shapes = tuple(shape.mapped(by) for shape in source.copies)
    tones = tuple(mapped_paint(paint, by) for paint in source.tones)
    return Figure(shapes, anchors, group, tones, source.layer, source.apart)


def paired(first: Figure, second: Figure, one: Affine, other: Affine, anchors: Mapping[str, Point]) -> Drawing:
    """Two figures under a map each, as copies 1 and 2."""
    a, b = moved(first, one), moved(second, other)
    shapes = tuple(_whole(figure) for figure in (a, b))
    places = {f"1.{name}": place for name, place in a.anchors.items()}
    places |= {f"2.{name}": place for name, place in b.anchors.items()}
    return Drawing(Figure(shapes, {**anchors, **places}))


def _whole(figure: Figure) -> Shape:
    return figure.united if figure.bounds_area else figure.whole
