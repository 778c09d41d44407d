"""Bringing sketches under a mark's sheet, laying them, and taking them away."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any, Final
from uuid import UUID

from django.contrib.auth.models import AbstractBaseUser
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils.translation import gettext as _

from kagami.exchange.sketches.checking import Checked
from kagami.exchange.sketches.errors import SketchError
from kagami.exchange.sketches.lying import Lying, bounded, fitting, laid, moved
from kagami.exchange.sketches.squaring import Squared
from kagami.exchange.sketches.typed import DEGREES, LENGTH, PERCENT, number_of
from kagami.geometry.point import Point
from kagami.plan.limits import NAME_LENGTH
from kagami.plan.wording.texts import plain_text
from web.marks.models import Mark
from web.marks.services.holding import handled, held, remember
from web.sketches.given import MOST_TYPED, line_of
from web.sketches.models import Sketch

MOST_SKETCHES: Final = 12
LEAST_DARK, MOST_DARK = 5, 100
FIELDS: Final = {"name": "", "darkness": PERCENT, "wide": LENGTH, "turned": DEGREES, "right": LENGTH, "up": LENGTH}
"""What can be typed of a sketch, and in which unit."""


@transaction.atomic
def bring(actor: AbstractBaseUser, mark: Mark, name: str, picture: Checked, side: float) -> Sketch:
    """Lay a picture under a mark's sheet, within a square of a side in u; what lay there is laid aside.

    Raises:
        SketchError: the mark has as many as may be.
        PermissionDenied, MarkGone: as `held`.
    """
    mark = held(actor, mark)
    if mark.sketches.count() >= MOST_SKETCHES:
        raise SketchError("too-many-sketches", most=MOST_SKETCHES)
    mark.sketches.update(under=False)
    made = Sketch(mark=mark, name=_name(name), author=actor, under=True)
    made.width, made.height = picture.width, picture.height
    made.lying = fitting(picture.width, picture.height, side)
    default_storage.save(made.path, ContentFile(picture.data))
    made.save()
    return made


def is_done(mark: Mark, identity: UUID | None) -> bool:
    """Whether the change of an id was made already."""
    return handled(mark, identity) is not None


@transaction.atomic
def lay_squared(
    actor: AbstractBaseUser, sketch: Sketch, made: Squared, wide: float, middle: Point, identity: UUID | None = None
) -> None:
    """Lay a sketch that was squared up in place of the one that it was made from, which is laid aside: its rectangle is
    so wide, in u, and has its middle at a place. With an `identity` it is done once.

    Raises:
        SketchError: that one lies there no more; the mark has as many as may be; it would be too small or too large.
        PermissionDenied, MarkGone: as `held`.
    """
    mark = held(actor, sketch.mark)
    if handled(mark, identity) is not None:
        return
    before = _under(mark)
    if before.pk != sketch.pk:
        raise SketchError("no-sketch")
    if mark.sketches.count() >= MOST_SKETCHES:
        raise SketchError("too-many-sketches", most=MOST_SKETCHES)
    each, picture = wide / made.wide, made.picture
    x, y = made.middle
    new = Sketch(mark=mark, author=actor, under=True, darkness=before.darkness)
    new.name = _("{name} from above").format(name=before.name)[:NAME_LENGTH]
    new.width, new.height = picture.width, picture.height
    new.lying = bounded(Lying(Point(middle.x - x * each, middle.y - y * each), picture.width * each))
    mark.sketches.update(under=False)
    default_storage.save(new.path, ContentFile(picture.data))
    new.save()
    remember(mark, identity)


def _name(file: str) -> str:
    """What a sketch is called after its file."""
    stem = file.replace("\\", "/").rpartition("/")[2].rpartition(".")[0] or file
    words = " ".join(stem.replace("_", " ").replace("-", " ").split())
    return words[:NAME_LENGTH] if plain_text(words) and words else _("sketch")


@transaction.atomic
def copy_under(actor: AbstractBaseUser, mark: Mark, to: Mark) -> None:
    """Lay the sketch under a mark's sheet under that of another one too, which is its copy."""
    sketch = under(mark)
    if sketch is None:
        return
    to = held(actor, to)
    try:
        with default_storage.open(sketch.path) as file:
            data = file.read()
    except FileNotFoundError:  # its picture is gone: there is nothing to copy
        return
    kept = ("name", "width", "height", "shown", "darkness", "right", "up", "wide", "turned")
    made = Sketch(mark=to, under=True, author=actor, **{name: getattr(sketch, name) for name in kept})
    default_storage.save(made.path, ContentFile(data))
    made.save()


