"""Readings: values measured from the finished mark."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry import boolean
from kagami.geometry.fewer import with_fewer_curves
from kagami.geometry.measure.size import Box, area
from kagami.geometry.measure.symmetry import Symmetry
from kagami.plan.evaluation.ink import ink_box, joined, pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.symmetrical import symmetries
from kagami.plan.steps.carve import CarveDetail


@dataclass(frozen=True, slots=True)
class Readings:
    """Readings of a mark. Lengths in u; `ink` is the share of the mark's box that carries ink, from 0 to 1.

    `nodes` are those that a file has of it; `regions_kept` of `regions` are those of all carves together; `symmetry` is
    that of the form, `toned` that of form and tones together; both are None for an empty mark.
    """

    regions: int
    regions_kept: int
    outlines: int
    nodes: int
    ink: float
    box: Box | None
    symmetry: Symmetry | None
    toned: Symmetry | None


def measure_mark(result: Result) -> Readings:
    """Measure an evaluated plan."""
    marks = joined(pieces(result))
    regions, kept = _carved(result)
    whole = ink_box(marks)
    if whole is None:
        return Readings(regions, kept, 0, 0, 0.0, None, None, None)
    shapes = [piece.shape for piece in marks]
    covered = area(shapes[0]) if len(shapes) == 1 else boolean.area_of_union(shapes)
    form, toned = symmetries(marks)
    return Readings(
        regions=regions,
        regions_kept=kept,
        outlines=sum(len(shape.outlines) for shape in shapes),
        nodes=sum(len(shape.nodes) for shape in with_fewer_curves(shapes)),
        ink=covered / (whole.width * whole.height),
        box=whole,
        symmetry=form,
        toned=toned,
    )


def _carved(result: Result) -> tuple[int, int]:
    details = [
        outcome.drawing.detail
        for outcome in result.outcomes.values()
        if outcome.drawing and isinstance(outcome.drawing.detail, CarveDetail)
    ]
    total = sum(detail.regions.arrangement.face_count - 1 for detail in details)
    return total, sum(int(detail.kept.sum()) for detail in details)
