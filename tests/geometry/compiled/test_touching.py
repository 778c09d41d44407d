"""Compiled loops round corners as the columns do."""

from __future__ import annotations

import math
from unittest import TestCase
from unittest.mock import patch

from kagami.geometry import loading, rounding
from kagami.geometry.boolean import union
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Shape
from kagami.geometry.rounding import RadiusTooLarge, corners_of, fitting_radii, largest_radius, rounded
from tests.geometry.random_shapes import Maker


def told(shape: Shape, radius: float) -> tuple[float, ...]:
    """The area when all corners are rounded, or the largest radius; the largest at all; what fits at each corner."""
    rounding._largest_below.cache_clear()
    try:
        found, fits = area(rounded(shape, radius)), 1.0
    except RadiusTooLarge as error:
        found, fits = float(error.values["largest"]), 0.0
    most = largest_radius(shape)
    return (fits, found, most if math.isfinite(most) else -1.0, *fitting_radii(shape, radius))


class BothWays(TestCase):
    def test_corners_of_shapes_at_random(self) -> None:
        self.assertIsNotNone(loading.quick("touching"))
        refused = 0
        for seed in (1, 3, 6, 9, 13, 18, 22):  # those that columns round within a second or two
            maker = Maker(seed, grid=seed % 2 == 0)
            shape, radius = union(*maker.shapes(3)), (0.2, 1.0, 4.0)[seed % 3]
            # In a needle the arc's place hangs on the last digits, so that no two ways find the same.
            self.assertLess(max(abs(corner.turn) for corner in corners_of(shape)), 3.0)
            mine = told(shape, radius)
            with patch.object(loading, "_quick", {}):
                theirs = told(shape, radius)
            refused += mine[0] == 0.0
            with self.subTest(seed):
                self.assertEqual(len(mine), len(theirs))
                for one, other in zip(mine, theirs, strict=True):
                    self.assertAlmostEqual(one, other, delta=1e-7)
        self.assertTrue(0 < refused < 7)
