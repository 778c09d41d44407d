"""The kinds of step. Each module holds kinds whole: their values, their sentence, what they draw.

A new kind is one class in one of these modules; a new module is named here.
"""

from importlib import import_module
from typing import Final

from kagami.plan.steps.base import KINDS, Chapter, Step, kind_of
from kagami.plan.steps.carve import Carve
from kagami.plan.steps.circle import Circle
from kagami.plan.steps.free import FreeOutline
from kagami.plan.steps.turn import Turn

MODULES: Final = (
    "guides",
    "circle",
    "arcs",
    "bar",
    "polygon",
    "lines",
    "leaf",
    "free",
    "turn",
    "repeats",
    "placing",
    "carve",
    "combine",
    "refine",
    "weaving",
    "rounding",
    "reshaping",
    "tone",
    "lighting",
    "shadows",
    "flattening",
    "letter",
    "letter_fits",
)
"""In the order in which a designer meets them."""

for _module in MODULES:
    import_module(f"{__name__}.{_module}")


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
