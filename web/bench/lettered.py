"""What the panel says of words that are set: how they come out, and what a click does with them."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.geometry.errors import GeometryError
from kagami.geometry.measure.thickness import thinnest
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.evaluate import inking, inputs_of
from kagami.plan.evaluation.result import Result
from kagami.plan.lettering.laying import Lettering
from kagami.plan.messages import number_text
from kagami.plan.outcome import Outcome
from kagami.plan.steps import Step
from kagami.plan.steps.letter_fits import MatchStems
from kagami.plan.wording.names import name_text, sayable
from web.memo import Memo

FACTS: Final = {
    "words-count": "{count} letters, capitals {caps}u high",
    "words-stem": "{count} letters, capitals {caps}u high, stems {stem}u",
    "words-span": "{count} letters, span {span}°",
    "stems-match": "stems {stem}u, at weight {weight} of {face}",
    "held-even": "{clear}u from {name}, even to ± {off}u",
}
THINNEST: Final[Memo[float]] = Memo(most=400)


@dataclass(frozen=True)
class Lettered:
    """The facts on words; the thinnest part of the mark beside them, and the sentence that matches their stems to it;
    `face` is the step whose face can be chosen, empty where that is another one's.
    """

    facts: tuple[str, ...]
    thinnest: str
    match: str
    face: str


def lettered(step: Step, outcome: Outcome, result: Result) -> Lettered | None:
    """What is said of a step that sets words; None for others."""
    drawing, face = outcome.drawing, step.id if "face" in type(step).model_fields else ""
    if drawing is None and face:
        return Lettered((), "", "", face)  # another face may be the cure
    if drawing is None or not isinstance(drawing.detail, Lettering):
        return None
    facts = tuple(_facts(step.facts(inputs_of(step, result), drawing)))
    thin = _thinnest_piece(step, result)
    if thin is None or not sayable(step.name):
        return Lettered(facts, "", "", face)
    name, value = thin
    shown = _("{name} is {value}u at its thinnest").format(name=name, value=number_text(value))
    done = isinstance(step, MatchStems) or any(step.id in other.figure_ids() for other in result.plan.steps)
    sentence = "" if done or not sayable(name) else _match_sentence(step.name, name)
    return Lettered(facts, shown, sentence, face)


def _facts(facts: Iterable[tuple[str, object]]) -> Iterable[str]:
    for code, values in facts:
        assert isinstance(values, dict)
        yield _(FACTS[code]).format(**{name: _number(name, value) for name, value in values.items()})


def _number(name: str, value: object) -> object:
    """As many decimals as a person looks at: none of weights, one of angles."""
    if not isinstance(value, float):
        return value
    return number_text(round(value, {"weight": 0, "span": 1}.get(name, 4)))


def _match_sentence(words: str, piece: str) -> str:
    return f"Match the stems of {name_text(words)} to thickness of {name_text(piece)}"


def _thinnest_piece(step: Step, result: Result) -> tuple[str, float] | None:
    """Of the pieces that stand before the words and carry ink, the one with the thinnest part, and how thick it is."""
    before = result.plan.model_copy(update={"steps": result.plan.steps[: result.plan.steps.index(step)]})
    found = []
    for piece in inking(before, {one.id: result.outcomes[one.id] for one in before.steps}):
        outcome = result.outcomes[piece.id]
        if outcome.drawing and not isinstance(outcome.drawing.detail, Lettering):
            value = THINNEST.get(outcome.key, lambda outcome=outcome: _thickness(outcome))  # type: ignore[misc]
            if value:
                found.append((piece.name, value))
    return min(found, key=lambda one: one[1], default=None)


def _thickness(outcome: Outcome) -> float:
    """The thinnest part of a piece in u; 0 where there is none to be told."""
    try:
        way = thinnest(outcome.made.united)
    except (GeometryError, PlanError):
        return 0.0
    return 0.0 if way is None else way.distance
