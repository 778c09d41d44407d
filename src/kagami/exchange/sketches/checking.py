"""A picture of a sketch checked: the same picture, made anew, without what else its file held.

Only pixels come through: it is turned as it was held, laid on white, made as large as a sheet can use, and written
anew, so that nothing of what a camera or a program added (places, names, previews) is kept.
"""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass
from typing import Final

import numpy as np
from PIL import Image, ImageOps, UnidentifiedImageError

from kagami.exchange.sketches.errors import SketchError

MOST_BYTES: Final = 15_000_000
"""Of the file that is brought."""
MOST_PIXELS: Final = 40_000_000
MOST_SIDE: Final = 2400
"""Pixels along the longer side of what is kept: some three times what a sheet shows of it."""
LEAST_SIDE: Final = 16
FORMATS: Final = ("JPEG", "PNG", "WEBP", "TIFF", "GIF", "BMP")
"""That are read. Each is a format of pixels alone; those that are programs, such as EPS, are not among them."""
QUALITY: Final = 85


@dataclass(frozen=True, slots=True)
class Checked:
    """A picture that can be laid under a sheet: a JPEG, and its size in pixels."""

    data: bytes
    width: int
    height: int


def checked_picture(data: bytes) -> Checked:
    """The picture of a file, made anew.

    Raises:
        SketchError: `sketch-unread`, `sketch-too-heavy`, `sketch-too-large`, `sketch-too-small`.
    """
    if len(data) > MOST_BYTES:
        raise SketchError("sketch-too-heavy", most=MOST_BYTES // 1_000_000)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of metadata that is not kept
            return made_anew(_pixels(data))
    except Image.DecompressionBombError as error:
        raise SketchError("sketch-too-large", most=MOST_PIXELS // 1_000_000) from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, EOFError) as error:
        if isinstance(error, SketchError):
            raise
        raise SketchError("sketch-unread", formats=", ".join(FORMATS)) from error


def _pixels(data: bytes) -> Image.Image:
    """What a file shows, as it was held, on white."""
    image: Image.Image = Image.open(io.BytesIO(data), formats=FORMATS)
    if image.width * image.height > MOST_PIXELS:
        raise SketchError("sketch-too-large", most=MOST_PIXELS // 1_000_000)
    if min(image.size) < LEAST_SIDE:
        raise SketchError("sketch-too-small", width=image.width, height=image.height, least=LEAST_SIDE)
    image.draft("RGB", (MOST_SIDE, MOST_SIDE))  # a large photograph is read at a half or a quarter of its size
    image.load()
    image = ImageOps.exif_transpose(image)
    image.thumbnail((MOST_SIDE, MOST_SIDE), Image.Resampling.LANCZOS, reducing_gap=3.0)
    return _on_white(image)


def _on_white(image: Image.Image) -> Image.Image:
    if image.mode.startswith("I") or image.mode == "F":  # of 16 bits and more: its darkest and lightest are kept
        deep = np.asarray(image, float)
        low, high = float(deep.min()), float(deep.max())
        scaled = (deep - low) * (255.0 / max(high - low, 1.0))
        return Image.fromarray(scaled.astype(np.uint8)).convert("RGB")
    if image.mode in ("RGBA", "LA", "PA", "RGBa", "La") or "transparency" in image.info:
        image = image.convert("RGBA")
        ground = Image.new("RGBA", image.size, "white")
        return Image.alpha_composite(ground, image).convert("RGB")
    return image.convert("RGB")


def made_anew(image: Image.Image) -> Checked:
    """A picture as a JPEG of its pixels alone."""
    written = io.BytesIO()
    # Of its pixels alone: what else the file held is still with it.
    Image.fromarray(np.asarray(image)).save(written, "JPEG", quality=QUALITY)
    return Checked(written.getvalue(), image.width, image.height)
