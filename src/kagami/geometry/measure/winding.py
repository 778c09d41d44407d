"""Which way round an outline runs."""

from __future__ import annotations

from kagami.geometry.measure.size import area
from kagami.geometry.outline import Outline, Shape


def area_on_left(outline: Outline) -> Outline:
    """A closed outline run so that what it bounds lies on its left (counter-clockwise), from the same node on; an open
    one as it is. Of one that crosses itself the larger part lies on the left.
    """
    if not outline.closed or area(Shape((outline,))) >= 0.0:
        return outline
    return outline.reversed()
