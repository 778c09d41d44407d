"""Path data for looking, as quickly as it can be had: the pages' pictures of what a hand moves."""

from __future__ import annotations

from typing import Final

from kagami.exchange.svg import Frame, path_data
from kagami.geometry.loading import quick
from kagami.geometry.outline import Shape
from kagami.geometry.table import gathered

FEW: Final = 6
"""So few curves, held as values, are written as soon as they are in columns."""


def shown_data(shape: Shape, frame: Frame) -> str:
    """The outlines of a shape as path data: as `svg.path_data`, but that a coordinate in the middle between two last
    decimals may be rounded to the other one.
    """
    if quick("joining") is None or (shape.columns is None and shape.count < FEW):
        return path_data(shape, frame)
    from kagami.exchange.path_text import path_text  # compiled: loaded where the others are

    columns, _owner = gathered([shape])
    view = (frame.scale, frame.left, frame.top, frame.decimals, frame.slack)
    return path_text(columns.kind, columns.rows, columns.begin, columns.closed, *view).tobytes().decode("ascii")
