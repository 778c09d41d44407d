"""What Delivery has made of a plan: work for evaluators (see `web.evaluation.door`)."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.exchange.artwork import Artwork
from kagami.exchange.dxf import write_dxf
from kagami.exchange.finished import artwork
from kagami.exchange.icons import write_ico, write_webp
from kagami.exchange.pdf import Inks, Spot, write_pdf
from kagami.exchange.png import write_png
from kagami.exchange.svg import Fills, write_svg
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.readings import ink_box
from kagami.plan.evaluation.roles import dressed
from kagami.plan.tones.colourways import Colourway, colours_in
from kagami.plan.tones.listed import GROUND, INK
from web.faults import Fault, guarded
from web.pictures.mirror import NO_MIRROR, Mirror, draw_mirror
from web.pictures.picture import Picture, picture_from

WEBP_SIZE: Final = 1024


@dataclass(frozen=True)
class Offered:
    """What can be taken away: the mark's picture in the colourway that was asked for, on its ground; its real size in
    words; whether the plan is sound; and its colourways, those that are chosen first.
    """

    mirror: Mirror
    picture: Picture
    ground: str
    size: str
    sound: bool
    colourways: tuple[str, ...] = ()
    one_ink: bool = False
    """Whether all is of one colour, so that it can be printed in one named ink."""


def offered(plan: Plan, cache: Cache, name: str = "") -> Offered:
    """What the page shows, in the colourway of a name or in the mark's own tones."""
    result = evaluate(plan, cache)
    drawn = guarded("the Mirror", lambda: draw_mirror(result))
    mirror = NO_MIRROR if isinstance(drawn, Fault) else drawn
    size = next((reading.value for reading in mirror.readings if reading.name == _("Size")), "")
    colourway = plan.colourway(name)
    pieces = dressed(result, colourway)
    names = [one.name for one in sorted(plan.colourways, key=lambda one: not one.chosen)]
    return Offered(
        mirror,
        picture_from(pieces, ink_box(pieces), result.sound) if colourway else mirror.picture,
        colours_in(plan.tones, colourway).known[GROUND] if colourway else "",
        size,
        result.sound,
        tuple(names),
        len({piece.colour for piece in pieces}) == 1,
    )


@dataclass(frozen=True)
class Wanted:
    """How a file is wanted: in a colourway (empty for the mark's own tones), on its ground, so many pixels large."""

    colourway: str = ""
    on_ground: bool = False
    size: int = 1024


@dataclass(frozen=True)
class Form:
    """A form in which a mark is delivered: its ending, its media type, and what writes it."""

    ending: str
    kind: str
    write: Callable[[Artwork, str | None, "Wanted", str], bytes]
    suffix: str = ""
    """Stands behind the mark in the file's name."""


FORMS: Final[dict[str, Form]] = {
    "svg": Form("svg", "image/svg+xml", lambda art, ground, wanted, ink: write_svg(art, ground=ground).encode()),
    "svg-roles": Form(
        "svg",
        "image/svg+xml",
        lambda art, ground, wanted, ink: write_svg(art, ground=ground, fills=Fills.ROLES).encode(),
        " roles",
    ),
    "svg-current": Form(
        "svg",
        "image/svg+xml",
        lambda art, ground, wanted, ink: write_svg(art, fills=Fills.CURRENT).encode(),
        " current colour",
    ),
    "pdf": Form("pdf", "application/pdf", lambda art, ground, wanted, ink: write_pdf(art, Inks.RGB, ground)),
    "pdf-cmyk": Form(
        "pdf", "application/pdf", lambda art, ground, wanted, ink: write_pdf(art, Inks.CMYK, ground), " cmyk"
    ),
    "pdf-grey": Form(
        "pdf", "application/pdf", lambda art, ground, wanted, ink: write_pdf(art, Inks.GREY, ground), " grey"
    ),
    "pdf-spot": Form(
        "pdf", "application/pdf", lambda art, ground, wanted, ink: write_pdf(art, Spot(art.title, ink)), " one ink"
    ),
    "png": Form("png", "image/png", lambda art, ground, wanted, ink: write_png(art, wanted.size, ground)),
    "webp": Form("webp", "image/webp", lambda art, ground, wanted, ink: write_webp(art, wanted.size, ground)),
    "ico": Form("ico", "image/vnd.microsoft.icon", lambda art, ground, wanted, ink: write_ico(art, ground=ground)),
    "dxf": Form("dxf", "image/vnd.dxf", lambda art, ground, wanted, ink: write_dxf(art)),
}


def file_of(plan: Plan, cache: Cache, form: str, wanted: Wanted) -> bytes:
    """A file in one of `FORMS`.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    result = evaluate(plan, cache)
    colourway = _colourway(plan, wanted.colourway)
    art = artwork(plan, result, colourway=colourway)
    colours = colours_in(plan.tones, colourway).known
    ink = next((area.fill for area in art.areas if isinstance(area.fill, str)), colours[INK])
    return FORMS[form].write(art, colours[GROUND] if wanted.on_ground else None, wanted, ink)


def _colourway(plan: Plan, name: str) -> Colourway | None:
    return plan.colourway(name) if name else None
