"""What is seen of areas that lie over each other, and areas cut into bands."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.curves import Line
from kagami.geometry.figures import circle
from kagami.geometry.measure.size import box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.selection import outlines_of_choices


def seen(shapes: Sequence[Shape]) -> tuple[Shape, ...]:
    """What is seen of each of several areas, of which later ones lie above; one that is hidden comes out empty."""
    arrangement = arrange(shapes)
    covers = arrangement.covers
    count = covers.shape[1]
    top = np.where(covers.any(axis=1), count - 1 - np.argmax(covers[:, ::-1], axis=1), -1)
    return outlines_of_choices(arrangement, top == np.arange(count)[:, None])


def seen_of_groups(shapes: Sequence[Shape], groups: Sequence[int]) -> tuple[Shape, ...]:
    """The same of groups of areas, by the number of each area's: what is seen of any of its areas is one area."""
    arrangement = arrange(shapes)
    covers = arrangement.covers
    count = covers.shape[1]
    top = np.asarray(groups)[count - 1 - np.argmax(covers[:, ::-1], axis=1)]
    choices = covers.any(axis=1) & (top == np.arange(max(groups) + 1)[:, None])
    return outlines_of_choices(arrangement, choices)


def bands_across(shape: Shape, frame: Affine, round_: bool, count: int) -> tuple[Shape, ...]:
    """An area cut into bands of equal width: across the x axis of a frame between 0 and 1, or, where it is `round_`,
    about its origin out to its unit circle. The first and the last band go on beyond; bands may come out empty.
    """
    cuts = [_circle(frame, k / count) if round_ else _half(shape, frame, k / count) for k in range(1, count)]
    arrangement = arrange([shape, *cuts])
    covers = arrangement.covers
    # Each cut covers all that lies before it, so the number of cuts that do not cover a face is that of its band.
    number = (count - 1) - covers[:, 1:].sum(axis=1)
    return outlines_of_choices(arrangement, covers[:, 0] & (number == np.arange(count)[:, None]))


def _circle(frame: Affine, share: float) -> Shape:
    return circle(ORIGIN, share).mapped(frame)


def _half(shape: Shape, frame: Affine, share: float) -> Shape:
    """A box in the frame that holds all of the shape that lies before x = share."""
    around = box(shape.mapped(frame.inverted()))
    left, right = min(around.left, 0.0) - 1.0, share
    low, high = around.bottom - 1.0, around.top + 1.0
    corners = [Point(left, low), Point(right, low), Point(right, high), Point(left, high)]
    sides = tuple(Line(a, b) for a, b in zip(corners, corners[1:] + corners[:1], strict=True))
    return Shape((Outline(sides),)).mapped(frame)
