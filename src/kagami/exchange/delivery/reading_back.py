"""Files read back by other libraries than wrote them: svgelements for SVG, PDFium for PDF, Pillow for pictures, ezdxf's
audit and its raw groups for DXF.

What is found is told in the file's own units and as plain values; nothing of the writers is used.
"""

from __future__ import annotations

import io
import itertools
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Final

import numpy as np

from kagami.exchange.svg import NEAR_HALF_TURN
from kagami.geometry.arrays import Floats
from kagami.geometry.tolerance import IN_LINE, PAGE, UNMOVED

DRAWN: Final = 2048
"""Pixels of the longer side at which PDFium draws a page that is to be compared."""
SAMPLES: Final = 64
"""Places along a curve, between which areas are extrapolated."""


@dataclass(frozen=True, slots=True)
class Found:
    """What a file holds: its size in millimetres, or in pixels for pictures; the areas by colour in square millimetres,
    the box of its ink, how many lines, arcs and cubics, contours and pieces; what should not be there, in words; its
    colours or inks.
    """

    size: tuple[float, float]
    areas: Mapping[str, float] = field(default_factory=dict)
    box: tuple[float, float, float, float] | None = None
    lines: int = 0
    arcs: int = 0
    cubics: int = 0
    contours: int = 0
    pieces: int = 0
    needless: int = 0
    """Nodes between two lines in one direction, or two arcs of one circle that could be one arc."""
    foreign: tuple[str, ...] = ()
    colours: tuple[str, ...] = ()
    picture: Any = field(default=None, compare=False, repr=False)
    """A picture of it, (height, width, 4) of 0 to 255, where it is one."""

    @property
    def nodes(self) -> int:
        """Nodes of all contours."""
        return self.lines + self.arcs + self.cubics


class Unreadable(ValueError):
    """A file that another library does not read."""


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


def _svg(data: bytes) -> Found:
    from lxml import etree
    from svgelements import Arc, Close, CubicBezier, Line, Move, Path, QuadraticBezier

    root = etree.fromstring(data, etree.XMLParser(resolve_entities=False, no_network=True))
    width, height = (_millimetres(root.get(side)) for side in ("width", "height"))
    left, top, across, down = map(float, root.get("viewBox").split())
    scale = width / across
    areas: dict[str, float] = {}
    counts = {Line: 0, Arc: 0, CubicBezier: 0, QuadraticBezier: 0}
    contours, pieces, needless, boxes, foreign = 0, 0, 0, [], _foreign_in_svg(root)
    for element in root.iter("{http://www.w3.org/2000/svg}path"):
        if element.get("id") is None:
            continue  # the ground
        path = _filled(Path(element.get("d")))
        pieces += 1
        fill = _fill(element.get("fill"))
        for segment in path:
            if isinstance(segment, Move):
                contours += 1
            elif isinstance(segment, Close):
                counts[Line] += bool(abs(segment.end - segment.start) > UNMOVED)
            else:
                counts[type(segment)] += 1
        areas[fill] = areas.get(fill, 0.0) + scale**2 * _path_area([_segment(one) for one in path])
        boxes.append(Path(*path).bbox())
        needless += _needless(path)
    around = np.array([box for box in boxes if box is not None])
    low, high = around[:, :2].min(axis=0), around[:, 2:].max(axis=0)
    box = (low[0] - left, top + down - high[1], high[0] - left, top + down - low[1])
    return Found(
        (width, height),
        areas,
        tuple(float(scale * v) for v in box),  # type: ignore[arg-type]
        counts[Line],
        counts[Arc],
        counts[CubicBezier] + counts[QuadraticBezier],  # each stands for a cubic of the plan
        contours,
        pieces,
        needless,
        foreign,
        tuple(areas),
    )


def _filled(path: Any) -> list[Any]:
    """The segments of a path, contours that are left open closed as their fill closes them (SVG 1.1, 11.3)."""
    from svgelements import Close, Move

    found: list[Any] = []
    begun = None
    for segment in [*path, None]:
        if begun is not None and (segment is None or isinstance(segment, Move)) and not isinstance(found[-1], Close):
            found.append(Close(found[-1].end, begun))
        if segment is not None:
            begun = segment.end if isinstance(segment, Move) else begun
            found.append(segment)
    return found


