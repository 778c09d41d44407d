"""The clean report of a file: what another library reads in it, how near that is to the plan, and how fine it is.

A file whose pieces, paints, box, size or picture are not those of the plan is at fault, and is not handed out.
"""

from __future__ import annotations

import io
import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

import numpy as np

from kagami.exchange.artwork import MILLIMETRES, Area, Artwork
from kagami.exchange.delivery.comparing import compared
from kagami.exchange.delivery.forms import FORMS, NAMED_ICONS, Form
from kagami.exchange.delivery.ordering import Order, fineness_of
from kagami.exchange.delivery.picturing import leaf_apart, outlines_apart, picture_apart
from kagami.exchange.delivery.reading_back import Found, Unreadable, read_back
from kagami.exchange.icons import FAVICON_SIZES, ICON_SIZES, square
from kagami.exchange.stencil import stencil
from kagami.geometry.figures import box as rectangle
from kagami.geometry.point import Point
from kagami.geometry.tolerance import READ_EXACT, READ_POINT, STATED_ERROR
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.fineness import Fineness
from kagami.plan.evaluation.forms import PIXEL, PRINT
from kagami.plan.messages import number_text

if TYPE_CHECKING:
    from kagami.exchange.sheets.leaf import Leaf

READING: Final = {"svg": STATED_ERROR, "pdf": READ_POINT, "dxf": READ_EXACT}
"""Millimetres (for SVG its own units) by which outlines may be off: what is written, and what the reader rounds."""


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
    hidden: tuple[str, ...] = ()
    """Pieces that are not in it, since they lie wholly under others."""
    farthest: float | None = None
    """By how much a place of an outline is off at most, in millimetres."""

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
    if form.leaves is not None:
        return _of_sheet(form.leaves(order), form, data)
    if form is FORMS["icon-manifest"]:
        return _of_names(data)
    if not form.reads:
        return _of_plan(order, form, data)
    try:
        found = read_back(form.reads, data)
    except Unreadable as error:
        return Report(len(data), (f"another library does not read it: {error}",))
    fine = fineness_of(order, cache)
    if found.pictures:
        return _of_picture(order, form, data, found, fine)
    return _of_outlines(order, form, data, found, fine)


def _of_outlines(order: Order, form: Form, data: bytes, found: Found, fine: Fineness) -> Report:
    art = stencil(order.art) if form is FORMS["cut"] else square(order.art) if form is FORMS["icon-svg"] else order.art
    ground = _ground(art, order.behind) if order.behind and not form.bare else None
    real = art.millimetres
    wanted = (art.box.width * real, art.box.height * real)
    error = READING[form.reads] * (MILLIMETRES[art.unit] if form.reads == "svg" else 1.0) + READ_EXACT * max(wanted)
    comparison = compared(art, found, form.paints, error, ground)
    faults = [*(f"it holds {name}" for name in found.foreign), *comparison.faults]
    if form.reads != "dxf" and not np.allclose(found.size, wanted, atol=error):
        faults.append(f"it is {_pair(found.size)} mm large and not {_pair(wanted)}")
    if found.box is not None:
        ink = tight(replace(art, areas=(ground,)) if ground else art)
        if not np.allclose(found.box, ink, atol=error):
            faults.append(f"its ink reaches over {_four(found.box)} mm and not {_four(ink)}")
    apart = outlines_apart(order, art, form, data)
    faults += apart.faults() if apart else []
    return Report(
        len(data),
        tuple(faults),
        found.foreign,
        (found.arcs, found.lines, found.cubics),
        len(art.areas),
        found.needless,
        found.colours,
        comparison.area_error,
        apart.share if apart else None,
        fine.white.distance * real if fine.white else None,
        fine.ink.distance * real if fine.ink else None,
        size=found.size,
        farthest=comparison.farthest,
    )


def _ground(art: Artwork, colour: str) -> Area:
    """What is laid behind all of an artwork."""
    return Area("the ground", rectangle(Point(*art.box.centre), art.box.width, art.box.height), colour)


def tight(art: Artwork) -> tuple[float, float, float, float]:
    """The box of the ink as a file's reader tells it, in millimetres from the lower left of the page."""
    from kagami.geometry.measure.size import box

    boxes = np.array([box(piece.shape) for piece in art.areas])
    low, high = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    corner = np.array([art.box.left, art.box.bottom])
    left, bottom, right, top = (np.concatenate([low - corner, high - corner]) * art.millimetres).tolist()
    return left, bottom, right, top


