"""PNG out, drawn from the SVG by resvg."""

from __future__ import annotations

import math
import struct
import zlib
from typing import Final

import resvg_py

from kagami.exchange.artwork import Artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.measure.size import Box
from kagami.geometry.tolerance import SAME

GREATEST_SIZE: Final = 4096
HEAD: Final = 33
"""Bytes of the signature and of the first chunk, IHDR."""
PERCEPTUAL: Final = 0


def write_png(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a PNG whose longer side has `size` pixels; without a ground it is transparent.

    Raises:
        ValueError: the size is not from 1 to `GREATEST_SIZE`.
    """
    if not 1 <= size <= GREATEST_SIZE:
        raise ValueError(f"a PNG is from 1 to {GREATEST_SIZE} pixels large, not {size}")
    svg = write_svg(art, ground=ground, pixels=pixels_of(art.box, size))
    return _with_chunks(
        bytes(resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True)), size / art.box.longer / art.millimetres
    )


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
