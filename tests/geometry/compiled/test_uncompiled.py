"""What is compiled gives what the same source gives uncompiled."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from unittest import TestCase

import numpy as np

SCRIPT = """
import json, sys
import numpy as np
from kagami.exchange.shown import shown_data
from kagami.exchange.svg import Frame
from kagami.geometry import hermite
from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import arrange
from kagami.geometry.boolean import divide, union
from kagami.geometry.compiled.curves import ASKED
from kagami.geometry.crossings import cubic_cubic
from kagami.geometry.kinds import CUBIC
from kagami.geometry.loading import use_compiled
from kagami.geometry.offset import Corners, band, offset
from kagami.geometry.measure.distance import nearest_pairs
from kagami.geometry.rim import rim
from kagami.geometry.table import tabulate
from tests.geometry.random_shapes import Maker

rows = np.array(json.load(sys.stdin))
def bent(_index, t):
    place = np.column_stack([3 * np.cos(t), 2 * np.sin(t)])
    along = np.column_stack([-3 * np.sin(t), 2 * np.cos(t)])
    return place, along / np.hypot(along[:, 0], along[:, 1])[:, None]
(chain,) = hermite.fitted(bent, np.zeros(1), np.full(1, 2.0))
use_compiled()
arranged = []
for seed in range(8):
    found = arrange(Maker(seed, grid=seed % 2 == 0).shapes(5))
    edges = found.edges
    arranged += [found.winding, found.areas[1:], edges.places, edges.tail, edges.head, edges.t0, edges.t1]
made, texts = [], []
for seed in range(6):
    maker = Maker(seed, grid=seed % 2 == 0)
    whole = union(*maker.shapes(3))
    corners = list(Corners)[seed % 3]
    shapes = [whole, offset(whole, 0.3, corners=corners), band(whole, 0.4, corners=corners)]
    shapes += [whole.mapped(Affine.reflection(0.4)), *(part for part, _ in divide(*maker.shapes(2)))]
    shapes += [side.shape for side in rim(whole, 0.2, (0.3, 2.0, 4.0))[1]]
    made += [column for shape in shapes for column in (shape.columns.kind, shape.columns.rows, shape.columns.begin)]
    texts += [[*shown_data(shape, Frame(10.0, decimals=2)).encode()] for shape in shapes]
table = tabulate(Maker(3, grid=False).shapes(3))
pairs = (index.ravel() for index in np.triu_indices(len(table), 1))
near = nearest_pairs(table, *pairs)
kind, index, t = np.full(len(rows), CUBIC), np.arange(len(rows)), np.linspace(0, 1, len(rows))
places = rows[:, :2] + 0.3
columns = {"beyond_chord": (t, t / 2), "nearest": (places,), "may_hold": (places,)}
answers = [loop(kind, rows, index, *columns.get(name, (t,))) for name, loop in ASKED.items()]
print(json.dumps({
    "crossings": [column.tolist() for column in cubic_cubic.meet_all(rows)],
    "fitted": [cubic.row() for cubic in chain],
    "arranged": [answer.tolist() for answer in arranged],
    "made": [answer.tolist() for answer in made],
    "near": [near.pair.tolist(), near.distance.tolist()],
    "texts": texts,
    "asked": [answer.tolist() for answer in answers],
}))
"""


def cubics() -> np.ndarray:
    """Cubics at random, touching and running along each other, with cusps and handles on their nodes."""
    chance = np.random.default_rng(11)
    rows = chance.uniform(-8, 8, (14, 8))
    rows[3, 2:4] = rows[3, :2]
    rows[4, 4:6] = rows[4, 6:]
    rows[5, 2:6] = rows[5, [6, 7, 0, 1]]
    twin = rows[6] + np.tile([0.0, 3e-8], 4)
    parts = [rows, rows[6:7], twin[None], rows[7:8, [6, 7, 4, 5, 2, 3, 0, 1]]]
    return np.vstack(parts)


def told(rows: np.ndarray, **env: str) -> dict:
    """What a process of its own computes."""
    surroundings = {**os.environ, **env}
    words = [sys.executable, "-c", SCRIPT]
    done = subprocess.run(words, input=json.dumps(rows.tolist()), capture_output=True, text=True, env=surroundings)
    if done.returncode:
        raise AssertionError(done.stderr[-2000:])
    return json.loads(done.stdout)


class Uncompiled(TestCase):
    def test_crossings_fits_and_answers(self) -> None:
        compiled, plain = told(cubics()), told(cubics(), NUMBA_DISABLE_JIT="1")
        self.assertGreater(len(compiled["crossings"][0]), 60)
        self.assertGreater(len(compiled["fitted"]), 2)
        self.assertGreater(len(compiled["made"]), 150)
        for name, found in compiled.items():
            for mine, theirs in zip(found, plain[name], strict=True):
                with self.subTest(name):
                    self.assertEqual(np.shape(mine), np.shape(theirs))
                    self.assertLess(float(np.abs(np.array(mine, float) - np.array(theirs, float)).max()), 1e-9)
