"""Rewriting typed values all through a plan: when something is renamed, or a value is frozen."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping

from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ExpressionError
from kagami.plan.places.references import parse_reference, values_of, with_values, write_reference
from kagami.plan.values.expressions import parse_value
from kagami.plan.variants.varying import varied_step


def rewritten(plan: Plan, rewrite: Callable[[str], str]) -> Plan:
    """The plan with every typed value put through a function."""

    def in_place(reference: str) -> str:
        return write_reference(with_values(parse_reference(reference), rewrite))

    data = plan.model_dump(mode="json")
    for measure in data["measures"]:
        measure["value"] = rewrite(measure["value"])
        if measure["solve"]:
            measure["solve"] = {side: rewrite(text) for side, text in measure["solve"].items()}
    for step, entry in zip(plan.steps, data["steps"], strict=True):
        for name, kind in step.field_kinds().items():
            entry[name] = kind.with_places(kind.with_texts(entry[name], rewrite), in_place)
    for variant in data["variants"]:
        for value in variant["values"]:
            value["value"] = rewrite(value["value"])
        variant["clear"], variant["line"] = (variant[part] and rewrite(variant[part]) for part in ("clear", "line"))
        for other in variant["others"]:
            step = plan.step(other["step"])
            for name, kind in step.field_kinds().items() if step else ():
                if name in other["fields"]:
                    texts = kind.with_texts(other["fields"][name], rewrite)
                    other["fields"][name] = kind.with_places(texts, in_place)
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
            step = plan.step(entry.step)
            if step is not None:
                yield from ((variant.name, text) for text in varied_step(step, entry.fields).typed_values())


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
