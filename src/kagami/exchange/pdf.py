"""PDF out: filled outlines at their exact real size, in RGB, in process inks, in grey or in one named ink.

Source: ISO 32000-1:2008, Document management, Portable document format, Part 1: PDF 1.7; chapters named where they are
used. Equal artwork gives equal bytes.
"""

from __future__ import annotations

import io
import itertools
from dataclasses import dataclass
from enum import Enum
from typing import TYPE_CHECKING, Any, Final

from kagami.exchange.arcs import arc_cubics
from kagami.exchange.artwork import Artwork, Shading, Unwritable
from kagami.exchange.pen import draw
from kagami.geometry.affine import Affine
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Arc
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.point import Point

if TYPE_CHECKING:
    import pikepdf

POINTS: Final = {"mm": 72 / 25.4, "cm": 72 / 2.54, "in": 72.0, "px": 0.75, "pt": 1.0}
"""Points a unit; a px is that of CSS, 96 to an inch."""
DECIMALS: Final = 6
LEAST_PAGE, MOST_PAGE = 3.0, 14_400.0
"""Points of a side. Source: ISO 32000-1, annex C.2."""


class Inks(Enum):
    """What colours are made of."""

    RGB = "rgb"
    CMYK = "cmyk"
    GREY = "grey"


@dataclass(frozen=True, slots=True)
class Spot:
    """A named ink, in which all is printed; `colour` (#rrggbb) is what screens show for it."""

    name: str
    colour: str


@dataclass(frozen=True, slots=True)
class Spots:
    """Several named inks, one a colour (#rrggbb), each printed at full strength."""

    names: tuple[tuple[str, str], ...]
    """Colours with the names of their inks."""


class PagePen:
    """Writes contours as path operators (ISO 32000-1, 8.5.2)."""

    def __init__(self, by: Affine) -> None:
        self.by = by
        self.words: list[str] = []

    def begin(self, start: Point) -> None:
        """m."""
        self.words.append(f"{self._at(start)} m")

    def line(self, end: Point) -> None:
        """l."""
        self.words.append(f"{self._at(end)} l")

    def arc(self, arc: Arc | EllipticArc, end: Point) -> None:
        """c, several times: there are no arcs."""
        for cubic in arc_cubics(arc, end):
            self.cubic(cubic, cubic.end)

    def cubic(self, cubic: Cubic, end: Point) -> None:
        """c."""
        self.words.append(f"{self._at(cubic.first_handle)} {self._at(cubic.second_handle)} {self._at(end)} c")

    def close(self) -> None:
        """h."""
        self.words.append("h")

    def leave(self) -> None:
        """Nothing: the next contour begins elsewhere."""

    def _at(self, point: Point) -> str:
        x, y = self.by.point(point)
        return f"{number(x)} {number(y)}"


