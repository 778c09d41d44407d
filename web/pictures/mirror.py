"""The Mirror: the finished mark beside the sheet, and its first readings."""

from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.geometry.measure.size import Box
from kagami.geometry.measure.symmetry import ROUND, Symmetry
from kagami.geometry.tolerance import LENGTH
from kagami.plan.evaluation.ink import pieces
from kagami.plan.evaluation.lettered import LEGIBLE, legible_from, words_of
from kagami.plan.evaluation.readings import measure_mark
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import in_one_colour
from kagami.plan.lettering.setting import has_stems
from kagami.plan.messages import number_text
from kagami.plan.tones.seeing import least_step
from web.memo import Memo
from web.pictures.picture import PICTURE, Picture, picture_from, picture_of

MARGIN: Final = 4
MOST_NARROW: Final = 0.5
NO_PICTURE: Final = Picture()
SIZES: Final = (64, 32, 16)
MIRRORS: Final[Memo["Mirror"]] = Memo(most=300)


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
    one: Picture = NO_PICTURE
    """The mark in one colour, where it has several tones."""
    told: tuple[str, ...] = ()
    """What a designer should know of it at small sizes."""
    window: str = "-4 -4 108 108"
    """What of the picture's square is shown large: as much as the mark fills, so that a broad one is not small."""


NO_MIRROR: Final = Mirror(NO_PICTURE, (), False)
"""Stands for one that could not be drawn."""


def draw_mirror(result: Result) -> Mirror:
    """The Mirror of an evaluated plan; it is drawn anew only when something of the ink is new."""
    carved = [(outcome.id, outcome.key) for outcome in result.outcomes.values() if outcome.drawing]
    inked = [(piece.id, piece.tone, piece.colour, piece.gradient) for piece in pieces(result)]
    key = (tuple(carved), tuple(inked), result.plan.module, result.plan.one_colour, result.sound)
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
        if symmetry_text(found.toned) != symmetry_text(found.symmetry):
            rows.append(Reading(_("With its tones"), symmetry_text(found.toned)))
    if found.box is not None:
        module = result.plan.module
        width, height = (number_text(value * module.size) for value in (found.box.width, found.box.height))
        rows.append(Reading(_("Size"), f"{width} × {height} {module.unit}"))
    rows.extend(_of_words(result))
    rows.extend(_of_tones(result))
    picture = picture_of(result)
    one = picture_from(in_one_colour(result), found.box) if picture.toned else NO_PICTURE
    return Mirror(picture, tuple(rows), result.sound, one=one, told=_told(result, found.box), window=_window(found.box))


def _of_words(result: Result) -> list[Reading]:
    """How high the lowest letters are and how thick their stems, in real units."""
    words, module = words_of(result), result.plan.module
    if not words:
        return []
    lowest = min(words, key=lambda one: one.height)
    rows = [Reading(_("Letters high"), f"{number_text(lowest.height * module.size)} {module.unit}")]
    stems = [one.lettering.setting.stem for one in words if has_stems(one.lettering.setting)]
    if stems:
        rows.append(Reading(_("Stem of letters"), f"{number_text(min(stems) * module.size)} {module.unit}"))
    return rows


def _told(result: Result, around: Box | None) -> tuple[str, ...]:
    found = None if around is None else legible_from(result, around.longer)
    if found is None or found[0] <= min(SIZES):
        return ()
    text = _("Below {pixels} px the letters of {name} are under {legible} px high: a small variant drops them.")
    return (text.format(pixels=found[0], name=found[1].name, legible=number_text(LEGIBLE)),)


def _of_tones(result: Result) -> list[Reading]:
    """How many tones are in use, and how far the nearest two are apart to the eye."""
    colours = list(dict.fromkeys(piece.colour for piece in pieces(result)))
    if len(colours) < 2:
        return []
    found = [Reading(_("Tones in use"), str(len(colours)))]
    step = least_step(colours)
    if step is not None:
        found.append(Reading(_("Least step, to the eye"), f"ΔE {step:.1f}"))
    return found


def _window(around: Box | None) -> str:
    """A viewBox of the picture's square, no more than twice as broad as high, or as high as broad."""
    if around is None:
        return f"{-MARGIN} {-MARGIN} {PICTURE + 2 * MARGIN:g} {PICTURE + 2 * MARGIN:g}"
    side = max(around.width, around.height)
    width, height = (max(size / side, MOST_NARROW) * PICTURE + 2 * MARGIN for size in (around.width, around.height))
    return f"{(PICTURE - width) / 2:g} {(PICTURE - height) / 2:g} {width:g} {height:g}"


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
