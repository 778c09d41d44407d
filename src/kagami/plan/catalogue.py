"""All texts of the plan that another language needs, with a word on what each is for."""

from __future__ import annotations

from collections.abc import Iterator

from kagami.lettering.shelf import SHIPPED
from kagami.plan import messages, ranges
from kagami.plan.fields import picks, scanner, tones
from kagami.plan.fields.lettering import FACE
from kagami.plan.language import colourways, measures, sentences, variants
from kagami.plan.places import selecting
from kagami.plan.references import spoken
from kagami.plan.steps import Chapter, Step, in_order_of_work
from kagami.plan.tones.colourways import DROPPED, IN_ONE, IN_TONES
from kagami.plan.translation import LANGUAGE


def texts() -> dict[str, str]:
    """Each text once, and what it is for."""
    found: dict[str, str] = {}
    for text, use in _entries():
        found.setdefault(text, use)
    return found


def _entries() -> Iterator[tuple[str, str]]:
    yield LANGUAGE, "the code of the language itself"
    yield from ((chapter.value, "a chapter of verbs") for chapter in Chapter)
    for kind in in_order_of_work():
        yield from _of_kind(kind)
    forms = (*spoken.FORMS.values(), *spoken.OFFSETS, spoken.COPY)
    yield from ((form, "a place in a sentence; it begins with a word or with {place}") for form in forms)
    yield from ((word, "a word of an anchor; no two may be said alike") for word in spoken.PLACE_WORDS)
    chosen = (*selecting.FORMS.values(), *selecting.ALSO)
    yield from ((form, "some of a repeat's copies; it begins with a word") for form in chosen)
    yield from ((word, "every … copy of a repeat") for word in selecting.ORDINALS)
    choices = (*picks.PICKED.values(), picks.ALL_ROUND, picks.HERE, picks.ABOUT, picks.EVERY)
    yield from ((form, "a choice of regions") for form in choices)
    yield ranges.LABEL, "what is varied on a contact sheet"
    yield sentences.GUIDE, "at the end of a sentence"
    yield sentences.MUTED, "at the end of a sentence"
    yield scanner.NOTHING, "stands for an empty list"
    yield tones.ITS_OWN, "stands for the tone that a piece has already"
    words = (colourways.WORD, colourways.CHOSEN, colourways.KEPT, IN_ONE, IN_TONES, DROPPED)
    yield from ((word, "of a colourway's sentence") for word in words)
    yield colourways.ROLES, "of a colourway's sentence; something stands between {role} and {tone}"
    yield from ((word, "of a variant's sentence") for word in variants.WORDS)
    yield measures.SOLVE, "what is typed for a measure that is solved; it begins with a word"
    yield from ((sort, "what a face is like") for sort, _, _ in SHIPPED.values())
    yield from ((joiner, "before the last of a list") for joiner in ("and", "or"))
    yield from ((text, "an error") for text in messages.TEXTS.values())


def _of_kind(kind: type[Step]) -> Iterator[tuple[str, str]]:
    yield kind.title, "a verb in the strip"
    yield kind.sentence, "a sentence; a name at its end is led in by “:” and one word at most"
    yield kind.noun, "begins the name of what a step makes"
    for field, field_kind in kind.field_kinds().items():
        yield field, "a field of a sentence, in errors and labels"
        if field_kind is not FACE:  # faces are called alike everywhere
            yield from ((word, "a choice in a sentence") for word in field_kind.words)