def number(value: float) -> str:
    """A number in as few digits as its place needs."""
    text = f"{value:.{DECIMALS}f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def write_pdf(
    art: Artwork, inks: Inks | Spot | Spots = Inks.RGB, ground: str | None = None, margin: float = 0.0, author: str = ""
) -> bytes:
    """The artwork as a PDF of one page, just as large as it really is, its ArtBox round the ink where there is clear
    space (ISO 32000-1, 14.11.2); `margin` (in module units) widens it all round.

    Grey and near-grey go into black ink alone, so that black stays one ink. In a spot ink its own colour is printed in
    full, and a lighter one as much weaker.

    Raises:
        Unwritable: the page would be larger or smaller than pages may be.
    """
    import pikepdf  # takes a while to load

    scale = art.scale * POINTS[art.unit]
    box = art.box
    by = Affine(scale, 0.0, 0.0, scale, scale * (margin - box.left), scale * (margin - box.bottom))
    width, height = (scale * (side + 2 * margin) for side in (box.width, box.height))
    if not (min(width, height) >= LEAST_PAGE and max(width, height) <= MOST_PAGE):
        least, most = (f"{side / POINTS['mm']:.4g}" for side in (LEAST_PAGE, MOST_PAGE))
        size = " × ".join(f"{side / POINTS['mm']:.3g}" for side in (width, height))
        raise Unwritable(f"a page of PDF is from {least} to {most} mm large, and this would be {size} mm: set a height")
    pdf = pikepdf.new()
    page = pdf.add_blank_page(page_size=(width, height))
    # Round figures of a page are those of its content: a box may hold as many digits as its content does.
    bounds = pikepdf.Array([0, 0, _real(width), _real(height)])
    for name in ("/MediaBox", "/TrimBox"):
        page.obj[name] = bounds
    resources = pikepdf.Dictionary()
    space = Space(inks, resources, pdf)
    rows = []
    if ground is not None:
        rows.append(f"{space.fill(ground)} 0 0 {number(width)} {number(height)} re f")
    for area in art.areas:
        pen = PagePen(by)
        draw(area.shape, pen)
        paint = space.shaded(area.fill, by) if isinstance(area.fill, Shading) else space.fill(area.fill)
        rows.append("\n".join([paint, *pen.words, "f"]))
    if art.clear:
        edge = scale * (art.clear + margin)
        page.obj["/ArtBox"] = pikepdf.Array([_real(edge), _real(edge), _real(width - edge), _real(height - edge)])
    page.obj["/Contents"] = pdf.make_stream("\n".join(rows).encode("ascii"))
    page.obj["/Resources"] = resources
    described(pdf, art.title, author)
    out = io.BytesIO()
    pdf.save(out, deterministic_id=True, compress_streams=True, min_version="1.4")
    return out.getvalue()


def described(pdf: pikepdf.Pdf, title: str, author: str) -> None:
    """What a document is called, and by whom it is, in both places where that stands (ISO 32000-1, 14.3)."""
    pdf.docinfo["/Title"] = title
    if author:
        pdf.docinfo["/Author"] = author
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as meta:
        meta["dc:title"] = title
        if author:
            meta["dc:creator"] = [author]


def _real(value: float) -> Any:
    from decimal import Decimal

    return Decimal(number(value))


class Space:
    """Colours as operators of a colour space (ISO 32000-1, 8.6), and what of them stands in the page's resources."""

    def __init__(self, inks: Inks | Spot | Spots, resources: pikepdf.Dictionary, pdf: pikepdf.Pdf) -> None:
        import pikepdf

        self.inks, self.resources, self.pdf = inks, resources, pdf
        self.patterns = 0
        if isinstance(inks, Spot):
            resources["/ColorSpace"] = pikepdf.Dictionary({"/S1": self._separation(inks.name, inks.colour)})
        elif isinstance(inks, Spots):
            spaces = {f"/S{k}": self._separation(name, colour) for k, (colour, name) in enumerate(inks.names, 1)}
            resources["/ColorSpace"] = pikepdf.Dictionary(spaces)

    def _separation(self, name: str, colour: str) -> pikepdf.Array:
        """The colour space of a named ink (ISO 32000-1, 8.6.6.4)."""
        import pikepdf

        red, green, blue = _channels(colour)
        tint = _exponential([0.0, 0.0, 0.0, 0.0], [1 - red, 1 - green, 1 - blue, 0.0])
        return pikepdf.Array([pikepdf.Name.Separation, pikepdf.Name("/" + name), pikepdf.Name.DeviceCMYK, tint])

    def fill(self, colour: str) -> str:
        """The operators that set a colour for filling."""
        if isinstance(self.inks, Spots):
            place = next(k for k, (known, _name) in enumerate(self.inks.names, 1) if known == colour)
            return f"/S{place} cs 1 scn"
        values = " ".join(number(value) for value in self.components(colour))
        if isinstance(self.inks, Spot):
            return f"/S1 cs {values} scn"
        return f"{values} {({Inks.RGB: 'rg', Inks.CMYK: 'k', Inks.GREY: 'g'})[self.inks]}"

    def stroke(self, colour: str) -> str:
        """The operators that set a colour for lines."""
        return f"{' '.join(number(value) for value in self.components(colour))} RG"

    def components(self, colour: str) -> list[float]:
        """A colour (#rrggbb) in the space."""
        red, green, blue = _channels(colour)
        if self.inks is Inks.RGB:
            return [red, green, blue]
        if self.inks is Inks.CMYK:
            return in_process_inks(red, green, blue)
        light = _luma(red, green, blue)
        if isinstance(self.inks, Spot):
            full = 1 - _luma(*_channels(self.inks.colour))
            return [1.0 if colour == self.inks.colour or full <= 0 else min(1.0, (1 - light) / full)]
        return [light]

    def shaded(self, shading: Shading, by: Affine) -> str:
        """A shading as a pattern (ISO 32000-1, 8.7.4), and the operators that fill with it.

        Raises:
            Unwritable: each ink is printed at full strength.
        """
        import pikepdf

        if isinstance(self.inks, Spots):
            raise Unwritable("a gradient cannot be printed in named inks at full strength; flatten it to bands")

        self.patterns += 1
        if "/Pattern" not in self.resources:
            self.resources["/Pattern"] = pikepdf.Dictionary()
        frame = by.after(shading.frame)
        extents = [0, 0, 0, 0, 0, 1] if shading.round else [0, 0, 1, 0]
        stops = [(at, self.components(colour)) for at, colour in shading.stops]
        if isinstance(self.inks, Spot):
            space: Any = self.resources["/ColorSpace"]["/S1"]
        else:
            names = {Inks.RGB: "/DeviceRGB", Inks.CMYK: "/DeviceCMYK", Inks.GREY: "/DeviceGray"}
            space = pikepdf.Name(names[self.inks])
        self.resources["/Pattern"][f"/P{self.patterns}"] = pikepdf.Dictionary(
            {
                "/Type": pikepdf.Name.Pattern,
                "/PatternType": 2,
                "/Matrix": pikepdf.Array([_real(v) for v in (frame.a, frame.b, frame.c, frame.d, frame.e, frame.f)]),
                "/Shading": pikepdf.Dictionary(
                    {
                        "/ShadingType": 3 if shading.round else 2,
                        "/ColorSpace": space,
                        "/Coords": pikepdf.Array(extents),
                        "/Extend": pikepdf.Array([True, True]),
                        "/Function": _stitched(stops),
                    }
                ),
            }
        )
        return f"/Pattern cs /P{self.patterns} scn"


