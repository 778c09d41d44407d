"""PNG out, drawn from the SVG by resvg."""

from __future__ import annotations

import math
from typing import Final

import resvg_py

from kagami.exchange.artwork import Artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.measure.size import Box
from kagami.geometry.tolerance import SAME

GREATEST_SIZE: Final = 4096


def write_png(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a PNG whose longer side has `size` pixels; without a ground it is transparent.

    Raises:
        ValueError: the size is not from 1 to `GREATEST_SIZE`.
    """
    if not 1 <= size <= GREATEST_SIZE:
        raise ValueError(f"a PNG is from 1 to {GREATEST_SIZE} pixels large, not {size}")
    svg = write_svg(art, ground=ground, pixels=pixels_of(art.box, size))
    return bytes(resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True))


def pixels_of(box: Box, size: int) -> tuple[int, int]:
    """Width and height in pixels of a picture whose longer side has `size`; the shorter one holds all of the box."""
    longer = max(box.width, box.height)
    width, height = (max(1, math.ceil(size * side / longer - SAME)) for side in (box.width, box.height))
    return width, height
