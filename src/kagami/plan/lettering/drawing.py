"""What is drawn of a lettering: its figure, with the places and readings that it lends."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property

import numpy as np

from kagami.geometry.boolean import union
from kagami.geometry.columns import Columns, together
from kagami.geometry.crossings import find
from kagami.geometry.outline import Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.plan.figure import Figure
from kagami.plan.lettering.laying import Laid, Lettering, laid
from kagami.plan.lettering.meeting import close_pairs
from kagami.plan.lettering.notes import notes_of
from kagami.plan.outcome import Drawing, Notes


def drawing_of(lettering: Lettering, notes: Notes = ()) -> Drawing:
    """All letters as one area; the lettering itself is its detail, from which it can be laid anew.

    Raises:
        LetteringError: they cannot be laid.
    """
    page = laid(lettering)
    figure = Figure((as_one(page.letters),), _Lent(page.places, page.letters), readings=page.readings)
    return Drawing(figure, (*notes_of(lettering.setting), *notes), lettering)


def facts_of(lettering: Lettering) -> Notes:
    """How many letters there are, and what they measure."""
    page = laid(lettering)
    values: dict[str, object] = {"count": len(page.letters), **page.readings}
    return (("words-span" if "span" in values else "words-stem" if "stem" in values else "words-count", values),)


def letters_of(lettering: Lettering) -> Figure:
    """The letters as copies, in the order in which they are seen.

    Raises:
        LetteringError: they cannot be laid.
    """
    page = laid(lettering)
    shapes = tuple(shapes_of(page.letters))
    apart = not overlap(close_pairs(page.letters), shapes)
    return Figure(shapes, _Lent(page.places, page.letters), apart=apart, readings=page.readings)


class _Lent(Mapping[str, Point]):
    """The places of a line as a whole, and those of each letter by its number from 1, which are worked out when one of
    them is asked for: most never are.
    """

    def __init__(self, own: Mapping[str, Point], letters: Sequence[Laid]) -> None:
        self.own, self.letters = own, letters

    @cached_property
    def all(self) -> dict[str, Point]:
        """Every one of them."""
        letters = enumerate(self.letters, 1)
        return {**self.own, **{f"{k}.{name}": place for k, letter in letters for name, place in letter.places()}}

    def __getitem__(self, name: str) -> Point:
        return self.all[name] if name[:1].isdigit() else self.own[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self.all)

    def __len__(self) -> int:
        return len(self.own) + sum(letter.lends for letter in self.letters)


def shapes_of(letters: Sequence[Laid]) -> list[Shape]:
    """The areas of letters."""
    found: list[Shape] = []
    for some, columns in _by_line(letters):
        outlines = some[0].line.outlines
        if columns is None:
            found += [outline.mapped(letter.map) for letter, outline in zip(some, outlines, strict=True)]
        else:
            ends = itertools.accumulate(map(len, outlines), initial=0)
            found += [Shape(columns=columns.part(*part)) for part in itertools.pairwise(ends)]
    return found


def _by_line(letters: Sequence[Laid]) -> Iterator[tuple[list[Laid], Columns | None]]:
    """The letters of each line, and their outlines one after the other, where they are told in columns."""
    for _, run in itertools.groupby(letters, key=lambda letter: id(letter.line)):
        some = list(run)
        known = some[0].line.in_columns
        maps = [(by.a, by.b, by.c, by.d, by.e, by.f) for by in (letter.map for letter in some)]
        yield some, known[0].mapped_each(known[1], np.array(maps)) if known else None


def as_one(letters: Sequence[Laid]) -> Shape:
    """Letters as one area."""
    close = close_pairs(letters)
    if close:
        shapes = shapes_of(letters)
        return union(*shapes) if overlap(close, shapes) else one_shape(shapes)
    lines = [columns for _, columns in _by_line(letters)]
    known = [columns for columns in lines if columns is not None]
    return Shape(columns=together(known)) if len(known) == len(lines) else one_shape(shapes_of(letters))


def overlap(close: Sequence[tuple[int, int, bool]], shapes: Sequence[Shape]) -> bool:
    """Whether letters that are close may overlap: the outlines of two of them meet, or one lies within the rectangle of
    another.
    """
    if any(within for _, _, within in close):
        return True
    if not close:
        return False
    some = tabulate([shapes[k] for k in sorted({k for pair in close for k in pair[:2]})])
    found = find(some)
    return bool((some.owner[found.i] != some.owner[found.j]).any())
