"""A mark's picture: its ink in a square, as cards and lists show it. It is stored with the revision that it shows."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Final

from django.utils.safestring import SafeString, mark_safe

from kagami.exchange.shown import shown_data
from kagami.exchange.svg import Frame
from kagami.geometry.measure.size import Box
from kagami.plan.evaluation.ink import Piece, ink_box, joined, pieces
from kagami.plan.evaluation.result import Result
from kagami.plan.tones.listed import INK
from web.memo import Memo
from web.pictures.paint import each_once, paint_of

PICTURE: Final = 100.0
PICTURES: Final[Memo["Picture"]] = Memo(most=300)
FRAMES: Final[Memo[Frame | None]] = Memo(most=300)


@dataclass(frozen=True)
class Filled:
    """Path data, the colour of its tone, empty where it has none, and the element of a gradient that the fill names."""

    data: str
    fill: str = ""
    paint: str = ""


@dataclass(frozen=True)
class Picture:
    """The ink in a square of 100 units; `sound` tells whether the plan holds no fault, `fault` is the number under
    which the log tells why there is no picture.
    """

    paths: tuple[Filled, ...] = ()
    sound: bool = True
    fault: str = ""

    @property
    def toned(self) -> bool:
        """Whether any of it has a tone."""
        return any(path.fill for path in self.paths)

    @property
    def paints(self) -> SafeString:
        """The elements of its gradients, each once."""
        return each_once(path.paint for path in self.paths)

    def data(self) -> dict[str, Any]:
        """As it is stored."""
        paths = [[path.data, path.fill, path.paint] for path in self.paths]
        return {"paths": paths, "sound": self.sound, "fault": self.fault}


def stored_picture(data: dict[str, Any] | None) -> Picture:
    """A picture as it was stored; an empty one where none was drawn yet."""
    if data is None:
        return Picture()
    paths = tuple(Filled(path, fill, mark_safe(paint[0]) if paint else "") for path, fill, *paint in data["paths"])
    return Picture(paths, data["sound"], data["fault"])


def picture_of(result: Result) -> Picture:
    """The ink of a mark, fitted into a square; drawn anew only when something of it is new."""
    return PICTURES.get(_key(result), lambda: pictures_alike([result])[0])


def _key(result: Result) -> object:
    """What a mark's picture is settled by."""
    marks = pieces(result)
    looks = tuple((p.id, result.outcomes[p.id].key, p.tone, p.colour, p.gradient) for p in marks)
    return looks, result.sound


def picture_from(marks: Sequence[Piece], around: Box | None, sound: bool = True) -> Picture:
    """Pieces in a square, of which a box fits in the middle; each in its colour, ink too."""
    named = [replace(piece, tone=piece.tone or INK) for piece in marks]
    return Picture(_paths(tuple(named), around, max(around.width, around.height) if around else 1.0), sound)


def pictures_alike(results: Sequence[Result]) -> list[Picture]:
    """The ink of several marks, each in the middle of its square, at one scale at which the largest fits."""
    marks = [joined(pieces(result)) for result in results]
    boxes = [ink_box(pieces) for pieces in marks]
    side = max((max(box.width, box.height) for box in boxes if box), default=1.0)
    drawn = zip(results, marks, boxes, strict=True)
    return [Picture(_paths(pieces, box, side), result.sound) for result, pieces, box in drawn]


def picture_frame(result: Result) -> Frame | None:
    """How a mark lies in its picture; None where it has no ink."""

    def found() -> Frame | None:
        around = ink_box(pieces(result))
        return _frame(around, max(around.width, around.height)) if around else None

    return FRAMES.get(_key(result), found)


def _frame(around: Box, side: float) -> Frame:
    left = around.left - (side - around.width) / 2
    top = around.top + (side - around.height) / 2
    return Frame(PICTURE / side, left, top, 3)


def _paths(marks: tuple[Piece, ...], around: Box | None, side: float) -> tuple[Filled, ...]:
    if around is None:
        return ()
    frame = _frame(around, side)
    found = []
    for piece in marks:
        fill, paint = paint_of(piece, frame)
        found.append(Filled(shown_data(piece.shape, frame), fill if piece.tone else "", paint))
    return tuple(found)
