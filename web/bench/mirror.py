"""The Mirror: the finished mark beside the sheet, and its first readings."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.exchange.svg import Frame, path_data
from kagami.geometry.measure.size import Box
from kagami.geometry.measure.symmetry import ROUND, Symmetry
from kagami.geometry.tolerance import LENGTH
from kagami.plan.evaluation.ink import Piece, pieces
from kagami.plan.evaluation.readings import ink_box, measure_mark
from kagami.plan.evaluation.result import Result
from kagami.plan.messages import number_text
from web.marks.services.memo import Memo

PICTURE: Final = 100.0
SIZES: Final = (64, 32, 16)
MIRRORS: Final[Memo["Mirror"]] = Memo(most=300)


@dataclass(frozen=True)
class Filled:
    """Path data, and the colour of its tone, empty where it has none."""

    data: str
    fill: str = ""


@dataclass(frozen=True)
class Picture:
    """The ink in a square of 100 units."""

    paths: tuple[Filled, ...]

    @property
    def toned(self) -> bool:
        """Whether any of it has a tone."""
        return any(path.fill for path in self.paths)


@dataclass(frozen=True)
class Reading:
    """A measured value as it is shown."""

    name: str
    value: str
    exact: bool = False


@dataclass(frozen=True)
class Mirror:
    """All that the Mirror's template needs."""

    picture: Picture
    readings: tuple[Reading, ...]
    sound: bool
    sizes: tuple[int, ...] = SIZES


NO_MIRROR: Final = Mirror(Picture(()), (), False)
"""Stands for one that could not be drawn."""


def picture_of(result: Result) -> Picture:
    """The ink of a mark, fitted into a square."""
    return pictures_alike([result])[0]


def pictures_alike(results: Sequence[Result]) -> list[Picture]:
    """The ink of several marks, each in the middle of its square, at one scale at which the largest fits."""
    marks = [pieces(result) for result in results]
    boxes = [ink_box(pieces) for pieces in marks]
    side = max((max(box.width, box.height) for box in boxes if box), default=1.0)
    return [_picture(pieces, box, side) for pieces, box in zip(marks, boxes, strict=True)]


def _picture(marks: tuple[Piece, ...], around: Box | None, side: float) -> Picture:
    if around is None:
        return Picture(())
    left = around.left - (side - around.width) / 2
    top = around.top + (side - around.height) / 2
    frame = Frame(PICTURE / side, left, top, 3)
    return Picture(tuple(Filled(path_data(piece.shape, frame), piece.colour if piece.tone else "") for piece in marks))


def draw_mirror(result: Result) -> Mirror:
    """The Mirror of an evaluated plan; it is drawn anew only when something of the ink is new."""
    carved = [(outcome.id, outcome.key) for outcome in result.outcomes.values() if outcome.drawing]
    inked = [(piece.id, piece.tone, piece.colour) for piece in pieces(result)]
    key = (tuple(carved), tuple(inked), result.plan.module, result.sound)
    return MIRRORS.get(key, lambda: _drawn(result))


def _drawn(result: Result) -> Mirror:
    found = measure_mark(result)
    rows = [
        Reading(
            _("Regions"),
            _("{kept} of {all}").format(kept=found.regions_kept, all=found.regions) if found.regions else _("none"),
        ),
        Reading(_("Nodes"), str(found.nodes)),
        Reading(_("Ink"), f"{found.ink:.0%}".replace("%", " %")),
        Reading(_("Symmetry"), symmetry_text(found.symmetry)),
    ]
    if found.symmetry is not None and (found.symmetry.order != 1 or found.symmetry.mirrored):
        rows.append(Reading(_("Symmetry error"), _error_text(found.symmetry.error), exact=True))
    if found.box is not None:
        module = result.plan.module
        width, height = (number_text(value * module.size) for value in (found.box.width, found.box.height))
        rows.append(Reading(_("Size"), f"{width} × {height} {module.unit}"))
    return Mirror(picture_of(result), tuple(rows), result.sound)


def symmetry_text(symmetry: Symmetry | None) -> str:
    """The symmetry in words."""
    if symmetry is None or (symmetry.order == 1 and not symmetry.mirrored):
        return _("none")
    if symmetry.order == ROUND:
        return _("round")
    if symmetry.order == 1:
        return _("mirrored")
    text = _("{order}-fold, mirrored") if symmetry.mirrored else _("{order}-fold")
    return text.format(order=symmetry.order)


def _error_text(error: float) -> str:
    return "± 0" if error < LENGTH else f"{error:.1e} u"
