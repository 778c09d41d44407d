"""Compiled answers are those of the kinds' own columns, for curves of all kinds."""

from __future__ import annotations

import math
from unittest import TestCase

import numpy as np

from kagami.geometry.arrays import lengths
from kagami.geometry.bezier import Cubic
from kagami.geometry.compiled.curves import ASKED
from kagami.geometry.curves import Arc, Curve, Line
from kagami.geometry.elliptic import EllipticArc
from kagami.geometry.kinds import KINDS
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate


def curves() -> list[Curve]:
    chance = np.random.default_rng(5)

    def place() -> Point:
        return Point(*chance.uniform(-9, 9, 2).tolist())

    found: list[Curve] = []
    for _ in range(12):
        found.append(Line(place(), place()))
        start, sweep = chance.uniform(0, math.tau), chance.uniform(-6, 6)
        found.append(Arc(place(), float(chance.uniform(0.1, 5)), float(start), float(sweep)))
        ry = float(chance.uniform(0.1, 3))
        found.append(EllipticArc(place(), ry + 1.0, ry, float(chance.uniform(0, 3)), float(start), float(sweep)))
        found.append(Cubic(place(), place(), place(), place()))
    a, b = Point(0.0, 0.0), Point(3.0, 1.0)
    found += [Cubic(a, a, b, b), Cubic(a, a, Point(1.0, 2.0), b), Cubic(a, Point(1.0, 2.0), b, b)]
    found += [Arc(a, 2.0, 0.0, math.tau), EllipticArc(a, 2.0, 1.0, 0.3, 0.0, -math.tau)]
    return found


class Answers(TestCase):
    def test_they_are_those_of_the_columns(self) -> None:
        table = tabulate([Shape((Outline(tuple(curves()), closed=False),))])
        index = np.repeat(np.arange(len(table)), 7)
        t = np.tile(np.array([0.0, 1e-9, 0.2, 0.5, 0.8, 1 - 1e-9, 1.0]), len(table))
        s = np.clip(t + 0.3, 0.0, 1.0)
        places = np.random.default_rng(6).uniform(-9, 9, (len(t), 2))
        places[::3] = table.ask("point", index[::3], t[::3], width=2)  # some lie on their curves
        self.assertEqual(set(table.kind.tolist()), set(range(len(KINDS))))
        for question, loop in ASKED.items():
            columns = {"beyond_chord": (t, s), "nearest": (places,), "may_hold": (places,)}.get(question, (t,))
            found = loop(table.kind, table.rows, index, *columns)
            for number, module in enumerate(KINDS):
                mine = table.kind[index] == number
                theirs = getattr(module, question)(table.rows[index[mine]], *(column[mine] for column in columns))
                if question == "nearest":
                    found_at, theirs_at = (
                        module.point(table.rows[index[mine]], parameter) for parameter in (found[mine], theirs)
                    )
                    away = lengths(found_at - places[mine]) - lengths(theirs_at - places[mine])
                    off = np.maximum(away, 0.0)  # no further away; nearer is welcome
                else:
                    off = found[mine].astype(float) - theirs
                if question == "heading":
                    off = np.angle(np.exp(1j * off))
                with self.subTest(question, kind=module.__name__):
                    self.assertLess(float(np.abs(off).max()), 1e-10 if question == "nearest" else 1e-11)

    def test_the_tangent_at_a_handle_of_no_length_is_the_way_to_the_next_control_point(self) -> None:
        """Limits of the derivative's direction: with P1 = P0 it is that of P2 − P0, with P2 = P0 as well of P3 − P0."""
        a, b, c = Point(0.0, 0.0), Point(1.0, 2.0), Point(3.0, 1.0)
        for cubic, first, last in (
            (Cubic(a, a, b, c), a.direction(b), b.direction(c)),
            (Cubic(a, b, c, c), a.direction(b), b.direction(c)),
            (Cubic(a, a, c, c), a.direction(c), a.direction(c)),
            (Cubic(a, a, a, c), a.direction(c), a.direction(c)),
            (Cubic(a, a.lerp(c, 1e-9), b, c), a.direction(b), b.direction(c)),
        ):
            table = tabulate([Shape((Outline((cubic,), closed=False),))])
            for answer in (ASKED["heading"], lambda kind, rows, index, t: KINDS[kind[0]].heading(rows[index], t)):
                found = answer(table.kind, table.rows, np.array([0, 0]), np.array([0.0, 1.0]))
                with self.subTest(cubic):
                    np.testing.assert_allclose(found, [first, last], atol=1e-12)

    def test_arrays_that_may_not_be_written_to_and_lie_apart_are_taken(self) -> None:
        table = tabulate([Shape((Outline(tuple(curves()), closed=False),))])
        index = np.arange(2 * len(table))[::2] // 2
        t = np.linspace(0, 1, 3 * len(index))[::3]
        t.flags.writeable = False
        found = ASKED["point"](table.kind, table.rows, index, t)
        self.assertEqual(found.shape, (len(index), 2))
        again = ASKED["point"](table.kind, table.rows, np.ascontiguousarray(index), t.copy())
        self.assertTrue(np.array_equal(found, again))
