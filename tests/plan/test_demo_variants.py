"""The demo's variants: each brand has some, and a small one that passes at 16 pixels."""

from __future__ import annotations

from unittest import TestCase

from kagami.exchange.delivery.making import made
from kagami.exchange.delivery.planning import Planned
from kagami.plan.evaluation.cache import Cache
from kagami.plan.files import load_plan
from web.preparing.demo import BRANDS, FOLDER


class Demo(TestCase):
    def test_every_brand_has_a_mark_with_variants_and_a_small_one_that_passes(self) -> None:
        for brand, files in BRANDS.items():
            plans = [load_plan((FOLDER / file).read_bytes()) for file in files]
            (plan,) = (plan for plan in plans if plan.variants)
            with self.subTest(brand):
                self.assertGreaterEqual(len(plan.variants), 5)
                self.assertIsNotNone(plan.package)
                small = plan.variant("small")
                self.assertEqual(small.below, 24)
                report = made(plan, Cache(), Planned("small-16.png", "small", "png", 16)).report
                self.assertEqual(report.faults, ())
                self.assertGreaterEqual(report.part, 1 - 1e-9)
                if report.gap is not None:
                    self.assertGreaterEqual(report.gap, 1 - 1e-9)
