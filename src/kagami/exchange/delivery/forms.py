"""The forms of files: what each is for, and what writes it. A new form is one row here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from kagami.exchange.artwork import Artwork
from kagami.exchange.crisp import crisp
from kagami.exchange.stencil import stencil
from kagami.exchange.svg import Fills, write_svg
from kagami.geometry.tolerance import STATED_ERROR
from kagami.plan.document import Plan
from kagami.plan.evaluation.result import Result
from kagami.plan.tones.listed import INK
from kagami.plan.variants.variant import Variant


@dataclass(frozen=True, slots=True)
class Order:
    """What a file is made from: a variant's artwork, its ground as a colour, whether that is drawn, and the pixels of
    a picture's longer side; besides the plan itself, evaluated, and the change that it is.
    """

    art: Artwork
    ground: str
    on_ground: bool
    result: Result
    variant: Variant | None
    size: int = 0
    change: int = 0

    @property
    def plan(self) -> Plan:
        """The variant's plan."""
        return self.result.plan

    @property
    def behind(self) -> str | None:
        """The colour that is drawn behind the mark, None where it stands clear."""
        return self.ground if self.on_ground else None


@dataclass(frozen=True, slots=True)
class Form:
    """A form of file: the format of a variant that it belongs to, what its name ends with, and what it is for.

    `kind` stands in its name beside that of the mark, empty for the plainest of a format. One that is `sized` is made
    in every number of pixels that is asked for. `one_colour` forms are made where the mark is of one colour.
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
    folder: str = ""
    sheet: bool = False
    """Whether it is a page about the mark instead of the mark alone."""
    of_colourways: bool = False
    """Whether it is made where there are colourways alone."""
    reads: str = ""
    """How it is read back: svg, pdf, png, webp, ico, dxf; empty for what holds no mark alone."""


def _svg(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, error=STATED_ERROR).encode()


def _cubics(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, arcs=False, error=STATED_ERROR).encode()


def _roles(order: Order) -> bytes:
    return write_svg(order.art, ground=order.behind, fills=Fills.ROLES, error=STATED_ERROR).encode()


def _current(order: Order) -> bytes:
    return write_svg(order.art, fills=Fills.CURRENT, error=STATED_ERROR).encode()


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


def _icon_svg(order: Order) -> bytes:
    from kagami.exchange.icons import square

    return write_svg(square(order.art), ground=order.behind, error=STATED_ERROR).encode()


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


def _manifest(order: Order) -> bytes:
    from kagami.exchange.icons import write_manifest

    icons = [("icon-192.png", 192, "any"), ("icon-512.png", 512, "any"), ("icon-masked-512.png", 512, "maskable")]
    return write_manifest(order.plan.title, order.ground, icons)


ABOUT: Final = "about"
"""The format of what is about the mark as a whole; each package holds it."""
SVG: Final = "image/svg+xml"
PDF: Final = "application/pdf"
PNG: Final = "image/png"
FORMS: Final[dict[str, Form]] = {
    "svg": Form("svg", "", "svg", SVG, "print and screen", _svg, reads="svg"),
    "svg-cubics": Form("cubics", "cubics", "svg", SVG, "for readers that know no arcs", _cubics, reads="svg"),
    "web-roles": Form("web", "roles", "svg", SVG, "web pages: a CSS variable a role", _roles, reads="svg"),
    "web-current": Form(
        "web",
        "text-colour",
        "svg",
        SVG,
        "web pages: in the colour of their text",
        _current,
        one_colour=True,
        reads="svg",
    ),
    "pdf": Form("pdf", "", "pdf", PDF, "print, in the colours of screens", _pdf, reads="pdf"),
    "print-cmyk": Form("print", "cmyk", "pdf", PDF, "print in four inks; greys in black alone", _cmyk, reads="pdf"),
    "print-grey": Form("print", "grey", "pdf", PDF, "print in black", _grey, reads="pdf"),
    "print-spot": Form("print", "one-ink", "pdf", PDF, "print in one named ink", _spot, one_colour=True, reads="pdf"),
    "png": Form("png", "", "png", PNG, "screens", _png, sized=True, reads="png"),
    "webp": Form("webp", "", "webp", "image/webp", "the web, without loss", _webp, sized=True, reads="webp"),
    "favicon": Form(
        "icons", "favicon", "ico", "image/vnd.microsoft.icon", "a site's icon", _favicon, folder="icons", reads="ico"
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
    "dxf": Form("dxf", "", "dxf", "image/vnd.dxf", "cutters: true arcs, millimetres", _dxf, reads="dxf"),
    "cut": Form("cut", "cut", "svg", SVG, "cutters: nothing overlaps, inner outlines first", _cut, reads="svg"),
    "plan": Form(ABOUT, "plan", "json", "application/json", "the plan itself, to keep or hand on", _document),
    "sentences": Form(ABOUT, "plan", "plan", "text/plain", "the plan as sentences, to read", _sentences),
}
"""All forms of files, by name: those of one variant, and those about the mark as a whole."""
