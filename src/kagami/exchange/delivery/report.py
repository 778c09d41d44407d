"""The clean report of a file: what another library reads in it, how near that is to the plan, and how fine it is.

A file whose areas, box, size or picture are not those of the plan is at fault, and is not handed out.
"""

from __future__ import annotations

import io
import json
import re
from dataclasses import dataclass, replace
from typing import Any, Final

import numpy as np

from kagami.exchange.artwork import MILLIMETRES, Artwork
from kagami.exchange.crisp import crisp
from kagami.exchange.delivery.forms import FORMS, Form
from kagami.exchange.delivery.ordering import Order, fineness_of
from kagami.exchange.delivery.reading_back import Found, Unreadable, pdf_picture, read_back
from kagami.exchange.icons import FAVICON_SIZES, ICON_SIZES, masked_margin, square
from kagami.exchange.stencil import stencil
from kagami.geometry.arrays import Floats
from kagami.geometry.measure.size import Box, area, perimeter
from kagami.geometry.tolerance import DRAWN_APART, READ_AREA, READ_EXACT, READ_POINT, STATED_ERROR
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.fineness import Fineness
from kagami.plan.evaluation.forms import PIXEL, PRINT
from kagami.plan.messages import number_text

LOOKED_AT: Final = 256
"""Pixels of the longer side at which files without pixels are drawn and compared."""
FAR: Final = 64
"""Levels of 255 that two rasterisers' pixels may differ: edges are smoothed in different ways."""
READING: Final = {"svg": STATED_ERROR, "pdf": READ_POINT, "dxf": READ_EXACT}
"""Millimetres (for SVG its own units) by which outlines may be off: what is written, and what the reader rounds."""
_VARIABLE: Final = re.compile(r"var\(--[^,()]*, (#[0-9a-f]{6})\)")


@dataclass(frozen=True, slots=True)
class Report:
    """What is told of a file. `faults` say why it is not handed out. Lengths in millimetres or, where `pixels`, in
    pixels of the picture; `area_error` is a share, `pixel_error` the share of pixels that two rasterisers draw apart.
    """

    bytes: int
    faults: tuple[str, ...]
    foreign: tuple[str, ...] = ()
    """What is in it that is no filled outline."""
    counts: tuple[int, int, int] | None = None
    """Arcs, lines and cubics."""
    pieces: int = 0
    needless: int = 0
    contents: tuple[str, ...] = ()
    """Colours, layers, sizes or inks in it."""
    area_error: float | None = None
    pixel_error: float | None = None
    gap: float | None = None
    part: float | None = None
    pixels: bool = False
    limit: float = PRINT
    size: tuple[float, float] = (0.0, 0.0)

    @property
    def sound(self) -> bool:
        """Whether it is handed out."""
        return not self.faults

    @property
    def nodes(self) -> int:
        """Nodes of all contours."""
        return sum(self.counts or ())


def report_on(order: Order, form: Form, data: bytes, cache: Cache) -> Report:
    """Read a file back and compare it with what it was made from."""
    if form.sheet:
        return _of_sheet(form, data)
    if form is FORMS["icon-manifest"]:
        return _of_names(data)
    if not form.reads:
        return _of_plan(order, form, data)
    try:
        found = read_back(form.reads, data)
    except Unreadable as error:
        return Report(len(data), (f"another library does not read it: {error}",))
    fine = fineness_of(order, cache)
    if found.picture is not None:
        return _of_picture(order, form, data, found, fine)
    return _of_outlines(order, form, data, found, fine)


def _of_outlines(order: Order, form: Form, data: bytes, found: Found, fine: Fineness) -> Report:
    art = stencil(order.art) if form is FORMS["cut"] else square(order.art) if form is FORMS["icon-svg"] else order.art
    real = art.millimetres
    faults = [f"it holds {name}" for name in found.foreign]
    error = READING[form.reads] * (MILLIMETRES[art.unit] if form.reads == "svg" else 1.0)
    areas, worst = _areas_apart(art, form, found, error)
    faults += areas
    wanted = (art.box.width * real, art.box.height * real)
    if form.reads != "dxf" and not np.allclose(found.size, wanted, atol=error + READ_EXACT * max(wanted)):
        faults.append(f"it is {_pair(found.size)} mm large and not {_pair(wanted)}")
    if found.box is not None:
        ink = tight(art)
        if not np.allclose(found.box, ink, atol=error + READ_EXACT * max(wanted)):
            faults.append(f"its ink reaches over {_four(found.box)} mm and not {_four(ink)}")
    apart = _apart(order, art, form, data)
    if apart is not None and apart > DRAWN_APART:
        faults.append(f"two rasterisers draw {100 * apart:.2g} % of it apart")
    return Report(
        len(data),
        tuple(faults),
        found.foreign,
        (found.arcs, found.lines, found.cubics),
        found.pieces,
        found.needless,
        found.colours,
        worst,
        apart,
        fine.white.distance * real if fine.white else None,
        fine.ink.distance * real if fine.ink else None,
        size=found.size,
    )


