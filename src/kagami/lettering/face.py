"""Faces of type: the files that one is made of, and one cut of it, at a weight and a width.

A face has parts that cover different letters (Latin, further Latin, Hebrew); a part is one file whose weight can be
varied, or a file a weight.
"""

from __future__ import annotations

import hashlib
import pathlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING, Final

if TYPE_CHECKING:  # the shaper is loaded where a face is opened: most marks carry no words
    import uharfbuzz as hb

REGULAR: Final = 400.0
"""The usual weight, by OpenType 1.9.1, table OS/2, usWeightClass."""
FINE: Final = 64
"""What is asked of a file is answered in this many parts of its own units, so that varied values are not rounded."""
MOST_CUTS: Final = 256


@dataclass(frozen=True, eq=False)
class FontFile:
    """One file (TrueType or OpenType, not compressed); `weight` tells which weight it is, where it cannot be varied."""

    load: Callable[[], bytes] = field(repr=False)
    weight: float | None = None

    @cached_property
    def data(self) -> bytes:
        """Its bytes."""
        return self.load()

    @cached_property
    def digest(self) -> str:
        """A hash of its bytes."""
        return hashlib.blake2b(self.data, digest_size=16).hexdigest()

    @cached_property
    def opened(self) -> hb.Face:
        """The file as the shaper reads it."""
        import uharfbuzz as hb

        return hb.Face(hb.Blob(self.data))

    @cached_property
    def covers(self) -> frozenset[int]:
        """The characters that it has a letter for."""
        return frozenset(self.opened.unicodes)

    @cached_property
    def axes(self) -> Mapping[str, tuple[float, float, float]]:
        """What can be varied: least, usual and greatest value, by the tag of the axis."""
        return {axis.tag: (axis.min_value, axis.default_value, axis.max_value) for axis in self.opened.axis_infos}

    def features(self) -> frozenset[str]:
        """The tags of the features for substituting glyphs that it has."""
        found: set[str] = set()
        for number in range(len(self.opened.get_table_script_tags("GSUB"))):
            found.update(self.opened.get_language_feature_tags("GSUB", number))
        return frozenset(found)


def file_at(path: pathlib.Path, weight: float | None = None) -> FontFile:
    """A file on disk, read when it is first needed."""
    return FontFile(path.read_bytes, weight)


@dataclass(frozen=True, eq=False)
class Face:
    """A family of type in one style, one object for all who ask for it. `sort` says what it is like, in a word; `parts`
    are tried in turn for a letter.
    """

    name: str
    sort: str
    parts: tuple[tuple[FontFile, ...], ...] = field(repr=False)

    @cached_property
    def digest(self) -> str:
        """A hash of all its files."""
        digests = "".join(file.digest for part in self.parts for file in part)
        return hashlib.blake2b(digests.encode(), digest_size=16).hexdigest()

    @property
    def weights(self) -> tuple[float, ...]:
        """The weights that it has, from light to bold; of one that is varied the least and the greatest."""
        first = self.parts[0]
        if self.varies:
            least, _, most = first[0].axes["wght"]
            return (least, most)
        return tuple(sorted(REGULAR if file.weight is None else file.weight for file in first))

    @property
    def varies(self) -> bool:
        """Whether its weight can be any between the least and the greatest."""
        return "wght" in self.parts[0][0].axes

    @property
    def widths(self) -> tuple[float, float] | None:
        """The least and the greatest width in per cent; None where it has one alone."""
        axis = self.parts[0][0].axes.get("wdth")
        return (axis[0], axis[2]) if axis else None

    def nearest_weight(self, weight: float) -> float:
        """The weight that it has nearest to another one."""
        weights = self.weights
        if self.varies:
            return min(max(weight, weights[0]), weights[1])
        return min(weights, key=lambda one: (abs(one - weight), one))

    def covers(self, character: str) -> bool:
        """Whether it has a letter for a character."""
        return any(ord(character) in part[0].covers for part in self.parts)

    def cut(self, weight: float = REGULAR, width: float = 100.0, optical: float = 24.0) -> Cut:
        """The cut nearest to a weight (CSS Fonts Level 4, section 2.2.2: 1 to 1000), a width in per cent, and made for
        a size in points.
        """
        return _cut(self, self.nearest_weight(weight), width, optical)


@dataclass(frozen=True)
class Cut:
    """A face at one weight, width and size that it was made for. Lengths are shares of the em."""

    face: Face
    weight: float
    width: float
    optical: float

    @cached_property
    def key(self) -> str:
        """Equal for cuts whose letters are the same."""
        return f"{self.face.digest} {self.weight!r} {self.width!r} {self.optical!r}"

    @cached_property
    def files(self) -> tuple[FontFile, ...]:
        """The file of each part."""
        return tuple(self._of_weight(part) for part in self.face.parts)

    def _of_weight(self, part: tuple[FontFile, ...]) -> FontFile:
        known = {REGULAR if file.weight is None else file.weight: file for file in part}
        return known[min(known, key=lambda one: abs(one - self.weight))]

    @cached_property
    def fonts(self) -> tuple[hb.Font, ...]:
        """Each part, varied to this cut."""
        import uharfbuzz as hb

        found = []
        for file in self.files:
            font = hb.Font(file.opened)
            font.scale = (file.opened.upem * FINE,) * 2
            wanted = {"wght": self.weight, "wdth": self.width, "opsz": self.optical}
            within = {
                tag: min(max(wanted.get(tag, usual), least), most) for tag, (least, usual, most) in file.axes.items()
            }
            if within:
                font.set_variations(within)
            found.append(font)
        return tuple(found)

    def em(self, part: int) -> float:
        """How many of the units in which a part answers make an em."""
        return float(self.files[part].opened.upem * FINE)

    def part_of(self, characters: str) -> int | None:
        """The first part that has letters for all of some characters."""
        return next((k for k, file in enumerate(self.files) if all(ord(c) in file.covers for c in characters)), None)


@lru_cache(maxsize=MOST_CUTS)
def _cut(face: Face, weight: float, width: float, optical: float) -> Cut:
    return Cut(face, weight, width, optical)