def _needless(path: Sequence[Any]) -> int:
    """Nodes of a path that could be left out."""
    from svgelements import Arc, Close, Line

    def straight(a: Any, b: Any) -> bool:
        first, second = a.end - a.start, b.end - b.start
        across, along = first.x * second.y - first.y * second.x, first.x * second.x + first.y * second.y
        return along > 0 and abs(across) <= IN_LINE * abs(first) * abs(second)

    def round_on(a: Any, b: Any) -> bool:
        near = IN_LINE * max(a.rx, 1.0)
        alike = abs(a.center - b.center) <= near and abs(a.rx - b.rx) <= near and abs(a.ry - b.ry) <= near
        both = abs(a.sweep + b.sweep)
        needed = abs(both - math.pi) <= NEAR_HALF_TURN  # readers find the centre of such an arc badly: it is parted
        return alike and a.sweep * b.sweep > 0 and both < math.tau - IN_LINE and not needed

    count = 0
    for a, b in itertools.pairwise(path):
        lines = isinstance(a, Line | Close) and isinstance(b, Line | Close) and abs(a.end - a.start) > 0
        if lines and abs(b.end - b.start) > 0:
            count += straight(a, b)
        elif isinstance(a, Arc) and isinstance(b, Arc):
            count += round_on(a, b)
    return count


_ALLOWED: Final = {"svg", "title", "desc", "metadata", "path", "defs", "linearGradient", "radialGradient", "stop"}


def _foreign_in_svg(root: Any) -> tuple[str, ...]:
    """Elements and attributes that are no filled outlines."""
    found = []
    for element in root.iter():
        name = str(element.tag).rpartition("}")[2]
        space = str(element.tag).startswith("{http://www.w3.org/2000/svg}")
        if space and name not in _ALLOWED:
            found.append(name)
        found += [
            one for one in ("stroke", "mask", "clip-path", "filter", "opacity", "style", "href") if element.get(one)
        ]
        found += ["hidden"] if element.get("display") == "none" or element.get("visibility") == "hidden" else []
    return tuple(dict.fromkeys(found))


def _fill(text: str) -> str:
    """The colour of a fill: of a variable its default."""
    return text.rpartition(",")[2].strip(" )") if text.startswith("var(") else text


def _millimetres(text: str) -> float:
    units = {"mm": 1.0, "cm": 10.0, "in": 25.4, "px": 25.4 / 96, "pt": 25.4 / 72}
    unit = text.lstrip("0123456789.")
    return float(text.removesuffix(unit)) * units.get(unit, units["px"])


def _segment(one: Any) -> Floats:
    """Places along a segment of a path, y upwards; a move is its end alone."""
    from svgelements import Close, Line, Move

    if isinstance(one, Move):
        places = np.array([[one.end.x, one.end.y]])
    elif isinstance(one, Line | Close):
        places = np.array([[one.start.x, one.start.y], [one.end.x, one.end.y]])
    else:
        places = np.asarray(one.npoint(np.linspace(0.0, 1.0, SAMPLES + 1)))
    return places * np.array([1.0, -1.0])


def _path_area(segments: list[Floats]) -> float:
    """The signed area within contours: of each curve the polygons through all, half and a quarter of its places,
    extrapolated by Richardson's rule, whose error falls with the sixth power of their distance.
    """
    total = 0.0
    for places in segments:
        if len(places) == 2:
            total += _shoelace(places)
        elif len(places) > 2:
            fine, half, quarter = (_shoelace(places[::step]) for step in (1, 2, 4))
            first, second = (4 * fine - half) / 3, (4 * half - quarter) / 3
            total += (16 * first - second) / 15
    return abs(total)


def _shoelace(places: Floats) -> float:
    x, y = places[:, 0], places[:, 1]
    return float(np.sum(x[:-1] * y[1:] - x[1:] * y[:-1]) / 2)


