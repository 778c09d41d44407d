"""Plans of words, said in sentences, and what they come to."""

from __future__ import annotations

from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate, inputs_of
from kagami.plan.evaluation.result import Result
from kagami.plan.figure import Figure
from kagami.plan.language.text import parse_text
from kagami.plan.outcome import Outcome

CACHE = Cache()


def said(*sentences: str) -> Result:
    """A plan of sentences, evaluated."""
    return evaluate(parse_text("\n".join(sentences) + "\n"), CACHE)


def last(*sentences: str) -> Outcome:
    """What became of the last one."""
    result = said(*sentences)
    return result.outcomes[result.plan.steps[-1].id]


def made(*sentences: str) -> Figure:
    """What the last one made."""
    outcome = last(*sentences)
    assert outcome.error is None, outcome.error
    return outcome.made


def refused(*sentences: str) -> PlanError:
    """What the last one was refused for."""
    error = last(*sentences).error
    assert error is not None
    return error


def told(*sentences: str) -> dict[str, dict[str, object]]:
    """What the last one came to, by code."""
    result = said(*sentences)
    step = result.plan.steps[-1]
    drawing = result.outcomes[step.id].drawing
    assert drawing is not None
    return {code: dict(values) for code, values in step.facts(inputs_of(step, result), drawing)}


def noted(*sentences: str) -> dict[str, dict[str, object]]:
    """The remarks on the last one, by their code."""
    drawing = last(*sentences).drawing
    assert drawing is not None
    return {code: dict(values) for code, values in drawing.notes}
