"""The sheet: construction lines, ink and regions of a plan as one SVG picture."""

import json
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from kagami.exchange.face_paths import face_paths
from kagami.exchange.shown import shown_data
from kagami.exchange.svg import Frame
from kagami.geometry.measure.size import Box, area
from kagami.plan.changes.picks import carve_detail
from kagami.plan.document import Plan
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.figure import Figure
from kagami.plan.messages import listing
from kagami.plan.places.regions import Regions
from kagami.plan.references.places import OWN_PLACE
from kagami.plan.steps import Carve, Chapter, Step
from kagami.plan.values.expressions import MILLIMETRES
from web.bench.handles import Handle, handles_html, handles_of
from web.bench.hues import hues_of
from web.bench.state import Looking
from web.memo import Memo
from web.pictures.paint import each_once, paint_of

SCALE: Final = 10.0
DECIMALS: Final = 3
MARGIN: Final = 0.06
POINT_ARM: Final = 1.5
"""Half the width of the cross that marks a point, in SVG units."""
MOST_CRUMBS: Final = 60
MOST_NAMED: Final = 5
"""Figures that are named for a region."""
PATHS: Final[Memo[str]] = Memo()
INK: Final[Memo[str]] = Memo()


LAID_OVER: Final = (Chapter.CARVE, Chapter.TONE)
"""Chapters whose steps make something of figures that show lines of their own."""


@dataclass(frozen=True)
class Line:
    """A step's construction lines."""

    step: str
    name: str
    hue: str
    data: str
    fill: str = ""
    tone: str = ""
    paint: str = ""
    """The element of the gradient that the fill names."""
    bare: bool = False
    """Whether it bounds no area."""
    same: bool = False
    """Whether the page shows it already."""
    nth: int = 0
    """Which it is of those of one step and tone: gradients of the same tones may lie along other lines."""


@dataclass(frozen=True)
class Region:
    """A region to choose: `hint` tells what a click does, `orbit` which others go with it."""

    name: str
    """What identifies it, as JSON."""
    orbit: int
    kept: bool
    data: str
    hint: str
    partly: bool = False
    """Whether only some of the regions in it are kept."""
    same: bool = False


@dataclass(frozen=True)
class Sheet:
    """All that the sheet's template needs; lengths are SVG units."""

    width: str
    height: str
    unit: str
    origin: tuple[str, str]
    lines: tuple[Line, ...]
    ink: tuple[Line, ...]
    regions: tuple[Region, ...]
    carve: str
    empty: bool
    crumbs: tuple[tuple[str, str], ...] = ()
    """Places of the crumbs in the carve that is open."""
    open_step: str = ""
    handles_html: str = ""
    real: str = "1"
    """Pixels of a u at its real size, by CSS (96 to an inch)."""
    millimetres: str = "1"
    """The real size of u."""

    @property
    def paints(self) -> SafeString:
        """The elements of the gradients that fills name, each once."""
        return each_once(line.paint for line in self.ink)


NO_SHEET: Final = Sheet("100", "100", "10", ("50", "50"), (), (), (), "", False)
"""Stands for one that could not be drawn."""


def frame_of(plan: Plan, result: Result) -> tuple[Frame, Box]:
    """How the sheet is placed on the screen: its square and all closed figures, with a margin."""
    half = plan.sheet / 2
    window = Box(-half, -half, half, half)
    for outcome in result.outcomes.values():
        if outcome.figure and outcome.figure.box and outcome.figure.bounds_area:
            window = window.joined(outcome.figure.box)
    margin = MARGIN * max(window.width, window.height)
    window = Box(window.left - margin, window.bottom - margin, window.right + margin, window.top + margin)
    return Frame(SCALE, window.left, window.top, DECIMALS), window


def draw_sheet(plan: Plan, result: Result, state: Looking, later: Result | None = None) -> Sheet:
    """The sheet as it is looked at; the lines of steps that come only in `later`, behind the needle, are pale."""
    frame, window = frame_of(plan, result)
    hues = hues_of(plan)
    carve = state.carve(plan) if state.view == "regions" else None
    regions = tuple(_regions(plan, result, carve, state, frame)) if carve else ()
    return Sheet(
        width=frame.length(window.width),
        height=frame.length(window.height),
        unit=frame.length(1.0),
        origin=(frame.number(-window.left * SCALE), frame.number(window.top * SCALE)),
        lines=tuple(_lines(result, hues, frame, later, state)) if state.view != "ink" else (),
        ink=tuple(_ink(result, hues, frame)) if state.view in ("both", "ink") else (),
        regions=regions,
        carve=carve.id if carve and regions else "",
        empty=not plan.steps,
        handles_html=handles_html(active_handles(plan, result, state, frame)),
        crumbs=tuple(_crumbs(result, state, frame)),
        open_step=state.step,
        real=frame.number(plan.module.millimetres / MILLIMETRES["px"]),
        millimetres=frame.number(plan.module.millimetres),
    )


def active_handles(plan: Plan, result: Result, state: Looking, frame: Frame) -> tuple[Handle, ...]:
    """The handles of the active step, where it is drawn and no regions are chosen."""
    step = plan.step(state.step)
    if step is None or step.id not in result.outcomes or state.view == "regions":
        return ()
    return handles_of(step, result, frame)


