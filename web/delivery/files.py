"""Files of a package: which there are, each made and read back, and who takes it. Work for evaluators."""

from dataclasses import dataclass

from django.utils.translation import gettext as _

from kagami.exchange.artwork import Artwork
from kagami.exchange.delivery.forms import FORMS
from kagami.exchange.delivery.making import made, order_for
from kagami.exchange.delivery.ordering import fineness_of
from kagami.exchange.delivery.planning import Planned, of_one_colour, planned_files
from kagami.exchange.delivery.receivers import RECEIVERS, Verdict, asked
from kagami.exchange.delivery.report import Report
from kagami.geometry.point import Point
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.messages import number_text
from web.delivery.telling import Row, held_together, rows_of
from web.pictures.picture import PICTURE


@dataclass(frozen=True)
class Made:
    """A file, what was read back in it, and what it is for."""

    data: bytes
    report: Report
    purpose: str
    media: str


@dataclass(frozen=True)
class Said:
    """What a receiver says, in words, and where its reasons lie in the square of the picture."""

    receiver: str
    takes: bool
    words: str
    met: str


@dataclass(frozen=True)
class Examined:
    """A file's report as rows, what receivers say, and the places that it is about, in a square of 100."""

    name: str
    purpose: str
    rows: tuple[Row, ...]
    sound: bool
    said: tuple[Said, ...]
    places: tuple[tuple[float, float], ...]
    seen: bool = False
    """Whether there is a picture of it."""


def files_planned(plan: Plan, cache: Cache, brand: str) -> tuple[Planned, ...]:
    """The files of a package, in order."""
    return planned_files(plan, brand, frozenset(of_one_colour(plan, cache)))


def made_file(plan: Plan, cache: Cache, planned: Planned, brand: str, change: int) -> Made:
    """One of them."""
    done = made(plan, cache, planned, brand=brand, change=change)
    return Made(done.data, done.report, purpose_of(planned), FORMS[planned.form].media)


def named_file(plan: Plan, cache: Cache, name: str, brand: str, change: int) -> Made | None:
    """The file of a name; None where a package would hold none."""
    planned = next((one for one in files_planned(plan, cache, brand) if one.name == name), None)
    return made_file(plan, cache, planned, brand, change) if planned is not None else None


def plain_file(plan: Plan, cache: Cache, form: str, size: int, brand: str) -> Made:
    """The mark as it is built, its box tight round the ink, in a form; no variant is asked for."""
    done = made(plan, cache, Planned("", "", form, size), brand=brand)
    return Made(done.data, done.report, _(FORMS[form].purpose), FORMS[form].media)


def purpose_of(planned: Planned) -> str:
    """What a file is for, in words."""
    words = _(FORMS[planned.form].purpose)
    return f"{words}, {planned.size} px" if planned.size else words


def examined(plan: Plan, cache: Cache, name: str, brand: str, change: int) -> Examined | None:
    """The report of a file, and who will take it; None where a package would hold no such file."""
    planned = next((one for one in files_planned(plan, cache, brand) if one.name == name), None)
    if planned is None:
        return None
    done = made(plan, cache, planned, brand=brand, change=change)
    report = done.report
    if not done.data:
        return Examined(name, purpose_of(planned), tuple(rows_of(report, "")), False, (), ())
    order = order_for(plan, cache, planned, brand=brand, change=change)
    size = number_text(float(f"{order.art.ink.height * order.art.millimetres:.3g}"))
    where = _("at {size} px").format(size=planned.size) if report.pixels else _("at {size} mm").format(size=size)
    form = FORMS[planned.form]
    said, places = [], []
    fine = fineness_of(order, cache)
    for receiver in RECEIVERS:
        if form.sheet or planned.form not in receiver.limits.files:
            continue
        verdict = asked(receiver, order.art, fine, report if report.counts is not None else None)
        said.append(_said(verdict))
        places += [_place(order.art, one.place) for one in verdict.reasons if one.place is not None]
    thin = [way for way in (fine.ink, fine.white) if way is not None and not form.sheet]
    scale = max(report.size) / order.art.box.longer if report.pixels else order.art.millimetres
    for way in thin:
        if way.distance * scale < report.limit - 1e-9:
            places.append(_place(order.art, Point((way.first.x + way.second.x) / 2, (way.first.y + way.second.y) / 2)))
    rows = tuple(rows_of(report, where))
    seen = report.sound and form.ending in ("svg", "pdf", "png", "webp", "ico")
    return Examined(name, purpose_of(planned), rows, report.sound, tuple(said), tuple(dict.fromkeys(places)), seen)


def _said(verdict: Verdict) -> Said:
    met = ""
    if verdict.met_from is not None and not verdict.takes:
        met = _("Its thicknesses are met from {size} mm up.").format(size=number_text(float(f"{verdict.met_from:.3g}")))
    words = "; ".join(one.words for one in verdict.reasons) or verdict.told
    return Said(_(verdict.receiver), verdict.takes, held_together(words), held_together(met))


def _place(art: Artwork, place: Point) -> tuple[float, float]:
    """A place of the mark in the square of 100 in which its box is shown."""
    box = art.box
    scale = PICTURE / box.longer
    x, y = box.centre
    return (
        round(PICTURE / 2 + (place.x - x) * scale, 2),
        round(PICTURE / 2 - (place.y - y) * scale, 2),
    )
