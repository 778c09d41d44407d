"""Small SVG documents for tests, and how one looks to an independent renderer."""

from __future__ import annotations

import io
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
BUOY = """<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="120mm" viewBox="0 0 240 240">
  <style>.sea { fill: #0f4c6e } .paint { fill: #c2432a }
    .rope { fill: none; stroke: #b98d4f; stroke-width: 6; stroke-linecap: round }</style>
  <g>
    <path class="paint" id="hull" d="M60 150 h120 l-18 46 a12 12 0 0 1 -11 8 h-62 a12 12 0 0 1 -11 -8 z"/>
    <path id="cage" fill="#14283a" fill-rule="evenodd" d="M84 146 L108 62 h24 l24 84 z
      M100 134 h40 l-14.5 -54 h-11 z"/>
    <circle class="paint" id="lamp" cx="120" cy="48" r="14"/>
    <rect class="sea" id="plate" x="70" y="138" width="100" height="12" rx="6"/>
    <path id="bell" fill="#b98d4f" d="M108 120 c0 -16 6 -20 12 -20 s12 4 12 20 z"/>
    <path class="rope" d="M40 214 q20 -14 40 0 t40 0 t40 0 t40 0"/>
  </g>
  <text x="20" y="236" font-size="12">VENNIK</text>
</svg>
"""


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
