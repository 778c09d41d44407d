"""What a slip begins with: the figures, lines and tones that a step of its kind is most likely about."""

from collections.abc import Sequence
from typing import Final

from kagami.geometry.curves import Line
from kagami.geometry.errors import GeometryError
from kagami.geometry.halves import halves
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.rounding import corners_of
from kagami.plan.changes.going_along import done_to
from kagami.plan.changes.moving import plain_number
from kagami.plan.document import Plan
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.figures import FigureKind
from kagami.plan.fields.kind import Offer
from kagami.plan.fields.values import LENGTH
from kagami.plan.figure import Figure
from kagami.plan.lettering.laying import Lettering
from kagami.plan.naming import free_name
from kagami.plan.outcome import Outcome
from kagami.plan.places.selecting import lines_of, plain_id
from kagami.plan.steps import Carve, Chapter, Step, Turn
from kagami.plan.steps.arcs import Ring, RingPart
from kagami.plan.steps.refine import Band
from kagami.plan.steps.repeats import Echo
from kagami.plan.translation import tr
from web.bench.lines_of_words import GONE_BY, gone_by

MOST_TRIED: Final = 8
"""Of bent lines so many of the newest are tried whether they cut a figure."""
SAME_DIGITS: Final = 6
"""Decimals to which places, in u, and turns, in radians, are told apart."""


def begun(plan: Plan, result: Result, cls: type[Step], position: int, asked: Sequence[str]) -> Step:
    """A step with the kind's defaults and the figures that it is most likely about; `asked` are those to begin with."""
    before = plan.steps[:position]
    asked = [identifier for identifier in asked if any(step.id == identifier for step in before)]
    used = {identifier for step in before for identifier in step.figure_ids()}
    closed = [step.id for step in before if _is_area(step, result)]
    kinds = cls.field_kinds()
    lines = [step.id for step in before if _is_line(step, result)]
    free_lines = [identifier for identifier in lines if identifier not in used]
    if cls.takes_lines and ((cls.lines_first and free_lines) or not closed):
        closed = free_lines or lines
    free = [identifier for identifier in closed if identifier not in used]
    offer = Offer(
        asked=asked,
        free=_largest_first(free, result) if cls.largest_first else free,
        areas=closed,
        tones=[tone.name for tone in plan.tones],
        newest_first=issubclass(cls, Turn) or cls.lines_first,
        beside_figure="figure" in kinds and not issubclass(cls, Carve),
    )
    found = {name: kind.begin(offer) for name, kind in kinds.items()}
    single = [name for name, kind in kinds.items() if isinstance(kind, FigureKind)]
    words = _holding(Lettering, before, result)
    wanted = words if cls.chapter is Chapter.LETTER else _holding(cls.wants, before, result) if cls.wants else []
    if wanted:
        newest = next((one for one in asked if one in wanted), wanted[-1])
        found |= {name: newest for name in single if name not in GONE_BY}
    elif cls.along:
        found |= _along(cls, before, result, asked, free or closed)
    elif "ground" in single and len(asked) < 2:
        found |= _grounded(single, asked, free or closed)
    else:
        found |= dict(zip(single, asked, strict=False)) if len(asked) > 1 else _paired(single, asked, closed)
    if cls.presses and "form" in kinds:
        found["form"] = "open"  # a press on the first place closes it
    found |= gone_by(cls, before, result, asked, found)
    if issubclass(cls, Echo):
        found["thickness"] = _thickness(plan.step(plain_id(found["figure"])))
    outcome = result.outcomes.get(plain_id(found.get("figure") or ""))
    if outcome and outcome.figure:
        found |= cls.about(outcome.figure)
        found |= _sharpest(outcome, outcome.figure, cls.press) if cls.corner_of else {}
    fields = {name: value for name, value in found.items() if value is not None}
    return cls.model_validate({**fields, "id": "new", "name": free_name(plan, tr(cls.noun))})


def _thickness(step: Step | None) -> str | None:
    """The thickness that an echo of a step keeps: that of a ring or a band; None for whatever is not thin."""
    if isinstance(step, Ring | RingPart):
        inner, outer = plain_number(step.inner), plain_number(step.outer)
        told = f"{step.outer} - ({step.inner})"
        return told if inner is None or outer is None else LENGTH.number(outer - inner)
    return step.width if isinstance(step, Band) else None


def _sharpest(outcome: Outcome, figure: Figure, field: str) -> dict[str, str]:
    """The sharpest corner of a figure that is one of its anchors."""
    corners = corners_of(figure.united) if figure.bounds_area else []
    turns = {_spot(corner.place): round(abs(corner.turn), SAME_DIGITS) for corner in corners}
    named = [name for name, place in figure.anchors.items() if _spot(place) in turns]
    sharpest = max(named, key=lambda name: turns[_spot(figure.anchors[name])], default="")
    return {field: f"{outcome.id}.{sharpest}"} if sharpest else {}


