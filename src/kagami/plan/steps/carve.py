"""The carve: regions kept or dropped, a whole orbit at once."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

import numpy as np

from kagami.geometry.arrangement import Arrangement
from kagami.geometry.arrays import Bools
from kagami.geometry.crumbs import Crumb, broadest_neighbour, crumbs
from kagami.geometry.outline import Shape
from kagami.geometry.point import Point
from kagami.geometry.selection import outline_of_faces
from kagami.plan.dimensions.drawn import corner_of
from kagami.plan.dimensions.kinds import Word
from kagami.plan.fields import CHOICE, Picks, WholeFigureRefs
from kagami.plan.figure import Figure
from kagami.plan.places.regions import Cutting, Regions, chosen, cut_by
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

MOST_NOTES = 6


@dataclass(frozen=True)
class CarveDetail:
    """The regions that a carve chooses among, and which of them it keeps, (faces,)."""

    cutting: Cutting
    kept: Bools
    crumbs: tuple[Point, ...] = ()
    """A place in each region that is too small to be meant and does not go with its broadest neighbour."""

    @property
    def regions(self) -> Regions:
        """The regions that all of its figures make."""
        return self.cutting.regions

    @property
    def weight(self) -> int:
        """About how many bytes it takes."""
        return self.cutting.weight


@register("carve")
class Carve(Step):
    """A piece chosen from the regions that figures make."""

    hands_on: ClassVar = "own"
    title: ClassVar = "keep or drop"
    chapter: ClassVar = Chapter.CARVE
    sentence: ClassVar = "Of {figures} keep {picks}, the rest {rest}: piece {name}."
    noun: ClassVar = "piece"

    kind: Literal["carve"] = "carve"
    figures: WholeFigureRefs
    picks: Picks = ()
    rest: Annotated[Literal["kept", "dropped"], CHOICE] = "dropped"

    def draw(self, inputs: Inputs) -> Drawing:
        """The kept regions as one shape. A picked region that is gone is remarked upon, and its pick stays."""
        inputs.require_several("figures", 1)
        outcomes = inputs.outcomes("figures")
        figures = inputs.all_figures("figures")
        names = {outcome.id: outcome.name for outcome in outcomes}
        by_id = [(outcome.id, figure) for outcome, figure in zip(outcomes, figures, strict=True)]
        cutting = cut_by(by_id, frozenset(self.figures) - names.keys())
        notes: list[tuple[str, Mapping[str, object]]] = []
        choices = []
        for pick in self.picks:
            coarse = cutting.among(pick.among)
            regions = coarse.regions
            face, doubt = regions.find(cutting.there(pick.cover), pick.rank, pick.alike, pick.near)
            if face is None:
                notes.append(("pick-gone", {"cover": pick.cover}))
                continue
            if regions.names[face].alike != pick.alike:
                counts = {"before": pick.alike, "now": regions.names[face].alike}
                notes.append(("pick-changed", {"cover": pick.cover, **counts}))
            if doubt:
                notes.append(("pick-doubtful", {"cover": pick.cover}))
            order = regions.group.order if regions.group else 1
            if pick.every > 1 and order % pick.every:
                notes.append(("pick-uneven", {"every": pick.every, "copies": order}))
            choices.append((pick.keep, coarse.fine(regions.orbit(face, pick.every))))
        regions = cutting.regions
        kept = chosen(regions, self.rest == "kept", choices)
        owners = [outcome.id for outcome, figure in zip(outcomes, figures, strict=True) for _ in figure.copies]
        found = stray_crumbs(regions.arrangement, [s for figure in figures for s in figure.copies], kept)
        notes.extend(crumb_notes(found, owners))
        shape = outline_of_faces(regions.arrangement, kept)
        return Drawing(
            Figure((shape,)), tuple(notes), CarveDetail(cutting, kept, tuple(crumb.place for crumb in found))
        )

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """What becomes of the rest, above the figures."""
        for figure in inputs.all_figures("figures")[:1]:
            yield Word("rest", corner_of(figure))


def stray_crumbs(arrangement: Arrangement, shapes: Sequence[Shape], kept: Bools) -> list[Crumb]:
    """Regions too small to be meant that are kept or dropped otherwise than their broadest neighbour."""
    return [
        crumb
        for crumb in crumbs(arrangement, shapes)
        if kept[crumb.face] != kept[broadest_neighbour(arrangement, crumb.face)]
    ]


def crumb_notes(found: Sequence[Crumb], owners: Sequence[str]) -> list[tuple[str, Mapping[str, object]]]:
    """Remarks on crumbs, with the near miss beside each; `owners` are ids of steps by shape."""
    if not found:
        return []
    first = found[0]
    values = {"count": len(found), "width": first.width, "x": first.place.x, "y": first.place.y}
    notes: list[tuple[str, Mapping[str, object]]] = [("crumbs", values)]
    seen: set[Point] = set()
    for crumb in found:
        miss = crumb.miss
        if miss is not None and miss.place not in seen:
            seen.add(miss.place)
            ends = {"owner": owners[miss.owner], "other": owners[miss.other], "x": miss.place.x, "y": miss.place.y}
            notes.append(("near-miss", {**ends, "distance": miss.distance}))
    return notes[:MOST_NOTES]


def cover_text(cover: Sequence[str], names: Mapping[str, str]) -> str:
    """The owners of a region in words; `names` are those of all figures."""
    words = []
    for owner in cover[:4]:
        identifier, _, copy = owner.partition("#")
        name = names.get(identifier, identifier)
        words.append(f"{name} (copy {int(copy) + 1})" if copy else name)
    more = len(cover) - 4
    return " and ".join(words) + (f" and {more} more" if more > 0 else "") if words else "no figure"


def kept_count(detail: CarveDetail) -> int:
    """How many regions are kept."""
    return int(np.count_nonzero(detail.kept))