def tight(art: Artwork) -> tuple[float, float, float, float]:
    """The box of the ink as a file's reader tells it, in millimetres from the lower left of the page."""
    from kagami.geometry.measure.size import box

    boxes = np.array([box(piece.shape) for piece in art.areas])
    low, high = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    corner = np.array([art.box.left, art.box.bottom])
    left, bottom, right, top = (np.concatenate([low - corner, high - corner]) * art.millimetres).tolist()
    return left, bottom, right, top


def _areas_apart(art: Artwork, form: Form, found: Found, error: float) -> tuple[list[str], float | None]:
    """What is wrong with the areas, and the greatest error as a share. An outline that is off by so much changes an
    area by no more than its length times that.
    """
    if not found.areas:
        return [], None
    real = art.millimetres
    plain = (form.reads == "svg" and form is not FORMS["web-current"]) or form is FORMS["pdf"]
    wanted: dict[str, float] = {}
    length: dict[str, float] = {}
    for piece in art.areas:
        key = (piece.fill if isinstance(piece.fill, str) else "shading") if plain else "all"
        wanted[key] = wanted.get(key, 0.0) + area(piece.shape) * real**2
        length[key] = length.get(key, 0.0) + perimeter(piece.shape) * real
    got: dict[str, float] = {}
    for key, value in found.areas.items():
        named = ("shading" if key == "shading" or key.startswith("url(") else key) if plain else "all"
        got[named] = got.get(named, 0.0) + value
    faults = [f"it holds {key}, which the mark does not have" for key in got if key not in wanted]
    worst = 0.0
    for key, value in wanted.items():
        off = abs(got.get(key, 0.0) - value)
        worst = max(worst, off / value if value else 0.0)
        if off > error * length[key] + READ_AREA * value:
            name = "the area" if key == "all" else f"the area in {key}"
            faults.append(f"{name} is {got.get(key, 0.0):.6g} mm² and not {value:.6g}")
    return faults, worst


def _apart(order: Order, art: Artwork, form: Form, data: bytes) -> float | None:
    """The share of the pixels that two rasterisers draw apart: of an SVG resvg, and PDFium of the same artwork's PDF;
    of a PDF the other way round. None for forms that are in other colours than the plan's.
    """
    from kagami.exchange.pdf import write_pdf
    from kagami.exchange.png import in_pixels, picture_of, pixels_of
    from kagami.exchange.svg import write_svg

    width, height = pixels_of(art.box, LOOKED_AT)
    scale = LOOKED_AT / art.box.longer
    if form.reads == "svg" and form is not FORMS["web-current"]:
        svg = _VARIABLE.sub(r"\1", data.decode())  # resvg knows no variables; their defaults stand for them
        pdf = write_pdf(_usual(in_pixels(art, width, height)), ground=order.ground)
    elif form is FORMS["pdf"]:
        left, top = art.box.left, art.box.top
        whole = replace(art, box=Box(left, top - height / scale, left + width / scale, top))
        svg = write_svg(whole, ground=order.ground)
        pdf = data
    else:
        return None
    first = _on(picture_of(svg, width, height), order.ground)
    second = pdf_picture(pdf, width, height, order.ground)
    return _share_apart(first, second)


def _on(picture: Any, ground: str) -> Floats:
    """A picture, (height, width, 4), laid on a colour."""
    values = np.asarray(picture, dtype=float)
    alpha = values[..., 3:] / 255
    return np.asarray(values[..., :3] * alpha + _channels(ground) * (1 - alpha))


def _channels(colour: str) -> Floats:
    return np.array([int(colour[k : k + 2], 16) for k in (1, 3, 5)], dtype=float)


def _usual(art: Artwork) -> Artwork:
    """The artwork as large as pages usually are: what is compared are pixels, and not every size fits on a page."""
    return replace(art, scale=100 / art.box.longer, unit="mm")


