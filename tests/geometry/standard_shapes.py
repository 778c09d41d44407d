"""One table of shapes that many tests are crossed with: every curve kind, touching, overlapping, nested, coincident."""

from __future__ import annotations

import math

from kagami.geometry.affine import Affine
from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import linked
from kagami.geometry.figures import bar, circle, line, oval, polygon, regular_polygon
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point

O = Point(0.0, 0.0)  # noqa: E741  (the sheet's origin is called O everywhere in the product)


def ring_of(count: int, distance: float, radius: float) -> list[Shape]:
    """Equal circles with their centres evenly round O."""
    return [circle(O.toward(index * math.tau / count, distance), radius) for index in range(count)]


def turned(shape: Shape, count: int) -> list[Shape]:
    """Copies evenly round O."""
    return [shape.mapped(Affine.rotation(index * math.tau / count)) for index in range(count)]


FAMILIES: dict[str, list[Shape]] = {
    "two crossing circles": [circle(O, 1), circle(Point(1, 0), 1)],
    "touching outside": [circle(O, 1), circle(Point(2, 0), 1)],
    "touching inside": [circle(O, 2), circle(Point(1, 0), 1)],
    "equal circles": [circle(O, 1), circle(O, 1), circle(O, 1)],
    "equal circles begun apart": [circle(O, 1).mapped(Affine.rotation(angle)) for angle in (0, 1, 2, 4)],
    "concentric": [circle(O, radius) for radius in (1, 2, 3)],
    "apart": [circle(O, 1), circle(Point(5, 5), 2)],
    "six petals through one point": ring_of(6, 1, 1),
    "rosette of seven": [circle(O, 1), *ring_of(6, 1, 1)],
    "rosette of thirteen": [circle(O, 1), *ring_of(6, 1, 1), *ring_of(6, math.sqrt(3), 1)],
    "coins round a coin, in a ring": [circle(O, 1), *ring_of(6, 2, 1), circle(O, 3)],
    "chain of tangent circles": [circle(Point(2 * index, 0), 1) for index in range(6)],
    "square and its half": [polygon((O, Point(2, 0), Point(2, 2), Point(0, 2))), bar(O, 0, 2, 2)],
    "shared edge": [bar(O, math.pi / 2, 2, 2), bar(Point(2, 0), math.pi / 2, 2, 2)],
    "part of an edge shared": [bar(O, math.pi / 2, 2, 2), bar(Point(2, 0.5), math.pi / 2, 2, 1)],
    "equal bars": [bar(O, 0.3, 1, 4), bar(O, 0.3, 1, 4)],
    "corner on an edge": [bar(O, math.pi / 2, 2, 2), regular_polygon(Point(2, 1), 4, 1, 0)],
    "twelve bars": turned(bar(O, math.pi / 2, 1.1, 9), 12),
    "bar ending on a circle": [circle(O, 2), bar(O, 0, 1, 2)],
    "line through a circle": [circle(O, 2), line(O, 0.4, 5)],
    "line touching a circle": [circle(O, 2), line(Point(0, 2), 0, 5)],
    "line along an edge": [bar(O, 0, 2, 4), line(Point(0, 1), 0, 9)],
    "round-ended bar": [bar(O, 0.7, 2, 5), circle(O, 1), circle(O.toward(0.7, 5), 1)],
    "hexagon in its circle": [circle(O, 2), regular_polygon(O, 6, 2, 0.2)],
    "circle in a hexagon": [circle(O, 2 * math.cos(math.pi / 6)), regular_polygon(O, 6, 2, 0.0)],
    "crossing ovals": [oval(O, 3, 1, 0.3), oval(O, 3, 1, 0.3 + math.pi / 2)],
    "oval touching a circle inside, twice": [circle(O, 3), oval(O, 3, 1, 0.7)],
    "oval touching a circle outside": [circle(Point(5, 0), 2), oval(O, 3, 1)],
    "oval touching an oval": [oval(O, 3, 1), oval(Point(0, 3), 1, 2)],
    "equal ovals": [oval(O, 3, 1, 0.4), oval(O, 3, 1, 0.4), oval(O, 1, 3, 0.4 + math.pi / 2)],
    "concentric ovals": [oval(O, 3, 1), oval(O, 6, 2)],
    "oval and its axes": [oval(O, 3, 1, 0.4), line(O, 0.4, 5), line(O, 0.4 + math.pi / 2, 5)],
    "line touching an oval": [oval(O, 3, 1), line(Point(0, 1), 0, 5)],
    "oval in a bar": [oval(O, 3, 1), bar(Point(-3, 0), 0, 2, 6)],
    "very thin oval": [oval(O, 30, 0.01, 0.2), circle(O, 10)],
    "six ovals through one point": turned(oval(Point(3, 0), 3, 1), 6),
    "nothing": [],
    "one of nothing": [Shape(), circle(O, 1)],
}


def euler_holds(arrangement: Arrangement) -> bool:
    """V − E + F = 1 + C (Euler's formula for a plane graph of C components)."""
    vertices = set(arrangement.edges.tail.tolist()) | set(arrangement.edges.head.tolist())
    labels = linked(len(arrangement.edges.places), arrangement.edges.tail, arrangement.edges.head)
    components = {int(labels[vertex]) for vertex in vertices}
    edges = len(arrangement.edges.tail)
    return len(vertices) - edges + arrangement.face_count == 1 + len(components)
