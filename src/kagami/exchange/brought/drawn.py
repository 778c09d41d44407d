"""What an SVG draws: the outlines of each of its elements, in the units of the document and y upwards, and how they are
painted.

Source: Scalable Vector Graphics (SVG) 1.1 (W3C 2011), 5 (use, symbols), 7 (views), 11 (painting).
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final

from kagami.exchange.brought.document import INHERITED, SPACE, document_of, line_of, target
from kagami.exchange.brought.errors import DrawingError, Remark, counted
from kagami.exchange.brought.shapes import BARE, Unreadable, Viewport, affine_of, length, outlines_of, radii_of
from kagami.geometry.affine import Affine
from kagami.geometry.errors import InvalidLength
from kagami.geometry.outline import Outline
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH, SAME

MOST_FIGURES: Final = 300
UNLIKE: Final = 100.0
"""Where a document says nothing of its size, per cents are of so much."""
UPWARDS: Final = Affine(1.0, 0.0, 0.0, -1.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Painted:
    """An element: its outlines, what fills them as #rrggbb and by which rule, and the line along them. Where it is a
    rectangle with round corners, `radius` is theirs.
    """

    name: str
    line: int
    outlines: tuple[Outline, ...]
    fill: str | None = None
    odd: bool = False
    stroke: str | None = None
    width: float = 0.0
    ends: str = "butt"
    corners: str = "mitred"
    radius: float = 0.0


@dataclass(frozen=True, slots=True)
class Drawn:
    """What a document draws, from its farthest to its nearest; what is to be said of the rest; and the middle of its
    view, where it has one.
    """

    painted: tuple[Painted, ...]
    remarks: tuple[Remark, ...]
    middle: Point | None


def drawn(data: bytes) -> Drawn:
    """What an SVG draws.

    Raises:
        DrawingError: as `document_of`, and `svg-nothing`, `svg-too-many-figures`.
    """
    document = document_of(data)
    named = {element.get("id"): element for element in document.root.iter() if element.get("id")}
    walk = _Walk(named)
    found: list[Painted] = []
    for painted in walk.within(document.root, Affine(), {}, Viewport(UNLIKE, UNLIKE), outermost=True):
        found.append(painted)
        if len(found) > MOST_FIGURES:
            raise DrawingError("svg-too-many-figures", most=MOST_FIGURES)
    if not found:
        raise DrawingError("svg-nothing")
    return Drawn(tuple(found), (*document.remarks, *counted(walk.remarks)), walk.middle)


class _Walk:
    """Through a tree, from the root, with what is used put where it is used."""

    def __init__(self, named: Mapping[str, Any]) -> None:
        self.named = named
        self.remarks: list[Remark] = []
        self.middle: Point | None = None

    def within(
        self, element: Any, by: Affine, above: Mapping[str, str], view: Viewport, *, outermost: bool = False
    ) -> Iterator[Painted]:
        """What an element paints, and what stands in it."""
        name = element.tag.removeprefix(SPACE)
        hidden = element.get("display") == "none" or _share(element.get("opacity")) <= 0
        if hidden or (name not in ("svg", "g", "a", "switch", "use") and name not in BARE):
            return
        held = {**above, **{one: element.get(one) for one in INHERITED if element.get(one) is not None}}
        if _share(element.get("opacity")) < 1:
            self._say("svg-see-through", element)
        try:
            by = by.after(affine_of(element.get("transform")))
            if name == "svg":
                by, view = self._viewed(element, by, view, element, outermost)
            elif name == "use":
                by = _moved(by, element, view)
        except Unreadable:
            self._say("svg-value", element)
            return
        if name in BARE:
            yield from self._painted(element, name, by, held, view)
        elif name == "use":
            yield from self._used(element, by, held, view)
        else:
            for child in list(element)[: 1 if name == "switch" else None]:
                yield from self.within(child, by, held, view)

    def _used(self, element: Any, by: Affine, held: Mapping[str, str], view: Viewport) -> Iterator[Painted]:
        used = self.named.get(target(element))
        if used is None:
            self._say("svg-lost", element)
        elif used.tag != f"{SPACE}symbol":
            yield from self.within(used, by, held, view)
        else:
            held = {**held, **{one: used.get(one) for one in INHERITED if used.get(one) is not None}}
            try:
                by, view = self._viewed(used, by, view, element, False)
            except Unreadable:
                self._say("svg-value", used)
                return
            for child in used:
                yield from self.within(child, by, held, view)

    def _viewed(self, element: Any, by: Affine, view: Viewport, sized: Any, outermost: bool) -> tuple[Affine, Viewport]:
        """The map and the view within an element that has a view of its own (SVG 1.1, 7.7 to 7.8); `sized` tells its
        size. A unit of the outermost view is one of what is read.
        """
        wide, high = length(sized.get("width"), view.wide, view.wide), length(sized.get("height"), view.high, view.high)
        box = _numbers(element.get("viewBox"))
        if outermost:
            known = box is not None or (sized.get("width") is not None and sized.get("height") is not None)
            left, top, across, down = box or (0.0, 0.0, wide, high)
            self.middle = Point(left + across / 2, -(top + down / 2)) if known else None
            return by, Viewport(across, down)
        if element is sized:
            by = _moved(by, element, view)
        if box is None:
            return by, Viewport(wide, high)
        left, top, across, down = box
        fitting = element.get("preserveAspectRatio", "xMidYMid").split()
        sx, sy = wide / across, high / down
        if fitting[:1] != ["none"]:
            sx = sy = max(sx, sy) if fitting[1:] == ["slice"] else min(sx, sy)
        shares = {"Min": 0.0, "Mid": 0.5, "Max": 1.0}
        word = fitting[0] if fitting and len(fitting[0]) == len("xMidYMid") else "xMidYMid"
        x = shares.get(word[1:4], 0.5) * (wide - sx * across) - sx * left
        y = shares.get(word[5:8], 0.5) * (high - sy * down) - sy * top
        return by.after(Affine(sx, 0.0, 0.0, sy, x, y)), Viewport(across, down)

    def _painted(
        self, element: Any, name: str, by: Affine, held: Mapping[str, str], view: Viewport
    ) -> Iterator[Painted]:
        """What an element that draws is, if it is seen."""
        if held.get("visibility") in ("hidden", "collapse"):
            return
        fill = self._colour(element, held, "fill", "black") if name != "line" else None
        stroke = self._colour(element, held, "stroke", "none")
        radius = 0.0
        try:
            width = length(held.get("stroke-width"), view.across, 1.0)
            outlines = outlines_of(element, name, view)
            if name == "rect":
                rx, ry = radii_of(element, view)
                radius = rx if abs(rx - ry) <= SAME * rx and by.is_similarity else 0.0
        except Unreadable as error:
            self._say("svg-value", element)
            width, outlines = 1.0, error.found
        grown = math.sqrt(abs(by.determinant))
        if element.get("vector-effect") != "non-scaling-stroke":
            width *= grown
        stroke = stroke if width > LENGTH else None
        if grown <= LENGTH or not outlines or (fill is None and stroke is None):
            return
        try:
            outlines = tuple(_mapped(one, UPWARDS.after(by)) for one in outlines)
        except InvalidLength:  # it comes to a line, or less
            return
        if stroke is not None:
            self._say_of_line(element, held, by)
        yield Painted(
            element.get("id", ""),
            line_of(element),
            outlines,
            fill,
            held.get("fill-rule") == "evenodd",
            stroke,
            width,
            {"round": "round", "square": "square"}.get(held.get("stroke-linecap", ""), "butt"),
            {"round": "round", "bevel": "bevelled"}.get(held.get("stroke-linejoin", ""), "mitred"),
            radius * grown,
        )

    def _say_of_line(self, element: Any, held: Mapping[str, str], by: Affine) -> None:
        if not by.is_similarity:
            self._say("svg-stretched", element)
        if held.get("stroke-dasharray", "none").strip() not in ("none", "", "0"):
            self._say("svg-dashed", element)

    def _colour(self, element: Any, held: Mapping[str, str], paint: str, otherwise: str) -> str | None:
        """A paint as #rrggbb; None where nothing is painted."""
        from coloraide import Color

        text = held.get(paint, otherwise).strip()
        share = _share(held.get(f"{paint}-opacity"))
        if text.lower() == "none" or share <= 0:
            return None
        try:
            colour = Color(text.partition("icc-color")[0].strip())
        except ValueError:
            self._say("svg-colour", element)
            colour = Color("black" if otherwise != "none" else "transparent")
        if colour.alpha() <= 0:
            return None
        if share * colour.alpha() < 1:
            self._say("svg-see-through", element)
        # A channel beyond its range is at its end (CSS Color Level 4, 5.1); other spaces are fitted in.
        found = colour.clip() if colour.space() == "srgb" else colour.convert("srgb").fit()
        return str(found.to_string(hex=True, alpha=False))

    def _say(self, code: str, element: Any) -> None:
        self.remarks.append(Remark(code, line_of(element)))


def _mapped(outline: Outline, by: Affine) -> Outline:
    """The image of an outline; an open one runs on as it did."""
    image = outline.mapped(by)
    return image if outline.closed or by.determinant > 0 else image.reversed()


def _moved(by: Affine, element: Any, view: Viewport) -> Affine:
    """A map that begins at the place of an element."""
    return by.after(Affine.translation(length(element.get("x"), view.wide), length(element.get("y"), view.high)))


def _share(text: str | None) -> float:
    """An opacity, from 0 to 1; 1 where none is told that can be read."""
    try:
        bare = (text or "1").strip()
        value = float(bare.removesuffix("%")) / (100 if bare.endswith("%") else 1)
    except ValueError:
        return 1.0
    return min(1.0, max(0.0, value)) if math.isfinite(value) else 1.0


def _numbers(text: str | None) -> tuple[float, float, float, float] | None:
    """The four numbers of a view, None where it holds nothing."""
    try:
        left, top, wide, high = (length(one, 0.0) for one in (text or "").replace(",", " ").split())
    except ValueError:  # `Unreadable` among them
        return None
    return (left, top, wide, high) if min(wide, high) > LENGTH else None
