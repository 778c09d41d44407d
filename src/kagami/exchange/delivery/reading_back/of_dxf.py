"""DXF by ezdxf: its audit, and the curves of its entities."""

from __future__ import annotations

import io
from typing import Any, Final

import numpy as np

from kagami.exchange.delivery.reading_back.along import SAMPLES, sampled, signed_area
from kagami.exchange.delivery.reading_back.found import Drawn, Found, Paint, PaintKind, Unreadable
from kagami.geometry.arrays import Floats
from kagami.geometry.tolerance import READ_EXACT

_NO_PIECE: Final = frozenset({"0", "defpoints"})


def dxf_found(data: bytes) -> Found:
    """What a DXF holds, a layer a piece (raises `Unreadable`)."""
    from ezdxf import recover

    document, auditor = recover.read(io.BytesIO(data))
    if auditor.errors:
        raise Unreadable(auditor.errors[0].message)
    if document.units != 4:
        raise Unreadable("its unit is not the millimetre")
    counts = {"line": 0, "arc": 0, "cubic": 0}
    foreign: list[str] = []
    contours: dict[str, list[list[Floats]]] = {}
    open_ends: dict[str, list[Floats]] = {}
    entity: Any
    for entity in document.modelspace():
        layer = str(entity.dxf.layer)
        curves = _curves(entity, counts)
        if not curves:
            foreign.append(entity.dxftype().lower())
            continue
        run = _led_on(open_ends.pop(layer, []), curves)
        if _closes(run):
            contours.setdefault(layer, []).append(run)
        else:
            open_ends[layer] = run
    foreign += [f"an outline on the layer {layer} that does not close" for layer in open_ends]
    colours = {layer.dxf.name: _colour(layer) for layer in document.layers}
    drawn = [
        Drawn(
            Paint(PaintKind.LAYER, colours.get(layer, "")),
            _areas(held),
            sampled([curve for contour in held for curve in contour]),
        )
        for layer, held in contours.items()
    ]
    around = np.vstack([piece.places for piece in drawn]) if drawn else np.zeros((1, 2))
    size = tuple((around.max(axis=0) - around.min(axis=0)).tolist())
    layers = tuple(name for name in colours if name.lower() not in _NO_PIECE)
    return Found(
        size,
        tuple(drawn),
        None,
        counts["line"],
        counts["arc"],
        counts["cubic"],
        0,
        tuple(dict.fromkeys(foreign)),
        layers,
        directed=False,
    )


def _areas(contours: list[list[Floats]]) -> tuple[float, ...]:
    """The area within each contour of a layer, that of a hole negative: contours tell no direction, but those that lie
    within an odd number of others are holes.
    """
    ways = [np.vstack(contour) for contour in contours]
    low, high = (np.array([edge(way, axis=0) for way in ways]) for edge in (np.min, np.max))
    boxed = np.all((low[:, None] < low) & (high[:, None] > high), axis=-1)  # the first holds the box of the second
    depths = [sum(_holds(ways[other], ways[k][0]) for other in np.flatnonzero(boxed[:, k])) for k in range(len(ways))]
    return tuple(abs(signed_area(one)) * (-1) ** depth for one, depth in zip(contours, depths, strict=True))


def _holds(way: Floats, place: Floats) -> bool:
    """Whether a closed way of places goes round a place: a ray from it crosses the way an odd number of times."""
    start, end = way, np.roll(way, -1, axis=0)
    passes = (start[:, 1] > place[1]) != (end[:, 1] > place[1])
    rise = np.where(passes, end[:, 1] - start[:, 1], 1.0)
    at = start[:, 0] + (place[1] - start[:, 1]) / rise * (end[:, 0] - start[:, 0])
    return bool(np.count_nonzero(passes & (at > place[0])) % 2)


def _colour(layer: Any) -> str:
    """What a layer is shown in."""
    return "#{:02x}{:02x}{:02x}".format(*layer.rgb) if layer.rgb is not None else ""


def _closes(run: list[Floats]) -> bool:
    """Whether a chain comes back to where it began, and not merely has not left yet."""
    begun = run[0][0]
    return _meet(run[-1][-1], begun) and not all(_meet(place, begun) for curve in run for place in curve)


def _meet(first: Floats, second: Floats) -> bool:
    reach = READ_EXACT * max(1.0, float(np.abs(first).max()))
    return bool(np.abs(first - second).max() <= reach)


def _led_on(run: list[Floats], curves: list[Floats]) -> list[Floats]:
    """A chain with further curves, which an ellipse may tell the other way round: as it leads on from one to the next.
    Of a chain's first curve it is the second that shows its direction.
    """
    if not run:
        return curves
    turned = [curve[::-1] for curve in reversed(curves)]
    if _meet(run[-1][-1], curves[0][0]):
        return [*run, *curves]
    if _meet(run[-1][-1], turned[0][0]):
        return [*run, *turned]
    back = [curve[::-1] for curve in reversed(run)]
    return [*back, *(curves if _meet(back[-1][-1], curves[0][0]) else turned)]


def _curves(entity: Any, counts: dict[str, int]) -> list[Floats]:
    """Places along each curve of an entity; none where it is no outline. Counts lines, arcs and cubics."""
    kind = entity.dxftype()
    if kind == "LWPOLYLINE":
        rows = np.array([tuple(row) for row in entity.get_points("xyb")])
        ends = np.roll(rows, -1, axis=0)[:, :2]
        last = len(rows) if entity.closed else len(rows) - 1
        curved = int(np.count_nonzero(rows[:last, 2]))
        counts["arc"] += curved
        counts["line"] += last - curved
        return [_bulged(rows[k], ends[k]) for k in range(last)]
    if kind == "SPLINE":
        counts["cubic"] += 1
        tool = entity.construction_tool()
        return [_flat(tool.points(np.linspace(0.0, tool.max_t, SAMPLES + 1)))]
    if kind == "ELLIPSE":
        counts["arc"] += 1
        first, last = entity.dxf.start_param, entity.dxf.end_param
        last += 0.0 if last > first else 2 * np.pi
        return [_flat(entity.vertices(np.linspace(first, last, SAMPLES + 1)))]
    return []


def _flat(places: Any) -> Floats:
    return np.array([(place[0], place[1]) for place in places])


def _bulged(row: Floats, end: Floats) -> Floats:
    """Places from a stop of a polyline to the next: a bulge is the tangent of a quarter of the arc's sweep."""
    start, bulge = row[:2], float(row[2])
    if bulge == 0:
        return np.array([start, end])
    sweep = 4 * np.arctan(bulge)
    chord = end - start
    # The centre lies off the chord's middle, to its left where the arc turns left by less than half a turn.
    centre = (start + end) / 2 + np.array([-chord[1], chord[0]]) / (2 * np.tan(sweep / 2))
    angles = np.linspace(0.0, sweep, SAMPLES + 1)[:, None]
    arm = start - centre
    return np.asarray(centre + arm * np.cos(angles) + np.array([-arm[1], arm[0]]) * np.sin(angles))
