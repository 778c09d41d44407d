"""Picking regions of a carve: a choice joins those made before, and replaces what it covers whole."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final
from weakref import WeakValueDictionary

import numpy as np

from kagami.geometry.arrays import Bools, Ints
from kagami.geometry.crumbs import broadest_neighbour, crumbs
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate, evaluate_before
from kagami.plan.fields import Pick
from kagami.plan.outcome import Outcome
from kagami.plan.places.regions import RegionName, Regions, chosen
from kagami.plan.steps import Step
from kagami.plan.steps.carve import Carve, CarveDetail

_witnessed_plans: Final[WeakValueDictionary[int, Plan]] = WeakValueDictionary()
"""Plans whose witnesses are where their regions are, so that they need not be looked at again."""


def carve_detail(outcome: Outcome | None) -> CarveDetail | None:
    """The regions of a carve that could be drawn."""
    if outcome is None or outcome.drawing is None or not isinstance(outcome.drawing.detail, CarveDetail):
        return None
    return outcome.drawing.detail


def pick_region(
    plan: Plan, step: Carve, named: int | RegionName, every: int, cache: Cache, among: Sequence[str] = ()
) -> tuple[tuple[Pick, ...], str]:
    """The carve's picks after a region was toggled, and that in words. It is told by its name or, within one
    evaluation, by its number; `among` says which figures cut it out, where others cross it.

    Raises:
        ChangeRefused: there is no such region.
    """
    detail = _detail(plan, step, cache)
    coarse = detail.cutting.among(among)
    region = _region_of(coarse.regions, named)
    if every < 0:
        raise ChangeRefused("no-region")
    keep = not bool(detail.kept[coarse.fine(np.array([region]))].all())
    picks, reached = _chosen_too(detail, step, step.picks, region, keep, every, among)
    count = len(reached)
    return picks, f"{'keep' if keep else 'drop'} {count} region{'s' if count > 1 else ''}"


def gather_regions(
    plan: Plan,
    step: Carve,
    named: Sequence[int | RegionName],
    keep: bool,
    every: int,
    cache: Cache,
    among: Sequence[str] = (),
) -> tuple[tuple[Pick, ...], str]:
    """The picks after several regions were kept or dropped together, each as far as `every` reaches, and that in
    words.

    Raises:
        ChangeRefused: one of them is not there.
    """
    detail = _detail(plan, step, cache)
    coarse = detail.cutting.among(among)
    numbers = [_region_of(coarse.regions, one) for one in named]
    if every < 0:
        raise ChangeRefused("no-region")
    picks, changed = step.picks, 0
    for region in numbers:
        held = _kept(detail, step, picks)
        if not (held[coarse.fine(np.array([region]))] == keep).all():
            picks, reached = _chosen_too(detail, step, picks, region, keep, every, among)
            changed += len(reached)
    return picks, f"{'keep' if keep else 'drop'} {changed} region{'' if changed == 1 else 's'}"


def _detail(plan: Plan, step: Carve, cache: Cache) -> CarveDetail:
    """What a carve chooses among.

    Raises:
        ChangeRefused: it cannot be drawn.
    """
    detail = carve_detail(evaluate(plan, cache).outcomes.get(step.id))
    if detail is None:
        raise ChangeRefused("no-region")
    return detail


def _chosen_too(
    detail: CarveDetail, step: Carve, picks: Sequence[Pick], region: int, keep: bool, every: int, among: Sequence[str]
) -> tuple[tuple[Pick, ...], Ints]:
    """Picks with one more, and the regions that it reaches, of those that the figures `among` make. A choice that only
    restates what holds without it is left out, so that two clicks are no click.
    """
    coarse = detail.cutting.among(among)
    reached = coarse.regions.orbit(region, every)
    fine = coarse.fine(reached)
    earlier = tuple(pick for pick in picks if not _within(detail, pick, fine))
    if (_kept(detail, step, earlier)[fine] == keep).all():
        return earlier, reached
    if coarse.regions is detail.regions:  # what is chosen while a figure is muted is not cut by it afterwards
        among = [identifier for identifier, _ in detail.cutting.owners] if detail.cutting.muted else ()
    return (*earlier, _pick(coarse.regions, reached, keep, every, among)), reached


def _region_of(regions: Regions, named: int | RegionName) -> int:
    """The number of a region.

    Raises:
        ChangeRefused: it is not there.
    """
    found = named if isinstance(named, int) else regions.named(named.cover, named.rank, named.alike) or 0
    if not 0 < found < regions.arrangement.face_count:
        raise ChangeRefused("no-region")
    return found


def with_witnesses(plan: Plan, cache: Cache) -> Plan:
    """The plan in which each choice among several like regions has its witness where the region is now, so that it
    follows as values move; choices whose witness and rank disagree, or whose region is gone, stay as they are.
    """
    carves = [step for step in plan.steps if isinstance(step, Carve) and any(pick.alike > 1 for pick in step.picks)]
    if not carves or _witnessed_plans.get(id(plan)) is plan:
        return plan
    outcomes = evaluate_before(plan, cache, len(plan.steps)).outcomes
    anew: dict[str, Step] = {}
    for step in carves:
        detail = carve_detail(outcomes.get(step.id))
        if detail is not None and not detail.cutting.muted:
            picks = tuple(_witnessed(detail, pick) for pick in step.picks)
            if picks != step.picks:
                anew[step.id] = step.model_copy(update={"picks": picks})
    steps = tuple(anew.get(step.id, step) for step in plan.steps)
    found = plan.model_copy(update={"steps": steps}) if anew else plan
    _witnessed_plans[id(found)] = found
    return found


def _witnessed(detail: CarveDetail, pick: Pick) -> Pick:
    regions = detail.cutting.among(pick.among).regions
    face, doubt = regions.find(pick.cover, pick.rank, pick.alike, pick.near)
    if face is None or doubt or pick.alike < 2 or regions.names[face].alike != pick.alike:
        return pick
    return pick.model_copy(update={"rank": regions.names[face].rank, "near": regions.witness(face)})


def absorb_crumbs(plan: Plan, step: Carve, cache: Cache) -> tuple[tuple[Pick, ...], int]:
    """The carve's picks after each region too small to be meant was kept or dropped as its broadest neighbour is, and
    how many of them changed sides.

    Raises:
        ChangeRefused: the carve cannot be drawn, or nothing in it is too small.
    """
    result = evaluate(plan, cache)
    detail = carve_detail(result.outcomes.get(step.id))
    if detail is None:
        raise ChangeRefused("no-region")
    figures = [result.outcomes[identifier].figure for identifier in step.figures]
    shapes = [shape for figure in figures if figure for shape in figure.copies]
    found = crumbs(detail.regions.arrangement, shapes)
    if not found:
        raise ChangeRefused("no-crumbs", name=step.name)
    picks = list(step.picks)
    changed = 0
    for crumb in found:
        neighbour = broadest_neighbour(detail.regions.arrangement, crumb.face)
        if bool(detail.kept[crumb.face]) != bool(detail.kept[neighbour]):
            picks.append(_pick(detail.regions, np.array([crumb.face]), bool(detail.kept[neighbour]), 0))
            changed += 1
    return tuple(picks), changed


def _pick(regions: Regions, reached: Ints, keep: bool, every: int, among: Sequence[str] = ()) -> Pick:
    face = regions.seed(reached)
    seed = regions.names[face]
    near = regions.witness(face) if seed.alike > 1 else None
    return Pick(
        keep=keep, cover=seed.cover, rank=seed.rank, alike=seed.alike, every=every, near=near, among=tuple(among)
    )


def _reached(detail: CarveDetail, pick: Pick) -> Ints:
    """The regions of all figures that a choice reaches; none where it is not there."""
    coarse = detail.cutting.among(pick.among)
    face, _ = coarse.regions.find(detail.cutting.there(pick.cover), pick.rank, pick.alike, pick.near)
    return coarse.fine(coarse.regions.orbit(face, pick.every)) if face is not None else np.zeros(0, np.intp)


def _within(detail: CarveDetail, pick: Pick, fine: Ints) -> bool:
    """Whether a choice is there, and reaches nothing beyond these regions."""
    reached = _reached(detail, pick)
    return len(reached) > 0 and bool(np.isin(reached, fine).all())


def _kept(detail: CarveDetail, step: Carve, picks: Sequence[Pick]) -> Bools:
    return chosen(detail.regions, step.rest == "kept", [(pick.keep, _reached(detail, pick)) for pick in picks])


def with_figures(plan: Plan, step: Carve, figures: list[str], cache: Cache) -> Plan:
    """The plan with other figures in a carve, the choice kept: each new region is kept as the old one round it was.

    Where the carve cannot be drawn before or after, the picks stay as they are.
    """
    before = carve_detail(evaluate(plan, cache).outcomes.get(step.id))
    data = plan.model_dump(mode="json")
    entry = next(entry for entry in data["steps"] if entry["id"] == step.id)
    entry["figures"] = figures
    changed = from_data(data)
    after = carve_detail(evaluate(changed, cache).outcomes.get(step.id))
    if before is None or after is None or not step.picks:
        return changed
    places = after.regions.arrangement.inside_points
    wanted = before.kept[before.regions.arrangement.locate(places)]
    wanted[0] = False
    entry["picks"] = [pick.model_dump(mode="json") for pick in _restated(after, step, wanted)]
    return from_data(data)


def _restated(detail: CarveDetail, step: Carve, wanted: Bools) -> list[Pick]:
    """Picks that make a wanted choice: those of regions that only some figures cut out stay, then whole orbits, and
    single regions where an orbit is mixed.
    """
    regions = detail.regions
    picks = [pick for pick in step.picks if pick.among and len(_reached(detail, pick))]
    held = _kept(detail, step, picks)
    done = np.zeros(len(wanted), bool)
    for face in np.flatnonzero(wanted != held).tolist():
        if done[face]:
            continue
        orbit = regions.orbit(face, 1)
        whole = bool((wanted[orbit] == wanted[face]).all())
        reached = orbit if whole else np.array([face])
        done[reached] = True
        picks.append(_pick(regions, reached, bool(wanted[face]), 1 if whole else 0))
    return picks
