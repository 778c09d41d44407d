"""Tones handed on: what is made from toned figures has their tones, unless its kind lays tones itself.

Most kinds hand on the first figure's tone; those that cut or part figures give each region its own: that of the topmost
piece that covers it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from kagami.geometry.arrangement import arrange
from kagami.geometry.arrays import Floats
from kagami.geometry.outline import Shape
from kagami.geometry.selection import outline_of_faces
from kagami.plan.figure import Figure
from kagami.plan.outcome import Drawing, Outcome
from kagami.plan.steps.base import Step
from kagami.plan.steps.inputs import Inputs
from kagami.plan.tones.paint import Paint


def with_handed_tones(step: Step, inputs: Inputs, drawing: Drawing) -> Drawing:
    """A step's drawing with the tones of what it was made from."""
    made = drawing.figure
    if step.lays_tones or made.tones or not made.copies or not made.bounds_area:
        return drawing
    sources = [figure for figure in _sources(step, inputs) if figure.bounds_area]
    if not any(figure.tones for figure in sources):
        return drawing
    inks = [ink for figure in sources for ink in figure.inks]
    tones = {tone for tone, _ in inks}
    if step.hands_on == "first" or len(tones) == 1:
        first = next(iter(sources[0].inks), inks[0])[0] if inks else ""
        figure = replace(made, tones=(first,) * len(made.copies))
    else:
        figure = _each_its_own(made, inks)
    return replace(drawing, figure=figure)


def _sources(step: Step, inputs: Inputs) -> list[Figure]:
    found: list[Figure] = []
    for name, kind in step.field_kinds().items():
        if kind.figures(step[name]):
            outcomes: Sequence[Outcome] = inputs.outcomes(name)
            found.extend(outcome.made for outcome in outcomes)
    return found


def _each_its_own(made: Figure, inks: Sequence[tuple[Paint, Shape]]) -> Figure:
    """The tone of each copy is that of the topmost ink over most of it; a single copy falls into one a tone."""
    count = len(made.copies)
    arrangement = arrange([*made.copies, *(shape for _, shape in inks)])
    covers = arrangement.covers
    over = covers[:, count:]
    top = np.where(over.any(axis=1), over.shape[1] - 1 - np.argmax(over[:, ::-1], axis=1), 0)
    if count == 1:
        parts = [(tone, outline_of_faces(arrangement, covers[:, 0] & (top == k))) for k, (tone, _) in enumerate(inks)]
        parts = [(tone, shape) for tone, shape in parts if shape]
        shapes, tones = tuple(shape for _, shape in parts), tuple(tone for tone, _ in parts)
        return replace(made, copies=shapes, tones=tones, apart=False) if shapes else made
    areas: Floats = np.where(np.isfinite(arrangement.areas), arrangement.areas, 0.0)
    toned = []
    for k in range(count):
        weights = np.bincount(top[covers[:, k]], weights=areas[covers[:, k]], minlength=len(inks))
        toned.append(inks[int(np.argmax(weights))][0])
    return replace(made, tones=tuple(toned))
