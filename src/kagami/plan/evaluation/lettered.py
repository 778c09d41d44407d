"""The words of a mark: what they say, and from which size on they can be read."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from kagami.lettering.metrics import x_height
from kagami.plan.evaluation.evaluate import inking
from kagami.plan.evaluation.result import Result
from kagami.plan.lettering.laying import Lettering
from kagami.plan.lettering.setting import LINE_BREAK, lines_of

LEGIBLE: Final = 5.0
"""Pixels that letters are high at the least where they are to be read (common practice: five by seven dots each)."""


@dataclass(frozen=True, slots=True)
class Words:
    """Words that come into the ink: the step that set them last, and the height of their lowest letters in u."""

    step: str
    name: str
    lettering: Lettering
    height: float


def words_of(result: Result) -> tuple[Words, ...]:
    """The words in the ink, in the plan's order; those that are muted or guides are none."""
    used = _in_the_ink(result)
    found = []
    for step in result.plan.steps:
        outcome = result.outcomes.get(step.id)
        detail = outcome.drawing.detail if outcome and outcome.drawing and not outcome.muted else None
        if step.id in used and isinstance(detail, Lettering) and not _set_again(step.id, result, used):
            found.append(Words(step.id, step.name, detail, _height(detail)))
    return tuple(found)


def words_in(result: Result) -> str:
    """What the mark says, line by line; empty where it says nothing."""
    texts = (line for words in words_of(result) for line in lines_of(words.lettering.text))
    return " ".join(f"“{text}”" for text in texts if text)


def legible_from(result: Result, longer: float) -> tuple[int, Words] | None:
    """The pixels on a mark's longer side (in u) from which on all words can be read, and the words that need most; None
    where there are none.
    """
    lowest = min(words_of(result), key=lambda words: words.height, default=None)
    if lowest is None or lowest.height <= 0:
        return None
    return int(-(-LEGIBLE * longer // lowest.height)), lowest


def _in_the_ink(result: Result) -> set[str]:
    """Ids of the steps that the ink is made from."""
    by_id = {step.id: step for step in result.plan.steps}
    found: set[str] = set()
    waiting = [step.id for step in inking(result.plan, result.outcomes)]
    while waiting:
        one = waiting.pop()
        if one not in found and one in by_id:
            found.add(one)
            waiting.extend(by_id[one].figure_ids())
    return found


def _set_again(identifier: str, result: Result, used: set[str]) -> bool:
    """Whether a later step, itself words in the ink, sets these words anew."""
    return any(
        _sets(other.id, result) and identifier in other.figure_ids() for other in result.plan.steps if other.id in used
    )


def _sets(identifier: str, result: Result) -> bool:
    outcome = result.outcomes.get(identifier)
    return bool(outcome and outcome.drawing and isinstance(outcome.drawing.detail, Lettering))


def _height(lettering: Lettering) -> float:
    """The height of the lowest letters: small ones where there are any."""
    setting = lettering.setting
    letters = lettering.text.replace(LINE_BREAK, "")
    small = any(letter.islower() for letter in letters) or setting.capitals != "as typed"
    return x_height(setting.cut) * setting.em if small else setting.caps
