"""Fonts made for tests: small sound ones, and hostile ones."""

from __future__ import annotations

import io
import struct
from typing import Any

import brotli
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont
from fontTools.ttLib.tables._g_l_y_f import Glyph, GlyphComponent

SQUARE = ((100, 0), (100, 700), (300, 700), (300, 0))


def square() -> Glyph:
    pen = TTGlyphPen(None)
    pen.moveTo(SQUARE[0])
    for place in SQUARE[1:]:
        pen.lineTo(place)
    pen.closePath()
    return pen.glyph()


def built(names: list[str], glyphs: dict[str, Glyph], *, family: str = "Vennik Square", **more: Any) -> bytes:
    """A TrueType font of glyphs; those of one letter are found by it."""
    builder = FontBuilder(1000, isTTF=True)
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({ord(name): name for name in names if len(name) == 1})
    builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics(dict.fromkeys(names, (400, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    style = more.pop("style", "Regular")
    builder.setupNameTable({"familyName": family, "styleName": style, "licenseDescription": more.pop("licence", "")})
    builder.setupOS2(
        sCapHeight=700, sxHeight=500, usWeightClass=more.pop("weight", 400), fsType=more.pop("embedding", 0)
    )
    builder.setupPost(keepGlyphNames=False)
    assert not more, more
    out = io.BytesIO()
    builder.save(out)
    return out.getvalue()


def small(**more: Any) -> bytes:
    """A sound font: a square for every capital."""
    letters = [".notdef", "space", *"ABCDEFGHIJKLMNOPQRSTUVWXYZ"]
    return built(letters, {name: square() for name in letters}, **more)


def cyclic() -> bytes:
    """A composite that is made of itself: it was written as one of the letter I, whose number is then replaced."""
    glyph, part = Glyph(), GlyphComponent()
    part.glyphName, part.x, part.y, part.flags = "I", 0, 0, 0x4
    glyph.numberOfContours, glyph.components = -1, [part]
    data = built([".notdef", "A", "I"], {".notdef": square(), "A": glyph, "I": square()})
    font = TTFont(io.BytesIO(data))
    start = font.reader.tables["glyf"].offset + font["loca"][1] + 10  # behind the head of the glyph A
    flags, number = struct.unpack(">HH", data[start : start + 4])
    assert number == 2, (flags, number)
    return data[: start + 2] + struct.pack(">H", 1) + data[start + 4 :]


def crowded(count: int) -> bytes:
    """A font of very many glyphs."""
    names = [".notdef", "A", *(f"glyph{number}" for number in range(count - 2))]
    return built(names, dict.fromkeys(names, square()))


def with_table_said_longer(data: bytes, tag: bytes, length: int) -> bytes:
    """A font whose directory says that a table is longer than it is."""
    count = struct.unpack(">H", data[4:6])[0]
    for number in range(count):
        at = 12 + 16 * number
        if data[at : at + 4] == tag:
            return data[: at + 12] + struct.pack(">I", length) + data[at + 16 :]
    raise AssertionError(tag)


def packed_bomb(megabytes: int = 700) -> bytes:
    """A WOFF2 file of a few hundred bytes that unpacks to very many zeros."""
    press = brotli.Compressor(quality=1, lgwin=24)
    body = b"".join(press.process(bytes(1_000_000)) for _ in range(megabytes)) + press.finish()
    size = megabytes * 1_000_000
    entry = bytes([63 & 5]) + _base128(size)  # one table without a transform: OS/2 is number 5 of those known
    head = struct.pack(
        ">4s4sIHHIIHHIIIII",
        b"wOF2",
        b"\0\1\0\0",
        48 + len(entry) + len(body),
        1,
        0,
        size + 100,
        len(body),
        1,
        0,
        0,
        0,
        0,
        0,
        0,
    )
    return head + entry + body


def _base128(value: int) -> bytes:
    parts = [value & 0x7F]
    while value := value >> 7:
        parts.append(0x80 | (value & 0x7F))
    return bytes(reversed(parts))
