"""What two rasterisers draw of a file and of the artwork that it was made from: how many pixels are apart, and whether
flat places have the same colour.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, Final

import numpy as np

from kagami.exchange.artwork import Artwork
from kagami.exchange.crisp import crisp
from kagami.exchange.delivery.forms import FORMS, Form
from kagami.exchange.delivery.ordering import Order, found_again
from kagami.exchange.delivery.reading_back import pdf_picture
from kagami.exchange.delivery.reading_back.found import PaintKind
from kagami.exchange.icons import masked_margin, square
from kagami.geometry.arrays import Bools, Floats, Pixels
from kagami.geometry.measure.size import Box
from kagami.geometry.tolerance import DRAWN_APART

if TYPE_CHECKING:
    from kagami.exchange.sheets.leaf import Leaf

LOOKED_AT: Final = 256
"""Pixels of the longer side at which files without pixels are drawn and compared."""
LEAF: Final = 512
"""The same of sheets, whose lines are thin."""
WHITE: Final = "#ffffff"
FAR: Final = 64
"""Levels of 255 that two rasterisers' pixels may differ: edges are smoothed in different ways."""
SMALL: Final = 128
"""Pictures of so many pixels are drawn larger by both, and reduced: their edges agree."""
FAR_IN_SMALL: Final = 32
"""Levels that pixels of those may differ."""
FLAT: Final = 2
"""Levels by which a pixel and those about it differ at most where no edge runs."""
SHADE: Final = 4
"""Levels that a flat place may differ in: two ways to draw a gradient are that far apart."""
_VARIABLE: Final = re.compile(r"var\(--[^,()]*, (#[0-9a-f]{6})\)")


@dataclass(frozen=True, slots=True)
class Apart:
    """The share of the pixels that two rasterisers draw apart, and by how many levels of 255 flat places differ."""

    share: float
    shade: float = 0.0

    def faults(self, pixels: int = LOOKED_AT**2) -> list[str]:
        """What is wrong with a picture of so many pixels. Of a small one, which has few, one may differ."""
        found = []
        if self.share > max(DRAWN_APART, 1 / pixels):
            found.append(f"two rasterisers draw {100 * self.share:.2g} % of it apart")
        if self.shade > SHADE:
            found.append(f"two rasterisers draw a colour in it {self.shade:.0f} levels apart")
        return found


def outlines_apart(order: Order, art: Artwork, form: Form, data: bytes) -> Apart | None:
    """A file of outlines: of an SVG what resvg draws, and PDFium of the same artwork's PDF; of a PDF the other way
    round. None for forms that are in other colours than the plan's.
    """
    from kagami.exchange.png import picture_of, pixels_of
    from kagami.exchange.svg import write_svg

    ground = order.ground
    if form.reads not in ("svg", "pdf") or form.paints not in (PaintKind.SCREEN, PaintKind.VARIABLE):
        return None
    width, height = pixels_of(art.box, LOOKED_AT)
    scale = LOOKED_AT / art.box.longer
    if form.reads == "svg":
        svg = _VARIABLE.sub(r"\1", data.decode())  # resvg knows no variables; their defaults stand for them
        meant = _by_pdfium(order, art, width, height)
    else:
        left, top = art.box.left, art.box.top
        whole = replace(art, box=Box(left, top - height / scale, left + width / scale, top))
        svg = write_svg(whole, ground=ground, brief=False)
        meant = pdf_picture(data, width, height, ground)
    return _between(_on(picture_of(svg, width, height), ground), meant)


def _by_pdfium(order: Order, art: Artwork, width: int, height: int) -> Floats:
    """What PDFium draws of an artwork's PDF; files of a variant share it."""
    from kagami.exchange.pdf import write_pdf
    from kagami.exchange.png import in_pixels

    def drawn() -> Pixels:
        pdf = write_pdf(_usual(in_pixels(art, width, height)), ground=order.ground)
        return pdf_picture(pdf, width, height, order.ground).astype(np.uint8)

    return found_again(order.cache, order.plan, ("drawn", art, order.ground, width, height), drawn).astype(float)


def leaf_apart(leaf: Leaf, form: Form, data: bytes, number: int) -> Apart:
    """A page of a sheet: of a PDF what PDFium draws, and resvg of the same leaf; of an SVG the other way round."""
    from kagami.exchange.png import picture_of
    from kagami.exchange.sheets.leaf import leaf_svg, leaves_pdf

    scale = LEAF / max(leaf.width, leaf.height)
    width, height = round(scale * leaf.width), round(scale * leaf.height)
    written = form.ending == "pdf"
    svg = leaf_svg(leaf, "") if written else data.decode()
    pdf, page = (data, number) if written else (leaves_pdf([leaf], ""), 0)
    return _between(_on(picture_of(svg, width, height), WHITE), pdf_picture(pdf, width, height, WHITE, page))


def picture_apart(order: Order, form: Form, picture: Any) -> Apart:
    """A picture, (height, width, 4), and what PDFium draws of the same artwork."""
    height, width = picture.shape[:2]
    shown = pictured(order.art, form, max(width, height))
    return _between(_on(picture, order.ground), _by_pdfium(order, shown, width, height))


def pictured(art: Artwork, form: Form, size: int) -> Artwork:
    """The artwork as a picture of a form shows it."""
    if form.reads != "ico" and form.format != "icons":
        return crisp(art, size)
    margin = masked_margin(art) if form is FORMS["icon-masked"] else 0.0
    return crisp(square(art, margin), size)


def _between(first: Floats, second: Floats) -> Apart:
    """How far two pictures are apart. Of large pictures blocks are compared: rasterisers place edges to a quarter of a
    pixel only, which in small ones is made good by drawing them larger.
    """
    if first.shape != second.shape:
        return Apart(1.0)
    block = max(1, max(first.shape) // LOOKED_AT // 2)
    one, other = _blocks(first, block), _blocks(second, block)
    apart = np.abs(one - other).max(axis=-1)
    flat = _is_flat(one) & _is_flat(other)
    far = FAR_IN_SMALL if max(first.shape) <= SMALL else FAR
    return Apart(float(np.mean(apart > far)), float(apart[flat].max(initial=0.0)))


def _is_flat(picture: Floats) -> Bools:
    """Where a pixel and the eight about it have one colour, (height, width)."""
    from scipy.ndimage import maximum_filter, minimum_filter

    about = (3, 3, 1)
    return np.asarray((maximum_filter(picture, about) - minimum_filter(picture, about)).max(axis=-1) <= FLAT)


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


def _blocks(picture: Floats, side: int) -> Floats:
    """The means of square blocks of pixels; what is left over at the far edges is left out."""
    if side == 1:
        return picture
    height, width = (length // side for length in picture.shape[:2])
    cut = picture[: height * side, : width * side]
    return np.asarray(cut.reshape(height, side, width, side, -1).mean(axis=(1, 3)))
