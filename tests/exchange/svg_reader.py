"""Read written SVG by the standard's own rules, independently of the writer.

Source: SVG 1.1 (Second Edition), W3C 2011: 8.3 (path data) and F.6.5, F.6.6 (arc from end points to centre).
"""

from __future__ import annotations

import math
import re
import xml.etree.ElementTree as ET

import numpy as np
import shapely

SVG = "{http://www.w3.org/2000/svg}"
_TOKEN = re.compile(r"([A-Za-z])|(-?\d*\.?\d+(?:e-?\d+)?)")
_ARGUMENTS = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "A": 7, "Z": 0}


def paths_of(svg: str) -> list[ET.Element]:
    """All path elements."""
    return list(ET.fromstring(svg).iter(f"{SVG}path"))


def commands(data: str) -> list[tuple[str, tuple[float, ...]]]:
    """Commands with their numbers, all as absolute M, L, Q, C, A and Z."""
    tokens = [match.group(0) for match in _TOKEN.finditer(data)]
    found: list[tuple[str, tuple[float, ...]]] = []
    index, letter, here, start = 0, "", (0.0, 0.0), (0.0, 0.0)
    while index < len(tokens):
        if tokens[index].isalpha():
            letter, index = tokens[index], index + 1
        count = _ARGUMENTS[letter.upper()]
        values = [float(value) for value in tokens[index : index + count]]
        index += count
        command, values = _absolute(letter, values, here)
        if letter in "Ss":  # its first handle mirrors the one before (SVG 1.1, 8.3.6)
            before = found[-1][1]
            mirrored = [2 * here[k] - before[2 + k] for k in (0, 1)] if found[-1][0] == "C" else list(here)
            command, values = "C", [*mirrored, *values]
        if letter in "Tt":
            before = found[-1][1]
            mirrored = [2 * here[k] - before[k] for k in (0, 1)] if found[-1][0] == "Q" else list(here)
            command, values = "Q", [*mirrored, *values]
        found.append((command, tuple(values)))
        letter = {"M": "L", "m": "l"}.get(letter, letter)  # further places are lines (SVG 1.1, 8.3.2)
        here = start if command == "Z" else (values[-2], values[-1])
        start = here if command == "M" else start
    return found


def _absolute(letter: str, values: list[float], here: tuple[float, float]) -> tuple[str, list[float]]:
    """A command in its absolute form; level and upright lines as lines."""
    x, y = here if letter.islower() else (0.0, 0.0)
    match letter.upper():
        case "H":
            return "L", [values[0] + x, here[1]]
        case "V":
            return "L", [here[0], values[0] + y]
        case "A":
            return "A", [*values[:5], values[5] + x, values[6] + y]
        case other:
            return other, [value + (x, y)[k % 2] for k, value in enumerate(values)]


def _beyond_chord(places: np.ndarray) -> float:
    """The area between a cubic and its chord: x dy − y dx is of degree five, so that three places give it exactly
    (Gauss-Legendre quadrature).
    """
    nodes, weights = np.polynomial.legendre.leggauss(3)
    start = places[0]
    control = places - start
    total = 0.0
    for node, weight in zip((nodes + 1) / 2, weights / 2, strict=True):
        s = 1 - node
        at = 3 * s * s * node * control[1] + 3 * s * node * node * control[2] + node**3 * control[3]
        way = 3 * (s * s * control[1] + 2 * s * node * (control[2] - control[1]) + node**2 * (control[3] - control[2]))
        total += weight * (at[0] * way[1] - at[1] * way[0]) / 2
    return total


def _handles(here: tuple[float, float], letter: str, values: tuple[float, ...]) -> list[tuple[float, ...]]:
    """Both handles of a cubic, or of the one that a quadratic is: two thirds of the way to its own."""
    if letter == "C":
        return [values[:2], values[2:4]]
    ends = (here, values[2:])
    return [tuple(end[k] / 3 + 2 * values[k] / 3 for k in (0, 1)) for end in ends]


def area_of(data: str) -> float:
    """Signed area of path data (y down, so a hole has the other sign): exact, by Green's theorem.

    An elliptic arc is looked at in the frame in which it is circular; areas there are smaller by rx·ry.
    """
    total, here, start = 0.0, (0.0, 0.0), (0.0, 0.0)
    for letter, values in commands(data):
        if letter == "M":
            here = start = (values[0], values[1])
            continue
        there = start if letter == "Z" else (values[-2], values[-1])
        total += (here[0] * there[1] - there[0] * here[1]) / 2
        if letter == "A":
            rx, ry = values[0], values[1]
            radius, _, sweep = centre_of(in_circle(here, values), (1, 1, 0, *values[3:5], *in_circle(there, values)))
            total += rx * ry * radius**2 * (sweep - math.sin(sweep)) / 2
        if letter in "CQ":
            total += _beyond_chord(np.array([here, *_handles(here, letter, values), there]))
        here = there
    return total


def in_circle(place: tuple[float, float], values: tuple[float, ...]) -> tuple[float, float]:
    """A place in the frame in which an arc command's ellipse is a unit circle."""
    rx, ry, turn = values[0], values[1], math.radians(values[2])
    x, y = place
    return (x * math.cos(turn) + y * math.sin(turn)) / rx, (y * math.cos(turn) - x * math.sin(turn)) / ry


def centre_of(here: tuple[float, float], values: tuple[float, ...]) -> tuple[float, tuple[float, float], float]:
    """Radius, centre and sweep (positive in the direction of growing angles, y down) of a circular arc command."""
    radius, _, _, large, positive, x, y = values
    dx, dy = (here[0] - x) / 2, (here[1] - y) / 2
    half = math.hypot(dx, dy)
    radius = max(radius, half)  # F.6.6: too small a radius is scaled up
    away = math.sqrt(max(radius**2 - half**2, 0.0)) / half
    sign = -1 if large == positive else 1
    centre = ((here[0] + x) / 2 + sign * away * dy, (here[1] + y) / 2 - sign * away * dx)
    first = math.atan2(here[1] - centre[1], here[0] - centre[0])
    last = math.atan2(y - centre[1], x - centre[0])
    sweep = last - first
    if positive and sweep < 0:
        sweep += math.tau
    if not positive and sweep > 0:
        sweep -= math.tau
    return radius, centre, sweep


def polygon_of(data: str, step: float = 0.01) -> shapely.Geometry:
    """Path data as a polygon, arcs cut into chords of `step` radians."""
    rings: list[list[tuple[float, float]]] = []
    here = (0.0, 0.0)
    for letter, values in commands(data):
        if letter == "M":
            here = (values[0], values[1])
            rings.append([here])
        elif letter == "L":
            here = (values[0], values[1])
            rings[-1].append(here)
        elif letter == "A":
            radius, centre, sweep = centre_of(here, values)
            first = math.atan2(here[1] - centre[1], here[0] - centre[0])
            for angle in (first + sweep * np.linspace(0, 1, max(2, math.ceil(abs(sweep) / step)))[1:]).tolist():
                rings[-1].append((centre[0] + radius * math.cos(angle), centre[1] + radius * math.sin(angle)))
            here = values[5], values[6]
    whole = shapely.Polygon()
    for ring in rings:
        whole = whole.symmetric_difference(shapely.Polygon(ring))
    return whole
