"""PDF by PDFium."""

from __future__ import annotations

from typing import Any, Final

import numpy as np

from kagami.exchange.delivery.reading_back.found import Drawn, Found, Unreadable
from kagami.exchange.delivery.reading_back.painted import painted
from kagami.geometry.arrays import Floats

DRAWN: Final = 2048
"""Pixels of the longer side at which PDFium draws a page that is to be compared."""


def pdf_found(data: bytes) -> Found:
    """What the first page of a PDF holds: its outlines as PDFium reads them, and what they are painted with as it
    stands in the content, which PDFium tells as colours of screens alone.
    """
    import pypdfium2.raw as pdfium
    from pypdfium2 import PdfDocument

    document = PdfDocument(data)
    page = document[0]
    points = 72 / 25.4
    outlines: list[list[list[tuple[float, float]]]] = []
    counts, foreign = [0, 0], []
    width, height = page.get_size()
    for item in page.get_objects():
        if item.type == pdfium.FPDF_PAGEOBJ_SHADING:
            continue
        if item.type != pdfium.FPDF_PAGEOBJ_PATH:
            foreign.append(
                {pdfium.FPDF_PAGEOBJ_TEXT: "text", pdfium.FPDF_PAGEOBJ_IMAGE: "image"}.get(item.type, "form")
            )
            continue
        outlines.append(_pdf_contours(item, counts))
    paints = painted(data)
    if len(paints) != len(outlines):
        raise Unreadable(f"it fills {len(paints)} times, and {len(outlines)} outlines are found")
    pieces = [
        Drawn(paint, tuple(_bezier_area(one) / points**2 for one in contours), _along(contours) / points)
        for paint, contours in zip(paints, outlines, strict=True)
    ]
    boxes = np.array([_bezier_box(one) / points for contours in outlines for one in contours if len(one) > 1])
    return Found(
        (width / points, height / points),
        tuple(pieces),
        (*boxes[:, :2].min(axis=0).tolist(), *boxes[:, 2:].max(axis=0).tolist()) if len(boxes) else None,
        counts[0],
        0,
        counts[1],
        0,
        tuple(dict.fromkeys(foreign)),
        tuple(dict.fromkeys(piece.paint.told for piece in pieces)),
    )


def _pdf_contours(item: Any, counts: list[int]) -> list[list[tuple[float, float]]]:
    """The contours of a path as places with three to a curve; lines are curves too. Counts lines and cubics."""
    import ctypes

    import pypdfium2.raw as pdfium

    contours: list[list[tuple[float, float]]] = []
    held: list[tuple[float, float]] = []
    x, y = ctypes.c_float(), ctypes.c_float()
    for k in range(pdfium.FPDFPath_CountSegments(item)):
        segment = pdfium.FPDFPath_GetPathSegment(item, k)
        pdfium.FPDFPathSegment_GetPoint(segment, x, y)
        place, kind = (x.value, y.value), pdfium.FPDFPathSegment_GetType(segment)
        if kind == pdfium.FPDF_SEGMENT_MOVETO:
            contours.append([place])
        elif kind == pdfium.FPDF_SEGMENT_LINETO:
            counts[0] += 1
            contours[-1] += [contours[-1][-1], place, place]
        else:
            held.append(place)
            if len(held) == 3:
                counts[1] += 1
                contours[-1] += held
                held = []
    return contours


def _along(contours: list[list[tuple[float, float]]]) -> Floats:
    """Places on the cubics of contours, their ends among them, (n, 2)."""
    found = [np.array([contour[0]]) for contour in contours]
    t = np.linspace(0.0, 1.0, 9)[:, None, None]
    for contour in contours:
        p = _cubics(contour)
        found.append(
            ((1 - t) ** 3 * p[0] + 3 * (1 - t) ** 2 * t * p[1] + 3 * (1 - t) * t**2 * p[2] + t**3 * p[3]).reshape(-1, 2)
        )
    return np.vstack(found)


def _cubics(contour: list[tuple[float, float]]) -> Floats:
    """The four places of each cubic of a contour, (4, n, 2)."""
    places = np.array(contour)
    return np.stack([places[k : len(places) - 3 + k : 3] for k in range(4)])


def _bezier_area(contour: list[tuple[float, float]]) -> float:
    """The signed area of a contour of cubics: a closed form of their places, by Green's theorem."""
    places = np.array(contour)
    if len(places) < 4:
        return 0.0
    p = _cubics(contour)
    x, y = p[..., 0], p[..., 1]

    def wedge(a: int, b: int) -> Floats:
        return np.asarray(x[a] * y[b] - x[b] * y[a])

    curved = 6 * wedge(0, 1) + 3 * wedge(0, 2) + wedge(0, 3) + 3 * wedge(1, 2) + 3 * wedge(1, 3) + 6 * wedge(2, 3)
    close = places[-1, 0] * places[0, 1] - places[0, 0] * places[-1, 1]
    return float(curved.sum() / 20 + close / 2)


def _bezier_box(contour: list[tuple[float, float]]) -> Floats:
    """The box of a contour of cubics: left, bottom, right, top. Where a cubic turns back its derivative is 0."""
    places = np.array(contour)
    p = _cubics(contour)
    a, b, c = -p[0] + 3 * p[1] - 3 * p[2] + p[3], 2 * (p[0] - 2 * p[1] + p[2]), p[1] - p[0]
    with np.errstate(divide="ignore", invalid="ignore"):
        root = np.sqrt(b**2 - 4 * a * c)
        turns = np.stack([(-b + root) / (2 * a), (-b - root) / (2 * a), np.where(a == 0, -c / b, np.nan)])
    t = np.clip(np.nan_to_num(turns), 0.0, 1.0)
    at = (1 - t) ** 3 * p[0] + 3 * (1 - t) ** 2 * t * p[1] + 3 * (1 - t) * t**2 * p[2] + t**3 * p[3]
    every = np.vstack([places[::3], places[-1:], at.reshape(-1, 2)])
    return np.concatenate([every.min(axis=0), every.max(axis=0)])


def pdf_picture(data: bytes, width: int, height: int, ground: str = "#ffffff", number: int = 0) -> Floats:
    """A page, the first or another, as PDFium draws it on a colour, (height, width, 3) of 0 to 255. It is drawn larger
    and reduced, as PDFium lays upright rectangles on whole pixels.
    """
    from PIL import Image
    from pypdfium2 import PdfDocument

    page = PdfDocument(data)[number]
    behind = (*(int(ground[k : k + 2], 16) for k in (1, 3, 5)), 255)
    times = max(1, min(8, DRAWN // max(width, height)))
    scale = min(width / page.get_width(), height / page.get_height()) * times
    picture = page.render(scale=scale, fill_color=behind).to_pil().convert("RGB")
    sheet = Image.new("RGB", (width * times, height * times), behind[:3])  # the page may end within its last pixel
    sheet.paste(picture)
    return np.asarray(sheet.reduce(times), dtype=float)
