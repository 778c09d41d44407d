"""Pictures and icons by Pillow."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from kagami.exchange.delivery.reading_back.found import Found, Unreadable


def picture_found(data: bytes) -> Found:
    """What a picture holds."""
    from PIL import Image

    with Image.open(io.BytesIO(data)) as opened:
        foreign = () if opened.info.get("srgb", 0) == 0 else ("another colour space",)
        picture = np.asarray(opened.convert("RGBA"))
        return Found(opened.size, foreign=foreign, pictures=(picture,), colours=(opened.mode,))


def icon_found(data: bytes) -> Found:
    """What an icon holds, each entry a picture (raises `Unreadable`)."""
    from PIL import Image

    opened: Any  # an icon's size can be set to choose an entry, which its type does not say
    with Image.open(io.BytesIO(data)) as opened:
        sizes = sorted(opened.info["sizes"], reverse=True)
        pictures = []
        for size in sizes:
            opened.size = size
            opened.load()
            if opened.size != size:
                raise Unreadable(f"its entry of {size[0]} px is {opened.size[0]} px large")
            pictures.append(np.asarray(opened.convert("RGBA")))
        return Found(sizes[0], pictures=tuple(pictures), colours=tuple(str(size[0]) for size in sizes))
