"""Path data of outlines in columns, by compiled loops: what `svg.path_data` writes of values, in a tenth of the time.

A coordinate that lies in the middle between two last decimals may be rounded to the other one; so this is for looking,
and files are written by `svg`.
"""

from __future__ import annotations

import math
from typing import Final, TypeAlias

import numpy as np

from kagami.geometry.arrays import Bools, Floats, Ints
from kagami.geometry.compiled import one_curve
from kagami.geometry.compiled.decorator import compiled, compiled_for
from kagami.geometry.compiled.joining import stretch
from kagami.geometry.kinds import ARC, CUBIC, LINE, WIDTH
from kagami.geometry.tolerance import LENGTH, SAME

NEAR_HALF_TURN: Final = 0.02
"""As in `svg`."""
MOST_A_CURVE: Final = 300
"""So many characters a curve takes at most, arcs in two parts."""
QUADRATIC: Final = math.sqrt(3) / 36
MINUS, POINT, ZERO, SPACE = (ord(c) for c in "-.0 ")
M, L, A, C, Q, Z = (ord(c) for c in "MLACQZ")

View: TypeAlias = tuple[float, float, float, int, float]
"""As `svg.Frame`: scale, left, top, decimals and slack."""


@compiled
def _number(text: np.ndarray, size: int, value: float, decimals: int) -> int:
    """Add a number in as few characters as its decimals need; how long the text is then."""
    parts = 1
    for _ in range(decimals):
        parts *= 10
    units = np.int64(np.rint(value * parts))
    if units < 0:
        text[size] = MINUS
        size, units = size + 1, -units
    whole, rest = units // parts, units % parts
    digits, left = 1, whole // 10
    while left > 0:
        digits, left = digits + 1, left // 10
    for k in range(digits - 1, -1, -1):
        text[size + k] = ZERO + whole % 10
        whole //= 10
    size += digits
    if rest == 0:
        return size
    text[size] = POINT
    last = size
    for k in range(decimals, 0, -1):
        digit = rest % 10
        text[size + k] = ZERO + digit
        rest //= 10
        if digit != 0 and last == size:
            last = size + k
    return last + 1


@compiled
def _place(text: np.ndarray, size: int, at: complex, view: View) -> int:
    """Add a place as two numbers."""
    scale, left, top, decimals, _ = view
    size = _number(text, size, (at.real - left) * scale, decimals)
    text[size] = SPACE
    return _number(text, size + 1, (top - at.imag) * scale, decimals)


@compiled
def _letter(text: np.ndarray, size: int, letter: int) -> int:
    text[size] = letter
    return size + 1


@compiled
def _cubic(text: np.ndarray, size: int, row: Floats, end: complex, view: View) -> int:
    """C, or Q where it is a quadratic (see `Cubic.quadratic_handle`)."""
    a, b, c, d = one_curve.corner(row, 0), one_curve.corner(row, 1), one_curve.corner(row, 2), one_curve.corner(row, 3)
    scale, _, _, decimals, slack = view
    if abs(d - 3 * c + 3 * b - a) * QUADRATIC <= max(LENGTH, slack / 2 / (scale * 10.0**decimals)):
        size = _place(text, _letter(text, size, Q), (3 * (b + c) - a - d) / 4, view)
        return _place(text, _letter(text, size, SPACE), end, view)
    size = _place(text, _letter(text, size, C), b, view)
    size = _place(text, _letter(text, size, SPACE), c, view)
    return _place(text, _letter(text, size, SPACE), end, view)


@compiled
def _on_grid(at: complex, view: View) -> complex:
    """A place as it is written, in units of the last decimal."""
    scale, left, top, decimals, _ = view
    parts = scale * 10.0**decimals
    return complex(np.rint((at.real - left) * parts), np.rint((top - at.imag) * parts))


@compiled
def _arc(text: np.ndarray, size: int, of: int, row: Floats, end: complex, view: View) -> int:
    """A, twice where one would be badly conditioned (see `svg.arc_data`)."""
    sweep = row[4] if of == ARC else row[6]
    off_half = abs(sweep) - math.pi
    share = 1.0
    if one_curve.closes(of, row):
        share = 0.75
    elif SAME < abs(off_half) < NEAR_HALF_TURN:
        share = 0.5
    if share == 1.0:
        return _one_arc(text, size, of, row, end, view)
    part = np.empty(WIDTH)
    stretch(of, row, 0.0, share, part)
    size = _one_arc(text, size, of, part, one_curve.end(of, part), view)
    stretch(of, row, share, 1.0, part)
    return _one_arc(text, size, of, part, end, view)


@compiled
def _one_arc(text: np.ndarray, size: int, of: int, row: Floats, end: complex, view: View) -> int:
    """A."""
    scale, _, _, decimals, _ = view
    sweep = row[4] if of == ARC else row[6]
    off_half = abs(sweep) - math.pi
    less = 2 * 10.0**-decimals if abs(off_half) <= SAME else 0.0
    if less > 0 and of == ARC:
        span = abs(_on_grid(end, view) - _on_grid(one_curve.start(of, row), view))
        if span / 2 >= np.rint(row[2] * scale * 10.0**decimals):
            less = 0.0
    first, second = row[2], row[2] if of == ARC else row[3]
    size = _number(text, _letter(text, size, A), max(first * scale - less, 0.0), decimals)
    size = _number(text, _letter(text, size, SPACE), max(second * scale - less, 0.0), decimals)
    finer = math.ceil(math.log10(max(1.0, first * scale * math.pi / 180)))
    turned = 0.0 if of == ARC else -row[4] * 180 / math.pi
    size = _number(text, _letter(text, size, SPACE), turned, decimals + finer)
    for flag in (off_half > 0, sweep < 0):
        size = _letter(text, _letter(text, size, SPACE), ZERO + (1 if flag else 0))
    return _place(text, _letter(text, size, SPACE), end, view)


@compiled_for("int64[:], float64[:, :], int64[:], boolean[:], float64, float64, float64, int64, float64")
def path_text(
    kind: Ints,
    rows: Floats,
    begin: Ints,
    closed: Bools,
    scale: float,
    left: float,
    top: float,
    decimals: int,
    slack: float,
) -> np.ndarray:
    """Outlines with curves from `begin` on (one more at the end) as path data, in ASCII."""
    view = (scale, left, top, decimals, slack)
    text = np.empty(MOST_A_CURVE * (len(kind) + len(closed)), np.uint8)
    size = 0
    for outline in range(len(closed)):
        first, last = begin[outline], begin[outline + 1] - 1
        if last < first:
            continue
        size = _place(text, _letter(text, size, M), one_curve.start(kind[first], rows[first]), view)
        for k in range(first, last + 1):
            of, row = kind[k], rows[k]
            if k < last:
                end = one_curve.start(kind[k + 1], rows[k + 1])
            elif closed[outline]:
                end = one_curve.start(kind[first], rows[first])
            else:
                end = one_curve.end(of, row)
            if of == CUBIC:
                size = _cubic(text, size, row, end, view)
            elif of != LINE:
                size = _arc(text, size, of, row, end, view)
            elif k < last or not closed[outline]:
                size = _place(text, _letter(text, size, L), end, view)
        if closed[outline]:
            size = _letter(text, size, Z)
    return text[:size].copy()
