"""What goes along when a step is copied as its sentence: the measures and tones that it is made of."""

from __future__ import annotations

from collections.abc import Callable

from kagami.plan.changes.rewriting import measures_named
from kagami.plan.document import Measure, Plan
from kagami.plan.language.measures import measure_text
from kagami.plan.steps import Step
from kagami.plan.tones.notation import names_in
from kagami.plan.wording.names import name_text


def _closed(begun: set[str], further: Callable[[str], set[str]]) -> set[str]:
    """Names, with all that they lead to."""
    found, waiting = set(begun), list(begun)
    while waiting:
        more = further(waiting.pop()) - found
        found |= more
        waiting.extend(more)
    return found


def _texts(measure: Measure) -> tuple[str, ...]:
    return (measure.value, *(measure.solve.model_dump().values() if measure.solve else ()))


def carried_lines(step: Step, plan: Plan) -> tuple[str, ...]:
    """The measures that a step's values name and the tones that it lays, with those that they are made from in turn, a
    line each in the order of the plan.
    """
    measures = {measure.name: measure for measure in plan.measures}
    named = _closed(
        {name for text in step.typed_values() for name in measures_named(text)} & measures.keys(),
        lambda name: {other for text in _texts(measures[name]) for other in measures_named(text)} & measures.keys(),
    )
    tones = {tone.name: tone for tone in plan.tones}
    laid = _closed(set(step.tone_names()) & tones.keys(), lambda name: set(names_in(tones[name].colour)) & tones.keys())
    names = plan.names()
    return (
        *(f"Tone: {name_text(tone.name)} = {tone.colour}" for tone in plan.tones if tone.name in laid),
        *(f"Measure: {one.name} = {measure_text(one, names)}" for one in plan.measures if one.name in named),
    )
