"""Work on sketches for evaluators (see `web.evaluation.door`): reading a picture that somebody brought, which may be
made to harm; and finding in it what is drawn.
"""

import io
from functools import lru_cache
from itertools import zip_longest
from typing import Final

import numpy as np
from django.core.files.storage import default_storage
from PIL import Image

from kagami.exchange.sketches.along import along
from kagami.exchange.sketches.checking import Checked, checked_picture
from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.ink import drawn_places
from kagami.exchange.sketches.lying import Lying, to_picture, to_sheet
from kagami.exchange.sketches.squaring import Squared, squared
from kagami.exchange.sketches.tracing import LEAST_STRAY, traced
from kagami.geometry.arrays import Floats
from kagami.geometry.point import Point
from kagami.plan.changes.lifted import followed, is_there, lifted
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate

MOST_PICTURES: Final = 4
"""Whose places are kept."""
MOST_OFFERS: Final = 4


def read_picture(_plan: Plan, _cache: Cache, data: bytes) -> Checked:
    """The picture of a file, made anew (raises `SketchError`)."""
    return checked_picture(data)


def figures_at(
    plan: Plan, cache: Cache, path: str, lying: Lying, at: Point, position: int | None
) -> list[tuple[str, str]]:
    """What is drawn on a sketch at a place of the sheet, the likeliest first and what was pulled already last: what it
    may be meant as, and its sentence at a position in the plan (None: at its end). Raises `SketchError`.
    """
    places, size = _drawn(path)
    found = traced(places, to_picture(lying, size, np.array([at]))[0], max(size))
    result, near = evaluate(plan, cache, position), _near(lying, size)
    lines = sorted(
        ((to_sheet(lying, size, one.places), one) for one in found), key=lambda pair: is_there(pair[0], result, near)
    )
    meant = [list(lifted(drawn, result, near, closed=one.closed, straight=one.straight)) for drawn, one in lines]
    # The likeliest of each first, then what else each may be.
    in_turn = [offer for turn in zip_longest(*meant) for offer in turn if offer is not None]
    if not in_turn:
        raise SketchError("sketch-not-round")
    return list({text: (label, text) for label, text in in_turn}.values())[:MOST_OFFERS]


def line_along(
    plan: Plan, cache: Cache, path: str, lying: Lying, way: tuple[Point, ...], position: int | None
) -> list[tuple[str, str]]:
    """The same of what is drawn along the way of a hand on the sheet."""
    places, size = _drawn(path)
    found, closed = along(places, to_picture(lying, size, np.array(way)), max(size))
    result, near = evaluate(plan, cache, position), _near(lying, size)
    meant = list(followed(to_sheet(lying, size, found), result, near, closed=closed))[:MOST_OFFERS]
    if not meant:
        raise SketchError("sketch-way-tangled")
    return meant


def seen_from_above(
    _plan: Plan, _cache: Cache, path: str, lying: Lying, corners: tuple[Point, ...], proportion: float, cut: bool
) -> Squared:
    """A sketch made as if seen from straight above, where four places on the sheet are the corners of a rectangle so
    many times as wide as high (raises `SketchError`).
    """
    data = _picture(path)
    size = Image.open(io.BytesIO(data), formats=("JPEG",)).size
    return squared(data, to_picture(lying, (float(size[0]), float(size[1])), np.array(corners)), proportion, cut=cut)


def _near(lying: Lying, size: tuple[float, float]) -> float:
    """How near to what is drawn counts as the same, in u."""
    return LEAST_STRAY * max(size) * lying.wide / size[0]


@lru_cache(maxsize=MOST_PICTURES)
def _drawn(path: str) -> tuple[Floats, tuple[float, float]]:
    """Where something is drawn on a kept picture, whose path never comes to mean another."""
    return drawn_places(_picture(path))


def _picture(path: str) -> bytes:
    try:
        with default_storage.open(path) as file:
            data: bytes = file.read()
            return data
    except FileNotFoundError as error:
        raise SketchError("no-sketch") from error
