"""Completion: what may come next in a sentence that is being typed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from kagami.plan import limits
from kagami.plan.language.parsing import furthest
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.references.spoken import OF_ONE, READINGS
from kagami.plan.wording.forms import fixed_words


def completions(
    text: str, ids: Mapping[str, str], anchors: Sequence[str], measures: Sequence[str], tones: Sequence[str] = ()
) -> tuple[int, list[str]]:
    """What may come next in a sentence that was begun, and from which character on.

    `anchors` are places as they are written, `measures` names of measures, `tones` of tones.
    """
    at, wanted = furthest(text, ids)
    known = {
        "a value": [*measures, "u", *(next(fixed_words(READINGS[kind])).strip() for kind in OF_ONE)],
        "a place": [SHEET_ORIGIN, *anchors],
        "a figure": list(ids),
        "a tone": list(tones),
        "a name": [],
    }
    found = [entry for word in wanted for entry in known.get(word, [word])]
    begun = text[at:].strip().lower()
    fitting = [word for word in found if word.lower().startswith(begun)]
    return max(at, 0), list(dict.fromkeys(fitting))[: limits.COMPLETIONS]
