"""Pictures in the documents are what the core draws today, and links lead somewhere."""

from __future__ import annotations

import importlib.util
import pathlib
import re
from unittest import TestCase

ROOT = pathlib.Path(__file__).parents[2]


class Documents(TestCase):
    def test_pictures_of_the_geometry_are_fresh(self) -> None:
        spec = importlib.util.spec_from_file_location("draw_geometry", ROOT / "docs" / "draw_geometry.py")
        assert spec is not None and spec.loader is not None
        module = importlib.util.module_from_spec(spec)
        spec.loader.exec_module(module)
        for name, text in module.pictures().items():
            stored = (ROOT / "docs" / "geometry" / name).read_text(encoding="utf-8")
            with self.subTest(name):
                # Numbers are compared, not digits: the last one may differ between machines.
                shape, numbers = _parts(text)
                kept_shape, kept_numbers = _parts(stored)
                self.assertEqual(shape, kept_shape)
                for one, other in zip(numbers, kept_numbers, strict=True):
                    self.assertAlmostEqual(one, other, delta=0.02)

    def test_links_lead_to_files(self) -> None:
        checked = 0
        for page in (ROOT / "README.md", ROOT / "docs" / "geometry.md"):
            for link in re.findall(r"\]\(([^)#]+)\)", page.read_text(encoding="utf-8")):
                checked += 1
                self.assertTrue((page.parent / link).exists(), f"{page.name}: {link}")
        self.assertGreater(checked, 8)


def _parts(text: str) -> tuple[str, list[float]]:
    number = r"-?\d+\.?\d*"
    return re.sub(number, "0", text), [float(value) for value in re.findall(number, text)]
