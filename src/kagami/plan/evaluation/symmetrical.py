"""The symmetry of what is seen of a mark: of its form, and with its tones."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrays import Floats
from kagami.geometry.flat import seen_of_groups
from kagami.geometry.measure.size import centroid
from kagami.geometry.measure.symmetry import NO_MARKS, Symmetry, symmetry, symmetry_of_looks
from kagami.geometry.outline import one_shape
from kagami.geometry.point import Point
from kagami.plan.evaluation.ink import Piece
from kagami.plan.tones.paint import Gradient


def symmetries(marks: Sequence[Piece]) -> tuple[Symmetry, Symmetry]:
    """The symmetry of the form that is seen of pieces, later ones above, whatever their tones, and that of form and
    tones together.
    """
    paints = list(dict.fromkeys((piece.colour, piece.gradient) for piece in marks))
    if len(paints) == 1 and paints[0][1] is None:
        form = symmetry(one_shape([piece.shape for piece in marks]))
        return form, form
    groups = [paints.index((piece.colour, piece.gradient)) for piece in marks]
    shown = [
        (shape, gradient or colour)
        for shape, (colour, gradient) in zip(seen_of_groups([one.shape for one in marks], groups), paints, strict=True)
        if shape
    ]
    parts = [shape for shape, _ in shown]
    centre = centroid(one_shape(parts))
    form = symmetry_of_looks(parts, [0] * len(parts), centre)
    kinds = [(paint.round, paint.stops) if isinstance(paint, Gradient) else paint for _, paint in shown]
    looks = [kinds.index(kind) for kind in kinds]
    frames = [
        _frame_marks(paint, look, centre)
        for (_, paint), look in zip(shown, looks, strict=True)
        if isinstance(paint, Gradient)
    ]
    return form, symmetry_of_looks(parts, looks, centre, np.concatenate([NO_MARKS, *frames]))


def _frame_marks(gradient: Gradient, look: int, centre: Point) -> Floats:
    """Places that tell how a gradient lies, rows of x, y, its look, and a number for their sort. Of one from a centre
    they are that with its reach, or the ends of the axes of an oval one; of one along a line the feet, from the mark's
    centre, on the lines of its first and of its last tone.
    """
    origin, along, beside = (np.array(gradient.frame.point(Point(*at))) for at in ((0, 0), (1, 0), (0, 1)))
    axes = np.column_stack([along - origin, beside - origin])
    if not gradient.round:
        level = axes[:, 1] / np.linalg.norm(axes[:, 1])
        feet = [place + level * (level @ (np.array(centre) - place)) for place in (origin, along)]
        there, back = (
            [(round(at, 9), tone) for at, tone in stops]
            for stops in (gradient.stops, [(1 - at, tone) for at, tone in reversed(gradient.stops)])
        )
        return np.array([(*foot, look, 0 if there == back else k) for k, foot in enumerate(feet)])
    directions, reach, _ = np.linalg.svd(axes)
    if gradient.frame.is_similarity:
        return np.array([(*origin, look, reach[0])])
    ends = [(origin + side * reach[k] * directions[:, k], reach[k]) for k in (0, 1) for side in (-1, 1)]
    return np.array([(*end, look, length) for end, length in ends])
