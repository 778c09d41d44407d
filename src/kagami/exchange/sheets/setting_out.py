"""The construction sheet: a mark over the figures that it is made of, with their names and lengths, dimensions, clear
space and measures. Ready for a brand manual.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.exchange.artwork import Artwork
from kagami.exchange.sheets.faces import width_of
from kagami.exchange.sheets.leaf import ACCENT, GHOST, HUES, RULE, SOFT, Drawn, Leaf, Place, Words, fitted
from kagami.geometry.arrays import Floats
from kagami.geometry.figures import arc
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.plan.dimensions.kinds import Angular, Linear
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.dimensions import dimensions_of
from kagami.plan.evaluation.evaluate import inputs_of
from kagami.plan.evaluation.forms import real_millimetres, size_text, sizes_of
from kagami.plan.evaluation.ink import Piece
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import LENGTH
from kagami.plan.lettering.laying import Lettering
from kagami.plan.messages import number_text
from kagami.plan.steps import Step
from kagami.plan.values.stored import typed_value
from kagami.plan.variants.variant import Variant

MOST_LABELS: Final = 14
MOST_DIMENSIONS: Final = 6
SAMPLES: Final = 17
LEFT, BOTTOM, WIDTH, HEIGHT = 20.0, 26.0, 168.0, 146.0
"""Where the mark is drawn, in millimetres."""
LABELS: Final = 210.0
CONSTRUCTION: Final = 0.25
CHAIN: Final = (3.0, 1.0, 0.6, 1.0)
"""Dashes of lines that carry no ink."""
BEYOND: Final = 6.0
"""Millimetres that lines go on beyond the clear space."""
_NUMBER: Final = re.compile(r"[\d.]+(u|mm|cm|in|pt|px)?")
DASHED: Final = (2.0, 1.4)


@dataclass(frozen=True, slots=True)
class Label:
    """A figure's name and length, in the colour of its line."""

    name: str
    length: str
    colour: str
    places: Floats


def set_out(result: Result, art: Artwork, variant: Variant | None, marks: Sequence[Piece], change: int) -> Leaf:
    """The sheet of an evaluated plan; `art` is its artwork with its clear space, `marks` the pieces that it shows."""
    leaf = Leaf()
    place = fitted(art.box, LEFT, BOTTOM, WIDTH, HEIGHT)
    _clear_space(leaf, art, place)
    leaf.mark(art, place, GHOST)
    labels = list(_construction(leaf, result, art, place))
    _labels(leaf, labels, place)
    _all_dimensions(leaf, result, place)
    _head(leaf, result, art)
    _foot(leaf, result, art, variant, marks, change)
    return leaf


def _head(leaf: Leaf, result: Result, art: Artwork) -> None:
    module = result.plan.module
    leaf.lay(Words(art.title, 20, 187, 8.5))
    words = f"set out on a module of {number_text(module.size)} {module.unit}"
    leaf.lay(Words(words, 23 + width_of(art.title, 8.5), 187, 5, italic=True, colour=SOFT))


def _foot(
    leaf: Leaf, result: Result, art: Artwork, variant: Variant | None, marks: Sequence[Piece], change: int
) -> None:
    plan = result.plan
    sizes = sizes_of(result, variant, marks)
    given = real_millimetres(variant.smallest) if variant is not None else None
    smallest = size_text(given) if given is not None else ""
    if not smallest and sizes is not None:
        finest = sizes.smallest_millimetres()
        smallest = size_text(finest) if finest is not None else ""
    names = plan.names()
    module = f"u = {number_text(plan.module.size)} {plan.module.unit}"
    measures = ", ".join([module, *(f"{one.name} = {typed_value(one.value, names)}" for one in plan.measures[:8])])
    parts = [
        art.author,
        f"smallest size {smallest}" if smallest else "",
        measures,
        f"change {change}" if change else "",
    ]
    leaf.lay(Words("   ·   ".join(part for part in parts if part), 20, 13, 3.8, colour=SOFT))


