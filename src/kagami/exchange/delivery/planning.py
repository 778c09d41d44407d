"""Which files a package holds, with their names: known before any of them is made."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from kagami.exchange.artwork import Artwork
from kagami.exchange.delivery.forms import ABOUT, FORMS, Form, Order
from kagami.exchange.finished import variant_artwork
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import ground_of
from kagami.plan.variants.naming import free_among, named_by
from kagami.plan.variants.variant import Package, Variant
from kagami.plan.variants.varying import varied


@dataclass(frozen=True, slots=True)
class Planned:
    """A file that a package is to hold: its name (with its folder), the variant, its form and its pixels."""

    name: str
    variant: str
    form: str
    size: int = 0


def planned_files(plan: Plan, brand: str, one_colour: frozenset[str]) -> tuple[Planned, ...]:
    """The files of all variants, in order; `one_colour` names the variants that are of one colour."""
    package = plan.package or Package()
    taken: set[str] = set()
    found = []
    for variant in plan.variants:
        for key, form in FORMS.items():
            if form.format not in variant.formats or (form.one_colour and variant.name not in one_colour):
                continue
            for size in sizes_in(form, package, variant):
                found.append(Planned(_name(plan, package, brand, variant, form, size, taken), variant.name, key, size))
    stem = named_by("{brand}-{mark}", _words(plan, brand, Variant(name="all"), "", ""))
    for key, form in FORMS.items() if found else ():
        if form.format == ABOUT and (not form.of_colourways or plan.colourways):
            found.append(Planned(free_among(f"{stem}-{form.kind}", form.ending, taken), "", key))
    return tuple(found)


def sizes_in(form: Form, package: Package, variant: Variant) -> tuple[int, ...]:
    """The pixels in which a form is made; a variant that is meant for small pictures is made in no larger ones, if
    there are any.
    """
    if not form.sized:
        return (form.pixels,)
    small = tuple(size for size in package.pixels if not variant.below or size < variant.below)
    return small or package.pixels


def _name(plan: Plan, package: Package, brand: str, variant: Variant, form: Form, size: int, taken: set[str]) -> str:
    if form.folder:
        stem = named_by("{brand}-{mark}-{variant}", _words(plan, brand, variant, "", ""))
        folder = f"{stem}-{form.folder}"
        number = f"-{size}" if form.pixels else ""
        file = f"{form.kind}{number}"
        return free_among(f"{folder}/{file}", form.ending, taken)
    words = _words(plan, brand, variant, form.kind, str(size) if size else package.height)
    pattern = package.pattern
    if form.kind and "{kind}" not in pattern:
        pattern += "-{kind}"
    if form.sized and "{size}" not in pattern:
        pattern += "-{size}"
    return free_among(named_by(pattern, words), form.ending, taken)


def _words(plan: Plan, brand: str, variant: Variant, kind: str, size: str) -> dict[str, str]:
    return {
        "brand": brand,
        "mark": plan.title,
        "variant": variant.name,
        "colourway": variant.colourway,
        "form": variant.form.replace(" ", "-") if variant.form != "as it is" else "",
        "size": size,
        "kind": kind,
    }


def order_of(
    plan: Plan, cache: Cache, variant: Variant | None, *, brand: str = "", size: int = 0, change: int = 0
) -> Order:
    """What the files of a variant are made from.

    Raises:
        NothingToDraw: it has no ink.
        PlanError: a field or its form comes to nothing.
    """
    result = evaluate(varied_in(plan, cache, variant), cache)
    package = plan.package or Package()
    art = variant_artwork(result, variant, height=package.height, author=brand)
    ground = ground_of(result, variant)
    return Order(art, ground, variant is not None and variant.plate, result, cache, variant, size, change)


def varied_in(plan: Plan, cache: Cache, variant: Variant | None) -> Plan:
    """The plan of a variant, found again where it was asked for a moment ago, so that what it came to is too."""
    if variant is None or not variant.alters:
        return plan
    key = ("varied", variant)
    known = cache.result(plan, key)
    if isinstance(known, Plan):
        return known
    made = varied(plan, variant)
    cache.put_result(plan, key, made)
    return made


def of_one_colour(plan: Plan, cache: Cache) -> Iterator[str]:
    """The names of the variants whose mark is of one colour."""
    for variant in plan.variants:
        art = artwork_or_none(plan, cache, variant)
        if art is not None and art.one_colour is not None:
            yield variant.name


def artwork_or_none(plan: Plan, cache: Cache, variant: Variant) -> Artwork | None:
    """The artwork of a variant; None where it cannot be drawn, which its own page tells."""
    from kagami.exchange.finished import NothingToDraw
    from kagami.plan.errors import PlanError

    try:
        return order_of(plan, cache, variant).art
    except (NothingToDraw, PlanError):
        return None
