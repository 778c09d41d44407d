"""What a file that was read back holds."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import Enum
from typing import Any

from kagami.geometry.arrays import Floats


class PaintKind(Enum):
    """What a paint is made of."""

    SCREEN = "a colour of screens"
    VARIABLE = "a colour that its page may set"
    PROCESS = "the four process inks"
    GREY = "black alone"
    INK = "a named ink"
    SHADING = "a gradient"
    TEXT = "the colour of the text around"
    LAYER = "what a layer is shown in"


@dataclass(frozen=True, slots=True)
class Paint:
    """What an area is filled with. `colour` (#rrggbb) is what screens show for it, of a named ink that of the ink in
    full; `values` are shares: of four inks or of black, or the strength of the named ink; `name` is that of the ink, or
    of the variable by which a page may set it. A gradient has its `stops`, shares and what screens show there, and the
    origin and the ends of both axes of its `frame`, (3, 2), in millimetres from the lower left.
    """

    kind: PaintKind
    colour: str = ""
    values: tuple[float, ...] = ()
    name: str = ""
    stops: tuple[tuple[float, str], ...] = ()
    frame: Floats | None = field(default=None, compare=False, repr=False)

    @property
    def told(self) -> str:
        """In words: “#2f7f86”, “C 0 M 25 Y 74 K 11”, “lamp”."""
        if self.kind is PaintKind.PROCESS:
            return " ".join(f"{ink} {round(100 * share)}" for ink, share in zip("CMYK", self.values, strict=True))
        if self.kind is PaintKind.GREY:
            return f"K {round(100 * (1 - self.values[0]))}"
        if self.kind is PaintKind.INK:
            return self.name if self.values[0] >= 1 else f"{self.name} {round(100 * self.values[0])} %"
        return self.colour or self.kind.value


@dataclass(frozen=True, slots=True)
class Drawn:
    """A piece as it is drawn, or what is laid behind them all: its paint, the signed area within each contour in square
    millimetres, and places on them, (n, 2), in millimetres from the lower left.
    """

    paint: Paint
    areas: tuple[float, ...]
    places: Floats = field(compare=False, repr=False)


@dataclass(frozen=True, slots=True)
class Found:
    """What a file holds: its size in millimetres, or in pixels for pictures; its pieces as they are drawn; the box of
    its ink, how many lines, arcs and cubics; what should not be there, in words; its colours, inks or layers.
    """

    size: tuple[float, float]
    drawn: tuple[Drawn, ...] = ()
    box: tuple[float, float, float, float] | None = None
    lines: int = 0
    arcs: int = 0
    cubics: int = 0
    needless: int = 0
    """Nodes between two lines in one direction, or two arcs of one circle that could be one arc."""
    foreign: tuple[str, ...] = ()
    colours: tuple[str, ...] = ()
    directed: bool = True
    """Whether its contours have a direction. Areas are signed by what lies in what otherwise."""
    pictures: tuple[Any, ...] = field(default=(), compare=False, repr=False)
    """Its pictures, each (height, width, 4) of 0 to 255, the largest first."""

    @property
    def nodes(self) -> int:
        """Nodes of all contours."""
        return self.lines + self.arcs + self.cubics

    @property
    def pieces(self) -> int:
        """How many pieces it draws."""
        return len(self.drawn)

    @property
    def contours(self) -> int:
        """The contours of all pieces."""
        return sum(len(piece.areas) for piece in self.drawn)

    @property
    def areas(self) -> Mapping[str, float]:
        """The area in each paint, in square millimetres."""
        found: dict[str, float] = {}
        for piece in self.drawn:
            found[piece.paint.told] = found.get(piece.paint.told, 0.0) + abs(sum(piece.areas))
        return found


class Unreadable(ValueError):
    """A file that another library does not read."""
