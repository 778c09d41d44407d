"""What a hand on the sheet gives a step that is begun, for the page to know and in words."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from kagami.geometry.point import ORIGIN, Point
from kagami.plan.fields.figures import FigureKind, FiguresKind
from kagami.plan.messages import listing
from kagami.plan.steps import Step, kind_of
from kagami.plan.translation import tr


@dataclass(frozen=True)
class ByHand:
    """How a step is begun on the sheet."""

    press: str = ""
    """What a press on the sheet gives it, in words; empty where it is not begun there."""
    place: str = ""
    """The field of the place that it gives."""
    release: bool = False
    """Whether the hand must be drawn on, to where another place is given."""
    presses: bool = False
    """Whether each press adds a place."""
    way: bool = False
    """Whether the whole way of the hand counts."""
    regions: bool = False
    """Whether what it keeps is pressed on there, as soon as it stands."""
    picks: bool = False
    """Whether a press on a figure there fills it in."""
    areas: bool = False
    """Whether only figures that bound an area can be picked for it."""
    over: bool = False
    """Whether a way drawn over the sheet tells how far it goes and which way."""
    aside: str = ""
    """What else can be done with it there, in words."""


def by_hand(cls: type[Step]) -> ByHand:
    """How steps of a kind are begun on the sheet."""
    kinds = cls.field_kinds().values()
    split, regions = kind_of(cls) == "split", any(not kind.typed for kind in kinds)
    pressed = bool(cls.press or cls.presses or cls.trail or regions or split)
    picks = not pressed and any(isinstance(kind, FigureKind | FiguresKind) for kind in kinds)
    aside = ""
    if split:
        aside = _("Click a piece on the sheet, near the line that is to divide it")
    elif regions:
        aside = _("Click the regions on the sheet that are to be kept, or draw a line across them")
    elif cls.by_way:
        aside = _("Draw over the sheet how far and which way; click figures to take others; Enter adds it as it stands")
    elif picks:
        aside = _("Click figures on the sheet to take others, one after the other; Enter adds it")
    return ByHand(
        press=_press(cls),
        place=cls.press,
        release=bool(cls.release),
        presses=bool(cls.presses),
        way=bool(cls.trail),
        regions=regions,
        picks=picks,
        areas=not cls.takes_lines,
        over=cls.by_way,
        aside=aside,
    )


def _press(cls: type[Step]) -> str:
    """What a hand gives on the sheet, in words."""
    if cls.presses:
        return _("Press on the sheet for each place; Enter ends it, a press on the first closes it")
    if cls.trail:
        return _("Press and draw on the sheet: the line is steadied when you let go")
    if not cls.press:
        return ""
    onward = [cls.release] if cls.release else [name for name in cls.swept(ORIGIN, Point(1.0, 1.0)) if name != "held"]
    if not onward:
        return _("Press on the sheet for the {place}").format(place=tr(cls.press))
    text = _("Press on the sheet for the {place}, draw on for the {values}")
    return text.format(place=tr(cls.press), values=listing([tr(name) for name in onward]))
