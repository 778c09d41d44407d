"""What is compiled gives what the same source gives uncompiled."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from unittest import TestCase

import numpy as np

from kagami.geometry.crossings import cubic_cubic

SCRIPT = """
import json, sys
import numpy as np
from kagami.geometry.crossings import cubic_cubic
rows = np.array(json.load(sys.stdin))
print(json.dumps([column.tolist() for column in cubic_cubic.meet_all(rows)]))
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


class Uncompiled(TestCase):
    def test_crossings_of_cubics(self) -> None:
        rows = cubics()
        env = dict(os.environ, NUMBA_DISABLE_JIT="1")
        words = [sys.executable, "-c", SCRIPT]
        done = subprocess.run(words, input=json.dumps(rows.tolist()), capture_output=True, text=True, env=env)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        plain = [np.array(column) for column in json.loads(done.stdout)]
        found = cubic_cubic.meet_all(rows)
        self.assertGreater(len(found[0]), 60)
        for mine, theirs in zip(found, plain, strict=True):
            self.assertEqual(len(mine), len(theirs))
            self.assertLess(float(np.abs(mine - theirs).max()), 1e-9)