def _crumbs(result: Result, state: Looking, frame: Frame) -> Iterable[tuple[str, str]]:
    detail = carve_detail(result.outcomes.get(state.step))
    for place in detail.crumbs[:MOST_CRUMBS] if detail else ():
        x, y = frame.place(place).split()
        yield x, y


def has_lines(step: Step, state: Looking) -> bool:
    """Whether the lines of a step are on the sheet: what is carved or toned lies where others' lines are, and what is
    carved shows its own while it is open; tones are looked at without.
    """
    shows = step.chapter is Chapter.CARVE and step.id == state.step and state.view != "regions"
    return shows or step.chapter not in LAID_OVER


def _lines(result: Result, hues: dict[str, str], frame: Frame, later: Result | None, state: Looking) -> Iterable[Line]:
    behind = [o for o in later.outcomes.values() if o.id not in result.outcomes] if later else []
    laid: list[Line] = []
    for outcome in (*behind, *result.outcomes.values()):
        step = result.plan.step(outcome.id)
        if outcome.figure is None or step is None or not has_lines(step, state):
            continue
        if outcome.figure.whole or OWN_PLACE in outcome.figure.anchors:
            hue = f"{hues[outcome.id]} dashed" if step.carries_no_ink else hues[outcome.id]
            hue = hue if outcome.id in result.outcomes else "later"
            data = PATHS.get((outcome.key, frame), lambda figure=outcome.figure: lines_of(figure, frame))
            line = Line(outcome.id, outcome.name, hue, data, bare=not outcome.figure.bounds_area)
            if step.chapter in LAID_OVER:
                laid.append(replace(line, hue=f"{hue} laid"))
            else:
                yield line
    yield from laid


def lines_of(figure: Figure, frame: Frame) -> str:
    """A figure's lines as path data; a point is a small cross."""
    if figure.whole or OWN_PLACE not in figure.anchors:
        return shown_data(figure.whole, frame)
    x, y = frame.place(figure.anchors[OWN_PLACE]).split()
    return f"M{x} {y}m-{POINT_ARM} 0h{2 * POINT_ARM}m-{POINT_ARM} -{POINT_ARM}v{2 * POINT_ARM}"


def _ink(result: Result, hues: dict[str, str], frame: Frame) -> Iterable[Line]:
    count: Counter[tuple[str, str]] = Counter()
    for piece in pieces(result):
        nth = count[piece.id, piece.tone]
        count[piece.id, piece.tone] += 1
        key = (result.outcomes[piece.id].key, piece.tone, nth, frame)
        data = INK.get(key, lambda piece=piece: shown_data(piece.shape, frame))
        fill, paint = paint_of(piece, frame)
        filled = fill if piece.tone else ""
        yield Line(piece.id, piece.name, hues[piece.id], data, filled, piece.tone, paint, nth=nth)


def _regions(plan: Plan, result: Result, carve: Carve, state: Looking, frame: Frame) -> Iterable[Region]:
    detail = carve_detail(result.outcomes.get(carve.id))
    if detail is None:
        return
    coarse = detail.cutting.among(state.among(carve))
    regions = coarse.regions
    count_of, kept_of = (np.bincount(coarse.holder, w, regions.arrangement.face_count) for w in (None, detail.kept))
    orbits = regions.orbits(state.every).tolist()
    size: dict[int, int] = {}
    for label in orbits[1:]:
        size[label] = size.get(label, 0) + 1
    names = plan.names()
    sizes = {step: area(outcome.figure.copies[0]) for step, outcome in result.outcomes.items() if outcome.figure}
    paths = face_paths(regions.arrangement, frame)
    for face in range(1, len(paths)):
        kept = bool(kept_of[face] == count_of[face])
        count = size[orbits[face]]
        text = _drop(count) if kept else _keep(count)
        hint = text.format(count=count, place=_inside(regions, face, names, sizes))
        partly = bool(kept_of[face]) and not kept
        yield Region(region_name(regions, face), orbits[face], kept, paths[face], hint, partly)


def region_name(regions: Regions, face: int) -> str:
    """What identifies a region, as JSON."""
    name = regions.names[face]
    return json.dumps({"cover": name.cover, "rank": name.rank, "alike": name.alike})


def _keep(count: int) -> str:
    return ngettext("keep {count} region: {place}", "keep {count} regions: {place}", count)


def _drop(count: int) -> str:
    return ngettext("drop {count} region: {place}", "drop {count} regions: {place}", count)


def _inside(regions: Regions, face: int, names: dict[str, str], sizes: dict[str, float]) -> str:
    """Where a region lies, in words: in the figures that cover it, the smallest first."""
    cover = {owner.partition("#")[0] for owner in regions.names[face].cover}
    inside = [
        names.get(identifier, identifier) for identifier in sorted(cover, key=lambda one: (sizes.get(one, 0.0), one))
    ]
    if len(inside) > MOST_NAMED:
        inside = [*inside[: MOST_NAMED - 1], _("{count} more").format(count=len(inside) - MOST_NAMED + 1)]
    return _("in {figures}").format(figures=listing(inside)) if inside else _("between the figures")
