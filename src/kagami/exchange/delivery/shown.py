"""What overviews and specimens show of a plan: its variants, tones and colourways."""

from __future__ import annotations

from kagami.exchange.delivery.ordering import order_of
from kagami.exchange.finished import NothingToDraw, artwork
from kagami.exchange.sheets.leaf import Leaf
from kagami.exchange.sheets.overview import Shown, Swatch, plates_leaves, tones_leaf
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.forms import formed, real_millimetres, size_text, sizes_of
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.roles import dressed
from kagami.plan.evaluation.standing_out import standing_out
from kagami.plan.language.colourways import roles_in_words
from kagami.plan.messages import number_text
from kagami.plan.tones.colourways import colours_in
from kagami.plan.tones.listed import GROUND
from kagami.plan.variants.variant import Variant


def overview_leaves(plan: Plan, cache: Cache) -> list[Leaf]:
    """All variants on their grounds with clear space and smallest size, then all tones."""
    shown = [one for variant in plan.variants if (one := _variant(plan, cache, variant)) is not None]
    leaves = plates_leaves(plan.title, "its variants", shown)
    colours = colours_in(plan.tones, None).known
    listed = {name: colours[name] for name in dict.fromkeys([*colours, *(tone.name for tone in plan.tones)])}
    return leaves + tones_leaf(plan.title, [Swatch(name, colour) for name, colour in listed.items()])


def _variant(plan: Plan, cache: Cache, variant: Variant) -> Shown | None:
    try:
        order = order_of(plan, cache, variant)
    except (PlanError, NothingToDraw):
        return None  # its own page says what is wrong
    sizes = sizes_of(order.result, variant, formed(order.result, variant))
    finest = sizes.smallest_millimetres() if sizes else None
    given = real_millimetres(variant.smallest) or finest
    smallest = size_text(given) if given is not None else ""
    told = [f"clear space {number_text(order.art.clear)}u" + (f", smallest {smallest}" if smallest else "")]
    told += [f"for pictures under {variant.below} px"] if variant.below else []
    told += [variant.note] if variant.note else []
    return Shown(order.art, order.ground, variant.name, tuple(told), clear=True)


def specimen_leaves(result: Result) -> list[Leaf]:
    """All colourways, those that are chosen first, with their roles and contrast."""
    plan = result.plan
    shown = []
    for colourway in sorted(plan.colourways, key=lambda one: not one.chosen):
        try:
            art = artwork(plan, result, colourway=colourway)
        except NothingToDraw:
            continue  # all of it is left out in this one
        ground = colours_in(plan.tones, colourway).known[GROUND]
        contrast = standing_out(dressed(result, colourway), ground)
        told = [roles_in_words(colourway), *([colourway.note] if colourway.note else [])]
        name = colourway.name + (", chosen" if colourway.chosen else "")
        if contrast is not None:
            told.append(f"contrast {contrast.least:.1f} : 1")
        shown.append(Shown(art, ground, name, tuple(told)))
    return plates_leaves(plan.title, "its colourways", shown)
