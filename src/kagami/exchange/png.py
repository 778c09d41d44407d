"""PNG out, drawn from the SVG by resvg."""

from __future__ import annotations

from typing import Final

import resvg_py

from kagami.exchange.artwork import Artwork
from kagami.exchange.svg import write_svg

GREATEST_SIZE: Final = 4096


def write_png(art: Artwork, size: int, ground: str | None = None) -> bytes:
    """The artwork as a PNG whose longer side has `size` pixels; without a ground it is transparent.

    Raises:
        ValueError: the size is not from 1 to `GREATEST_SIZE`.
    """
    if not 1 <= size <= GREATEST_SIZE:
        raise ValueError(f"a PNG is from 1 to {GREATEST_SIZE} pixels large, not {size}")
    wide = art.box.width >= art.box.height
    width, height = (size, None) if wide else (None, size)
    svg = write_svg(art, ground=ground)
    # Without a resolution resvg cannot tell the size of a document in millimetres; 96 dpi is that of CSS.
    return bytes(resvg_py.svg_to_bytes(svg_string=svg, skip_system_fonts=True, dpi=96, width=width, height=height))
