"""Stand-ins for those who receive files: each with its limits, which say what it takes, and why not, and where.

None of them is a program that exists; the limits are values of common practice, kept here in one table.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np

from kagami.exchange.artwork import Artwork
from kagami.exchange.delivery.report import Report
from kagami.exchange.stencil import stencil
from kagami.geometry.boolean import difference, union
from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.distance import Approach
from kagami.geometry.measure.size import area, box, perimeter
from kagami.geometry.offset import Corners, offset
from kagami.geometry.point import Point
from kagami.geometry.selection import islands
from kagami.geometry.tolerance import UNMOVED
from kagami.plan.evaluation.fineness import Fineness
from kagami.plan.messages import number_text

BLADE: Final = 30.0
"""Millimetres that a blade travels in a second."""
LIFT: Final = 0.4
"""Seconds in which it is lifted, moved and lowered between outlines."""
HOLDS: Final = 4.0
"""Square millimetres of film that stay where they are pasted; less comes off."""
LOST: Final = 0.02
"""The share of its area that a mark may lose in corners that a tool cannot reach."""
STITCH: Final = 4.0
"""Millimetres of a usual stitch."""
ROWS: Final = 0.4
"""Millimetres between rows of stitches."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What a receiver takes. Lengths in millimetres; 0 or None where there is no limit."""

    part: float
    gap: float
    colours: int = 0
    shadings: bool = False
    largest: float | None = None
    files: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Reason:
    """Why something is not taken, and where on the mark (in module units) if at some place."""

    words: str
    place: Point | None = None


@dataclass(frozen=True, slots=True)
class Verdict:
    """What a receiver says: why it refuses (nothing where it takes the mark), what it tells else, and the longer side
    in millimetres from which on its limits of thickness are met, None where none are missed at any size.
    """

    receiver: str
    reasons: tuple[Reason, ...]
    told: str
    met_from: float | None

    @property
    def takes(self) -> bool:
        """Whether it takes the mark."""
        return not self.reasons


@dataclass(frozen=True, slots=True)
class Receiver:
    """A receiver: what it is called, its limits, and what it looks at besides and tells."""

    name: str
    limits: Limits
    looks: Callable[[Artwork, Limits, Report | None], tuple[list[Reason], str]]


def asked(receiver: Receiver, art: Artwork, fine: Fineness, found: Report | None = None) -> Verdict:
    """What a receiver says of a mark at its real size; `found` is the report on its file."""
    limits, real = receiver.limits, art.millimetres
    longer = art.ink.longer
    reasons, met_from = [], None
    for way, least, what in ((fine.ink, limits.part, "part"), (fine.white, limits.gap, "gap")):
        if way is None or least == 0:
            continue
        needed = least * longer / way.distance
        met_from = max(met_from or 0.0, needed)
        if way.distance * real < least - UNMOVED:
            reasons.append(Reason(_too_thin(what, way.distance * real, least), _middle(way)))
    if limits.colours and len(art.colours) > limits.colours:
        words = "one colour" if limits.colours == 1 else f"{limits.colours} colours"
        reasons.append(Reason(f"it works in {words}, and this has {len(art.colours)}"))
    if art.shadings and not limits.shadings:
        place = next(box(one.shape).centre for one in art.areas if not isinstance(one.fill, str))
        reasons.append(Reason("it takes no gradients; flatten them to bands", place))
    if limits.largest is not None and longer * real > limits.largest:
        reasons.append(Reason(f"it makes nothing larger than {number_text(limits.largest)} mm"))
    more, told = receiver.looks(art, limits, found)
    return Verdict(receiver.name, (*reasons, *more), told, met_from)


def _too_thin(what: str, is_now: float, least: float) -> str:
    return f"the narrowest {what} is {number_text(float(f'{is_now:.3g}'))} mm, and it needs {number_text(least)} mm"


def _middle(way: Approach) -> Point:
    return Point((way.first.x + way.second.x) / 2, (way.first.y + way.second.y) / 2)


def _cutter(art: Artwork, limits: Limits, _found: Report | None) -> tuple[list[Reason], str]:
    real = art.millimetres
    cut = stencil(art)
    length = sum(perimeter(piece.shape) for piece in cut.areas) * real
    outlines = sum(len(piece.shape.outlines) for piece in cut.areas)
    reasons = []
    for piece in cut.areas:
        size = area(piece.shape) * real**2
        if size < HOLDS:
            words = f"a piece of {number_text(float(f'{size:.2g}'))} mm² does not stay on its backing"
            reasons.append(Reason(words, box(piece.shape).centre))
            break
    seconds = length / BLADE + LIFT * outlines
    metres = number_text(float(f"{length / 1000:.3g}"))
    return reasons, f"blade path {metres} m in {outlines} outlines, about {_time(seconds)}"


