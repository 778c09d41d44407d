"""The kinds of step. Each module holds kinds whole: their values, their sentence, what they draw.

A new kind is one class in one of these modules, and its word in the table here; a new module is a row of it. A module
is imported when one of its kinds is asked for, or all are: a short command loads what its plan holds.
"""

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

KINDS.lie_in({kind: f"{__name__}.{module}" for module, kinds in MODULES.items() for kind in kinds.split()})


def __getattr__(name: str) -> Any:
    if name not in NAMED:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.{NAMED[name]}"), name)


def in_order_of_work() -> tuple[type[Step], ...]:
    """All kinds as a designer meets them: by chapter, and within one as their modules and classes stand."""
    chapters = {chapter: number for number, chapter in enumerate(Chapter)}
    modules = {f"{__name__}.{name}": number for number, name in enumerate(MODULES)}
    place = {cls: (chapters[cls.chapter], modules.get(cls.__module__, len(modules))) for cls in KINDS.values()}
    return tuple(sorted(KINDS.values(), key=place.__getitem__))


__all__ = [
    "KINDS",
    "MODULES",
    "Carve",
    "Chapter",
    "Circle",
    "FreeOutline",
    "Step",
    "Turn",
    "in_order_of_work",
    "kind_of",
]