def _spot(place: Point) -> tuple[float, float]:
    return round(place.x, SAME_DIGITS), round(place.y, SAME_DIGITS)


def lines_for(cls: type[Step], before: Sequence[Step], result: Result, figure: str) -> list[str]:
    """The figures that a step can be done along to another one: what is straight; any open line where it goes by all of
    them; bent ones that cut the figure, or any where there is none yet, if it takes these.
    """
    made = result.outcomes.get(plain_id(figure))
    straight, bent = [], []
    for step in before:
        outcome = result.outcomes.get(step.id)
        if step.id == plain_id(figure) or outcome is None or outcome.figure is None or outcome.figure.bounds_area:
            continue
        if lines_of(outcome.figure):
            straight.append(step.id)
        elif outcome.figure.whole.outlines and (cls.along_all or cls.along_bent):
            bent.append((step.id, outcome.figure.whole))
    if cls.along_bent and made is not None:
        bent = [(one, line) for one, line in bent[-MOST_TRIED:] if _cuts(line, made.figure)]
    found = {*straight, *(one for one, _line in bent)}
    return [step.id for step in before if step.id in found]


def _cuts(line: Shape, figure: Figure | None) -> bool:
    """Whether a line has parts of a figure on both its sides."""
    try:
        return figure is not None and figure.bounds_area and all(halves(figure.united, line))
    except GeometryError:  # the step itself says what is wrong
        return False


def _along(
    cls: type[Step], before: Sequence[Step], result: Result, asked: Sequence[str], areas: Sequence[str]
) -> dict[str, str]:
    """What is done to, the first that was asked for that is no line to go by, else the newest area; and the line: one
    that was asked for, else the newest there is.
    """
    lines, other = lines_for(cls, before, result, ""), done_to(cls)
    if not other:
        wanted = [one for one in asked if _goes_by(result.outcomes.get(one))] or lines[-1:]
        return {cls.along: wanted[-1]} if wanted else {}
    drawn = [step.id for step in before if step.id in result.outcomes and step.id not in lines]
    figures = [one for one in asked if one not in lines] or list(areas)[-1:] or drawn[-1:] or list(asked)[:1]
    if not figures:
        return {}
    others = lines_for(cls, before, result, figures[0])
    wanted = [one for one in asked if one in others] or others[-1:] or [one for one in asked if one != figures[0]]
    return {other: figures[0], cls.along: wanted[-1] if wanted else figures[0]}


def _goes_by(outcome: Outcome | None) -> bool:
    return outcome is not None and outcome.figure is not None and has_straight(outcome.figure)


def has_straight(figure: Figure) -> bool:
    """Whether something can go by a straight side of a figure."""
    return any(isinstance(curve, Line) for curve in figure.whole.curves)


def _grounded(single: Sequence[str], asked: Sequence[str], areas: Sequence[str]) -> dict[str, str]:
    """What is to be done on a ground begins with an earlier area as the ground."""
    figure = asked[0] if asked else next(iter(areas[-1:]), "")
    ground = next((one for one in areas if one != figure), figure)
    return {name: ground if name == "ground" else figure for name in single if figure}


def _paired(single: Sequence[str], asked: Sequence[str], areas: Sequence[str]) -> dict[str, str]:
    """What two fields begin with where one figure was asked for, or none: that or the newest area, and the newest one
    beside it; a first and a second as they stand in the plan. What one field begins with is what was asked for.
    """
    figure = asked[0] if asked else next(iter(areas[-1:]), "")
    if len(single) != 2 or not figure or set(single) & set(GONE_BY):
        return dict(zip(single, asked, strict=False))
    pair = [figure, next((one for one in reversed(areas) if one != figure), figure)]
    if single[0] == "first":
        pair.sort(key=lambda one: areas.index(one) if one in areas else -1)
    return dict(zip(single, pair, strict=True))


def _holding(detail: type, before: Sequence[Step], result: Result) -> list[str]:
    """The steps whose drawings have a detail of a type, such as words or a weave."""
    outcomes = (result.outcomes.get(step.id) for step in before)
    return [one.id for one in outcomes if one and one.drawing and isinstance(one.drawing.detail, detail)]


def _largest_first(areas: Sequence[str], result: Result) -> list[str]:
    """The one with the largest box before all others, which keep their order."""

    def size(identifier: str) -> float:
        figure = result.outcomes[identifier].figure
        return figure.box.width * figure.box.height if figure and figure.box else 0.0

    largest = max(areas, key=size, default="")
    return sorted(areas, key=lambda one: one != largest)


def _is_line(step: Step, result: Result) -> bool:
    """Whether a step is a line that is no guide."""
    outcome = result.outcomes.get(step.id)
    figure = outcome.figure if outcome else None
    return figure is not None and not (figure.bounds_area or step.carries_no_ink) and bool(figure.whole.outlines)


def _is_area(step: Step, result: Result) -> bool:
    outcome = result.outcomes.get(step.id)
    return bool(outcome and outcome.figure and outcome.figure.bounds_area and not step.always_guide)
