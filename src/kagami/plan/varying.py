"""From a plan to that of a variant, and back: what a changed plan has other than the first."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final

from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.steps import Step
from kagami.plan.variants.variant import OtherFields, OtherValue, Variant

_OF_THE_STEP: Final = ("id", "kind", "name", "muted", "heading")
"""What is no field of a step's sentence."""


def varied(plan: Plan, variant: Variant | None) -> Plan:
    """The plan as it is evaluated for a variant; the plan itself without one. What a variant says of measures and steps
    that are not there has no effect.

    Raises:
        DocumentError: a field cannot hold what the variant gives it.
    """
    if variant is None or not variant.alters:
        return plan
    values = {entry.measure: entry.value for entry in variant.values}
    measures = tuple(
        measure.model_copy(update={"value": values[measure.name], "solve": None}) if measure.name in values else measure
        for measure in plan.measures
    )
    others = {entry.step: entry.fields for entry in variant.others}
    hushed = {**dict.fromkeys(variant.muted, True), **dict.fromkeys(variant.heard, False)}
    steps = tuple(
        varied_step(step, others.get(step.id, {})).model_copy(update={"muted": hushed.get(step.id, step.muted)})
        if step.id in others or step.id in hushed
        else step
        for step in plan.steps
    )
    return plan.model_copy(update={"measures": measures, "steps": steps})


def varied_step(step: Step, fields: Mapping[str, Any]) -> Step:
    """A step with other fields.

    Raises:
        DocumentError: one of them cannot hold that.
    """
    if not fields:
        return step
    known = {name: value for name, value in fields.items() if name in step.field_kinds()}
    return from_data({"kagami": plan_schema(), "steps": [{**step.model_dump(mode="json"), **known}]}).steps[0]


def plan_schema() -> int:
    """The schema of today's documents."""
    return int(Plan.model_fields["kagami"].default)


def with_alterations(variant: Variant, plan: Plan, changed: Plan) -> Variant:
    """The variant for which the plan comes to the changed one.

    Raises:
        ChangeRefused: they differ in more than values of measures and steps: a variant has the mark's steps and tones.
    """
    same = {"measures": plan.measures, "steps": plan.steps}
    if changed.model_copy(update=same) != plan or len(changed.measures) != len(plan.measures):
        raise ChangeRefused("variant-alters-more", name=variant.name)
    if [(s.id, type(s), s.name, s.heading) for s in changed.steps] != [
        (s.id, type(s), s.name, s.heading) for s in plan.steps
    ]:
        raise ChangeRefused("variant-alters-more", name=variant.name)
    values = []
    for measure, other in zip(plan.measures, changed.measures, strict=True):
        if (other.name, other.note) != (measure.name, measure.note):
            raise ChangeRefused("variant-alters-more", name=variant.name)
        if other != measure:
            values.append(OtherValue(measure=measure.name, value=other.value))
    pairs = list(zip(plan.steps, changed.steps, strict=True))
    entries = [(step.id, different_fields(step, other)) for step, other in pairs]
    return variant.model_copy(
        update={
            "values": tuple(values),
            "muted": tuple(step.id for step, other in pairs if other.muted and not step.muted),
            "heard": tuple(step.id for step, other in pairs if step.muted and not other.muted),
            "others": tuple(OtherFields(step=step, fields=fields) for step, fields in entries if fields),
        }
    )


def different_fields(step: Step, other: Step) -> dict[str, Any]:
    """The fields that another step of the kind has other than this one, as documents hold them."""
    before, after = step.model_dump(mode="json"), other.model_dump(mode="json")
    return {name: after[name] for name in after if name not in _OF_THE_STEP and after[name] != before[name]}


def settled(variant: Variant, plan: Plan) -> Variant:
    """The variant without what it says of measures, steps and a colourway that the plan does not have."""
    measures, steps = {measure.name for measure in plan.measures}, {step.id for step in plan.steps}
    fields = {step.id: {"guide", *step.field_kinds()} for step in plan.steps}
    others = []
    for entry in variant.others:
        left = {name: value for name, value in entry.fields.items() if name in fields.get(entry.step, ())}
        if left:
            others.append(entry if left == entry.fields else OtherFields(step=entry.step, fields=left))
    kept = {
        "values": tuple(entry for entry in variant.values if entry.measure in measures),
        "muted": tuple(step for step in variant.muted if step in steps),
        "heard": tuple(step for step in variant.heard if step in steps),
        "others": tuple(others),
        "colourway": variant.colourway if plan.colourway(variant.colourway) else "",
    }
    return (
        variant
        if all(getattr(variant, name) == value for name, value in kept.items())
        else variant.model_copy(update=kept)
    )
