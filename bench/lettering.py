"""How long type takes: thirty letters set on a circle, its radius dragged by hand, and the contact sheet of faces."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from typing import Final

from bench.answers import dragged
from bench.paired import Row
from bench.served import Designer, served
from kagami.lettering.face import Face
from kagami.lettering.shelf import face_named, lending
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.language.text import parse_text

TEXT: Final = "VENNIK HARBOUR AND ITS LIGHTHOUSE"
PLAN: Final = (
    "Mark: Thirty letters\nCircle course on O with radius {radius}u, as a guide.\n"
    f"Set “{TEXT}” in Jost, weight {{weight}}, caps 1u high, tracked 0.2u, along course, its middle at top of course, "
    "outside it by 0.2u, reading upright: name.\n"
)
RUNS: Final = 40
HAND_MS: Final = 50.0
FACES_MS: Final = 400.0
FAMILIES: Final = 12


class _Two:
    """Two families more than those that ship."""

    def names(self) -> tuple[str, ...]:
        return ("One more", "Another")

    def face(self, name: str) -> Face | None:
        return replace(face_named("Bitter" if name == "Another" else "Nunito"), name=name)


def _worst(work: Callable[[int], object], runs: int = RUNS) -> float:
    """The 95th percentile of a piece of work, in milliseconds."""
    times = []
    work(0)
    for number in range(1, runs + 1):
        started = time.perf_counter()
        work(number)
        times.append((time.perf_counter() - started) * 1000)
    return statistics.quantiles(times, n=20)[-1]


def _set(number: int) -> None:
    plan = parse_text(PLAN.format(radius=8 + number / 100, weight=600))
    assert evaluate(plan, Cache()).sound


def _other_weight(number: int) -> None:
    plan = parse_text(PLAN.format(radius=8, weight=500 + number))
    assert evaluate(plan, Cache()).sound


def _faces(number: int) -> None:
    from web.faces.works import spread_of

    plan = parse_text(PLAN.format(radius=8, weight=300 + number))
    with lending(_Two()):
        assert len(spread_of(plan, Cache(), "").cards) == FAMILIES


def rows() -> list[Row]:
    """Beside budgets: whole evaluations, answers to a hand, and the contact sheet at weights that are new to it."""
    with served() as port:
        from web.marks.models import Brand
        from web.marks.services.shelving import make_mark

        brand = Brand.objects.select_related("studio").first()
        mark = make_mark(brand.studio.members.first(), brand, parse_text(PLAN.format(radius=8, weight=600)))
        hand = dragged(Designer(port), mark.id, "thirty letters on a circle", mark.current.load().steps[0], "radius")
        faces = _worst(_faces, 20)
    fresh, weight = _worst(_set), _worst(_other_weight)
    told = "thirty letters on a circle, read, set and drawn; 95th percentile"
    return [
        Row(told, fresh, "budget", HAND_MS, round(HAND_MS / fresh, 2)),
        Row(f"{told}, each time at a weight that is new", weight, "budget", HAND_MS, round(HAND_MS / weight, 2)),
        hand,
        Row(f"Faces, {FAMILIES} families; 95th percentile", faces, "budget", FACES_MS, round(FACES_MS / faces, 2)),
    ]
