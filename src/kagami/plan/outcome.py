"""What drawing a step gives, and what became of the step."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

from kagami.plan.errors import PlanError, ReferenceLost
from kagami.plan.figure import Figure

Notes: TypeAlias = tuple[tuple[str, Mapping[str, object]], ...]
"""Remarks for the designer: message code and values."""


@dataclass(frozen=True, slots=True)
class Drawing:
    """What drawing a step gives: its figure, remarks for the designer, and, for a carve, the regions it chose among."""

    figure: Figure
    notes: Notes = ()
    detail: object = None

    def weight(self, of_a_curve: int) -> int:
        """About how many bytes it takes, at so many a curve; a detail that is large tells its own."""
        own = getattr(self.detail, "weight", 0)
        return of_a_curve * (self.figure.curves + len(self.figure.anchors) + 1) + int(own)


@dataclass(frozen=True)
class Outcome:
    """What became of a step: its drawing, or the error that it holds."""

    id: str
    name: str
    key: str
    """Hash of all that the drawing was made from."""
    drawing: Drawing | None
    error: PlanError | None = None
    muted: bool = False
    """Whether its figure only lends places: it carries no ink, and where figures are listed it is left out."""

    @property
    def figure(self) -> Figure | None:
        """What the step made."""
        return self.drawing.figure if self.drawing else None

    @property
    def made(self) -> Figure:
        """What the step made, where it is known to have been drawn."""
        if self.drawing is None:
            raise AssertionError("a step is drawn only after its inputs")
        return self.drawing.figure

    @property
    def waits(self) -> bool:
        """Whether the step itself is sound but one before it is not."""
        return self.error is not None and self.error.code == "figure-waits"


def drawn(identifier: str, outcomes: Mapping[str, Outcome]) -> Outcome:
    """The outcome of an earlier step that was drawn.

    Raises:
        ReferenceLost: there is no such step before, or it holds an error or waits itself.
    """
    outcome = outcomes.get(identifier)
    if outcome is None:
        raise ReferenceLost("no-figure", name=identifier)
    if outcome.figure is None:
        raise ReferenceLost("figure-waits", name=outcome.name)
    return outcome
