"""The pages of sheets about a mark, made from what a file is made from."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import wraps
from typing import TYPE_CHECKING

from kagami.exchange.delivery.ordering import Order, found_again

if TYPE_CHECKING:
    from kagami.exchange.sheets.leaf import Leaf


def _kept(make: Callable[[Order], list[Leaf]]) -> Callable[[Order], list[Leaf]]:
    """Pages are found again where they were made a moment ago: what is written is read back and compared with them."""

    @wraps(make)
    def pages(order: Order) -> list[Leaf]:
        key = ("pages", make.__name__, order.variant, order.change, order.art.title, order.art.author, order.art.box)
        return found_again(order.cache, order.plan, key, lambda: make(order))

    return pages


@_kept
def set_out_leaf(order: Order) -> list[Leaf]:
    """How a variant is set out: one page."""
    from kagami.exchange.sheets.setting_out import set_out
    from kagami.plan.evaluation.forms import formed

    marks = formed(order.result, order.variant)
    return [set_out(order.result, order.art, order.variant, marks, order.change)]


@_kept
def built_in_plates(order: Order) -> list[Leaf]:
    """How the mark was built, plate by plate."""
    from kagami.exchange.sheets.built import built_leaves

    return built_leaves(order.result, order.art)


def built_played(order: Order) -> tuple[Leaf, float]:
    """The same on one page that plays, with its seconds."""
    from kagami.exchange.sheets.built import played

    return played(order.result, order.art)


def built_as_it_ends(order: Order) -> list[Leaf]:
    """That page as it is seen in the end, and where nothing plays."""
    leaf, _ = built_played(order)
    return [replace(leaf, items=[item for item in leaf.items if item.ends is None])]


@_kept
def overview(order: Order) -> list[Leaf]:
    """All variants, sizes and tones."""
    from kagami.exchange.delivery.shown import overview_leaves

    return overview_leaves(order.plan, order.cache)


@_kept
def specimen(order: Order) -> list[Leaf]:
    """All colourways."""
    from kagami.exchange.delivery.shown import specimen_leaves

    return specimen_leaves(order.result)
