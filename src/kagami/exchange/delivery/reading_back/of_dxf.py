"""DXF by ezdxf's audit and its raw groups."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from kagami.exchange.delivery.reading_back.found import Found, Unreadable
from kagami.geometry.arrays import Floats


def dxf_found(data: bytes) -> Found:
    """What a DXF holds (raises `Unreadable`)."""
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
