"""A figure's name alone where a place is wanted: its centre is meant, or the side that lengths are counted from."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.directions import sides
from kagami.plan.places.references import (
    OWN_PLACE,
    Anchored,
    Between,
    NearestOf,
    OffsetOf,
    PolarOf,
    Reference,
    ShareOf,
    TouchOf,
    parse_reference,
    write_reference,
)
from kagami.plan.steps import Step

CENTRE = "centre"


def with_places_meant(plan: Plan, kind: type[Step], fields: Mapping[str, Any], cache: Cache) -> dict[str, Any]:
    """The fields of a step that is said, with the places meant by names of figures that are no points: “on lens” is on
    its centre, “1u up from lens” counts from its top.
    """

    def is_bare(reference: Reference) -> bool:
        if not isinstance(reference, Anchored) or reference.path != OWN_PLACE:
            return False
        outcome = evaluate(plan, cache).outcomes.get(reference.figure)
        figure = outcome.figure if outcome is not None else None
        return figure is not None and figure.anchor(OWN_PLACE) is None and figure.anchor(CENTRE) is not None

    def meant(text: str) -> str:
        return write_reference(_meant(parse_reference(text), is_bare))

    kinds = kind.field_kinds()
    return {name: kinds[name].with_places(value, meant) if name in kinds else value for name, value in fields.items()}


def _meant(reference: Reference, is_bare: Callable[[Reference], bool]) -> Reference:
    def inner(place: Reference) -> Reference:
        return _meant(place, is_bare)

    if isinstance(reference, Anchored):
        return Anchored(reference.figure, CENTRE) if is_bare(reference) else reference
    match reference:
        case OffsetOf(Anchored(figure), right, up) if is_bare(reference.origin):
            return OffsetOf(Anchored(figure, sides(right, up) or CENTRE), right, up)
        case OffsetOf(origin, right, up):
            return OffsetOf(inner(origin), right, up)
        case PolarOf(origin, distance, angle):
            return PolarOf(inner(origin), distance, angle)
        case Between(one, other):
            return Between(inner(one), inner(other))
        case ShareOf(one, other, share):
            return ShareOf(inner(one), inner(other), share)
        case TouchOf(figure, origin, number):
            return TouchOf(figure, inner(origin), number)
        case NearestOf(figure, origin):
            return NearestOf(figure, inner(origin))
        case _:
            return reference
