"""What readings in values come to."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from kagami.geometry.curves import Arc
from kagami.geometry.measure.gaps import narrowest_gap
from kagami.geometry.measure.size import area, perimeter
from kagami.geometry.measure.thickness import thinnest
from kagami.plan.errors import PlanError
from kagami.plan.figure import Figure
from kagami.plan.outcome import Outcome, drawn
from kagami.plan.places import anchors
from kagami.plan.references.spoken import Reading

KNOWN: Final = frozenset({"stem", "span", "caps", "overshoot"})
"""Readings that a figure has by its making alone."""


def measure(reading: Reading, outcomes: Mapping[str, Outcome], value_of: anchors.ValueOf) -> float:
    """The value of a reading (its figures by id), in u or square units; `value_of` computes the values in its places.

    Raises:
        ReferenceLost: a figure or place is not there before the step that asks.
        PlanError: the figure has no such measure.
    """
    if reading.kind == "distance":
        first, second = (anchors.resolve(place, outcomes, value_of) for place in reading.places)
        return first.distance(second)
    figures = [drawn(identifier, outcomes) for identifier in reading.figures]
    if reading.kind == "gap":
        found = narrowest_gap([figure.made.united for figure in figures])
        if found is None:
            raise PlanError("no-reading", what="gap", name=figures[0].name)
        return found.distance
    known = figures[0].made.readings.get(reading.kind)
    return _of_one(reading.kind, figures[0].name, figures[0].made) if known is None else known


def _of_one(kind: str, name: str, figure: Figure) -> float:
    if figure.box is None or kind in KNOWN:
        raise PlanError("no-reading", what=kind, name=name)
    if kind == "width":
        return figure.box.width
    if kind == "height":
        return figure.box.height
    if kind == "perimeter":
        return perimeter(figure.united)
    if kind == "radius":
        radii = [curve.radius for curve in figure.whole.curves if isinstance(curve, Arc)]
        if not radii:
            raise PlanError("no-reading", what=kind, name=name)
        return radii[0]
    if not figure.bounds_area:
        raise PlanError("no-reading", what=kind, name=name)
    if kind == "area":
        return area(figure.united)
    found = thinnest(figure.united)
    if found is None:
        raise PlanError("no-reading", what=kind, name=name)
    return found.distance