def _clear_space(leaf: Leaf, art: Artwork, place: Place) -> None:
    low, high = (place.at(Point(*corner)) for corner in (art.box[:2], art.box[2:]))
    corners = [(low.x, low.y), (high.x, low.y), (high.x, high.y), (low.x, high.y), (low.x, low.y)]
    leaf.line(*corners, colour=RULE, width=0.3, dash=DASHED)
    if art.clear:
        space = art.clear * place.scale
        y = low.y + space / 2
        leaf.line((low.x, y), (low.x + space, y), colour=ACCENT, width=0.35)
        for x in (low.x, low.x + space):
            leaf.line((x, y - 1.2), (x, y + 1.2), colour=ACCENT, width=0.35)
        text = f"clear {number_text(art.clear)}u"
        leaf.lay(Words(text, low.x, y + 2.2, 4, italic=True, colour=ACCENT))


def _construction(leaf: Leaf, result: Result, art: Artwork, place: Place) -> Iterator[Label]:
    """Draw the lines of all steps, and tell those that are to be labelled."""
    hue = 0
    low, high = (place.at(Point(*corner)) for corner in (art.box[:2], art.box[2:]))
    clip = Box(low.x, low.y, high.x, high.y).grown(BEYOND)
    for step in result.plan.steps:
        outcome = result.outcomes.get(step.id)
        if outcome is None or outcome.figure is None or outcome.muted or not outcome.figure.whole:
            continue
        figure = outcome.figure
        if step.carries_no_ink or not figure.bounds_area:
            leaf.lay(Drawn(figure.whole, place, stroke=RULE, width=CONSTRUCTION, dash=CHAIN, clip=clip))
            continue
        length = next((str(step[field]) for field, kind in step.field_kinds().items() if kind is LENGTH), "")
        if not length or step.figure_ids():
            continue  # what is made of other figures shows in those, and in the mark
        colour = HUES[hue % len(HUES)]
        hue += 1
        leaf.lay(Drawn(figure.whole, place, stroke=colour, width=CONSTRUCTION, clip=clip))
        if hue <= MOST_LABELS:
            words = outcome.drawing.detail if outcome.drawing else None
            said = _type_said(words) if isinstance(words, Lettering) else _said(result, length)
            yield Label(step.name, said, colour, _places(figure.whole))


def _type_said(words: Lettering) -> str:
    """The face of words, its weight, and how high their capitals are."""
    setting = words.setting
    caps = number_text(round(setting.caps, 3))
    return f"{setting.face.name} {number_text(round(setting.cut.weight))}, capitals {caps}u"


def _said(result: Result, text: str) -> str:
    """A length as it is typed and, where that is no number, what it comes to."""
    typed = typed_value(text, result.plan.names())
    if _NUMBER.fullmatch(typed):
        return typed
    try:
        return f"{typed} = {number_text(round(result.values.of(text), 3))}u"
    except PlanError:
        return typed


def _places(shape: Shape) -> Floats:
    """Places along all lines of a shape, in module units."""
    table = tabulate([shape])
    index = np.repeat(np.arange(len(table)), SAMPLES)
    return np.asarray(table.ask("point", index, np.tile(np.linspace(0.0, 1.0, SAMPLES), len(table)), width=2))


def _labels(leaf: Leaf, labels: list[Label], place: Place) -> None:
    """Names and lengths one below the other, those of what reaches highest first, each with a line to its figure."""
    if not labels:
        return
    ordered = sorted(labels, key=lambda label: -float(label.places[:, 1].max()))
    step = min(12.0, (HEIGHT - 30) / max(len(ordered), 1))
    top = BOTTOM + HEIGHT / 2 + step * (len(ordered) - 1) / 2
    for number, label in enumerate(ordered):
        y = top - number * step
        on_leaf = label.places * place.scale + np.array([place.x, place.y])
        nearest = on_leaf[int(np.argmin(np.hypot(on_leaf[:, 0] - LABELS, on_leaf[:, 1] - y)))]
        leaf.line((float(nearest[0]), float(nearest[1])), (LABELS - 1.5, y + 1.2), colour=SOFT, width=0.15)
        leaf.lay(Words(label.name, LABELS, y, 4.6, italic=True, colour=label.colour))
        leaf.lay(Words(label.length, LABELS + 1.5 + width_of(label.name, 4.6, True), y, 4.6, colour=label.colour))


