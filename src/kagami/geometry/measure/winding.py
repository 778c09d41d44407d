"""Which way round an outline runs."""

from __future__ import annotations

from dataclasses import replace

from kagami.geometry.measure.size import area
from kagami.geometry.outline import Outline, Shape


def drawn_freely(outline: Outline) -> Outline:
    """An outline as a hand drew it, which may cross itself, with its area on the left."""
    return area_on_left(replace(outline, freely=True))


def area_on_left(outline: Outline) -> Outline:
    """A closed outline run so that what it bounds lies on its left (counter-clockwise), from the same node on; an open
    one as it is. Of one that crosses itself the larger part lies on the left.
    """
    if not outline.closed or area(Shape((outline,))) >= 0.0:
        return outline
    return outline.reversed()
