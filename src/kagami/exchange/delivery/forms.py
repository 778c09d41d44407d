"""The forms of files: what each is for, and what writes it. A new form is one row here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

from kagami.exchange.crisp import crisp
from kagami.exchange.delivery.leaves import (
    built_as_it_ends,
    built_in_plates,
    built_played,
    overview,
    set_out_leaf,
    specimen,
)
from kagami.exchange.delivery.ordering import Order
from kagami.exchange.delivery.reading_back.found import PaintKind
from kagami.exchange.stencil import stencil
from kagami.exchange.svg import Fills, write_svg
from kagami.geometry.tolerance import STATED_ERROR
from kagami.plan.tones.listed import INK


@dataclass(frozen=True, slots=True)
class Form:
    """A form of file: the format of a variant that it belongs to, what its name ends with, and what it is for.

    `kind` stands in its name beside that of the mark, empty for the plainest of a format. One that is `sized` is made
    in every number of pixels that is asked for. `one_colour` forms are made where the mark is of one colour, those of
    `several_colours` where it is not.
    """

    format: str
    kind: str
    ending: str
    media: str
    purpose: str
    write: Callable[[Order], bytes]
    sized: bool = False
    pixels: int = 0
    """The pixels that it always has; 0 where it is asked for, or has none."""
    one_colour: bool = False
    several_colours: bool = False
    folder: str = ""
    leaves: Callable[[Order], list[Leaf]] | None = None
    """The pages that it consists of, where it is a sheet about the mark instead of the mark alone."""
    of_colourways: bool = False
    """Whether it is made where there are colourways alone."""
    reads: str = ""
    """How it is read back: svg, pdf, png, webp, ico, dxf; empty for what holds no mark alone."""
    paints: PaintKind = PaintKind.SCREEN
    """What its pieces are painted with, of the kinds that are found when it is read back."""
    bare: bool = False
    """Whether its mark stands without a ground, whatever its variant says."""

    @property
    def sheet(self) -> bool:
        """Whether it is pages about the mark instead of the mark alone."""
        return self.leaves is not None

    @property
    def stem(self) -> str:
        """Its name in its folder, without an ending: other files there may call it by that."""
        return f"{self.kind}-{self.pixels}" if self.pixels else self.kind


def _svg(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, error=STATED_ERROR).encode()


def _cubics(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, arcs=False, error=STATED_ERROR).encode()


def _web(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, error=STATED_ERROR, sparing=True).encode()


def _roles(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, fills=Fills.ROLES, error=STATED_ERROR, sparing=True).encode()


def _current(order: Order) -> bytes:
    return write_svg(order.art, fills=Fills.CURRENT, error=STATED_ERROR, sparing=True).encode()


def _cut(order: Order) -> bytes:
    return write_svg(stencil(order.art), error=STATED_ERROR).encode()


def _pdf(order: Order) -> bytes:
    from kagami.exchange.pdf import Inks, write_pdf  # what is heavy is loaded where it is asked for

    return write_pdf(order.art, Inks.RGB, order.behind, author=order.art.author)


def _cmyk(order: Order) -> bytes:
    from kagami.exchange.pdf import Inks, write_pdf

    return write_pdf(order.art, Inks.CMYK, order.behind, author=order.art.author)


def _grey(order: Order) -> bytes:
    from kagami.exchange.pdf import Inks, write_pdf

    return write_pdf(order.art, Inks.GREY, order.behind, author=order.art.author)


def _spot(order: Order) -> bytes:
    from kagami.exchange.pdf import Spot, write_pdf

    art = order.art
    role = next((area.role for area in art.areas), INK)
    return write_pdf(art, Spot(role, art.one_colour or "#000000"), author=art.author)


def _spots(order: Order) -> bytes:
    from kagami.exchange.pdf import Spots, write_pdf

    inks: dict[str, str] = {}
    for area in order.art.areas:
        if isinstance(area.fill, str) and area.fill not in inks:
            inks[area.fill] = area.role if area.role not in inks.values() else f"{area.role} {area.fill}"
    return write_pdf(order.art, Spots(tuple(inks.items())), author=order.art.author)


def _png(order: Order) -> bytes:
    from kagami.exchange.png import write_png

    return write_png(crisp(order.art, order.size), order.size, order.behind)


def _webp(order: Order) -> bytes:
    from kagami.exchange.icons import write_webp

    return write_webp(crisp(order.art, order.size), order.size, order.behind)


def _dxf(order: Order) -> bytes:
    from kagami.exchange.dxf import write_dxf

    return write_dxf(order.art)


def _favicon(order: Order) -> bytes:
    from kagami.exchange.icons import FAVICON_SIZES, write_ico

    return write_ico(order.art, FAVICON_SIZES, order.behind)


def _icon_set(order: Order) -> bytes:
    from kagami.exchange.icons import write_ico

    return write_ico(order.art, ground=order.behind)


def _icon_svg(order: Order) -> bytes:
    from kagami.exchange.icons import square

    return write_svg(square(order.art), ground=order.behind, error=STATED_ERROR, sparing=True).encode()


def _icon(order: Order) -> bytes:
    from kagami.exchange.icons import write_icon

    return write_icon(order.art, order.size, order.behind)


def _plate(order: Order) -> bytes:
    from kagami.exchange.icons import write_icon

    return write_icon(order.art, order.size, order.ground)


def _masked(order: Order) -> bytes:
    from kagami.exchange.icons import masked_margin, write_icon

    return write_icon(order.art, order.size, order.ground, masked_margin(order.art))


def _document(order: Order) -> bytes:
    from kagami.plan.document import to_json

    return to_json(order.plan).encode()


def _sentences(order: Order) -> bytes:
    from kagami.plan.language.text import write_text

    return write_text(order.plan).encode()


def _sheet_svg(order: Order) -> bytes:
    return _as_svg(order, set_out_leaf(order)[0])


def _sheet_pdf(order: Order) -> bytes:
    return _as_pdf(order, set_out_leaf(order))


def _built_pdf(order: Order) -> bytes:
    return _as_pdf(order, built_in_plates(order))


def _built_svg(order: Order) -> bytes:
    leaf, seconds = built_played(order)
    return _as_svg(order, leaf, seconds)


def _overview(order: Order) -> bytes:
    return _as_pdf(order, overview(order), order.plan.title)


def _specimen(order: Order) -> bytes:
    return _as_pdf(order, specimen(order), order.plan.title)


def _as_svg(order: Order, leaf: Leaf, seconds: float = 0.0) -> bytes:
    from kagami.exchange.sheets.leaf import leaf_svg

    return leaf_svg(leaf, order.art.title, seconds).encode()


def _as_pdf(order: Order, leaves: list[Leaf], title: str = "") -> bytes:
    from kagami.exchange.sheets.leaf import leaves_pdf

    return leaves_pdf(leaves, title or order.art.title, order.art.author)


def _manifest(order: Order) -> bytes:
    from kagami.exchange.icons import write_manifest

    named = [(FORMS[key], purpose) for key, purpose in NAMED_ICONS.items()]
    icons = [(f"{form.stem}.{form.ending}", form.pixels, purpose) for form, purpose in named]
    return write_manifest(order.plan.title, order.ground, icons)


if TYPE_CHECKING:
    from kagami.exchange.sheets.leaf import Leaf

ABOUT: Final = "about"
"""The format of what is about the mark as a whole; each package holds it."""
NAMED_ICONS: Final = {"icon-192": "any", "icon-512": "any", "icon-masked": "maskable"}
"""The icons that a site's manifest names, and the purpose of each."""
SVG: Final = "image/svg+xml"
PDF: Final = "application/pdf"
PNG: Final = "image/png"
FORMS: Final[dict[str, Form]] = {
    "svg": Form("svg", "", "svg", SVG, "print and screen", _svg, reads="svg"),
    "svg-cubics": Form("cubics", "cubics", "svg", SVG, "for readers that know no arcs", _cubics, reads="svg"),
    "web": Form("web", "web", "svg", SVG, "web pages: in the fewest bytes", _web, reads="svg"),
    "web-roles": Form(
        "web",
        "roles",
        "svg",
        SVG,
        "web pages: a CSS variable a role",
        _roles,
        reads="svg",
        paints=PaintKind.VARIABLE,
    ),
    "web-current": Form(
        "web",
        "text-colour",
        "svg",
        SVG,
        "web pages: in the colour of their text",
        _current,
        one_colour=True,
        reads="svg",
        paints=PaintKind.TEXT,
        bare=True,
    ),
    "pdf": Form("pdf", "", "pdf", PDF, "print, in the colours of screens", _pdf, reads="pdf"),
    "print-cmyk": Form(
        "print",
        "cmyk",
        "pdf",
        PDF,
        "print in four inks; greys in black alone",
        _cmyk,
        reads="pdf",
        paints=PaintKind.PROCESS,
    ),
    "print-grey": Form("print", "grey", "pdf", PDF, "print in black", _grey, reads="pdf", paints=PaintKind.GREY),
    "print-spot": Form(
        "print",
        "one-ink",
        "pdf",
        PDF,
        "print in one named ink",
        _spot,
        one_colour=True,
        reads="pdf",
        paints=PaintKind.INK,
        bare=True,
    ),
    "print-spots": Form(
        "print",
        "inks",
        "pdf",
        PDF,
        "print in named inks, one a tone",
        _spots,
        several_colours=True,
        reads="pdf",
        paints=PaintKind.INK,
        bare=True,
    ),
    "png": Form("png", "", "png", PNG, "screens", _png, sized=True, reads="png"),
    "webp": Form("webp", "", "webp", "image/webp", "the web, without loss", _webp, sized=True, reads="webp"),
    "favicon": Form(
        "icons", "favicon", "ico", "image/vnd.microsoft.icon", "a site's icon", _favicon, folder="icons", reads="ico"
    ),
    "icon-set": Form(
        "", "icons", "ico", "image/vnd.microsoft.icon", "icons of all sizes, 16 to 256", _icon_set, reads="ico"
    ),
    "icon-svg": Form("icons", "icon", "svg", SVG, "a site's icon, of any size", _icon_svg, folder="icons", reads="svg"),
    "icon-touch": Form("icons", "icon", "png", PNG, "on home screens", _plate, pixels=180, folder="icons", reads="png"),
    "icon-192": Form("icons", "icon", "png", PNG, "web application", _icon, pixels=192, folder="icons", reads="png"),
    "icon-512": Form("icons", "icon", "png", PNG, "web application", _icon, pixels=512, folder="icons", reads="png"),
    "icon-masked": Form(
        "icons", "icon-masked", "png", PNG, "icons that systems cut", _masked, pixels=512, folder="icons", reads="png"
    ),
    "icon-1024": Form(
        "icons", "icon", "png", PNG, "application shops", _plate, pixels=1024, folder="icons", reads="png"
    ),
    "icon-manifest": Form(
        "icons", "site", "webmanifest", "application/manifest+json", "names the icons", _manifest, folder="icons"
    ),
    "dxf": Form(
        "dxf",
        "",
        "dxf",
        "image/vnd.dxf",
        "cutters: true arcs, millimetres",
        _dxf,
        reads="dxf",
        paints=PaintKind.LAYER,
        bare=True,
    ),
    "cut": Form(
        "cut", "cut", "svg", SVG, "cutters: nothing overlaps, inner outlines first", _cut, reads="svg", bare=True
    ),
    "sheet-svg": Form("sheet", "construction", "svg", SVG, "how it is set out", _sheet_svg, leaves=set_out_leaf),
    "sheet-pdf": Form(
        "sheet", "construction", "pdf", PDF, "how it is set out, for a manual", _sheet_pdf, leaves=set_out_leaf
    ),
    "overview": Form(ABOUT, "overview", "pdf", PDF, "all variants, sizes and tones", _overview, leaves=overview),
    "specimen": Form(
        ABOUT,
        "colourways",
        "pdf",
        PDF,
        "all colourways, to choose from",
        _specimen,
        leaves=specimen,
        of_colourways=True,
    ),
    "built": Form(
        ABOUT, "how-it-was-built", "pdf", PDF, "how it was built, step by step", _built_pdf, leaves=built_in_plates
    ),
    "built-played": Form(
        ABOUT, "how-it-was-built", "svg", SVG, "the same, as a drawing that plays", _built_svg, leaves=built_as_it_ends
    ),
    "plan": Form(ABOUT, "plan", "json", "application/json", "the plan itself, to keep or hand on", _document),
    "sentences": Form(ABOUT, "plan", "plan", "text/plain", "the plan as sentences, to read", _sentences),
}
"""All forms of files, by name: those of one variant, and those about the mark as a whole."""
