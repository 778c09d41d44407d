"""Muted steps: each is passed over, and what it is made from goes on in its place.

A muted step that is made from nothing lends its places still, but carries no ink and is left out where figures are
listed. A step all of whose figures are muted is muted with them; one that lacks some of them passes on what is left
where it can do nothing with that alone.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kagami.plan.figure import Figure
from kagami.plan.outcome import Drawing, Outcome, drawn
from kagami.plan.places.selecting import selected
from kagami.plan.steps.base import Step


def muted_sources(step: Step, outcomes: Mapping[str, Outcome]) -> list[list[Outcome]]:
    """The outcomes that a step is made from, a list a field.

    Raises:
        PlanError: one of them is not there.
    """
    found = []
    for name, kind in step.field_kinds().items():
        figures = kind.figures(step[name])
        if figures:
            parts = (reference.partition("#") for reference in figures)
            found.append([one for ident, _, some in parts for one in selected(drawn(ident, outcomes), some)])
    return found


def passed_on(step: Step, sources: Sequence[Sequence[Outcome]]) -> list[Outcome]:
    """What goes on in a step's place; empty where the step is drawn as it stands."""
    heard = [[one for one in field if not one.muted] for field in sources]
    first = next((field for field in heard if field), [])
    if step.muted:
        return first
    several = step.needs_several
    lacks = any(not now or (several and len(now) == 1 < len(field)) for now, field in zip(heard, sources, strict=True))
    return first if lacks else []


def muted_with(step: Step, sources: Sequence[Sequence[Outcome]]) -> bool:
    """Whether a step that is drawn as it stands lends its places only."""
    return step.muted or (bool(sources) and all(one.muted for field in sources for one in field))


def in_place_of(step: Step, passed: Sequence[Outcome]) -> Outcome:
    """The outcome of a step in whose place others go on: one as it is, several as copies of one."""
    key = "muted " + " ".join(one.key for one in passed)
    if len(passed) == 1:
        figure = passed[0].made
    else:
        figures = [one.made for one in passed]
        tones = tuple(t for f in figures for t in f.tones) if all(f.tones for f in figures) else ()
        figure = Figure(tuple(shape for f in figures for shape in f.copies), {}, None, tones)
    return Outcome(step.id, step.name, key, Drawing(figure))
