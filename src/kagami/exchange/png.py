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
from kagami.geometry.arrays import Floats
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
    svg = write_svg(in_pixels(art, width, height), ground=ground, pixels=(width * times, height * times))
    drawn = _drawn(svg) if times == 1 else _reduced(_drawn(svg), times)
    return _with_chunks(drawn, size / art.box.longer / art.millimetres)


def _reduced(png: bytes, times: int) -> bytes:
    """A picture so many times smaller: each pixel is the mean of those that it covers, colours by how much alpha they
    have. Halves are rounded to even, so that no shade gets lighter on the whole.
    """
    from PIL import Image

    with Image.open(io.BytesIO(png)) as opened:
        values = np.asarray(opened.convert("RGBA"), dtype=np.float32)
    values = np.concatenate([values[..., :3] * (values[..., 3:] / 255), values[..., 3:]], axis=-1)
    height, width = values.shape[0] // times, values.shape[1] // times
    means = values.reshape(height, times, width, times, 4).mean(axis=(1, 3))
    alpha = means[..., 3:]
    colours = np.divide(means[..., :3] * 255, alpha, out=np.zeros_like(means[..., :3]), where=alpha > 0)
    pixels = np.rint(np.concatenate([colours, alpha], axis=-1)).clip(0, 255).astype(np.uint8)
    out = io.BytesIO()
    Image.fromarray(pixels, "RGBA").save(out, "PNG", optimize=True)
    return out.getvalue()


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
    from PIL import Image

    times = max(1, min(MOST_TIMES, FINE // max(width, height)))
    sized = _SIZE.sub(f'width="{width * times}" height="{height * times}" ', svg, count=1)
    with Image.open(io.BytesIO(_reduced(_drawn(sized), times))) as opened:
        return np.asarray(opened.convert("RGBA"), dtype=float)


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
