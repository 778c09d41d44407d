"""DXF audited and read back by ezdxf; icons and WebP by Pillow."""

from __future__ import annotations

import io
import math
import pathlib
from unittest import TestCase

import ezdxf
import numpy as np
import shapely
from ezdxf import path as paths
from PIL import Image

from kagami.exchange.artwork import Area, Artwork
from kagami.exchange.dxf import write_dxf
from kagami.exchange.finished import artwork
from kagami.exchange.icons import ICON_SIZES, square, write_ico, write_webp
from kagami.exchange.png import write_png
from kagami.geometry.figures import circle
from kagami.geometry.measure.size import Box, area
from kagami.geometry.point import Point
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.files import load_plan

EXAMPLES = sorted((pathlib.Path(__file__).parents[2] / "examples").glob("*/*"))


def read(data: bytes):
    return ezdxf.read(io.StringIO(data.decode()))


class Cut(TestCase):
    def test_units_layers_and_true_arcs(self) -> None:
        areas = (Area("a<b", circle(Point(1, 1), 2), "#b3301e"), Area("a<b", circle(Point(6, 1), 1)))
        document = read(write_dxf(Artwork("Two", areas, Box(-1, -1, 7, 3), 0.5, "cm")))
        self.assertEqual((document.units, document.dxfversion), (4, "AC1024"))  # millimetres, R2010
        self.assertEqual([one.dxf.layer for one in document.modelspace()], ["a-b", "a-b 2"])
        self.assertEqual(document.layers.get("a-b").rgb, (0xB3, 0x30, 0x1E))
        first = document.modelspace()[0]
        self.assertTrue(first.closed)
        # Two halves: a bulge is the tangent of a quarter of the sweep. 2 u of 0.5 cm are 10 mm.
        self.assertEqual([round(point[4], 12) for point in first], [1.0, 1.0])
        xs = sorted(round(point[0], 9) for point in first)
        self.assertEqual(xs[1] - xs[0], 20.0)

    def test_every_example_passes_the_audit_and_keeps_its_area(self) -> None:
        for file in EXAMPLES:
            with self.subTest(file.name):
                plan = load_plan(file.read_bytes())
                art = artwork(plan, evaluate(plan))
                data = write_dxf(art)
                self.assertEqual(data, write_dxf(art))
                document = read(data)
                self.assertEqual(document.audit().errors, [])
                scale = art.scale * {"mm": 1, "cm": 10, "in": 25.4, "px": 25.4 / 96, "pt": 25.4 / 72}[art.unit]
                layers = [one.dxf.name for one in document.layers if one.dxf.name not in ("0", "Defpoints")]
                for layer, piece in zip(layers, art.areas, strict=True):
                    entities = [one for one in document.modelspace() if one.dxf.layer == layer]
                    found = enclosed(entities)
                    self.assertAlmostEqual(found / scale**2, area(piece.shape), delta=2e-3 * area(piece.shape))

    def test_what_no_polyline_holds_is_a_chain(self) -> None:
        file = next(one for one in EXAMPLES if one.name.startswith("j05"))
        plan = load_plan(file.read_bytes())
        kinds = {one.dxftype() for one in read(write_dxf(artwork(plan, evaluate(plan)))).modelspace()}
        self.assertIn("SPLINE", kinds)


def enclosed(entities) -> float:
    """The area that entities enclose, holes taken out: by shapely, of their lines in short steps."""
    lines = [[(v.x, v.y) for v in paths.make_path(one).flattening(0.002)] for one in entities]
    outlines = [shapely.Polygon(line) for line in joined(lines)]
    outlines.sort(key=lambda one: -one.area)
    total = 0.0
    for k, one in enumerate(outlines):
        depth = sum(other.contains(one.representative_point()) for other in outlines[:k])
        total += one.area if depth % 2 == 0 else -one.area
    return total


def joined(lines: list[list[tuple[float, float]]]) -> list[list[tuple[float, float]]]:
    """Lines that follow each other end to end, as closed rings."""
    left, rings = [list(line) for line in lines], []
    while left:
        ring = left.pop(0)
        while math.dist(ring[0], ring[-1]) > 1e-3:
            nearest = min(
                range(len(left)), key=lambda k: min(math.dist(ring[-1], left[k][0]), math.dist(ring[-1], left[k][-1]))
            )
            line = left.pop(nearest)
            ring.extend(line if math.dist(ring[-1], line[0]) <= math.dist(ring[-1], line[-1]) else line[::-1])
        rings.append(ring)
    return rings


class Icons(TestCase):
    ART = Artwork("Disc", (Area("disc", circle(Point(0, 0), 3), "#b3301e"),), Box(-3, -2, 3, 2), 4, "mm")

    def test_an_icon_holds_each_size_drawn_by_itself(self) -> None:
        icon = Image.open(io.BytesIO(write_ico(self.ART)))
        self.assertEqual(icon.info["sizes"], {(size, size) for size in ICON_SIZES})
        for size in (16, 48, 256):
            icon.size = (size, size)
            drawn = np.asarray(icon.convert("RGBA")).astype(int)
            alone = np.asarray(Image.open(io.BytesIO(write_png(square(self.ART), size))).convert("RGBA")).astype(int)
            self.assertEqual(int(np.abs(drawn - alone).max()), 0)

    def test_webp_is_without_loss(self) -> None:
        picture = Image.open(io.BytesIO(write_webp(self.ART, 240, "#ffffff")))
        self.assertEqual((picture.format, picture.size), ("WEBP", (240, 160)))
        png = Image.open(io.BytesIO(write_png(self.ART, 240, "#ffffff")))
        self.assertEqual(picture.convert("RGB").tobytes(), png.convert("RGB").tobytes())
