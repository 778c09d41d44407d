"""What the fills of a PDF are painted with, as its content says.

Source: ISO 32000-1:2008, 8.6 (colour spaces), 8.5.3 (path-painting operators).
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any, Final

import numpy as np

from kagami.exchange.delivery.reading_back.found import Paint, PaintKind

_FILLS: Final = frozenset({"f", "F", "f*", "B", "B*", "b", "b*"})


def painted(data: bytes) -> list[Paint]:
    """The paint of each fill of the first page, in order."""
    import pikepdf

    found: list[Paint] = []
    with pikepdf.open(io.BytesIO(data)) as pdf:
        page = pdf.pages[0]
        spaces: Any = page.obj["/Resources"].get("/ColorSpace", {})
        patterns: Any = page.obj["/Resources"].get("/Pattern", {})
        paint, space = Paint(PaintKind.GREY, "#000000", (0.0,)), ""  # as a page begins (8.6.5.1)
        for instruction in pikepdf.parse_content_stream(page):
            operands: Any = instruction.operands
            word = str(instruction.operator)
            if word == "cs":
                space = str(operands[0])
            elif word == "scn":
                named = str(operands[0])
                paint = _gradient(patterns[named]) if space == "/Pattern" else _ink(spaces[space], float(operands[0]))
            elif word in ("rg", "k", "g"):
                paint = _plain(word, [float(value) for value in operands])
            elif word in _FILLS:
                found.append(paint)
    return found


def _plain(word: str, values: Sequence[float]) -> Paint:
    """A colour of one of the device spaces."""
    if word == "rg":
        return Paint(PaintKind.SCREEN, _hex(values), tuple(values))
    if word == "g":
        return Paint(PaintKind.GREY, _hex([values[0]] * 3), tuple(values))
    return Paint(PaintKind.PROCESS, _shown(values), tuple(values))


def _ink(space: Any, strength: float) -> Paint:
    """A named ink; it shows what its function comes to at full strength (8.6.6.4)."""
    full = [float(value) for value in space[3]["/C1"]]
    return Paint(PaintKind.INK, _shown(full), (strength,), str(space[1]).removeprefix("/"))


def _gradient(pattern: Any) -> Paint:
    """A shading pattern: its function's stops, and where its matrix lays it (8.7.4)."""
    shading = pattern["/Shading"]
    function = shading["/Function"]
    parts = list(function["/Functions"])
    ends = [0.0, *(float(value) for value in function["/Bounds"]), 1.0]
    colours = [[float(v) for v in parts[0]["/C0"]], *([float(v) for v in part["/C1"]] for part in parts)]
    stops = tuple((at, _of_space(shading["/ColorSpace"], values)) for at, values in zip(ends, colours, strict=True))
    a, b, c, d, e, f = (float(value) * 25.4 / 72 for value in pattern["/Matrix"])
    return Paint(PaintKind.SHADING, stops=stops, frame=np.array([[e, f], [a + e, b + f], [c + e, d + f]]))


def _of_space(space: Any, values: Sequence[float]) -> str:
    """What screens show for a colour of a device space, or for a tint of an ink."""
    if len(values) == 3:
        return _hex(values)
    if len(values) == 4:
        return _shown(values)
    if str(space) == "/DeviceGray":
        return _hex([values[0]] * 3)
    return _shown([values[0] * float(value) for value in space[3]["/C1"]])


def _shown(inks: Sequence[float]) -> str:
    """What screens show for process inks. Source: CSS Color Module Level 5, the naive conversion of device-cmyk."""
    return _hex([(1 - ink) * (1 - inks[3]) for ink in inks[:3]])


def _hex(channels: Sequence[float]) -> str:
    return "#" + "".join(f"{round(255 * value):02x}" for value in channels)
