"""Sentences of kinds as clauses: fields with the words that tell them from others, to read what is not quite right."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import cache
from typing import Final

from kagami.plan.language.sentences import Own, Slot, Words, sentence_parts
from kagami.plan.steps import Step, in_order_of_work
from kagami.plan.translation import LANGUAGE, tr

# fmt: off
SMALL: Final = frozenset((
    "a", "an", "the", "with", "on", "of", "by", "at", "its", "it", "from", "to", "in", "is", "and", "as", "has",
    "having", "round", "over", "for", "centred", "centered", "placed",
))
# fmt: on
"""Words that say little: they may be missing, or stand where none is asked for."""
SMALL_WORDS: Final = re.compile(rf"(?:\s*\b(?:{'|'.join(sorted(SMALL))})\b)*\s*", re.IGNORECASE)
_WORD: Final = re.compile(r"[^\W\d_]+")


@dataclass(frozen=True, slots=True)
class Clause:
    """A field with the words before and behind it that tell it from others."""

    slot: Slot | Own
    before: tuple[str, ...]
    behind: tuple[str, ...]

    @property
    def field(self) -> str:
        """The field's name."""
        return "name" if isinstance(self.slot, Own) else self.slot.field

    def leads(self) -> list[str]:
        """What it can begin with; nothing for a name, which may always be missing."""
        if isinstance(self.slot, Own):
            return []
        return [" ".join(self.before)] if self.before else self.slot.kind.expected()


@dataclass(frozen=True, slots=True)
class Form:
    """A kind's sentence: its first words, and its clauses in order."""

    kind: type[Step]
    verb: tuple[str, ...]
    clauses: tuple[Clause, ...]
    words: frozenset[str]
    """All of them beside its fields, and what its fields are called."""


@cache
def forms_of(_language: str) -> tuple[Form, ...]:
    """Those of all kinds in a language, in the order of work."""
    return tuple(_form(kind) for kind in in_order_of_work())


def _form(kind: type[Step]) -> Form:
    """A kind's sentence in clauses: words behind a field are its own up to a comma or an “and”, then the next one's."""
    verb: tuple[str, ...] = ()
    clauses: list[Clause] = []
    pending: tuple[str, ...] = ()
    for part in sentence_parts(kind):
        if not isinstance(part, Words):
            clauses.append(Clause(part, pending, ()))
            pending = ()
        elif not clauses:
            verb = words_of(part.text)
        else:
            own, *others = re.split(rf"[,:]| {re.escape(tr('and'))} ", part.text, maxsplit=1)
            if isinstance(clauses[-1].slot, Own):
                pending = words_of(part.text)  # the name may be missing, and what stands behind it leads on
            elif others or part.text.rstrip().endswith("."):
                clauses[-1] = replace(clauses[-1], behind=words_of(own))
                pending = words_of(others[0]) if others else ()
            else:
                # “sides on”: what stands before a small word belongs to the field before it.
                words = words_of(own)
                small = next((k for k, word in enumerate(words) if word in SMALL), 0)
                clauses[-1], pending = replace(clauses[-1], behind=words[:small]), words[small:]
    # The verb's last words lead to the first field where they are more than the verb.
    if clauses and len(verb) > 1 and not isinstance(clauses[0].slot, Own):
        clauses[0] = replace(clauses[0], before=verb[1:])
        verb = verb[:1]
    beside = {
        word
        for clause in clauses
        for word in (*clause.before, *clause.behind, *words_of(tr(clause.field.replace("_", " "))))
    }
    return Form(kind, verb, tuple(clauses), frozenset(beside - {"name"}))


def words_of(text: str) -> tuple[str, ...]:
    """The words of a text, in small letters."""
    return tuple(word.lower() for word in _WORD.findall(text))


def vocabulary() -> frozenset[str]:
    """All fixed words of sentences, in small letters."""
    return _vocabulary(tr(LANGUAGE))


@cache
def _vocabulary(language: str) -> frozenset[str]:
    found: set[str] = set()
    for form in forms_of(language):
        found.update(form.verb)
        for clause in form.clauses:
            found.update(clause.before, clause.behind)
            if isinstance(clause.slot, Slot):
                found.update(word for option in clause.slot.kind.words for word in words_of(tr(option)))
    return frozenset(found)