def _dimensions(result: Result) -> Iterator[tuple[Step, Linear | Angular]]:
    """Widths and angles that steps have on the sheet; radii stand in the labels."""
    for step in result.plan.steps:
        outcome = result.outcomes.get(step.id)
        if outcome is None or outcome.figure is None or outcome.muted:
            continue
        if outcome.drawing and isinstance(outcome.drawing.detail, Lettering):
            continue  # what words measure stands in their label
        try:
            found = dimensions_of(step, inputs_of(step, result), outcome.figure)
        except PlanError:
            continue  # the step says what is wrong
        for one in found:
            if (isinstance(one, Linear) and one.both) or isinstance(one, Angular):
                yield step, one


def _all_dimensions(leaf: Leaf, result: Result, place: Place) -> None:
    """As many as there is room for: one whose words would lie over those of another is left out."""
    taken: list[Box] = []
    for step, dimension in _dimensions(result):
        try:
            value = result.values.of(str(step[dimension.field]))
        except PlanError:
            continue  # the step says what is wrong
        drawn = Leaf()
        if isinstance(dimension, Linear):
            _width(drawn, dimension, value, _said(result, str(step[dimension.field])), place)
        elif abs(value) % 90 > 0:
            _angle(drawn, dimension, value, place)
        boxes = [_box_of(item) for item in drawn.items if isinstance(item, Words)]
        if boxes and len(taken) < MOST_DIMENSIONS and not any(_meet(a, b) for a in boxes for b in taken):
            leaf.lay(*drawn.items)
            taken += boxes


def _box_of(words: Words) -> Box:
    left = words.left
    return Box(
        left, words.y - 0.3 * words.size, left + width_of(words.text, words.size, words.italic), words.y + words.size
    )


def _meet(a: Box, b: Box) -> bool:
    return a.left < b.right and b.left < a.right and a.bottom < b.top and b.bottom < a.top


def _width(leaf: Leaf, dimension: Linear, value: float, text: str, place: Place) -> None:
    foot, tip = place.at(dimension.foot), place.at(dimension.tip(value))
    other = Point(2 * foot.x - tip.x, 2 * foot.y - tip.y)
    leaf.line((other.x, other.y), (tip.x, tip.y), colour=ACCENT, width=0.35)
    across = dimension.heading + math.pi / 2
    for end in (other, tip):
        a, b = end.toward(across, 1.4), end.toward(across, -1.4)
        leaf.line((a.x, a.y), (b.x, b.y), colour=ACCENT, width=0.35)
    at = foot.toward(across, 2.4)
    leaf.lay(Words(text, at.x, at.y, 4, italic=True, colour=ACCENT, anchor="middle"))


def _angle(leaf: Leaf, dimension: Angular, value: float, place: Place) -> None:
    radius = min(dimension.radius * 0.45, 30 / place.scale)
    start, sweep = dimension.zero, math.radians(dimension.per * value)
    if not radius > 0 or not 0 < abs(sweep) < math.tau:
        return
    leaf.lay(Drawn(arc(dimension.centre, radius, start, sweep), place, stroke=ACCENT, width=0.35))
    at = place.at(dimension.centre.toward(start + sweep / 2, radius)).toward(start + sweep / 2, 2.0)
    leaf.lay(Words(f"{number_text(value)}°", at.x, at.y, 4, italic=True, colour=ACCENT))
