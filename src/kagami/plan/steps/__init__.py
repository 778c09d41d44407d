"""The kinds of step. Each module holds kinds whole: their values, their sentence, what they draw.

A new kind is one class in one of these modules, and its word in the table here; a new module is a row of it. A module
is imported when one of its kinds is asked for, or all are: a short command loads what its plan holds.
"""

from collections.abc import Iterable
from importlib import import_module
from typing import TYPE_CHECKING, Any, Final

from kagami.plan.steps.base import KINDS, Chapter, Step, kind_of

if TYPE_CHECKING:
    from kagami.plan.steps.carve import Carve
    from kagami.plan.steps.circle import Circle
    from kagami.plan.steps.free import FreeOutline
    from kagami.plan.steps.turn import Turn

MODULES: Final = {
    "guides": "centre-lines diagonals guide-line line-between parallel point polar-point grid polar-grid",
    "circle": "circle circle-through circle-diameter circle-three circle-touching circle-touching-two circle-between"
    " circle-fitted oval",
    "arcs": "ring arc wedge ring-part",
    "bar": "bar bar-between box box-between square",
    "polygon": "polygon standing-polygon star star-polygon",
    "lines": "segment path",
    "leaf": "leaf drop shield",
    "free": "free-outline free-stroke",
    "turn": "turn turn-part turn-reflect turn-sizes",
    "repeats": "reflect march spread echo open let-go",
    "placing": "move place rotate scale against align size size-in-proportion widen",
    "carve": "carve",
    "combine": "union difference intersection exclusion divide split order group",
    "refine": "band taper offset gap",
    "weaving": "weave inlay",
    "rounding": "round round-far round-each round-one",
    "reshaping": "cast bow draw-to-points node-out node-form true",
    "tone": "fill grade gradient gradient-round",
    "lighting": "light half rim",
    "shadows": "shadow overlap crossing-shade",
    "flattening": "flat",
    "letter": "set-line set-along set-like set-like-along",
    "letter_fits": "compose kern fit-width fit-span match-stems hold one-by-one as-outlines",
}
"""The words of the kinds that each module holds, as they stand in it; in the order in which a designer meets them."""
NAMED: Final = {"Carve": "carve", "Circle": "circle", "FreeOutline": "free", "Turn": "turn"}
"""Kinds that much else speaks of, by their class."""

# fmt: off
OPENINGS: Final = {
    "guides": "Centre Diagonals Grid Line Point Polar",
    "circle": "Circle Oval",
    "arcs": "Arc Ring Wedge",
    "bar": "Bar Box Square",
    "polygon": "Polygon Star",
    "lines": "Path Segment",
    "leaf": "Drop Leaf Shield",
    "free": "Stroke Outline",
    "turn": "Turn",
    "repeats": "Echo Let March Open Reflect Spread",
    "placing": "Align Move Place Rotate Scale Set Size",
    "carve": "Of",
    "combine": "Bring Divide From Group Keep Of Split Unite",
    "refine": "Band Offset Part Tapering",
    "weaving": "Lay Weave",
    "rounding": "Round",
    "reshaping": "Bow Cast Draw Make Take",
    "tone": "Fill Grade",
    "lighting": "Light Rim To",
    "shadows": "Shade Where",
    "flattening": "Flatten",
    "letter": "Set",
    "letter_fits": "Compose Fit Hold Kern Match Span Take",
}
# fmt: on
"""The words with which the sentences of each module begin in English, so that a text loads what it speaks of."""

KINDS.lie_in({kind: f"{__name__}.{module}" for module, kinds in MODULES.items() for kind in kinds.split()})


def __getattr__(name: str) -> Any:
    if name not in NAMED:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.{NAMED[name]}"), name)


def in_order_of_work() -> tuple[type[Step], ...]:
    """All kinds as a designer meets them: by chapter, and within one as their modules and classes stand."""
    return _in_order(KINDS.values())


def beginning_with(word: str) -> tuple[type[Step], ...]:
    """The kinds whose sentence may begin with an English word, in the same order, and those that are in no table."""
    modules = [module for module, words in OPENINGS.items() if word.lower() in words.lower().split()]
    listed = (KINDS[kind] for module in modules for kind in MODULES[module].split())
    return _in_order([*listed, *KINDS.beside_the_table()])


def _in_order(kinds: Iterable[type[Step]]) -> tuple[type[Step], ...]:
    chapters = {chapter: number for number, chapter in enumerate(Chapter)}
    modules = {f"{__name__}.{name}": number for number, name in enumerate(MODULES)}
    return tuple(sorted(kinds, key=lambda cls: (chapters[cls.chapter], modules.get(cls.__module__, len(modules)))))


__all__ = [
    "KINDS",
    "MODULES",
    "OPENINGS",
    "Carve",
    "Chapter",
    "Circle",
    "FreeOutline",
    "Step",
    "Turn",
    "beginning_with",
    "in_order_of_work",
    "kind_of",
]
