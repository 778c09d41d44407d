"""Pieces that lie wholly under others, against shapely on the same areas; they do not leave with a file."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
import shapely

from kagami.exchange.delivery.making import made
from kagami.exchange.delivery.planning import planned_files
from kagami.exchange.finished import artwork
from kagami.geometry.figures import box as rectangle
from kagami.geometry.point import Point
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.hidden import hidden_among
from kagami.plan.evaluation.ink import Piece
from kagami.plan.language.text import parse_text

UNDER = """Tone: sea = #2f7f86
Tone: lamp = #e2a93b
Circle low on 2u right from O with radius 1.5u.
Circle rim on O with radius 3u.
Circle lid on O with radius 6u.
Circle half on 6u right from O with radius 1u.
Circle cover on O with radius 6u.
Fill low with lamp: ta.
Fill rim with sea: tb.
Fill half with lamp: td.
Fill lid with sea: tc.
Fill cover with lamp: te.
Variant full: nothing changed; as svg, pdf, png, dxf, cut, web.
"""


class Hidden(TestCase):
    def test_what_is_hidden_is_so_by_an_independent_library(self) -> None:
        random, counted = np.random.default_rng(8), [0, 0]
        for _ in range(300):
            count = int(random.integers(2, 9))
            marks, areas = [], []
            for k in range(count):
                x, y = random.integers(0, 5, 2).tolist()
                width, height = random.integers(1, 6, 2).tolist()
                marks.append(Piece(str(k), str(k), rectangle(Point(x, y), width, height), f"#00000{k}"))
                areas.append(shapely.box(x - width / 2, y - height / 2, x + width / 2, y + height / 2))
            expected = {k for k in range(count) if areas[k].difference(shapely.union_all(areas[k + 1 :])).area < 1e-9}
            self.assertEqual(hidden_among(marks), expected)
            counted[0] += len(expected)
            counted[1] += count - len(expected)
        self.assertGreater(min(counted), 100)

    def test_they_are_not_among_what_leaves_and_their_names_are_told(self) -> None:
        plan = parse_text(UNDER)
        art = artwork(plan, evaluate(plan))
        self.assertEqual([area.name for area in art.areas], ["td", "te"])
        self.assertEqual(art.hidden, ("ta", "tb", "tc"))

    def test_files_read_back_without_them_and_say_so(self) -> None:
        plan, cache = parse_text(UNDER), Cache()
        for one in planned_files(plan, "Vennik", frozenset()):
            with self.subTest(one.name):
                report = made(plan, cache, one).report
                self.assertEqual(report.faults, ())
                if one.variant:
                    self.assertEqual(report.hidden, ("ta", "tb", "tc"))
                if one.form == "svg":
                    self.assertEqual(report.pieces, 2)