def _share_apart(first: Floats, second: Floats) -> float:
    """The share of pixels that are apart. Of large pictures blocks are compared: rasterisers place edges to a quarter
    of a pixel only, which in small ones is made good by drawing them larger.
    """
    if first.shape != second.shape:
        return 1.0
    block = max(1, max(first.shape) // LOOKED_AT // 2)
    apart = np.abs(_blocks(first, block) - _blocks(second, block)).max(axis=-1) > FAR
    return float(np.mean(apart))


def _blocks(picture: Floats, side: int) -> Floats:
    """The means of square blocks of pixels; what is left over at the far edges is left out."""
    if side == 1:
        return picture
    height, width = (length // side for length in picture.shape[:2])
    cut = picture[: height * side, : width * side]
    return np.asarray(cut.reshape(height, side, width, side, -1).mean(axis=(1, 3)))


def _of_picture(order: Order, form: Form, data: bytes, found: Found, fine: Fineness) -> Report:
    """A picture: its pixels against those that PDFium draws of the same artwork."""
    from kagami.exchange.pdf import write_pdf
    from kagami.exchange.png import in_pixels

    height, width = found.picture.shape[:2]
    art = pictured(order.art, form, max(width, height))
    faults = [f"it has {name}" for name in found.foreign]
    scale = max(width, height) / art.box.longer
    sizes = sorted(ICON_SIZES if form is FORMS["icon-set"] else FAVICON_SIZES, reverse=True)
    wanted = sizes[0] if form.reads == "ico" else order.size or form.pixels
    if max(width, height) != wanted:
        faults.append(f"its longer side has {max(width, height)} pixels and not {wanted}")
    if form.reads == "ico" and found.colours != tuple(str(size) for size in sizes):
        faults.append(f"it holds pictures of {', '.join(found.colours)} pixels")
    pdf = write_pdf(_usual(in_pixels(art, width, height)), ground=order.ground)
    apart = _share_apart(_on(found.picture, order.ground), pdf_picture(pdf, width, height, order.ground))
    # A picture has few pixels, and each of a small one lies on an edge: a handful may differ.
    if apart > max(DRAWN_APART, 4 / (width * height)):
        faults.append(f"two rasterisers draw {100 * apart:.2g} % of it apart")
    return Report(
        len(data),
        tuple(faults),
        contents=found.colours,
        pixel_error=apart,
        gap=fine.white.distance * scale if fine.white else None,
        part=fine.ink.distance * scale if fine.ink else None,
        pixels=True,
        limit=PIXEL,
        size=(width, height),
    )


def pictured(art: Artwork, form: Form, size: int) -> Artwork:
    """The artwork as a picture of a form shows it."""
    if form.reads != "ico" and form.format != "icons":
        return crisp(art, size)
    margin = masked_margin(art) if form is FORMS["icon-masked"] else 0.0
    return crisp(square(art, margin), size)


def _of_names(data: bytes) -> Report:
    """A manifest: whether it reads, and what it names."""
    try:
        names = [entry["src"] for entry in json.loads(data)["icons"]]
    except (ValueError, KeyError, TypeError) as error:
        return Report(len(data), (f"it does not read: {error}",))
    return Report(len(data), (), contents=tuple(names))


def _of_plan(order: Order, form: Form, data: bytes) -> Report:
    """A plan: whether it reads, and comes to the same."""
    from kagami.plan.errors import PlanError
    from kagami.plan.files import load_plan
    from kagami.plan.language.text import write_text

    try:
        found = load_plan(data)
    except PlanError as error:
        return Report(len(data), (f"it does not read: {error}",))
    same = found == order.plan if form.ending == "json" else write_text(found) == write_text(order.plan)
    return Report(len(data), () if same else ("what is read in it is another plan",))


def _of_sheet(form: Form, data: bytes) -> Report:
    """A sheet: whether another library reads it, how large it is and how many pages it has."""
    from lxml import etree
    from pypdfium2 import PdfDocument, PdfiumError

    try:
        if form.ending == "pdf":
            document = PdfDocument(data)
            width, height = document[0].get_size()
            return Report(
                len(data), (), pieces=len(document), size=(width * 25.4 / 72, height * 25.4 / 72), contents=("pages",)
            )
        root = etree.parse(io.BytesIO(data), etree.XMLParser(resolve_entities=False, no_network=True)).getroot()
        width, height = (float(root.get(side).removesuffix("mm")) for side in ("width", "height"))
    except (ValueError, etree.XMLSyntaxError, AttributeError, PdfiumError) as error:
        return Report(len(data), (f"another library does not read it: {error}",))
    return Report(len(data), (), size=(width, height))


def _pair(size: tuple[float, float]) -> str:
    return " × ".join(number_text(side) for side in size)


def _four(box: tuple[float, float, float, float]) -> str:
    return ", ".join(number_text(side) for side in box)
