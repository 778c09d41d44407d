"""How a mark was built: a plate for each step or, in long plans, each part; and the same as a drawing that plays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from kagami.exchange.artwork import Artwork
from kagami.exchange.sheets.faces import broken, width_of
from kagami.exchange.sheets.leaf import ACCENT, HUES, RULE, SOFT, Drawn, Leaf, Place, Words, fitted
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import write_sentence

MOST_PLATES: Final = 59
LONG: Final = 24
"""Plans of more steps are shown part by part, where they have parts."""
ACROSS, DOWN = 4, 2
PLATE: Final = 58.0
GAP: Final = 6.5
CAPTION: Final = 3.3
SECONDS: Final = 0.9
"""How long each plate is seen while it plays."""
REST: Final = 3.0
EARLIER: Final = "#c9bfae"


@dataclass(frozen=True, slots=True)
class Plate:
    """What came in a step or part: its words, the lines that are new, and those from before."""

    words: str
    new: tuple[Shape, ...]
    guides: bool


def plates_of(result: Result) -> list[Plate]:
    """The plates of an evaluated plan, in order; muted steps and those without lines come with what follows."""
    plan, names = result.plan, result.plan.names()
    parts: list[tuple[str, list[str]]] = []
    by_part = len(plan.steps) > LONG and any(step.heading for step in plan.steps)
    for step in plan.steps:
        if (step.heading and by_part) or not parts:
            parts.append((step.heading, [step.id]))
        elif by_part:
            parts[-1][1].append(step.id)
        else:
            parts.append(("", [step.id]))
    found = []
    for heading, steps in parts:
        outcomes = [result.outcomes[one] for one in steps if one in result.outcomes]
        shapes = tuple(one.figure.whole for one in outcomes if one.figure and one.figure.whole and not one.muted)
        if not shapes:
            continue
        said = [step for step in plan.steps if step.id in steps]
        words = heading or write_sentence(said[-1], names)
        found.append(Plate(words, shapes, all(step.carries_no_ink for step in said)))
    return found[:MOST_PLATES]


def built_leaves(result: Result, art: Artwork) -> list[Leaf]:
    """The pages: a title, then numbered plates, the mark at the end."""
    plates = plates_of(result)
    around = _around(art, plates)
    leaves = []
    a_page = ACROSS * DOWN
    for first in range(0, len(plates) + 1, a_page):
        leaf = Leaf()
        if first == 0:
            leaf.lay(Words(art.title, 20, 190, 8.5))
            leaf.lay(Words("how it was built", 23 + width_of(art.title, 8.5), 190, 5, italic=True, colour=SOFT))
        for index in range(first, min(first + a_page, len(plates) + 1)):
            column, row = (index - first) % ACROSS, (index - first) // ACROSS
            left, bottom = 20 + column * (PLATE + GAP), 120 - row * (PLATE + 28)
            _plate(leaf, plates, index, art, around, left, bottom)
        leaves.append(leaf)
    return leaves


def _plate(
    leaf: Leaf, plates: Sequence[Plate], index: int, art: Artwork, around: Box, left: float, bottom: float
) -> None:
    leaf.frame(left, bottom, PLATE, PLATE, fill="#fbfaf5", stroke=RULE)
    place = fitted(around, left + 4, bottom + 4, PLATE - 8, PLATE - 8)
    if index == len(plates):
        leaf.mark(art, place)
        words = "The mark."
    else:
        _lines(leaf, plates[: index + 1], place, Box(left, bottom, left + PLATE, bottom + PLATE))
        words = plates[index].words
    number = str(index + 1)
    y = bottom - 5
    leaf.lay(Words(number, left, y, CAPTION + 0.4, colour=ACCENT))
    inset = width_of(number, CAPTION + 0.4) + 1.8
    for line in broken(words, PLATE - inset, CAPTION):
        leaf.lay(Words(line, left + inset, y, CAPTION))
        y -= CAPTION * 1.35


def _lines(leaf: Leaf, plates: Sequence[Plate], place: Place, clip: Box) -> None:
    """The lines of earlier plates in grey, those of the last in a colour."""
    for plate in plates[:-1]:
        leaf.lay(*(Drawn(shape, place, stroke=EARLIER, width=0.15, clip=clip) for shape in plate.new))
    now = plates[-1]
    colour = SOFT if now.guides else HUES[(len(plates) - 1) % len(HUES)]
    leaf.lay(*(Drawn(shape, place, stroke=colour, width=0.35, clip=clip) for shape in now.new))


def _around(art: Artwork, plates: Sequence[Plate]) -> Box:
    """The box of the mark and a little more: guides may reach far beyond it."""
    return art.ink.grown(art.ink.longer * 0.12)


def played(result: Result, art: Artwork) -> tuple[Leaf, float]:
    """A drawing that replays how the mark was built, and how long it takes: seconds."""
    plates = plates_of(result)
    size = 120.0
    leaf = Leaf(size, size + 16)
    whole = len(plates) * SECONDS + REST
    place = fitted(_around(art, plates), 6, 22, size - 12, size - 12)
    clip = Box(2, 18, size - 2, size + 14)
    for number, plate in enumerate(plates):
        begins, ends = number * SECONDS, (number + 1) * SECONDS
        colour = SOFT if plate.guides else HUES[number % len(HUES)]
        for shape in plate.new:
            leaf.lay(Drawn(shape, place, stroke=EARLIER, width=0.2, begins=begins, clip=clip))
            leaf.lay(Drawn(shape, place, stroke=colour, width=0.5, begins=begins, ends=ends, clip=clip))
        leaf.lay(Words(str(number + 1), 6, 12, 4.4, colour=ACCENT, begins=begins, ends=ends))
        y = 12.0
        for line in broken(plate.words, size - 20, 3.6, most=2):
            leaf.lay(Words(line, 14, y, 3.6, begins=begins, ends=ends))
            y -= 5
    finished = len(plates) * SECONDS
    leaf.lay(*(Drawn(area.shape, place, fill=area.fill, begins=finished) for area in art.areas))
    leaf.lay(Words(art.title, size / 2, 12, 4.4, anchor="middle", begins=finished))
    return leaf, whole
