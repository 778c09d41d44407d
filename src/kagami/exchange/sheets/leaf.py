"""A page of a sheet, and how it is written as SVG or PDF. Lengths in millimetres, y upwards from the lower left."""

from __future__ import annotations

import io
import itertools
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, Final, TypeAlias

from kagami.exchange.artwork import Artwork, Shading
from kagami.exchange.pen import draw
from kagami.exchange.sheets.faces import outlines_of, width_of
from kagami.exchange.svg import Frame, gradient_element, path_data, xml_text
from kagami.geometry.affine import Affine
from kagami.geometry.curves import Line
from kagami.geometry.figures import box as rectangle
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point

if TYPE_CHECKING:
    import pikepdf

A4: Final = (297.0, 210.0)
INK: Final = "#1c1a17"
SOFT: Final = "#6d655a"
RULE: Final = "#dccfb8"
ACCENT: Final = "#b3301e"
GHOST: Final = "#dedcd6"
HUES: Final = ("#2c4f9e", "#0b6b62", "#8a2f6e", "#8f520a", "#52611a", "#5b45a0", "#3f5c73", "#7a4630")
HAIR: Final = 0.15
POINTS: Final = 72 / 25.4
DECIMALS: Final = 2


@dataclass(frozen=True, slots=True)
class Place:
    """How module units lie on a leaf: so many millimetres each, and where the origin is."""

    scale: float
    x: float
    y: float

    def at(self, point: Point) -> Point:
        """Where a place lies on the leaf."""
        return Point(self.x + self.scale * point.x, self.y + self.scale * point.y)

    def affine(self, times: float = 1.0) -> Affine:
        """The map, in so many units a millimetre."""
        return Affine(self.scale * times, 0.0, 0.0, self.scale * times, self.x * times, self.y * times)

    def frame(self, height: float) -> Frame:
        """The same for SVG, on a leaf so high."""
        return Frame(self.scale, -self.x / self.scale, (height - self.y) / self.scale, DECIMALS)


ON_THE_LEAF: Final = Place(1.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Drawn:
    """Outlines: filled, or drawn with a line so wide (millimetres) and so broken. `begins` is when they come, in
    seconds, where the leaf is played.
    """

    shape: Shape
    place: Place = ON_THE_LEAF
    fill: str | Shading | None = None
    stroke: str | None = None
    width: float = HAIR
    dash: tuple[float, ...] = ()
    begins: float | None = None
    ends: float | None = None
    clip: Box | None = None
    """What lies beyond it is not seen; on the leaf."""


@dataclass(frozen=True, slots=True)
class Words:
    """Words whose baseline begins at, has its middle at, or ends at a place."""

    text: str
    x: float
    y: float
    size: float = 4.0
    italic: bool = False
    colour: str = INK
    anchor: str = "start"
    begins: float | None = None
    ends: float | None = None

    @property
    def left(self) -> float:
        """Where they begin."""
        share = {"start": 0.0, "middle": 0.5, "end": 1.0}[self.anchor]
        return self.x - share * width_of(self.text, self.size, self.italic)


Item: TypeAlias = Drawn | Words


@dataclass
class Leaf:
    """A page, to which items are laid one upon the other."""

    width: float = A4[0]
    height: float = A4[1]
    items: list[Item] = field(default_factory=list)

    def lay(self, *items: Item) -> None:
        """Lay items on what is there."""
        self.items.extend(items)

    def line(self, *points: tuple[float, float], colour: str = RULE, width: float = HAIR, dash: Any = ()) -> None:
        """A line through places."""
        pairs = itertools.pairwise(Point(*point) for point in points)
        shape = Shape((Outline(tuple(Line(a, b) for a, b in pairs), closed=False),))
        self.lay(Drawn(shape, stroke=colour, width=width, dash=dash))

    def frame(
        self,
        left: float,
        bottom: float,
        width: float,
        height: float,
        fill: str | None = None,
        stroke: str | None = RULE,
    ) -> None:
        """An upright rectangle."""
        shape = rectangle(Point(left + width / 2, bottom + height / 2), width, height)
        self.lay(Drawn(shape, fill=fill, stroke=stroke))

    def mark(self, art: Artwork, place: Place, colour: str | None = None) -> None:
        """A finished mark, in its own colours or in one."""
        self.lay(*(Drawn(area.shape, place, fill=colour or area.fill) for area in art.areas))


def fitted(box: Box, left: float, bottom: float, width: float, height: float) -> Place:
    """The place in which a box lies in the middle of a rectangle, as large as it can be."""
    scale = min(width / box.width if box.width else 1.0, height / box.height if box.height else 1.0)
    x, y = box.centre
    return Place(scale, left + width / 2 - scale * x, bottom + height / 2 - scale * y)


def leaf_svg(leaf: Leaf, title: str, seconds: float = 0.0) -> str:
    """A leaf as an SVG document of its real size. With `seconds` it plays so long, and starts again."""
    number = Frame(decimals=DECIMALS).number
    width, height = number(leaf.width), number(leaf.height)
    rows = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}mm" height="{height}mm" '
        f'viewBox="0 0 {width} {height}">',
        f"<title>{xml_text(title)}</title>",
        f'<path fill="#ffffff" d="M0 0H{width}V{height}H0Z"/>',
    ]
    shadings: list[Shading] = []
    clips = list(dict.fromkeys(item.clip for item in leaf.items if isinstance(item, Drawn) and item.clip is not None))
    rows += [_clip_path(clip, leaf.height, number) for number, clip in enumerate(clips, 1)]
    for item in leaf.items:
        clip = item.clip if isinstance(item, Drawn) else None
        clipped = f' clip-path="url(#clip-{clips.index(clip) + 1})"' if clip is not None else ""
        rows.append(_svg_item(item, leaf, shadings, seconds, clipped))
    return "\n".join([*rows, "</svg>", ""])


