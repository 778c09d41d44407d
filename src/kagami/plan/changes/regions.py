"""Changes to the regions that a carve keeps."""

from __future__ import annotations

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.picks import absorb_crumbs, gather_regions, pick_region
from kagami.plan.changes.steps import step_of, with_fields
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.places.regions import RegionName
from kagami.plan.steps import Carve


def pick(plan: Plan, given: Given) -> Changed:
    """Keep or drop the region `region` of a carve, and its images round the turn as `every` says; figures `without`
    which it is cut out cross it and do not cut it.
    """
    step = step_of(plan, given)
    if not isinstance(step, Carve):
        raise ChangeRefused("no-region")
    picks, words = pick_region(plan, step, _region(given), given.number("every"), given.cache, _among(step, given))
    data = [entry.model_dump(mode="json") for entry in picks]
    return Changed(with_fields(plan, step, picks=data), f"{step.name}: {words}", step.id)


def gather(plan: Plan, given: Given) -> Changed:
    """Keep all `regions` that a sweep crossed, or drop them where `keep` is false, each as far as `every` says."""
    step = step_of(plan, given)
    listed = given.values.get("regions")
    if not isinstance(step, Carve) or not isinstance(listed, list) or not 0 < len(listed) <= limits.PICKS:
        raise ChangeRefused("no-region")
    keep = given.values.get("keep") is not False
    named = [_named(entry) for entry in listed]
    picks, words = gather_regions(plan, step, named, keep, given.number("every"), given.cache, _among(step, given))
    data = [entry.model_dump(mode="json") for entry in picks]
    return Changed(with_fields(plan, step, picks=data), f"{step.name}: {words}", step.id)


def _among(step: Carve, given: Given) -> tuple[str, ...]:
    """The figures that cut, where some are left out."""
    without = given.values.get("without") or []
    if not isinstance(without, list):
        raise ChangeRefused("bad-change", path="without", reason="is no list of figures")
    among = tuple(identifier for identifier in step.figures if identifier not in without)
    return among if len(among) < len(step.figures) else ()


def _region(given: Given) -> int | RegionName:
    """The region that a pick is about: by its name, as the sheet sends it, or by its number."""
    named = given.values.get("region")
    return _named(named) if isinstance(named, dict) else given.number("region")


def _named(named: object) -> RegionName:
    """A region by its name."""
    if not isinstance(named, dict):
        raise ChangeRefused("no-region")
    cover, rank, alike = (named.get(part) for part in ("cover", "rank", "alike"))
    whole = all(isinstance(number, int) and not isinstance(number, bool) and number >= 0 for number in (rank, alike))
    if not (whole and isinstance(cover, list) and all(isinstance(owner, str) for owner in cover)):
        raise ChangeRefused("no-region")
    return RegionName(tuple(cover), int(str(rank)), int(str(alike)))


def absorb(plan: Plan, given: Given) -> Changed:
    """Let the crumbs among a carve's regions go with their neighbours."""
    step = step_of(plan, given)
    if not isinstance(step, Carve):
        raise ChangeRefused("no-region")
    picks, count = absorb_crumbs(plan, step, given.cache)
    data = [entry.model_dump(mode="json") for entry in picks]
    words = f"{step.name}: {count} crumb{'' if count == 1 else 's'} absorbed"
    return Changed(with_fields(plan, step, picks=data), words, step.id)
