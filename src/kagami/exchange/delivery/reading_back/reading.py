"""Each kind of file by its own library."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from kagami.exchange.delivery.reading_back.found import Found, Unreadable
from kagami.exchange.delivery.reading_back.of_dxf import dxf_found
from kagami.exchange.delivery.reading_back.of_pdf import pdf_found
from kagami.exchange.delivery.reading_back.of_pictures import icon_found, picture_found
from kagami.exchange.delivery.reading_back.of_svg import svg_found

READERS: Final[dict[str, Callable[[bytes], Found]]] = {
    "svg": svg_found,
    "pdf": pdf_found,
    "png": picture_found,
    "webp": picture_found,
    "ico": icon_found,
    "dxf": dxf_found,
}


def read_back(reads: str, data: bytes) -> Found:
    """What a file of a kind (svg, pdf, png, webp, ico, dxf) holds.

    Raises:
        Unreadable: the library refuses it.
    """
    try:
        return READERS[reads](data)
    except Unreadable:
        raise
    except Exception as error:  # whatever another library raises, the file is not offered
        raise Unreadable(f"{type(error).__name__}: {error}") from error
