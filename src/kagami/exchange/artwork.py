"""A finished mark as writers receive it: filled pieces at a real size. Writers know nothing of plans."""

from __future__ import annotations

from dataclasses import dataclass

from kagami.geometry.affine import Affine
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape


@dataclass(frozen=True, slots=True)
class Shading:
    """Colours as #rrggbb at their places, 0 to 1: along the x axis of a frame from 0 to 1 or, where it is `round`, from
    its origin out to its unit circle. The frame maps to module units.
    """

    frame: Affine
    round: bool
    stops: tuple[tuple[float, str], ...]


@dataclass(frozen=True, slots=True)
class Area:
    """A filled area. `name` is what the designer calls it, `fill` a colour as #rrggbb or a shading."""

    name: str
    shape: Shape
    fill: str | Shading = "#000000"
    role: str = "ink"
    """The name of the tone that it has."""


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
