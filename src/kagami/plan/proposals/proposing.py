"""Proposals for a small variant: what falls below a limit at its size, and the least change that mends each.

A fault is a part of the ink, or of the white in it, that is thinner than the limit. It is mended by another value of a
measure; where none does, of a length or an angle of a step, of one whose lines run there before all others; where that
does not, by muting a step, which is looked at first where the part is so thin that hardly a value could mend it. Of
several ways that mend it the one is proposed that changes least of the mark's area.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Collection, Iterator
from dataclasses import dataclass
from functools import partial
from typing import Final

from kagami.geometry import boolean
from kagami.geometry.affine import Affine
from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import SAME
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache, Passing
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.fineness import Fineness, Known, fineness
from kagami.plan.evaluation.forms import PIXEL, clear_of, formed
from kagami.plan.evaluation.ink import Piece, ink_box
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.values import ANGLE, LENGTH, ValueKind
from kagami.plan.proposals.altering import Alteration, Way, scaled, turned
from kagami.plan.proposals.concerned import concerned
from kagami.plan.variants.variant import Variant
from kagami.plan.varying import varied

PROBES: Final = (1.3, 1 / 1.3)
"""Factors by which a value is changed to see what hangs on it."""
LOOKED_AT: Final = 1.5
"""What is wider than so many times the limit is wide enough, and not measured."""
REACH: Final = 6.0
"""No value is changed by more than this factor."""
HARDLY: Final = 3.0
"""What would have to grow by more than this factor is muted rather, where that mends it."""
KEPT: Final = 0.5
"""So much of the time is kept for what comes after other values were tried."""
MOST_TRIED: Final = 4
"""So many of the ways that help most are followed to their end."""
STEPS: Final = 4
"""Of following a way."""
MOST_MENDS: Final = 6
SECONDS: Final = 24.0
NEAR: Final = 0.5
"""Steps whose lines run within so many pixels of a fault are altered before all others."""
ALIKE: Final = math.cos(math.radians(45.0))
"""Of thin places that lie together those are one that go across within so many degrees of each other."""
LITTLE: Final = 0.3
"""A mending that changes no more than this share of the area is taken without looking at further ways."""
MUCH: Final = 0.9
"""What changes more of the area than this is another mark."""
LEAST_LEFT: Final = 0.25
"""What leaves less of the mark's ink than this share is no mending."""


@dataclass(frozen=True, slots=True)
class Mending:
    """A fault with the least change that mends it: `what` is ink or white, `was` and `becomes` are its pixels at the
    asked size, `places` its two ends, in module units. `alteration` is None where nothing was found.
    """

    what: str
    was: float
    becomes: float
    places: tuple[Point, Point]
    alteration: Alteration | None
    changes: float = 0.0
    """The share of the mark's area that becomes other."""


@dataclass(frozen=True, slots=True)
class Proposals:
    """Mendings in the order in which they are made, each on top of those before, and what they come to: the pixels of
    the finest part before and after.
    """

    pixels: int
    mendings: tuple[Mending, ...]
    before: float
    after: float
    limit: float

    @property
    def enough(self) -> bool:
        """Whether nothing falls below the limit in the end."""
        return self.after >= self.limit - SAME


@dataclass(frozen=True, slots=True)
class _Look:
    """A plan as it comes out: its pieces, and the pixels of its thinnest ink and white at the asked size."""

    plan: Plan
    marks: tuple[Piece, ...]
    shape: Shape
    fine: Fineness
    pixel: float
    """In module units."""
    limit: float

    def pixels(self, what: str) -> float:
        way = self.fine.ink if what == "ink" else self.fine.white
        return LOOKED_AT * self.limit if way is None else way.distance / self.pixel

    def elsewhere(self, what: str, after: _Look) -> bool:
        """Whether the thinnest place of another look is not the one of this, which lies about where it did and goes
        about the same way across.
        """
        ways = [look.fine.ink if what == "ink" else look.fine.white for look in (self, after)]
        known = [way for way in ways if way is not None]
        if len(known) < len(ways):
            return True
        was, now = known
        if was.first.middle(was.second).distance(now.first.middle(now.second)) > 2 * self.pixel:
            return True
        across = was.first.direction(was.second) - now.first.direction(now.second)
        return abs(math.cos(across)) < ALIKE

    @property
    def finest(self) -> float:
        return min(self.pixels("ink"), self.pixels("white"))


