"""Rewriting typed values all through a plan: when something is renamed, or a value is frozen."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ExpressionError
from kagami.plan.references.places import parse_reference, values_of, with_values, write_reference
from kagami.plan.steps import Step
from kagami.plan.values.expressions import parse_value
from kagami.plan.varying import varied_step


def rewritten(plan: Plan, rewrite: Callable[[str], str]) -> Plan:
    """The plan with every typed value put through a function."""

    def in_place(reference: str) -> str:
        return write_reference(with_values(parse_reference(reference), rewrite))

    data = plan.model_dump(mode="json")
    for measure in data["measures"]:
        measure["value"] = rewrite(measure["value"])
        if measure["solve"]:
            measure["solve"] = {side: rewrite(text) for side, text in measure["solve"].items()}

    def in_fields(step: Step | None, fields: dict[str, Any]) -> None:
        kinds = step.field_kinds() if step is not None else {}
        fields |= {
            name: kinds[name].with_places(kinds[name].with_texts(fields[name], rewrite), in_place)
            for name in kinds.keys() & fields.keys()
        }

    for step, entry in zip(plan.steps, data["steps"], strict=True):
        in_fields(step, entry)
    for variant in data["variants"]:
        for value in variant["values"]:
            value["value"] = rewrite(value["value"])
        variant["clear"], variant["line"] = (variant[part] and rewrite(variant[part]) for part in ("clear", "line"))
        for other in variant["others"]:
            in_fields(plan.step(other["step"]), other["fields"])
    return from_data(data)


def typed_values(plan: Plan) -> Iterator[tuple[str, str]]:
    """All typed values with the name of the measure or step that they stand in."""
    for measure in plan.measures:
        solve = measure.solve
        yield from ((measure.name, text) for text in (measure.value, *(solve.model_dump().values() if solve else ())))
    for step in plan.steps:
        yield from ((step.name, text) for text in step.typed_values())
        for reference in step.anchor_refs():
            yield from ((step.name, text) for text in values_of(parse_reference(reference)))
    for variant in plan.variants:
        texts = [entry.value for entry in variant.values] + [variant.clear, variant.line]
        yield from ((variant.name, text) for text in texts if text)
        for entry in variant.others:
            found = plan.step(entry.step)
            if found is not None:
                yield from ((variant.name, text) for text in varied_step(found, entry.fields).typed_values())


def measures_named(text: str) -> frozenset[str]:
    """The measures that a value uses; none in one that cannot be read."""
    return frozenset(name for _, _, name in _measure_names(text))


def with_measure_named(text: str, name: str, new: str) -> str:
    """A value in which a measure has another name, or a bracketed value in its place. Words of readings that are spelt
    like the measure are none of it: the value is taken apart, not searched.
    """
    for start, end, found in reversed(_measure_names(text)):
        if found == name:
            text = f"{text[:start]}{new}{text[end:]}"
    return text


def _measure_names(text: str) -> list[tuple[int, int, str]]:
    """Where names of measures stand in a value, from left to right."""
    try:
        named = parse_value(text).named
    except ExpressionError:
        return []
    return [(node.start, node.start + len(str(node.value)), str(node.value)) for node in named]


def with_readings(text: str, values: Mapping[tuple[int, int], str]) -> str:
    """A value with other text in the place of some of its readings, which are told by where they begin and end."""
    for (start, end), value in sorted(values.items(), reverse=True):
        text = f"{text[:start]}{value}{text[end:]}"
    return text
