"""A finished mark as writers receive it: filled pieces at a real size. Writers know nothing of plans."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from kagami.geometry.affine import Affine
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Shape

MILLIMETRES: Final = {"mm": 1.0, "cm": 10.0, "in": 25.4, "px": 25.4 / 96, "pt": 25.4 / 72}
"""Source: CSS Values and Units Level 3, section 6.2 (1in = 96px = 72pt = 2.54cm)."""


class Unwritable(ValueError):
    """A form cannot hold artwork as large or as small as this."""


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
    clear: float = 0.0
    """So much of the box, all round, is clear space and holds no ink."""
    description: str = ""
    author: str = ""
    hidden: tuple[str, ...] = ()
    """The names of pieces that are not among the areas, since they lie wholly under others."""
    finest: float = 0.0
    """The narrower of its thinnest part and its narrowest gap, in module units, where that was measured."""

    @property
    def ink(self) -> Box:
        """The box tight round the ink."""
        return self.box.grown(-self.clear)

    @property
    def millimetres(self) -> float:
        """The real size of a module unit."""
        return self.scale * MILLIMETRES[self.unit]

    @property
    def colours(self) -> tuple[str, ...]:
        """The plain colours in it, each once."""
        return tuple(dict.fromkeys(area.fill for area in self.areas if isinstance(area.fill, str)))

    @property
    def one_colour(self) -> str | None:
        """The colour of all of it, if it has but one."""
        plain = all(isinstance(area.fill, str) for area in self.areas)
        return self.colours[0] if plain and len(self.colours) == 1 else None

    @property
    def shadings(self) -> tuple[Shading, ...]:
        """The shadings in it, each once."""
        return tuple(dict.fromkeys(area.fill for area in self.areas if isinstance(area.fill, Shading)))
