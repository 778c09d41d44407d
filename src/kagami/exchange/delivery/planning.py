"""Which files a package holds, with their names: known before any of them is made."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from kagami.exchange.artwork import Artwork
from kagami.exchange.delivery.forms import ABOUT, FORMS, Form
from kagami.exchange.delivery.ordering import order_of
from kagami.exchange.names import free_name
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.variants.naming import free_among, named_by
from kagami.plan.variants.variant import Package, Variant


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
    folders: set[str] = set()
    found = []
    for variant in plan.variants:
        folder = _folder(plan, brand, variant, folders)
        for key, form in FORMS.items():
            plain = variant.name in one_colour
            if form.format not in variant.formats or (form.several_colours if plain else form.one_colour):
                continue
            for size in sizes_in(form, package, variant):
                if form.folder:
                    name = free_among(f"{folder}-{form.folder}/{form.stem}", form.ending, taken)
                else:
                    name = _name(plan, package, brand, variant, form, size, taken)
                found.append(Planned(name, variant.name, key, size))
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


def _folder(plan: Plan, brand: str, variant: Variant, taken: set[str]) -> str:
    """What the folders of a variant begin with: its own, since files in them call each other by name."""
    stem = named_by("{brand}-{mark}-{variant}", _words(plan, brand, variant, "", ""))
    return free_name(stem, taken)


def _name(plan: Plan, package: Package, brand: str, variant: Variant, form: Form, size: int, taken: set[str]) -> str:
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
