"""A finished mark as writers receive it: filled pieces at a real size. Writers know nothing of plans."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape


@dataclass(frozen=True, slots=True)
class Area:
    """A filled area. `name` is what the designer calls it, `fill` a colour as #rrggbb."""

    name: str
    shape: Shape
    fill: str = "#000000"


@dataclass(frozen=True, slots=True)
class Artwork:
    """Areas in the order in which they lie on each other, within a box in module units.

    `scale` is the real size of a module unit in `unit` (mm, cm, in, px or pt).
    """

    title: str
    areas: tuple[Area, ...]
    box: Box
    scale: float = 1.0
    unit: str = "mm"
