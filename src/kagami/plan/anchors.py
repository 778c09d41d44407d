"""Anchors: places of the construction. `O` is the sheet's origin, `step.anchor` one of an earlier figure."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Final

from kagami.geometry.point import ORIGIN, Point
from kagami.plan.errors import ReferenceLost

if TYPE_CHECKING:
    from kagami.plan.evaluate import Outcome

SHEET_ORIGIN: Final = "O"
_LISTED: Final = 12


def resolve(reference: str, outcomes: Mapping[str, Outcome]) -> Point:
    """The place of an anchor.

    Raises:
        ReferenceLost: no such figure before this step, one that waits itself, or no such anchor on it.
    """
    if reference == SHEET_ORIGIN:
        return ORIGIN
    identifier, _, anchor = reference.partition(".")
    outcome = outcomes.get(identifier)
    if outcome is None:
        raise ReferenceLost("no-figure", name=identifier)
    if outcome.figure is None:
        raise ReferenceLost("figure-waits", name=outcome.name)
    if anchor not in outcome.figure.anchors:
        known = list(outcome.figure.anchors)
        more = f" and {len(known) - _LISTED} more" if len(known) > _LISTED else ""
        listed = ", ".join(known[:_LISTED]) + more if known else "none"
        raise ReferenceLost("no-anchor", figure=outcome.name, anchor=anchor, known=listed)
    return outcome.figure.anchors[anchor]


def describe(reference: str, names: Mapping[str, str]) -> str:
    """An anchor in words: “O”, “top of lens”, “corner 2 of copy 3 of beams”.

    >>> describe("beams.3.corner-2", {"beams": "beams"})
    'corner 2 of copy 3 of beams'
    """
    identifier, _, anchor = reference.partition(".")
    if not anchor:
        return identifier
    *copies, place = anchor.split(".")
    words = [place.replace("-", " "), *(f"copy {copy}" for copy in reversed(copies)), names.get(identifier, identifier)]
    return " of ".join(words)
