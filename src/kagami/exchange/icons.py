"""Icons and WebP: pictures of exact sizes, each drawn for its size."""

from __future__ import annotations

import io
import json
from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Final

import numpy as np

from kagami.exchange.artwork import Artwork
from kagami.exchange.crisp import crisp
from kagami.exchange.png import write_png
from kagami.geometry.arrays import lengths
from kagami.geometry.measure.size import Box
from kagami.geometry.table import tabulate

if TYPE_CHECKING:
    from PIL.Image import Image

ICON_SIZES: Final = (16, 24, 32, 48, 64, 256)
FAVICON_SIZES: Final = (16, 32, 48)
SAMPLES: Final = 65
SAFE: Final = 0.4
"""Systems cut icons to forms of their own; what lies within such a share of the side from the middle stays. Source: Web
Application Manifest, W3C, icon masks and safe zone.
"""


def square(art: Artwork, margin: float = 0.0) -> Artwork:
    """The artwork in the middle of a square; `margin` widens it all round by a share of its longer side."""
    box = art.box
    half = max(box.width, box.height) * (0.5 + margin)
    x, y = (box.left + box.right) / 2, (box.bottom + box.top) / 2
    return replace(art, box=Box(x - half, y - half, x + half, y + half), clear=0.0)


def write_ico(art: Artwork, sizes: Sequence[int] = ICON_SIZES, ground: str | None = None, margin: float = 0.0) -> bytes:
    """The artwork as an icon file of several sizes, each drawn by itself and not scaled from another, with its edges on
    the pixel grid where it is small.
    """
    pictures = [_picture(crisp(square(art, margin), size), size, ground) for size in sorted(sizes, reverse=True)]
    out = io.BytesIO()
    largest, *others = pictures
    largest.save(out, "ICO", sizes=[picture.size for picture in pictures], append_images=others)
    return out.getvalue()


def write_icon(art: Artwork, size: int, ground: str | None, margin: float = 0.0) -> bytes:
    """The artwork in the middle of a square PNG, so large; `margin` is a share of its longer side, all round."""
    return write_png(crisp(square(art, margin), size), size, ground)


def masked_margin(art: Artwork) -> float:
    """The margin, as a share of the longer side, with which all of the artwork lies in the safe zone of an icon."""
    box = square(art).box
    tables = [tabulate([area.shape]) for area in art.areas]
    far = 0.0
    for table in tables:
        index = np.repeat(np.arange(len(table)), SAMPLES)
        places = table.ask("point", index, np.tile(np.linspace(0.0, 1.0, SAMPLES), len(table)), width=2)
        far = max(far, float(lengths(places - np.array(box.centre)).max()))
    return max(0.0, far / (2 * SAFE * box.longer) - 0.5)


def write_manifest(name: str, ground: str, icons: Sequence[tuple[str, int, str]]) -> bytes:
    """The manifest of a web application with its icons: file, size and purpose of each. Source: Web Application
    Manifest, W3C, members name, icons and background_color.
    """
    entries = [
        {"src": file, "sizes": f"{size}x{size}", "type": "image/png", "purpose": purpose}
        for file, size, purpose in icons
    ]
    data = {"name": name, "background_color": ground, "theme_color": ground, "icons": entries}
    return (json.dumps(data, ensure_ascii=False, indent=1) + "\n").encode()


def write_webp(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a lossless WebP whose longer side has `size` pixels."""
    out = io.BytesIO()
    picture = _picture(art, size, ground)
    picture.save(out, "WEBP", lossless=True, method=4, quality=75, exact=True)
    return out.getvalue()


def _picture(art: Artwork, size: int, ground: str | None) -> Image:
    from PIL import Image

    return Image.open(io.BytesIO(write_png(art, size, ground))).convert("RGBA")
