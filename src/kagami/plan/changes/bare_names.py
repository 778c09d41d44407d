"""A figure's name alone where a place is wanted: its centre is meant, or the side that lengths are counted from."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.references.directions import sides
from kagami.plan.references.places import (
    OWN_PLACE,
    Anchored,
    OffsetOf,
    Reference,
    parse_reference,
    with_origins,
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
    if isinstance(reference, Anchored):
        return Anchored(reference.figure, CENTRE) if is_bare(reference) else reference
    if isinstance(reference, OffsetOf) and isinstance(reference.origin, Anchored) and is_bare(reference.origin):
        side = sides(reference.right, reference.up) or CENTRE
        return OffsetOf(Anchored(reference.origin.figure, side), reference.right, reference.up)
    return with_origins(reference, lambda place: _meant(place, is_bare))