@transaction.atomic
def change(
    actor: AbstractBaseUser, mark: Mark, doing: str, given: Mapping[str, Any], identity: UUID | None = None
) -> None:
    """Change how a mark's sketches lie, as one of `DOINGS`. With an `identity` it is done once.

    Raises:
        SketchError: it cannot be done, with why.
        KeyError: there is no such doing.
        PermissionDenied, MarkGone: as `held`.
    """
    act = DOINGS[doing]
    mark = held(actor, mark)
    if handled(mark, identity) is not None:
        return
    act(mark, given)
    remember(mark, identity)


def under(mark: Mark) -> Sketch | None:
    """The sketch that lies under a mark's sheet."""
    return mark.sketches.filter(under=True).first()


def _under(mark: Mark) -> Sketch:
    found = under(mark)
    if found is None:
        raise SketchError("no-sketch")
    return found


def _named(mark: Mark, given: Mapping[str, Any]) -> Sketch:
    text = str(given.get("sketch", ""))
    found = mark.sketches.filter(pk=int(text)).first() if text.isdecimal() and len(text) < 18 else None
    if found is None:
        raise SketchError("no-sketch")
    return found


def _lay(sketch: Sketch, lying: Lying) -> None:
    """Let a sketch lie otherwise; how it lay is kept."""
    before = sketch.lying
    if lying == before:
        return
    sketch.before = {"right": sketch.right, "up": sketch.up, "wide": sketch.wide, "turned": sketch.turned}
    sketch.lying = lying
    sketch.save()


def _show(mark: Mark, given: Mapping[str, Any]) -> None:
    sketch = _under(mark)
    sketch.shown = given.get("shown") is True
    sketch.save()


def _set_value(mark: Mark, given: Mapping[str, Any]) -> None:
    """Set `field`, one of `FIELDS`, to what `value` says."""
    sketch, field, text = _under(mark), str(given.get("field")), str(given.get("value", ""))[:MOST_TYPED]
    if field == "name":
        sketch.name = " ".join(text.split())[:NAME_LENGTH] or sketch.name
        sketch.save()
        return
    value, lying = number_of(text, FIELDS[field]), sketch.lying
    if field == "darkness":
        if not LEAST_DARK <= round(value) <= MOST_DARK:
            raise SketchError("sketch-darkness", least=LEAST_DARK, most=MOST_DARK)
        sketch.darkness = round(value)
        sketch.save()
        return
    x, y = lying.middle
    otherwise = {
        "wide": replace(lying, wide=value),
        "turned": replace(lying, turned=value),
        "right": replace(lying, middle=Point(value, y)),
        "up": replace(lying, middle=Point(x, value)),
    }
    _lay(sketch, bounded(otherwise[field]))


def _move(mark: Mark, given: Mapping[str, Any]) -> None:
    sketch = _under(mark)
    _lay(sketch, moved(sketch.lying, line_of(given)))


def _measure(mark: Mark, given: Mapping[str, Any]) -> None:
    """Lay it so that `line` is `length` long and, where asked, `straight`, its middle `on_middle`."""
    sketch = _under(mark)
    length = number_of(str(given.get("length", ""))[:MOST_TYPED], LENGTH)
    straight, onto_middle = given.get("straight") is True, given.get("on_middle") is True
    _lay(sketch, laid(sketch.lying, line_of(given), length, straight=straight, onto_middle=onto_middle))


def _as_before(mark: Mark, _given: Mapping[str, Any]) -> None:
    """Let it lie as before; and again, as after."""
    sketch = _under(mark)
    if sketch.before is not None:
        was = sketch.before
        _lay(sketch, Lying(Point(was["right"], was["up"]), was["wide"], was["turned"]))


def _lay_aside(mark: Mark, _given: Mapping[str, Any]) -> None:
    mark.sketches.update(under=False)


def _lay_under(mark: Mark, given: Mapping[str, Any]) -> None:
    sketch = _named(mark, given)
    mark.sketches.update(under=False)
    sketch.under = sketch.shown = True
    sketch.save()


def _take_away(mark: Mark, given: Mapping[str, Any]) -> None:
    _named(mark, given).delete()


DOINGS: Final[dict[str, Callable[[Mark, Mapping[str, Any]], None]]] = {
    "show": _show,
    "set": _set_value,
    "move": _move,
    "measure": _measure,
    "as-before": _as_before,
    "lay-aside": _lay_aside,
    "lay-under": _lay_under,
    "take-away": _take_away,
}
"""What can be done with a mark's sketches."""
