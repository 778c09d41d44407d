"""A planned file, made and read back."""

from __future__ import annotations

from dataclasses import dataclass, replace

from kagami.exchange.artwork import Unwritable
from kagami.exchange.delivery.forms import ABOUT, FORMS
from kagami.exchange.delivery.ordering import Order, measured, order_of
from kagami.exchange.delivery.planning import Planned
from kagami.exchange.delivery.report import Report, report_on
from kagami.exchange.finished import NothingToDraw
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache


@dataclass(frozen=True, slots=True)
class Made:
    """A file with its report; where that is at fault, the file is not to be handed out."""

    data: bytes
    report: Report


def made(plan: Plan, cache: Cache, planned: Planned, *, brand: str = "", change: int = 0) -> Made:
    """Make a file and read it back. That of a variant that cannot be drawn is empty, and at fault; one that lacks what
    a step should draw is at fault too.

    Raises:
        NothingToDraw: the mark itself has no ink.
        PlanError: a value of the mark itself comes to nothing.
    """
    form = FORMS[planned.form]
    try:
        order = order_for(plan, cache, planned, brand=brand, change=change)
        data = form.write(order)
    except Unwritable as error:
        return Made(b"", Report(0, (str(error),)))
    except (NothingToDraw, PlanError) as error:
        if not planned.variant:
            raise
        return Made(b"", Report(0, (str(error),)))
    report = report_on(order, form, data, cache)
    if form.reads:
        report = replace(report, hidden=order.art.hidden)
    if planned.variant and not order.result.sound:
        report = replace(report, faults=("a step of it wants mending, so that a part may lack", *report.faults))
    return Made(data, report)


def order_for(plan: Plan, cache: Cache, planned: Planned, *, brand: str = "", change: int = 0) -> Order:
    """What a planned file is made from; without a variant, or about the mark as a whole, the mark as it is built.

    Raises:
        NothingToDraw: its variant has no ink.
        PlanError: a value of its variant comes to nothing.
    """
    variant = plan.variant(planned.variant) if planned.variant else None
    order = order_of(plan, cache, variant, brand=brand, change=change)
    plain = variant is None and FORMS[planned.form].format != ABOUT
    art = replace(order.art, box=order.art.ink, clear=0.0) if plain else order.art
    order = replace(order, art=art, size=planned.size)
    return measured(order) if FORMS[planned.form].reads in ("png", "webp", "ico") else order
