"""What a file is made from."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, TypeVar

from kagami.exchange.artwork import Artwork
from kagami.exchange.finished import variant_artwork
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import formed, ground_of
from kagami.plan.evaluation.result import Result
from kagami.plan.variants.variant import Package, Variant
from kagami.plan.varying import varied

if TYPE_CHECKING:
    from kagami.plan.evaluation.fineness import Fineness

T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Order:
    """What a file is made from: a variant's artwork, its ground as a colour, whether that is drawn, and the pixels of
    a picture's longer side; besides the plan itself, evaluated, and the change that it is.
    """

    art: Artwork
    ground: str
    on_ground: bool
    result: Result
    cache: Cache
    variant: Variant | None
    size: int = 0
    change: int = 0

    @property
    def plan(self) -> Plan:
        """The variant's plan."""
        return self.result.plan

    @property
    def behind(self) -> str | None:
        """The colour that is drawn behind the mark, None where it stands clear."""
        return self.ground if self.on_ground else None


def order_of(
    plan: Plan, cache: Cache, variant: Variant | None, *, brand: str = "", size: int = 0, change: int = 0
) -> Order:
    """What the files of a variant are made from.

    Raises:
        NothingToDraw: it has no ink.
        PlanError: a field or its form comes to nothing.
    """
    result = evaluate(varied_in(plan, cache, variant), cache)
    height = (plan.package or Package()).height
    art = found_again(
        cache,
        result.plan,
        ("artwork", variant, height, brand),
        lambda: variant_artwork(result, variant, height=height, author=brand),
    )
    ground = ground_of(result, variant)
    return Order(art, ground, variant is not None and variant.plate, result, cache, variant, size, change)


def found_again(cache: Cache, plan: Plan, of: Hashable, make: Callable[[], T]) -> T:
    """What was made of a plan a moment ago, or is made now."""
    known: T | None = cache.result(plan, of)
    if known is None:
        known = make()
        cache.put_result(plan, of, known)
    return known


def varied_in(plan: Plan, cache: Cache, variant: Variant | None) -> Plan:
    """The plan of a variant, found again where it was asked for a moment ago, so that what it came to is too."""
    if variant is None or not variant.alters:
        return plan
    return found_again(cache, plan, ("varied", variant), lambda: varied(plan, variant))


def fineness_of(order: Order, cache: Cache) -> Fineness:
    """The thinnest parts of a variant, measured once."""
    from kagami.plan.evaluation.fineness import Known, fineness  # loaded where somebody measures

    def made() -> Fineness:
        # Colourways of one plan have their parts in common.
        known: Known = found_again(cache, order.plan, "thinnest places", dict)
        return fineness(formed(order.result, order.variant), known=known)

    return found_again(cache, order.plan, ("fineness", order.variant), made)


def measured(order: Order) -> Order:
    """The order with how fine its artwork is, so that small pictures keep what has a pixel."""
    finest = fineness_of(order, order.cache).finest
    return replace(order, art=replace(order.art, finest=finest or 0.0))
