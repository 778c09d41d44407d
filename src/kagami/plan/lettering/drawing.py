"""What is drawn of a lettering: its figure, with the places and readings that it lends."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from kagami.geometry.arrays import Bools, Floats
from kagami.geometry.boolean import union
from kagami.geometry.crossings import find
from kagami.geometry.outline import Shape, one_shape
from kagami.geometry.point import Point
from kagami.geometry.table import tabulate
from kagami.geometry.tolerance import LENGTH
from kagami.plan.figure import Figure
from kagami.plan.lettering.laying import Laid, Lettering, laid
from kagami.plan.lettering.notes import notes_of
from kagami.plan.outcome import Drawing, Notes


def drawing_of(lettering: Lettering, notes: Notes = ()) -> Drawing:
    """All letters as one area; the lettering itself is its detail, from which it can be laid anew.

    Raises:
        LetteringError: they cannot be laid.
    """
    page = laid(lettering)
    figure = Figure((as_one(page.letters),), {**page.places, **places_of(page.letters)}, readings=page.readings)
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
    shapes = tuple(letter.shape() for letter in page.letters)
    places = {**page.places, **places_of(page.letters)}
    return Figure(shapes, places, apart=not overlap(page.letters, shapes), readings=page.readings)


def places_of(letters: Sequence[Laid]) -> dict[str, Point]:
    """The places of each letter, by its number from 1."""
    return {f"{k}.{name}": place for k, letter in enumerate(letters, 1) for name, place in letter.places()}


def as_one(letters: Sequence[Laid]) -> Shape:
    """Letters as one area."""
    shapes = [letter.shape() for letter in letters]
    if overlap(letters, shapes):
        return union(*shapes)
    return one_shape(shapes)


def overlap(letters: Sequence[Laid], shapes: Sequence[Shape]) -> bool:
    """Whether letters may overlap: the outlines of two of them meet, or one lies within the rectangle of another."""
    near, within = _beside(np.array([letter.corners() for letter in letters]))
    if within.any():
        return True
    close = np.flatnonzero(near.any(axis=1))
    if not len(close):
        return False
    some = tabulate([shapes[k] for k in close.tolist()])
    found = find(some)
    return bool((some.owner[found.i] != some.owner[found.j]).any())


def _beside(corners: Floats) -> tuple[Bools, Bools]:
    """Of rectangles (n, 4, 2) which two are not parted by a line along a side of one of them (the separating axis
    theorem), and which lies within which.
    """
    sides = corners[:, [1, 3]] - corners[:, [0]]
    lengths = np.maximum(np.hypot(sides[..., 0], sides[..., 1]), LENGTH)
    axes = sides / lengths[..., None]
    along = np.einsum("iad,jkd->iajk", axes, corners - corners[:, :1].mean(axis=0))
    low, high = along.min(axis=3), along.max(axis=3)  # (rectangle of the axis, axis, rectangle)
    every = np.arange(len(corners))
    own_low, own_high = low[every, :, every][:, :, None], high[every, :, every][:, :, None]
    parted = np.any((low > own_high + LENGTH) | (high < own_low - LENGTH), axis=1)
    inside = np.all((low >= own_low) & (high <= own_high), axis=1).T
    near, within = ~(parted | parted.T), inside
    for table in (near, within):
        np.fill_diagonal(table, val=False)
    return near, within