def _pdf(data: bytes) -> Found:
    import pypdfium2.raw as pdfium
    from pypdfium2 import PdfDocument

    document = PdfDocument(data)
    page = document[0]
    points = 72 / 25.4
    areas: dict[str, float] = {}
    counts, pieces, foreign = [0, 0, 0], 0, []
    boxes = []
    width, height = page.get_size()
    for item in page.get_objects():
        if item.type == pdfium.FPDF_PAGEOBJ_SHADING:
            continue
        if item.type != pdfium.FPDF_PAGEOBJ_PATH:
            foreign.append(
                {pdfium.FPDF_PAGEOBJ_TEXT: "text", pdfium.FPDF_PAGEOBJ_IMAGE: "image"}.get(item.type, "form")
            )
            continue
        contours = _pdf_contours(item, counts)
        whole = len(contours) == 1 and _is_page(contours[0], width, height)
        if whole and pieces == 0 and not areas:
            continue  # the ground
        pieces += 1
        colour = _pdf_colour(item)
        areas[colour] = areas.get(colour, 0.0) + abs(sum(_bezier_area(one) for one in contours)) / points**2
        boxes += [_bezier_box(one) for one in contours if len(one) > 1]
    around = np.array(boxes) / points
    return Found(
        (width / points, height / points),
        areas,
        (*around[:, :2].min(axis=0).tolist(), *around[:, 2:].max(axis=0).tolist()) if boxes else None,
        counts[0],
        0,
        counts[1],
        counts[2],
        pieces,
        0,
        tuple(dict.fromkeys(foreign)),
        tuple(areas),
    )


def _pdf_contours(item: Any, counts: list[int]) -> list[list[tuple[float, float]]]:
    """The contours of a path as places with three to a curve; lines are curves too. Counts lines, cubics, contours."""
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
            counts[2] += 1
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


def _is_page(contour: list[tuple[float, float]], width: float, height: float) -> bool:
    places = np.array(contour)
    low, high = places.min(axis=0), places.max(axis=0)
    return bool(np.allclose(low, 0, atol=PAGE) and np.allclose(high, (width, height), atol=PAGE))


def _bezier_area(contour: list[tuple[float, float]]) -> float:
    """The signed area of a contour of cubics: a closed form of their places, by Green's theorem."""
    places = np.array(contour)
    if len(places) < 4:
        return 0.0
    p = np.stack([places[k : len(places) - 3 + k : 3] for k in range(4)])
    x, y = p[..., 0], p[..., 1]

    def wedge(a: int, b: int) -> Floats:
        return np.asarray(x[a] * y[b] - x[b] * y[a])

    curved = 6 * wedge(0, 1) + 3 * wedge(0, 2) + wedge(0, 3) + 3 * wedge(1, 2) + 3 * wedge(1, 3) + 6 * wedge(2, 3)
    close = places[-1, 0] * places[0, 1] - places[0, 0] * places[-1, 1]
    return float(curved.sum() / 20 + close / 2)


def _bezier_box(contour: list[tuple[float, float]]) -> Floats:
    """The box of a contour of cubics: left, bottom, right, top. Where a cubic turns back its derivative is 0."""
    places = np.array(contour)
    p = np.stack([places[k : len(places) - 3 + k : 3] for k in range(4)])
    a, b, c = -p[0] + 3 * p[1] - 3 * p[2] + p[3], 2 * (p[0] - 2 * p[1] + p[2]), p[1] - p[0]
    with np.errstate(divide="ignore", invalid="ignore"):
        root = np.sqrt(b**2 - 4 * a * c)
        turns = np.stack([(-b + root) / (2 * a), (-b - root) / (2 * a), np.where(a == 0, -c / b, np.nan)])
    t = np.clip(np.nan_to_num(turns), 0.0, 1.0)
    at = (1 - t) ** 3 * p[0] + 3 * (1 - t) ** 2 * t * p[1] + 3 * (1 - t) * t**2 * p[2] + t**3 * p[3]
    every = np.vstack([places[::3], places[-1:], at.reshape(-1, 2)])
    return np.concatenate([every.min(axis=0), every.max(axis=0)])


def _pdf_colour(item: Any) -> str:
    import ctypes

    import pypdfium2.raw as pdfium

    red, green, blue, alpha = (ctypes.c_uint() for _ in range(4))
    if not pdfium.FPDFPageObj_GetFillColor(item, red, green, blue, alpha):
        return "shading"
    return f"#{red.value:02x}{green.value:02x}{blue.value:02x}"


