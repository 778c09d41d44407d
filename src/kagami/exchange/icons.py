"""Icons and WebP: pictures of exact sizes, each drawn for its size."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import TYPE_CHECKING, Final

from kagami.exchange.artwork import Artwork
from kagami.exchange.png import write_png
from kagami.geometry.measure.size import Box

if TYPE_CHECKING:
    from PIL.Image import Image

ICON_SIZES: Final = (16, 24, 32, 48, 64, 256)


def square(art: Artwork, margin: float = 0.0) -> Artwork:
    """The artwork in the middle of a square; `margin` widens it all round by a share of its longer side."""
    box = art.box
    half = max(box.width, box.height) * (0.5 + margin)
    x, y = (box.left + box.right) / 2, (box.bottom + box.top) / 2
    return Artwork(art.title, art.areas, Box(x - half, y - half, x + half, y + half), art.scale, art.unit)


def write_ico(art: Artwork, sizes: Sequence[int] = ICON_SIZES, ground: str | None = None, margin: float = 0.0) -> bytes:
    """The artwork as an icon file of several sizes, each drawn by itself and not scaled from another."""
    pictures = [_picture(square(art, margin), size, ground) for size in sorted(sizes, reverse=True)]
    out = io.BytesIO()
    largest, *others = pictures
    largest.save(out, "ICO", sizes=[picture.size for picture in pictures], append_images=others)
    return out.getvalue()


def write_webp(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a lossless WebP whose longer side has `size` pixels."""
    out = io.BytesIO()
    picture = _picture(art, size, ground)
    picture.save(out, "WEBP", lossless=True, method=4, quality=75, exact=True)
    return out.getvalue()


def _picture(art: Artwork, size: int, ground: str | None) -> Image:
    from PIL import Image

    return Image.open(io.BytesIO(write_png(art, size, ground))).convert("RGBA")