def _clip_path(clip: Box, height: float, count: int) -> str:
    number = Frame(decimals=DECIMALS).number
    left, right, top, bottom = map(number, (clip.left, clip.right, height - clip.top, height - clip.bottom))
    return f'<clipPath id="clip-{count}"><path d="M{left} {top}H{right}V{bottom}H{left}Z"/></clipPath>'


def _svg_item(item: Item, leaf: Leaf, shadings: list[Shading], seconds: float, clipped: str) -> str:
    played = _played(item.begins, item.ends, seconds)
    # Where nothing plays, the end is seen.
    hidden = ' opacity="0"' if played and item.ends is not None else ""
    end = f"{hidden}>{played}</path>" if played else "/>"
    if isinstance(item, Words):
        return f'<path fill="{item.colour}" d="{_words_data(item, leaf.height)}"{end}'
    frame = item.place.frame(leaf.height)
    fill, before = "none", ""
    if isinstance(item.fill, Shading):
        shadings.append(item.fill)
        before = f"<defs>{gradient_element(item.fill, f'shading-{len(shadings)}', frame)}</defs>"
        fill = f"url(#shading-{len(shadings)})"
    elif item.fill:
        fill = item.fill
    stroke = ""
    if item.stroke:
        dash = f' stroke-dasharray="{" ".join(str(one) for one in item.dash)}"' if item.dash else ""
        stroke = f' stroke="{item.stroke}" stroke-width="{item.width}"{dash}'
    return f'{before}<path fill="{fill}"{stroke}{clipped} d="{path_data(item.shape, frame)}"{end}'


def _played(begins: float | None, ends: float | None, seconds: float) -> str:
    """When something is seen while a leaf is played. Source: SVG Animations Level 2, values and keyTimes."""
    if begins is None or not seconds:
        return ""
    times = [0.0, begins / seconds, 1.0 if ends is None else ends / seconds]
    values = [0, 1, 1 if ends is None else 0]
    if begins == 0:
        times, values = times[1:], values[1:]
    keys = ";".join(f"{time:.4f}".rstrip("0").rstrip(".") for time in times)
    shown = ";".join(str(value) for value in values)
    return (
        f'<animate attributeName="opacity" calcMode="discrete" dur="{seconds:g}s" repeatCount="indefinite" '
        f'keyTimes="{keys}" values="{shown}"/>'
    )


def _words_data(words: Words, height: float) -> str:
    number = Frame(decimals=DECIMALS).number
    parts = []
    for command, values in outlines_of(words.text, words.left, words.y, words.size, words.italic):
        places = [number(height - value if k % 2 else value) for k, value in enumerate(values)]
        parts.append({"m": "M", "l": "L", "c": "C", "h": "Z"}[command] + " ".join(places))
    return "".join(parts)


def leaves_pdf(leaves: Sequence[Leaf], title: str, author: str = "") -> bytes:
    """Leaves as the pages of a PDF. Equal leaves give equal bytes."""
    import pikepdf

    from kagami.exchange.pdf import described

    pdf = pikepdf.new()
    for leaf in leaves:
        _page(pdf, leaf)
    described(pdf, title, author)
    out = io.BytesIO()
    pdf.save(out, deterministic_id=True, compress_streams=True, min_version="1.4")
    return out.getvalue()


def _page(pdf: pikepdf.Pdf, leaf: Leaf) -> None:
    import pikepdf

    from kagami.exchange.pdf import Inks, PagePen, Space, number

    page = pdf.add_blank_page(page_size=(leaf.width * POINTS, leaf.height * POINTS))
    resources = pikepdf.Dictionary()
    space = Space(Inks.RGB, resources, pdf)
    rows = []
    for item in leaf.items:
        if isinstance(item, Words):
            rows.append(space.fill(item.colour))
            for command, values in outlines_of(item.text, item.left, item.y, item.size, item.italic):
                rows.append(" ".join([*(f"{value * POINTS:.2f}" for value in values), command]))
            rows.append("f")
            continue
        by = item.place.affine(POINTS)
        if item.clip is not None:
            corner = (item.clip.left, item.clip.bottom, item.clip.width, item.clip.height)
            rows.append(f"q {' '.join(number(one * POINTS) for one in corner)} re W n")
        pen = PagePen(by)
        draw(item.shape, pen)
        if isinstance(item.fill, Shading):
            rows.append(space.shaded(item.fill, by))
        elif item.fill:
            rows.append(space.fill(item.fill))
        if item.stroke:
            dash = " ".join(number(one * POINTS) for one in item.dash)
            rows.append(f"{space.stroke(item.stroke)} {number(item.width * POINTS)} w [{dash}] 0 d")
        rows += [*pen.words, "B" if item.fill and item.stroke else "f" if item.fill else "S"]
        rows += ["Q"] if item.clip is not None else []
    page.obj["/Contents"] = pdf.make_stream("\n".join(rows).encode("ascii"))
    page.obj["/Resources"] = resources