def pdf_picture(data: bytes, width: int, height: int, ground: str = "#ffffff") -> Floats:
    """The first page as PDFium draws it on a colour, (height, width, 3) of 0 to 255. It is drawn larger and reduced, as
    PDFium lays upright rectangles on whole pixels.
    """
    from PIL import Image
    from pypdfium2 import PdfDocument

    page = PdfDocument(data)[0]
    behind = (*(int(ground[k : k + 2], 16) for k in (1, 3, 5)), 255)
    times = max(1, min(8, DRAWN // max(width, height)))
    scale = min(width / page.get_width(), height / page.get_height()) * times
    picture = page.render(scale=scale, fill_color=behind).to_pil().convert("RGB")
    sheet = Image.new("RGB", (width * times, height * times), behind[:3])  # the page may end within its last pixel
    sheet.paste(picture)
    return np.asarray(sheet.reduce(times), dtype=float)


def _picture(data: bytes) -> Found:
    from PIL import Image

    with Image.open(io.BytesIO(data)) as opened:
        foreign = () if opened.info.get("srgb", 0) == 0 else ("another colour space",)
        picture = np.asarray(opened.convert("RGBA"))
        return Found(opened.size, foreign=foreign, picture=picture, colours=(opened.mode,))


def _ico(data: bytes) -> Found:
    from PIL import Image

    opened: Any  # an icon's size can be set to choose an entry, which its type does not say
    with Image.open(io.BytesIO(data)) as opened:
        sizes = sorted(opened.info["sizes"], reverse=True)
        for size in sizes:
            opened.size = size
            opened.load()
            if opened.size != size:
                raise Unreadable(f"its entry of {size[0]} px is {opened.size[0]} px large")
        opened.size = sizes[0]
        return Found(
            sizes[0], picture=np.asarray(opened.convert("RGBA")), colours=tuple(str(size[0]) for size in sizes)
        )


def _dxf(data: bytes) -> Found:
    from ezdxf import recover

    document, auditor = recover.read(io.BytesIO(data))
    if auditor.errors:
        raise Unreadable(auditor.errors[0].message)
    if document.units != 4:
        raise Unreadable("its unit is not the millimetre")
    lines, arcs, cubics, contours, area, foreign = 0, 0, 0, 0, 0.0, []
    boxes: list[Floats] = []
    whole = True
    entity: Any
    for entity in document.modelspace():
        kind = entity.dxftype()
        if kind == "LWPOLYLINE":
            rows = np.array([tuple(row) for row in entity.get_points("xyb")])
            curved = int(np.count_nonzero(rows[:, 2]))
            arcs, lines = arcs + curved, lines + len(rows) - curved - (not entity.closed)
            contours, whole = contours + 1, whole and bool(entity.closed)
            area += _bulged_area(rows)
            boxes.append(rows[:, :2])
        elif kind in ("SPLINE", "ELLIPSE"):
            cubics, arcs = cubics + (kind == "SPLINE"), arcs + (kind == "ELLIPSE")
            whole = False
        else:
            foreign.append(kind.lower())
    around = np.vstack(boxes) if boxes else np.zeros((1, 2))
    size = tuple((around.max(axis=0) - around.min(axis=0)).tolist())
    layers = [layer.dxf.name for layer in document.layers if layer.dxf.name not in ("0", "Defpoints")]
    return Found(
        size,
        {"all": abs(area)} if whole else {},
        None,
        lines,
        arcs,
        cubics,
        contours,
        len(layers),
        0,
        tuple(dict.fromkeys(foreign)),
        tuple(layers),
    )


def _bulged_area(rows: Floats) -> float:
    """The signed area of a closed polyline with bulges: its polygon's, and the segments between arcs and chords (a
    bulge is the tangent of a quarter of the sweep).
    """
    ends = np.roll(rows, -1, axis=0)
    polygon = np.sum(rows[:, 0] * ends[:, 1] - ends[:, 0] * rows[:, 1]) / 2
    sweep = 4 * np.arctan(rows[:, 2])
    chord = np.hypot(ends[:, 0] - rows[:, 0], ends[:, 1] - rows[:, 1])
    half = np.sin(sweep / 2)
    radius = np.divide(chord, 2 * half, out=np.zeros_like(chord), where=half != 0)
    return float(polygon + np.sum(radius**2 * (sweep - np.sin(sweep)) / 2))


READERS: Final[dict[str, Callable[[bytes], Found]]] = {
    "svg": _svg,
    "pdf": _pdf,
    "png": _picture,
    "webp": _picture,
    "ico": _ico,
    "dxf": _dxf,
}
