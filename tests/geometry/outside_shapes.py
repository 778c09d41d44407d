"""Shapes that nobody here drew: letters of three families and icons of an open set, as shapes of our kernel."""

from __future__ import annotations

import importlib.util
import pathlib
import xml.etree.ElementTree as ElementTree
from functools import cache

from fontTools.svgLib.path import parse_path
from fontTools.ttLib import TTFont

from bench.glyphs import FONTS, ShapePen
from kagami.geometry.affine import Affine
from kagami.geometry.outline import Shape


def _package(name: str) -> pathlib.Path:
    found = importlib.util.find_spec(name)
    assert found is not None and found.submodule_search_locations, f"{name} belongs to the development packages"
    return pathlib.Path(found.submodule_search_locations[0])


@cache
def _families() -> tuple[TTFont, ...]:
    serif = _package("font_source_serif_pro") / "files" / "SourceSerifPro-Semibold.ttf"
    ours = (FONTS / "newsreader-latin-wght-normal.woff2", FONTS / "instrument-sans-latin-wght-normal.woff2")
    return tuple(TTFont(path) for path in (*ours, serif))


@cache
def letter(family: int, sign: str) -> Shape:
    """A letter with an em of 10 u at the origin, as its font draws it."""
    font = _families()[family]
    pen = ShapePen(font.getGlyphSet(), 10.0 / font["head"].unitsPerEm)
    font.getGlyphSet()[font.getBestCmap()[ord(sign)]].draw(pen)
    return Shape(tuple(pen.outlines))


@cache
def icon_files() -> tuple[pathlib.Path, ...]:
    """The icons of the set."""
    return tuple(sorted((_package("fontawesomefree") / "static" / "fontawesomefree" / "svgs" / "solid").glob("*.svg")))


@cache
def icon(number: int) -> Shape:
    """An icon about 10 u large, upright."""
    root = ElementTree.parse(icon_files()[number]).getroot()
    pen = ShapePen(None, 10.0 / 512)
    for path in root.iter("{http://www.w3.org/2000/svg}path"):
        parse_path(path.get("d", ""), pen)
    return Shape(tuple(pen.outlines)).mapped(Affine(d=-1.0))
