"""PNG out, drawn from the SVG by resvg."""

from __future__ import annotations

import io
import math
import re
import struct
import zlib
from dataclasses import replace
from typing import Final

import numpy as np
import resvg_py

from kagami.exchange.artwork import Artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.arrays import Floats, Pixels
from kagami.geometry.measure.size import Box
from kagami.geometry.tolerance import SAME

GREATEST_SIZE: Final = 4096
HEAD: Final = 33
"""Bytes of the signature and of the first chunk, IHDR."""
PERCEPTUAL: Final = 0
FINE: Final = 1024
MOST_TIMES: Final = 8
"""Small pictures are drawn larger, up to `FINE` pixels or so many times, and reduced: edges are drawn in quarters of a
pixel, which would be seen in them.
"""
_SIZE: Final = re.compile(r'width="[^"]*" height="[^"]*" ')


def write_png(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a PNG whose longer side has `size` pixels; without a ground it is transparent.

    Raises:
        ValueError: the size is not from 1 to `GREATEST_SIZE`.
    """
    if not 1 <= size <= GREATEST_SIZE:
        raise ValueError(f"a PNG is from 1 to {GREATEST_SIZE} pixels large, not {size}")
    width, height = pixels_of(art.box, size)
    times = max(1, min(MOST_TIMES, FINE // size))
    large = (width * times, height * times)
    drawn = _drawn(write_svg(in_pixels(art, width, height), ground=ground, pixels=large, brief=False))
    return _with_chunks(drawn if times == 1 else _small_png(drawn, times), size / art.box.longer / art.millimetres)


def _small_png(png: bytes, times: int) -> bytes:
    """A picture so many times smaller, as a PNG."""
    from PIL import Image

    out = io.BytesIO()
    Image.fromarray(_reduced(png, times), "RGBA").save(out, "PNG", optimize=True)
    return out.getvalue()


def _reduced(png: bytes, times: int) -> Pixels:
    """A picture so many times smaller, (height, width, 4): each pixel is the mean of those that it covers, colours by
    how much alpha they have. Halves are rounded to even, so that no shade gets lighter on the whole.
    """
    from PIL import Image

    with Image.open(io.BytesIO(png)) as opened:
        values = np.asarray(opened.convert("RGBA"))
    height, width = values.shape[0] // times, values.shape[1] // times
    weighed = values.astype(np.uint32)  # whole numbers, so that no order of adding changes what is rounded
    weighed[..., :3] *= weighed[..., 3:]
    sums = weighed.reshape(height, times, width * times * 4).sum(axis=1).reshape(height, width, times, 4).sum(axis=2)
    alpha = sums[..., 3:].astype(float)
    colours = np.divide(sums[..., :3], alpha, out=np.zeros((height, width, 3)), where=alpha > 0)
    return np.rint(np.concatenate([colours, alpha / times**2], axis=-1)).astype(np.uint8)


def _drawn(svg: str) -> bytes:
    return bytes(resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True))


def in_pixels(art: Artwork, width: int, height: int) -> Artwork:
    """The artwork in a box of the form of a picture, in its middle, so that its ground fills all of it."""
    box = art.box
    across = max(box.width, box.height * width / height)
    down = across * height / width
    x, y = box.centre
    wide = Box(x - across / 2, y - down / 2, x + across / 2, y + down / 2)
    return replace(art, box=wide, clear=0.0)


def picture_of(svg: str, width: int, height: int) -> Floats:
    """An SVG document of a real size as resvg draws it in so many pixels, (height, width, 4) of 0 to 255."""
    times = max(1, min(MOST_TIMES, FINE // max(width, height)))
    sized = _SIZE.sub(f'width="{width * times}" height="{height * times}" ', svg, count=1)
    return _reduced(_drawn(sized), times).astype(float)


def _with_chunks(png: bytes, a_millimetre: float) -> bytes:
    """A PNG that says that its colours are sRGB and how many pixels go into a metre. Source: Portable Network Graphics
    (PNG) Specification (Third Edition), W3C 2025, 11.3.2.5 (sRGB) and 11.3.4.3 (pHYs).
    """
    metre = min(round(1000 * a_millimetre), 2**31 - 1)
    chunks = [_chunk(b"sRGB", bytes([PERCEPTUAL]))]
    if metre > 0:
        chunks.append(_chunk(b"pHYs", struct.pack(">IIB", metre, metre, 1)))
    return png[:HEAD] + b"".join(chunks) + png[HEAD:]


def _chunk(kind: bytes, data: bytes) -> bytes:
    return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))


def pixels_of(box: Box, size: int) -> tuple[int, int]:
    """Width and height in pixels of a picture whose longer side has `size`; the shorter one holds all of the box."""
    longer = max(box.width, box.height)
    width, height = (max(1, math.ceil(size * side / longer - SAME)) for side in (box.width, box.height))
    return width, height
