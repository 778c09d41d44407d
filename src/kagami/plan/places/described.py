"""Places in words, as sentences name them."""

from __future__ import annotations

from collections.abc import Mapping

from kagami.plan.references.directions import offset_words
from kagami.plan.references.places import (
    OWN_PLACE,
    SHEET_ORIGIN,
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
    parse_reference,
)
from kagami.plan.references.spoken import COPY, FORMS, place_text
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.forms import format_phrase
from kagami.plan.wording.names import name_text


def describe(reference: str, names: Mapping[str, str]) -> str:
    """A reference in words: “O”, “top of lens”, “peak”, “corner 2 of copy 3 of beams”, “crossing 1 of lens and rim”.

    >>> describe("beams.3.corner-2", {"beams": "beams"})
    'corner 2 of copy 3 of beams'
    """
    return _words(parse_reference(reference), names)


def _words(reference: Reference, names: Mapping[str, str]) -> str:
    def of(identifier: str) -> str:
        return name_text(names.get(identifier, identifier))

    match reference:
        case Origin():
            return SHEET_ORIGIN
        case Anchored(figure, path):
            return of(figure) if path == OWN_PLACE else _anchor_words(of(figure), path)
        case CrossingOf(first, second, number):
            return format_phrase(FORMS["crossing"], number=number, first=of(first), second=of(second))
        case TouchOf(figure, origin, number):
            return format_phrase(FORMS["touch"], number=number, figure=of(figure), origin=_words(origin, names))
        case NearestOf(figure, origin):
            return format_phrase(FORMS["nearest"], figure=of(figure), origin=_words(origin, names))
        case Between(one, other):
            return format_phrase(FORMS["between"], one=_words(one, names), other=_words(other, names))
        case OffsetOf() | PolarOf() | ShareOf():
            return _computed_words(reference, names)


def _anchor_words(owner: str, path: str) -> str:
    *copies, place = path.split(".")
    for copy in copies:
        owner = format_phrase(COPY, number=copy, figure=owner)
    return format_phrase(FORMS["anchor"], place=place_text(place), figure=owner)


def _computed_words(reference: OffsetOf | PolarOf | ShareOf, names: Mapping[str, str]) -> str:
    match reference:
        case OffsetOf(origin, right, up):
            return offset_words(typed_value(right, names), typed_value(up, names), _words(origin, names))
        case PolarOf(origin, distance, angle):
            values = {"distance": typed_value(distance, names), "angle": typed_value(angle, names)}
            return format_phrase(FORMS["polar"], **values, origin=_words(origin, names))
        case ShareOf(one, other, share):
            ends = {"one": _words(one, names), "other": _words(other, names)}
            return format_phrase(FORMS["share"], share=typed_value(share, names), **ends)