def _of_picture(order: Order, form: Form, data: bytes, found: Found, fine: Fineness) -> Report:
    """Pictures: the pixels of each against those that PDFium draws of the same artwork."""
    height, width = found.pictures[0].shape[:2]
    scale = max(width, height) / order.art.box.longer
    faults = [f"it has {name}" for name in found.foreign]
    sizes = sorted(ICON_SIZES if form is FORMS["icon-set"] else FAVICON_SIZES, reverse=True)
    wanted = sizes[0] if form.reads == "ico" else order.size or form.pixels
    if max(width, height) != wanted:
        faults.append(f"its longer side has {max(width, height)} pixels and not {wanted}")
    if form.reads == "ico" and found.colours != tuple(str(size) for size in sizes):
        faults.append(f"it holds pictures of {', '.join(found.colours)} pixels")
    worst = 0.0
    for picture in found.pictures:
        apart = picture_apart(order, form, picture)
        worst = max(worst, apart.share)
        faults += [
            f"at {max(picture.shape[:2])} pixels {fault}" for fault in apart.faults(picture.shape[0] * picture.shape[1])
        ]
    return Report(
        len(data),
        tuple(faults),
        contents=found.colours,
        pixel_error=worst,
        gap=fine.white.distance * scale if fine.white else None,
        part=fine.ink.distance * scale if fine.ink else None,
        pixels=True,
        limit=PIXEL,
        size=(width, height),
    )


def _of_names(data: bytes) -> Report:
    """A manifest: whether it reads, and names the pictures that stand beside it, each as large as it is."""
    try:
        named = [(entry["src"], entry["sizes"], entry["purpose"]) for entry in json.loads(data)["icons"]]
    except (ValueError, KeyError, TypeError) as error:
        return Report(len(data), (f"it does not read: {error}",))
    forms = {f"{form.stem}.{form.ending}": (key, form.pixels) for key, form in FORMS.items() if form.folder == "icons"}
    faults = []
    for name, sizes, purpose in named:
        key, pixels = forms.get(name, ("", 0))
        if not key:
            faults.append(f"it names {name}, which is not beside it")
        elif sizes != f"{pixels}x{pixels}" or NAMED_ICONS.get(key) != purpose:
            faults.append(f"it says of {name} that it is {sizes}, for {purpose}")
    lacks = set(NAMED_ICONS) - {forms[name][0] for name, *_ in named if name in forms}
    faults += [f"it does not name {FORMS[key].stem}.{FORMS[key].ending}" for key in sorted(lacks)]
    return Report(len(data), tuple(faults), contents=tuple(name for name, *_ in named))


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


def _of_sheet(leaves: Sequence[Leaf], form: Form, data: bytes) -> Report:
    """A sheet: whether another library reads it, how large it is, how many pages it has, and what is drawn on them."""
    from lxml import etree
    from pypdfium2 import PdfDocument, PdfiumError

    try:
        if form.ending == "pdf":
            document = PdfDocument(data)
            points = [document[k].get_size() for k in range(len(document))]
            sizes = [(width * MILLIMETRES["pt"], height * MILLIMETRES["pt"]) for width, height in points]
        else:
            root = etree.parse(io.BytesIO(data), etree.XMLParser(resolve_entities=False, no_network=True)).getroot()
            width, height = (float(root.get(side).removesuffix("mm")) for side in ("width", "height"))
            sizes = [(width, height)]
    except (ValueError, etree.XMLSyntaxError, AttributeError, PdfiumError) as error:
        return Report(len(data), (f"another library does not read it: {error}",))
    if len(sizes) != len(leaves):
        return Report(len(data), (f"it has {len(sizes)} pages and not {len(leaves)}",))
    faults, worst = [], 0.0
    for number, leaf in enumerate(leaves):
        apart = leaf_apart(leaf, form, data, number)
        worst = max(worst, apart.share)
        where = f"page {number + 1}: " if len(sizes) > 1 else ""
        faults += [f"{where}{fault}" for fault in apart.faults()]
        if not np.allclose(sizes[number], (leaf.width, leaf.height), atol=READ_POINT):
            meant = _pair((leaf.width, leaf.height))
            faults.append(f"{where}it is {_pair(sizes[number])} mm large and not {meant}")
    pages = ("pages",) if form.ending == "pdf" else ()
    return Report(len(data), tuple(faults), pieces=len(sizes), size=sizes[0], contents=pages, pixel_error=worst)


def _pair(size: tuple[float, float]) -> str:
    return " × ".join(number_text(side) for side in size)


def _four(box: tuple[float, float, float, float]) -> str:
    return ", ".join(number_text(side) for side in box)
