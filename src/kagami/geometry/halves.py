"""Areas told apart by the side of a line on which they lie."""

from __future__ import annotations

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import Bools, Floats, lengths
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outlines_of_choices
from kagami.geometry.table import CurveTable, tabulate
from kagami.geometry.tolerance import LENGTH


def halves(shape: Shape, line: Shape) -> tuple[Shape, Shape]:
    """The parts of an area to the left and to the right of a line, seen along it; either may be empty.

    The line cuts the area where it crosses it; each part then lies on the side on which a place inside it lies of the
    nearest place of the line.
    """
    arrangement = arrange([shape, line])
    inside = np.flatnonzero(arrangement.covers[:, 0])
    left = left_of(tabulate([line]), arrangement.places_inside(inside))
    chosen = np.zeros((2, arrangement.face_count), dtype=np.bool_)
    chosen[np.where(left, 0, 1), inside] = True
    to_left, to_right = outlines_of_choices(arrangement, chosen)
    return to_left, to_right


def left_of(line: CurveTable, places: Floats) -> Bools:
    """Which of some places, (n, 2), lie to the left of the nearest place of a line. Where that is a corner, the normals
    of both sides count equally (J. A. Bærentzen and H. Aanæs, “Signed Distance Computation Using the Angle Weighted
    Pseudonormal”, 2005; cited from memory): one alone may tell the wrong side.
    """
    count, n = len(line), len(places)
    curve, place = np.tile(np.arange(count), n), np.repeat(places, count, axis=0)
    t = line.ask("nearest", curve, place)
    found = line.ask("point", curve, t, width=2).reshape(n, count, 2)
    best = np.argmin(lengths((found - places[:, None]).reshape(-1, 2)).reshape(n, count), axis=1)
    at = found[np.arange(n), best]
    there = np.flatnonzero(lengths((found - at[:, None]).reshape(-1, 2)) <= LENGTH)
    heading = line.ask("heading", curve[there], t[there])
    normal = np.zeros((n, 2))
    np.add.at(normal, there // count, np.column_stack([-np.sin(heading), np.cos(heading)]))
    return np.asarray(np.einsum("ij,ij->i", places - at, normal) > 0)
