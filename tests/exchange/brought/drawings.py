"""Small SVG documents for tests, and how one looks to an independent renderer."""

from __future__ import annotations

import io
import pathlib
import re
from collections.abc import Sequence

import numpy as np
import resvg_py
from PIL import Image

from kagami.exchange.arcs import arc_cubics
from kagami.exchange.brought.drawn import drawn
from kagami.exchange.brought.telling import Sentences, ink_of, sentences_of
from kagami.geometry.bezier import Cubic
from kagami.geometry.curves import Line
from kagami.geometry.outline import Shape
from kagami.plan.changes.change import change
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.ink import Piece, pieces
from kagami.plan.evaluation.result import Result

APART = 96
"""Levels of a channel, of 255, by which pixels differ that an edge does not run through otherwise."""
SPACE = "http://www.w3.org/2000/svg"
BUOY = (pathlib.Path(__file__).parents[3] / "examples" / "bell-buoy.svg").read_text(encoding="utf-8")


def svg(inside: str, view: str = "0 0 24 24", also: str = "") -> bytes:
    """A document with a view, and what stands in it."""
    return f'<svg xmlns="{SPACE}" viewBox="{view}" {also}>{inside}</svg>'.encode()


def brought(data: bytes, plan: Plan | None = None, width: float | None = None) -> tuple[Sentences, Result]:
    """A drawing as sentences, and the plan that takes them, evaluated; a unit of it is one u if no width is told."""
    plan = plan or Plan(sheet=30)
    width = ink_of(drawn(data)).width if width is None else width
    told = sentences_of(data, plan, "", width)
    return told, evaluate(change(plan, "add-sentences", {"text": told.text}).plan)


def picture(document: bytes, wide: int, high: int) -> np.ndarray:
    """How a document looks on white, by resvg, (high, wide, 3)."""
    text = re.sub(r"<svg ", f'<svg width="{wide}" height="{high}" ', document.decode(), count=1)
    found = resvg_py.svg_to_bytes(svg_string=text, width=wide, height=high, background="white")
    return np.asarray(Image.open(io.BytesIO(bytes(found))).convert("RGB")).astype(int)


def drawn_anew(marks: Sequence[Piece], view: tuple[float, float, float, float]) -> bytes:
    """Pieces as a document of their own, its view told from O in u, y downwards."""
    paths = "".join(f'<path fill="{one.colour}" d="{_path(one.shape)}"/>' for one in marks)
    left, top, wide, high = view
    return f'<svg xmlns="{SPACE}" viewBox="{left} {top} {wide} {high}">{paths}</svg>'.encode()


def differing(data: bytes, side: int = 240) -> int:
    """In how many pixels a document looks otherwise than what it was told as, told at its own size: its view is square,
    begins at 0, and all about its middle something is drawn.
    """
    view = float(data.split(b'viewBox="')[1].split(b'"')[0].split()[2])
    _told, result = brought(data, Plan(sheet=1000))
    ours = picture(drawn_anew(pieces(result), (-view / 2, -view / 2, view, view)), side, side)
    return int((np.abs(picture(data, side, side) - ours).max(axis=2) > APART).sum())


def _path(shape: Shape) -> str:
    found = []
    for outline in shape.outlines:
        start = outline.curves[0].start
        found.append(f"M{start.x:.6f} {-start.y:.6f}")
        for curve in outline.curves:
            for one in [curve] if isinstance(curve, Line | Cubic) else arc_cubics(curve, curve.end):
                places = (one.end,) if isinstance(one, Line) else (one.first_handle, one.second_handle, one.end)
                letter = "L" if isinstance(one, Line) else "C"
                found.append(letter + " ".join(f"{place.x:.6f} {-place.y:.6f}" for place in places))
        found.append("Z")
    return "".join(found)
