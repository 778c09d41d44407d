"""Arcs lie where they should when another library has read them: `svgelements` finds their centres in its own way."""

from __future__ import annotations

import math
from typing import Any
from unittest import TestCase

import numpy as np
from svgelements import Path

from kagami.exchange.arcs import read_arc
from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.svg import write_svg
from kagami.geometry.arrays import Floats
from kagami.geometry.curves import Arc, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.measure.size import Box
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import STATED_ERROR
from tests.exchange.svg_reader import paths_of

BOX = Box(-20, -20, 20, 20)
LOOKED_AT = 40
STRETCHES = 200
ROUNDS = 20
FEW = 4


def artwork_of(arc: Arc | EllipticArc, scale: float) -> Artwork:
    outline = Outline((arc, Line(arc.end, arc.start)))
    return Artwork("arc", (Area("arc", Shape((outline,)), "#000000"),), BOX, scale)


def farthest(arc: Arc | EllipticArc, data: str, scale: float) -> float:
    """How far a place of an arc is from what was read of it, in units of the document."""
    read = [piece for piece in Path(data) if type(piece).__name__ not in ("Move", "Line", "Close")]
    among = (arc.stretch(0.0, k / LOOKED_AT).end for k in range(1, LOOKED_AT))
    places = np.array([((at.x - BOX.left) * scale, (BOX.top - at.y) * scale) for at in among])
    return float(np.min([nearest(piece, places) for piece in read], axis=0).max())


def nearest(piece: Any, places: Floats) -> Floats:
    """How near a curve that was read comes to each of some places: looked for closer and closer about a few of its
    places, which may lie on either side of a flat ellipse.
    """

    def away(shares: Floats) -> Floats:
        found = np.asarray(piece.npoint(shares.ravel())).reshape(*shares.shape, 2) - places[:, None]
        return np.asarray(np.hypot(found[..., 0], found[..., 1]))

    each = np.arange(len(places))
    coarse = np.tile(np.linspace(0, 1, STRETCHES + 1), (len(places), 1))
    ranked = np.argsort(away(coarse), axis=1)
    least = np.full(len(places), math.inf)
    for rank in range(FEW):
        share = coarse[each, ranked[:, rank]]
        for halving in range(1, ROUNDS):
            about = share[:, None] + np.linspace(-1, 1, 5) / STRETCHES / 2**halving * 2
            about = np.clip(about, 0, 1)
            found = away(about)
            best = np.argmin(found, axis=1)
            share, least = about[each, best], np.minimum(least, found[each, best])
    return least


class ArcsAsRead(TestCase):
    def off(self, arc: Arc | EllipticArc, scale: float, error: float, *, sparing: bool) -> float:
        """In shares of the stated error."""
        document = write_svg(artwork_of(arc, scale), error=error, sparing=sparing)
        (data,) = (path.get("d") or "" for path in paths_of(document))
        return farthest(arc, data, scale) / error

    def test_every_place_lies_within_the_stated_error(self) -> None:
        chance = np.random.default_rng(27)
        for number in range(60):
            centre, start = Point(chance.uniform(-8, 8), chance.uniform(-8, 8)), chance.uniform(0, math.tau)
            radius, sign = chance.uniform(0.5, 10), chance.choice((1, -1))
            # Those near half a turn and near a whole one hang most on their last digits.
            sweep = sign * chance.choice(
                (chance.uniform(0.05, 6.2), chance.uniform(3.0, 3.3), chance.uniform(6.0, 6.25))
            )
            flat = chance.choice((1.0, 0.9, 0.5, 0.2, 0.05, 0.01))
            turned = chance.uniform(0, math.pi)
            arc = EllipticArc(centre, radius, radius * flat, turned, start, sweep)
            for one in (Arc(centre, radius, start, sweep), arc):
                error, scale = chance.choice((0.01, 0.002, STATED_ERROR)), chance.choice((1.0, 3.7, 12.0))
                with self.subTest(number=number, arc=one, error=error, scale=scale):
                    sparing = number % 2 == 1
                    self.assertLess(self.off(one, scale, error, sparing=sparing), 1.02)

    def test_arcs_that_are_well_read_stay_one_arc(self) -> None:
        """A third of a turn at the error of a delivery: one A, with its radius as it is said."""
        arc = Arc(Point(1, 2), 3.9, 0.3, math.tau / 3)
        self.assertIn("a3.9 3.9", write_svg(artwork_of(arc, 1.0), error=STATED_ERROR).lower())

    def test_what_no_arc_says_well_enough_is_said_by_cubics(self) -> None:
        sliver = EllipticArc(Point(1, 2), 9.0, 0.02, 0.4, 0.3, 2.0)
        document = write_svg(artwork_of(sliver, 1.0), error=0.01)
        self.assertRegex(document.lower(), r'd="[^"]*[cq]')

    def test_the_ellipse_that_is_read_is_the_one_that_was_meant(self) -> None:
        """Worked example: a quarter of the circle of radius 5 about (3, 4), and one whose radius is too small."""
        read = read_arc((8, 4), (5, 5, 0, 0, 1, 3, 9))
        assert read is not None
        self.assertAlmostEqual(math.dist((read.x, read.y), (3, 4)), 0, places=12)
        self.assertAlmostEqual(read.distance(3, 10), 1, places=12)
        grown = read_arc((0, 0), (1, 1, 0, 0, 1, 10, 0))
        assert grown is not None
        self.assertEqual((grown.rx, grown.x), (5, 5))
        self.assertIsNone(read_arc((0, 0), (0, 1, 0, 0, 1, 10, 0)))
        self.assertIsNone(read_arc((4, 4), (2, 1, 0, 0, 1, 4, 4)))