def in_process_inks(red: float, green: float, blue: float) -> list[float]:
    """Cyan, magenta, yellow and black of a colour (0 to 1), all its grey in black. Source: the naive conversion of CSS
    Color Module Level 5, turned round.
    """
    black = 1 - max(red, green, blue)
    if black >= 1:
        return [0.0, 0.0, 0.0, 1.0]
    return [*((1 - value - black) / (1 - black) for value in (red, green, blue)), black]


def _luma(red: float, green: float, blue: float) -> float:
    """How light a colour is, 0 to 1. Source: Rec. ITU-R BT.709, item 3.2."""
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def _channels(colour: str) -> tuple[float, float, float]:
    red, green, blue = (int(colour[k : k + 2], 16) / 255 for k in (1, 3, 5))
    return red, green, blue


def _exponential(low: list[float], high: list[float]) -> Any:
    """From one colour to another, evenly (ISO 32000-1, 7.10.3)."""
    import pikepdf

    ends = {"/C0": pikepdf.Array([_real(v) for v in low]), "/C1": pikepdf.Array([_real(v) for v in high])}
    return pikepdf.Dictionary({"/FunctionType": 2, "/Domain": pikepdf.Array([0, 1]), "/N": 1, **ends})


def _stitched(stops: list[tuple[float, list[float]]]) -> Any:
    """Colours at their places, evenly between them (ISO 32000-1, 7.10.4)."""
    import pikepdf

    places = [at for at, _ in stops]
    if places[0] > 0:
        stops = [(0.0, stops[0][1]), *stops]
    if places[-1] < 1:
        stops = [*stops, (1.0, stops[-1][1])]
    parts = [_exponential(a[1], b[1]) for a, b in itertools.pairwise(stops)]
    return pikepdf.Dictionary(
        {
            "/FunctionType": 3,
            "/Domain": pikepdf.Array([0, 1]),
            "/Functions": pikepdf.Array(parts),
            "/Bounds": pikepdf.Array([_real(at) for at, _ in stops[1:-1]]),
            "/Encode": pikepdf.Array([0, 1] * len(parts)),
        }
    )