def propose(
    plan: Plan,
    cache: Cache,
    variant: Variant,
    pixels: int,
    limit: float = PIXEL,
    refused: Collection[str] = (),
    seconds: float = SECONDS,
) -> Proposals:
    """What a variant needs to be seen at so many pixels on its longer side, each part of it `limit` pixels at least.
    Its clear space takes part in them, as in its files.

    `refused` holds keys of alterations that are not wanted. After so many seconds no further one is looked for.

    Raises:
        PlanError: the variant carries no ink.
    """
    search = _Search(Passing(cache), variant, pixels, limit, frozenset(refused), time.perf_counter() + seconds)
    begun = now = search.look(varied(plan, variant))
    if now is None or begun is None:
        raise PlanError("no-ink-yet")
    mendings: list[Mending] = []
    while now.finest < limit - SAME and len(mendings) < MOST_MENDS:
        found, mending = search.mend(now)
        mendings.append(mending)
        if found is None:
            break
        now = found
    return Proposals(pixels, tuple(mendings), begun.finest, now.finest, limit)


class _Search:
    def __init__(
        self, cache: Cache, variant: Variant, pixels: int, limit: float, refused: frozenset[str], end: float
    ) -> None:
        self.cache, self.variant, self.pixels, self.limit = cache, variant, pixels, limit
        self.refused, self.end = refused, end
        self.known: Known = {}

    @property
    def over(self) -> bool:
        return time.perf_counter() > self.end

    def look(self, plan: Plan) -> _Look | None:
        """How a plan comes out; None where a step fails, or nothing is left."""
        result = evaluate(plan, self.cache)
        marks = self._formed(result) if result.sound else ()
        around = ink_box(marks)
        if around is None or around.longer <= SAME:
            return None
        try:
            shape = boolean.union(*(piece.shape for piece in marks))
            pixel = (around.longer + 2 * clear_of(result, self.variant, around.longer)) / self.pixels
            return _Look(
                plan, marks, shape, fineness(marks, LOOKED_AT * self.limit * pixel, self.known), pixel, self.limit
            )
        except GeometryError:
            return None

    def _formed(self, result: Result) -> tuple[Piece, ...]:
        try:
            return formed(result, self.variant)
        except PlanError:
            return ()

    def mend(self, now: _Look) -> tuple[_Look | None, Mending]:
        """The least change that mends the worst fault, and how it comes out."""
        what = min(("ink", "white"), key=now.pixels)
        way = now.fine.ink if what == "ink" else now.fine.white
        assert way is not None
        was, places = now.pixels(what), (way.first, way.second)
        found: list[tuple[_Look, Alteration, float]] = []
        here = concerned(now.plan, evaluate(now.plan, self.cache), places, NEAR * now.pixel)
        elsewhere = frozenset(step.id for step in now.plan.steps) - here
        by_fields = [partial(ways, of) for of in (here, elsewhere) for ways in (self._lengths, self._angles)]
        levels: list[Callable[[Plan], Iterator[Way]] | None] = [self._measures, *by_fields, None]
        for level in levels if was * HARDLY >= self.limit else (None, *levels[:-1]):
            best = self._muted(now, what) if level is None else self._by_values(now, what, level)
            found += [best] if best else []
            if best is not None and best[2] <= LITTLE:
                break
        found = [done for done in found if done[2] <= MUCH]
        if not found:
            return None, Mending(what, was, was, places, None)
        look, alteration, changes = min(found, key=lambda done: done[2])
        return look, Mending(what, was, look.pixels(what), places, alteration, changes)

    def _by_values(
        self, now: _Look, what: str, level: Callable[[Plan], Iterator[Way]]
    ) -> tuple[_Look, Alteration, float] | None:
        """The best of the values, in no more than a share of the time that is left."""
        end = self.end
        self.end -= KEPT * max(0.0, end - time.perf_counter())
        best = self._best(now, what, level(now.plan))
        self.end = end
        return best

    def _measures(self, plan: Plan) -> Iterator[Way]:
        values = evaluate(plan, self.cache).measures.values
        for measure in plan.measures:
            value = values.get(measure.name)
            if value and measure.solve is None and f"={measure.name}" not in self.refused:
                yield scaled(value, partial(_as_measure, measure.name))

    def _lengths(self, of: Collection[str], plan: Plan) -> Iterator[Way]:
        for step, field, value in self._fields(plan, of, LENGTH):
            if value > 0:
                yield scaled(value, partial(_as_field, step, field))

    def _angles(self, of: Collection[str], plan: Plan) -> Iterator[Way]:
        for step, field, value in self._fields(plan, of, ANGLE):
            yield turned(value, partial(_as_field, step, field))

    def _fields(self, plan: Plan, of: Collection[str], wanted: ValueKind) -> Iterator[tuple[str, str, float]]:
        """The fields of a kind of some steps that have a value and may be altered, each with its step and what it comes
        to.
        """
        result = evaluate(plan, self.cache)
        for step in plan.steps:
            if step.id not in of:
                continue
            for field, kind in step.field_kinds().items():
                if kind is not wanted or f"{step.id}.{field}" in self.refused or step.muted:
                    continue
                try:
                    yield step.id, field, result.values.of(str(step[field]))
                except PlanError:
                    continue

    def _muted(self, now: _Look, what: str) -> tuple[_Look, Alteration, float] | None:
        """The step without which the fault is gone, and least besides: nothing falls below the limit any more, or, with
        little that changes, this place does not, and the next one comes next.
        """
        found = []
        for step in now.plan.steps:
            if step.muted or step.carries_no_ink or f"{step.id}." in self.refused:
                continue
            alteration = Alteration(step=step.id)
            look = None if self.over else self._tried(now, alteration)
            if look is None or not self._no_worse(now, what, look):
                continue
            changes = _changed(now, look)
            further = changes <= LITTLE and look.pixels(what) >= now.pixels(what) - SAME and now.elsewhere(what, look)
            if further or look.pixels(what) >= self.limit - SAME:
                found.append((look, alteration, changes))
        return min(found, key=lambda done: done[2], default=None)

    def _best(self, now: _Look, what: str, ways: Iterator[Way]) -> tuple[_Look, Alteration, float] | None:
        """Of several ways the one that mends the fault and changes least; None where none does."""
        helping = []
        for way in ways:
            for probe in PROBES:
                look = None if self.over else self._tried(now, way(probe))
                if look is not None and look.pixels(what) > now.pixels(what) + SAME:
                    helping.append((self._worth(now, look, what), probe, way, look))
        helping.sort(key=lambda entry: -entry[0])
        followed = (self._followed(now, what, way, probe, look) for _, probe, way, look in helping[:MOST_TRIED])
        return min((done for done in followed if done), key=lambda done: done[2], default=None)

    def _worth(self, now: _Look, look: _Look, what: str) -> float:
        """Pixels won for the area that becomes other."""
        won = min(look.pixels(what), self.limit) - now.pixels(what)
        return won / max(_changed(now, look), SAME)

    def _followed(
        self, now: _Look, what: str, way: Way, probe: float, look: _Look
    ) -> tuple[_Look, Alteration, float] | None:
        """A way followed until the fault is mended, from what a probe came to: pixels go nearly evenly with the value,
        so that a few steps of regula falsi find the least factor that is enough.
        """
        low, high = (1.0, now.pixels(what)), (probe, min(look.pixels(what), 2 * self.limit))
        good: tuple[_Look, Alteration] | None = None
        if now.elsewhere(what, look) and self._no_worse(now, what, look):
            good = (look, way(probe))  # this place is wide enough by the probe, as below
        for _ in range(STEPS):
            if self.over:
                break
            slope = (high[1] - low[1]) / (high[0] - low[0])
            factor = low[0] + (self.limit - low[1]) / slope if abs(slope) > SAME else 0.0
            if not 1 / REACH <= factor <= REACH:
                break
            done = self._tried(now, way(factor))
            if done is None:
                break
            here = (factor, min(done.pixels(what), 2 * self.limit))
            if here[1] >= self.limit - SAME:
                good = (done, way(factor)) if self._no_worse(now, what, done) else good
                break
            if here[1] > now.pixels(what) + SAME and now.elsewhere(what, done) and self._no_worse(now, what, done):
                good = (done, way(factor))  # this place is wide enough; the next one that is not comes next
                break
            low, high = (high, here) if abs(here[0] - high[0]) > SAME else (low, here)
        return None if good is None else (*good, _changed(now, good[0]))

    def _no_worse(self, now: _Look, what: str, look: _Look) -> bool:
        """Whether the other of ink and white did not fall below the limit for it."""
        other = "white" if what == "ink" else "ink"
        return look.pixels(other) >= min(self.limit, now.pixels(other)) - SAME

    def _tried(self, now: _Look, alteration: Alteration) -> _Look | None:
        """How a plan comes out with an alteration; None where nothing sensible is left of the mark."""
        try:
            look = self.look(alteration.made_in(now.plan))
        except PlanError:
            return None
        return look if look is not None and area(look.shape) > LEAST_LEFT * area(now.shape) else None


def _as_measure(name: str, text: str) -> Alteration:
    return Alteration(measure=name, value=text)


def _as_field(step: str, field: str, text: str) -> Alteration:
    return Alteration(step=step, field=field, value=text)


def _changed(before: _Look, after: _Look) -> float:
    """The share of the area that becomes other: both drawn as they are built, or at one size and in one place,
    whichever tells less. A rim left out leaves the rest as it was, and a figure that grew may be the same at that size.
    """
    a, b = ink_box(before.marks), ink_box(after.marks)
    assert a is not None
    assert b is not None
    scale = a.longer / b.longer
    by = Affine(scale, 0.0, 0.0, scale, a.centre.x - scale * b.centre.x, a.centre.y - scale * b.centre.y)
    seen = [after.shape] if abs(scale - 1) <= SAME else [after.shape, after.shape.mapped(by)]
    return min(_apart(before.shape, shape) for shape in seen)


def _apart(before: Shape, after: Shape) -> float:
    try:
        return area(boolean.exclusion(before, after)) / area(before)
    except GeometryError:
        return 1.0
