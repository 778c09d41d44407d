"""What a file that was read back holds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True, slots=True)
class Found:
    """What a file holds: its size in millimetres, or in pixels for pictures; the areas by colour in square millimetres,
    the box of its ink, how many lines, arcs and cubics, contours and pieces; what should not be there, in words; its
    colours or inks.
    """

    size: tuple[float, float]
    areas: Mapping[str, float] = field(default_factory=dict)
    box: tuple[float, float, float, float] | None = None
    lines: int = 0
    arcs: int = 0
    cubics: int = 0
    contours: int = 0
    pieces: int = 0
    needless: int = 0
    """Nodes between two lines in one direction, or two arcs of one circle that could be one arc."""
    foreign: tuple[str, ...] = ()
    colours: tuple[str, ...] = ()
    picture: Any = field(default=None, compare=False, repr=False)
    """A picture of it, (height, width, 4) of 0 to 255, where it is one."""

    @property
    def nodes(self) -> int:
        """Nodes of all contours."""
        return self.lines + self.arcs + self.cubics


class Unreadable(ValueError):
    """A file that another library does not read."""
