"""Tones laid on pieces by hand: those that a place lies in, or that a line crosses, all round the symmetry or alone."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Any, Final

import numpy as np

from kagami.geometry.arrangement import Arrangement, arrange
from kagami.geometry.curves import Line
from kagami.geometry.measure.size import centroid
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, SAME
from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.regions import gather
from kagami.plan.changes.steps import with_fields
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate, inking
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.tones import ITS_OWN
from kagami.plan.figure import Figure
from kagami.plan.naming import free_id, free_name
from kagami.plan.steps import Carve, Step
from kagami.plan.steps.tone import Fill
from kagami.plan.tones.listed import tone_colours
from kagami.plan.tones.mixing import colour_of

MOST_PLACES: Final = 200
ALONE, ROUND, SECOND = 0, 1, 2
"""How far a laid tone reaches: the piece itself, its images, or every second of them."""


def lay_tone(plan: Plan, given: Given) -> Changed:
    """Lay `tone` on the foremost pieces at `places` or, where there are several, along the line through them; `every`
    tells how far it reaches. A fill that shows there is changed, else one is made behind the step that made the piece.

    Raises:
        ChangeRefused: no piece is there.
        PlanError: it is no tone.
    """
    tone = given.text("tone")
    colour_of(tone, tone_colours(plan.tones).known)
    result = evaluate(plan, given.cache)
    places = _places(given)
    met = _met(result, places)
    if not met:
        raise ChangeRefused("no-piece-here")
    every = given.number("every")
    before = [step.name for step in plan.steps]
    active = ""
    for identifier, copies in met.items():
        figure = result.outcomes[identifier].made
        numbers = sorted({image for copy in copies for image in _images(figure, copy, every)})
        plan, active = _laid(plan, plan.steps[_position(plan, identifier)], figure, numbers, tone)
    made = [step.name for step in plan.steps if step.name not in before]
    return Changed(plan, f"{', '.join(made) or plan.names()[active]}: {tone}", active)


def _places(given: Given) -> list[Point]:
    listed = given.values.get("places")
    whole = isinstance(listed, list) and 0 < len(listed) <= MOST_PLACES
    if not whole or not all(_is_pair(entry) for entry in listed or ()):
        raise ChangeRefused("bad-change", path="places", reason=f"is no list of 1 to {MOST_PLACES} places")
    return [Point(float(x), float(y)) for x, y in listed or ()]


def _is_pair(entry: object) -> bool:
    return (
        isinstance(entry, list)
        and len(entry) == 2
        and all(isinstance(n, int | float) and not isinstance(n, bool) for n in entry)
        and all(abs(n) <= limits.SHEET_REACH for n in entry)
    )


def _met(result: Result, places: Sequence[Point]) -> dict[str, list[int]]:
    """The pieces that are met: numbers of copies, from 0, by the step that shows them."""
    pieces: list[tuple[str, int, Shape]] = []
    for step in inking(result.plan, result.outcomes):
        copies = result.outcomes[step.id].made.copies
        pieces.extend((step.id, k, shape) for k, shape in enumerate(copies) if shape)
    if not pieces:
        return {}
    line = _line(places)
    arrangement = arrange([*(shape for _, _, shape in pieces), *([line] if line else [])])
    faces = _faces_along(arrangement, len(pieces)) if line else arrangement.locate(np.array([list(places[0])]))
    found: dict[str, list[int]] = {}
    for face in dict.fromkeys(np.asarray(faces).tolist()):
        covering = np.flatnonzero(arrangement.covers[face, : len(pieces)])
        if len(covering):
            identifier, copy, _ = pieces[int(covering[-1])]
            if copy not in found.setdefault(identifier, []):
                found[identifier].append(copy)
    return found


def _line(places: Sequence[Point]) -> Shape | None:
    """The open line through several places; None of one place, or of several that are one."""
    stops = [places[0]]
    for place in places[1:]:
        if place.distance(stops[-1]) > LENGTH:
            stops.append(place)
    if len(stops) < 2:
        return None
    return Shape((Outline(tuple(Line(a, b) for a, b in itertools.pairwise(stops)), closed=False),))


def _faces_along(arrangement: Arrangement, owner: int) -> list[int]:
    """The faces on both sides of the edges of a shape."""
    edges, n = arrangement.edges, len(arrangement.edges.tail)
    own = edges.member_edge[edges.member_owner == owner]
    return [int(face) for half in (own, own + n) for face in arrangement.face[half]]


def _images(figure: Figure, copy: int, every: int) -> list[int]:
    """The copies that a tone reaches which is laid on one."""
    count = len(figure.copies)
    if every == ALONE or count == 1 or (figure.group is None and every == ROUND):
        return [copy]
    if figure.group is None:
        images = list(range(count))
    else:
        places = [centroid(shape) if shape else None for shape in figure.copies]
        here = places[copy]
        orbit = figure.group.orbit(here) if here is not None else ()
        images = [k for k, at in enumerate(places) if at is not None and any(at.distance(o) <= SAME for o in orbit)]
        images = images if copy in images else [copy, *images]
    return images if every == ROUND else images[images.index(copy) % SECOND :: SECOND]


def _position(plan: Plan, identifier: str) -> int:
    return next(k for k, step in enumerate(plan.steps) if step.id == identifier)


def _laid(plan: Plan, step: Step, figure: Figure, numbers: Sequence[int], tone: str) -> tuple[Plan, str]:
    """The plan with a tone on some copies of a figure, and the id of the fill that lays it."""
    count = len(figure.copies)
    if isinstance(step, Fill) and step.tones:
        tones = [step.tones[k % len(step.tones)] for k in range(count)]
    else:
        tones = [ITS_OWN] * count
    for number in numbers:
        tones[number] = tone
    short = tones[:1] if len(set(tones)) == 1 else tones
    if isinstance(step, Fill):
        return with_fields(plan, step, tones=short), step.id
    if len(plan.steps) >= limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    name = free_name(plan, Fill.noun)
    entry: dict[str, Any] = {"kind": "fill", "id": free_id(plan, name), "name": name, "figure": step.id, "tones": short}
    data = plan.model_dump(mode="json")
    data["steps"].insert(_position(plan, step.id) + 1, entry)
    return from_data(data), str(entry["id"])


def lay_on_regions(plan: Plan, given: Given) -> Changed:
    """Lay `tone` on `regions` of the carve `step`, each as far as `every` reaches: they become a piece of their own,
    carved from the same figures and filled, which lies on what was carved before. Regions that are laid with that tone
    already are joined by the new ones.

    Raises:
        ChangeRefused: there is no such region.
        PlanError: it is no tone.
    """
    tone = given.text("tone")
    colour_of(tone, tone_colours(plan.tones).known)
    carve = plan.step(given.text("step"))
    if not isinstance(carve, Carve):
        raise ChangeRefused("no-region")
    laid = _laid_before(plan, carve, tone)
    if laid is None:
        plan, laid = _with_piece(plan, carve, tone)
    given = Given({**given.values, "step": laid.id, "keep": True}, given.cache)
    changed = gather(plan, given)
    return Changed(changed.plan, f"{laid.name}: {tone}", carve.id)


def _laid_before(plan: Plan, carve: Carve, tone: str) -> Carve | None:
    """The piece that was carved from the same figures and filled with that tone alone."""
    filled = {step.figure for step in plan.steps if isinstance(step, Fill) and step.tones == (tone,)}
    for step in plan.steps:
        if isinstance(step, Carve) and step != carve and step.figures == carve.figures and step.id in filled:
            return step
    return None


def _with_piece(plan: Plan, carve: Carve, tone: str) -> tuple[Plan, Carve]:
    """The plan with an empty carve of the same figures and its fill, behind all that stands on the first one."""
    if len(plan.steps) + 2 > limits.STEPS:
        raise ChangeRefused("too-many", what="steps", most=limits.STEPS)
    data = plan.model_dump(mode="json")
    above = {carve.id}
    position = _position(plan, carve.id) + 1
    for number, step in enumerate(plan.steps, 1):
        if above & step.uses():
            above.add(step.id)
            position = max(position, number)
    name = free_name(plan, Carve.noun)
    piece: dict[str, Any] = {"kind": "carve", "id": free_id(plan, name), "name": name, "figures": list(carve.figures)}
    data["steps"].insert(position, piece)
    between = from_data(data)
    filled = free_name(between, Fill.noun)
    fill = {"kind": "fill", "id": free_id(between, filled), "name": filled, "figure": piece["id"], "tones": [tone]}
    data["steps"].insert(position + 1, fill)
    made = from_data(data)
    found = made.step(str(piece["id"]))
    assert isinstance(found, Carve)
    return made, found
