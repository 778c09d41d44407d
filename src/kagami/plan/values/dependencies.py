"""Which figures a place stands on."""

from __future__ import annotations

from kagami.plan.references.places import (
    Anchored,
    Between,
    CrossingOf,
    NearestOf,
    OffsetOf,
    Origin,
    PolarOf,
    Reference,
    ShareOf,
    TouchOf,
)
from kagami.plan.values.expressions import figures_in


def figures_of(reference: Reference) -> frozenset[str]:
    """Ids of the figures that a reference stands on, those that the values in it read included."""
    match reference:
        case Origin():
            return frozenset()
        case Anchored(figure, _):
            return frozenset({figure})
        case CrossingOf(first, second, _):
            return frozenset({first, second})
        case TouchOf(figure, origin, _) | NearestOf(figure, origin):
            return frozenset({figure}) | figures_of(origin)
        case Between(one, other):
            return figures_of(one) | figures_of(other)
        case OffsetOf(origin, first, second) | PolarOf(origin, first, second):
            return figures_of(origin) | figures_in(first) | figures_in(second)
        case ShareOf(one, other, share):
            return figures_of(one) | figures_of(other) | figures_in(share)