def _engraver(art: Artwork, limits: Limits, _found: Report | None) -> tuple[list[Reason], str]:
    """What a round tool reaches: the mark, opened by its radius. The rest are corners."""
    radius = limits.part / 2 / art.millimetres
    whole = union(*(piece.shape for piece in art.areas))
    try:
        inner = offset(whole, -radius)
        missed = difference(whole, offset(inner, radius, corners=Corners.ROUND)) if inner else whole
    except GeometryError as error:
        return [Reason(f"the path of its tool cannot be found: {error}")], ""
    share = area(missed) / area(whole)
    tool = f"with a tool of {number_text(limits.part)} mm"
    if share > LOST:
        worst = max(islands(missed), key=area)
        words = f"{tool} {_percent(share)} of the mark cannot be reached"
        return [Reason(words, box(worst).centre)], tool
    left = _percent(share)
    return [], f"{tool} all of it is reached" if left == _percent(0.0) else f"{tool} all but {left} is reached"


def _percent(share: float) -> str:
    return f"{number_text(float(f'{100 * share:.2g}'))} %"


def _garment(art: Artwork, limits: Limits, _found: Report | None) -> tuple[list[Reason], str]:
    """Separates into inks: each a screen, with the area it covers."""
    real = art.millimetres
    covers: dict[str, float] = {}
    for piece in stencil(art).areas:
        if isinstance(piece.fill, str):
            covers[piece.fill] = covers.get(piece.fill, 0.0) + area(piece.shape) * real**2 / 100
    inks = ", ".join(f"{colour} {number_text(float(f'{size:.2g}'))} cm²" for colour, size in covers.items())
    screens = "one screen" if len(covers) == 1 else f"{len(covers)} screens"
    return [], f"{screens}: {inks}"


def _embroiderer(art: Artwork, limits: Limits, _found: Report | None) -> tuple[list[Reason], str]:
    """Sews what is seen: nothing below other stitches."""
    real = art.millimetres
    stitches = sum(area(piece.shape) for piece in stencil(art).areas) * real**2 / (STITCH * ROWS)
    return [], f"about {math.ceil(stitches / 100) * 100} stitches"


def _icon_shop(art: Artwork, limits: Limits, found: Report | None) -> tuple[list[Reason], str]:
    """Plain vector alone."""
    if found is None:
        return [], "plain outlines"
    reasons = [Reason(f"it takes filled outlines alone, and this holds {name}") for name in found.foreign]
    if found.nodes > 1000:
        reasons.append(Reason(f"it takes up to 1000 nodes, and this has {found.nodes}"))
    return reasons, f"plain outlines, {found.nodes} nodes"


def _stamp(art: Artwork, limits: Limits, _found: Report | None) -> tuple[list[Reason], str]:
    """A stamp prints mirrored: the rubber holds the mark turned over."""
    size = np.array([art.ink.width, art.ink.height]) * art.millimetres
    return [], f"a stamp of {number_text(round(float(size[0])))} × {number_text(round(float(size[1])))} mm"


def _time(seconds: float) -> str:
    return f"{round(seconds)} s" if seconds < 100 else f"{round(seconds / 60)} min"


RECEIVERS: Final = (
    Receiver("sign cutter", Limits(part=1.0, gap=0.8, largest=3000, files=("dxf", "cut")), _cutter),
    Receiver("engraver", Limits(part=0.3, gap=0.2, colours=1, largest=600, files=("dxf", "svg")), _engraver),
    Receiver("garment printer", Limits(part=0.5, gap=0.4, colours=6, largest=400, files=("pdf", "svg")), _garment),
    Receiver("embroiderer", Limits(part=1.0, gap=0.8, colours=12, largest=300, files=("svg", "dxf")), _embroiderer),
    Receiver("icon shop", Limits(part=0.0, gap=0.0, files=("svg",)), _icon_shop),
    Receiver("stamp maker", Limits(part=0.3, gap=0.35, colours=1, largest=80, files=("svg", "pdf")), _stamp),
)
"""Who receives files, and within which limits (millimetres)."""
