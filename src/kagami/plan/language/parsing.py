"""Reading sentences: from one typed line to the fields of a step, with what could come next where it stops.

A sentence is matched against every kind's words and slots, letter by letter; the kind that gets furthest tells what is
wrong and what may come next.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache
from itertools import pairwise, product
from typing import Any

from kagami.plan import limits
from kagami.plan.errors import ExpressionError, PlanError
from kagami.plan.fields import VALUES, FieldKind
from kagami.plan.language.forms import Unspoken, hear
from kagami.plan.language.sentences import (
    ABOUT,
    ALL_ROUND,
    EVERY,
    GUIDE,
    HERE,
    NOTHING,
    PICKED,
    Own,
    Slot,
    Words,
    sentence_parts,
)
from kagami.plan.language.spoken import by_id, read_spoken
from kagami.plan.language.translation import LANGUAGE, tr
from kagami.plan.language.wording import read_name
from kagami.plan.places.references import SHEET_ORIGIN, figures_of, write_reference
from kagami.plan.places.selecting import read_selection
from kagami.plan.steps import IN_ORDER_OF_WORK, Step
from kagami.plan.tones import LITERAL
from kagami.plan.values.expressions import RESERVED, read_at
from kagami.plan.values.stored import stored_value

FORGIVEN = ((r"^pieces?$", "pieces"), (r"^pieces?$", "piece"), (r"^pieces?$", ""), (r"^copy$", "piece"), (r"^°", ""))
"""What may be typed for fixed words: “piece” for “pieces” and the other way, or neither, and an angle without its sign.
"""
_SPACE = re.compile(r"\s+")
_COPY = re.compile(r"/(\d{1,3})")
_NUMBER = re.compile(r"\d{1,4}")
_WORD = re.compile(r"[^\W\d_]+")


def _joint() -> re.Pattern[str]:
    """What stands between entries of a list; patterns are kept by the library that makes them."""
    last = re.escape(f" {tr('and')} ")
    return re.compile(rf",{last}|, |{last}")


def _literal_tone(text: str, at: int) -> tuple[str, int] | None:
    """A colour that is typed where a tone is wanted; a change makes a tone of it."""
    found = LITERAL.match(text, at)
    return (found[0], found.end()) if found else None


class SentenceError(PlanError):
    """A sentence that cannot be read; `values["position"]` is the character it is about, from 0."""


@dataclass(frozen=True, slots=True)
class Sentence:
    """What a sentence says: the kind of step and its fields, figures by their ids; `name` may be missing."""

    kind: type[Step]
    fields: Mapping[str, Any]


@dataclass
class _Failure:
    """Where reading stopped, and what could have stood there."""

    at: int = -1
    wanted: list[str] = field(default_factory=list)
    error: PlanError | None = None

    def note(self, at: int, wanted: list[str], error: PlanError | None = None) -> None:
        if at > self.at:
            self.at, self.wanted, self.error = at, [], error
        if at == self.at:
            self.wanted.extend(word for word in wanted if word not in self.wanted)


@dataclass
class _Reader:
    """One attempt at one kind."""

    text: str
    ids: Mapping[str, str]
    failure: _Failure

    def sentence(self, kind: type[Step], nameless: bool) -> dict[str, Any] | None:
        """The fields, or None where the text is not this kind's sentence."""
        found: dict[str, Any] = {}
        at = 0
        parts = sentence_parts(kind, nameless=nameless)
        for number, part in enumerate(parts):
            if isinstance(part, Words):
                end = self.words(part.text, at, number == len(parts) - 1)
                if end is None:
                    return None
                at = end
                continue
            value = self.own(at) if isinstance(part, Own) else self.slot(kind, part, at)
            if value is None:
                return None
            found["name" if isinstance(part, Own) else part.field], at = value
        return found if self.finished(at, found, kind) else None

    def finished(self, at: int, found: dict[str, Any], kind: type[Step]) -> bool:
        rest = self.text[at:].strip()
        if rest.removesuffix(".") == tr(GUIDE).strip() and not kind.always_guide:
            found["guide"] = True
            rest = ""
        if rest in ("", "."):
            return True
        self.failure.note(
            len(self.text) - len(self.text[at:].lstrip()), [] if kind.always_guide else [tr(GUIDE).strip()]
        )
        return False

    def words(self, words: str, at: int, last: bool) -> int | None:
        """Fixed words, any run of blanks for a blank; the point at the end may be missing."""
        text = words.removesuffix(".") if last else words
        phrase = _SPACE.split(text)
        for number, word in enumerate(phrase):
            if number:
                blank = _SPACE.match(self.text, at)
                if blank is None and word and not self.text[:at].endswith(" "):
                    self.failure.note(at, [" ".join(phrase[number:]).strip()])
                    return None
                at = blank.end() if blank else at
            end = self.word(word, at)
            if end is None:
                self.failure.note(at, [" ".join(phrase[number:]).strip()])
                return None
            at = end
        return at

    def word(self, word: str, at: int) -> int | None:
        """Where a fixed word ends, or None. Capitals do not count, and what is `FORGIVEN` may stand in its place."""
        said_so = {word, *(re.sub(*pair, word) for pair in FORGIVEN)}
        for said in sorted(said_so, key=len, reverse=True):
            if self.text[at : at + len(said)].lower() == said.lower():
                return at + len(said)
        return None

    def own(self, at: int) -> tuple[str, int] | None:
        found = read_name(self.text, at)
        if found is None:
            self.failure.note(at, ["a name"])
        return found

    def slot(self, kind: type[Step], slot: Slot, at: int) -> tuple[Any, int] | None:
        """A field's value and where it ends, or None with the failure noted."""
        try:
            if slot.kind in VALUES:
                return self.value(at)
            match slot.kind:
                case FieldKind.ANCHOR:
                    return self.anchor(at)
                case FieldKind.FIGURE:
                    return self.figure(at)
                case FieldKind.FIGURES:
                    return self.figures(at)
                case FieldKind.CHOICE:
                    return self.choice(kind.choices(slot.field), at)
                case FieldKind.NUMBERS:
                    return self.numbers(at)
                case FieldKind.TONES:
                    return self.tones(at)
                case _:
                    return self.several(at, self.entries()[slot.kind])
        except (ExpressionError, SentenceError) as error:
            position = error.values.get("position")
            assert isinstance(position, int)
            self.failure.note(position, self.expected(kind, slot), error)
            return None

    def entries(self) -> dict[FieldKind, Callable[[int], tuple[Any, int]]]:
        """How an entry of each kind of list is read."""
        return {
            FieldKind.ANCHORS: self.anchor,
            FieldKind.SIZES: self.size,
            FieldKind.NODES: self.node,
            FieldKind.PICKS: self.pick,
        }

    def expected(self, kind: type[Step], slot: Slot) -> list[str]:
        """What may stand at the beginning of a slot."""
        if slot.kind in VALUES:
            return ["a value"]
        if slot.kind in (FieldKind.ANCHOR, FieldKind.ANCHORS):
            return ["a place"]
        if slot.kind in (FieldKind.FIGURE, FieldKind.FIGURES):
            return ["a figure"]
        if slot.kind is FieldKind.TONES:
            return ["a tone"]
        return [tr(word) for word in kind.choices(slot.field)] if slot.kind is FieldKind.CHOICE else [tr(NOTHING)]

    def identify(self, name: str, at: int) -> str:
        if name not in self.ids:
            code = "small-origin" if name == SHEET_ORIGIN.lower() else "unknown-figure"
            raise SentenceError(code, name=name, position=at)
        return self.ids[name]

    def anchor(self, at: int) -> tuple[str, int]:
        heard = read_spoken(self.text, at)
        for start, _, name in heard.names:
            self.identify(name, start)
        reference = by_id(heard.reference, lambda name: self.ids[name])
        assert all(identifier in self.ids.values() for identifier in figures_of(reference))
        return write_reference(reference), heard.end

    def figure(self, at: int) -> tuple[str, int]:
        found = read_name(self.text, at)
        if found is None or found[0] not in self.ids:
            some = read_selection(self.text, at, self.identify)
            if some is not None:
                return some
        if found is None:
            raise Unspoken("no-name-here", position=at)
        return self.identify(found[0], at), found[1]

    def figures(self, at: int) -> tuple[list[str], int]:
        if self.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        first, at = self.figure(at)
        found = [first]
        while joint := _joint().match(self.text, at):
            after = joint.end()
            name = read_name(self.text, after)
            some = None if name and name[0] in self.ids else read_selection(self.text, after, self.identify)
            if some is not None:
                found.append(some[0])
                at = some[1]
            elif name is not None and name[0] in self.ids:
                found.append(self.ids[name[0]])
                at = name[1]
            else:
                break
        return found, at

    def tones(self, at: int) -> tuple[list[str], int]:
        if self.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found: list[str] = []
        while name := read_name(self.text, at) or _literal_tone(self.text, at):
            found.append(name[0])
            at = name[1]
            joint = _joint().match(self.text, at)
            if joint is None:
                return found, at
            at = joint.end()
        raise Unspoken("no-name-here", position=at)

    def choice(self, words: tuple[str, ...], at: int) -> tuple[str, int]:
        said = {tr(word): word for word in words}
        for text in sorted(said, key=len, reverse=True):
            if self.text.startswith(text, at):
                return said[text], at + len(text)
        raise SentenceError("choice-missing", known=", ".join(said), position=at)

    def several(self, at: int, one: Callable[[int], tuple[Any, int]]) -> tuple[list[Any], int]:
        if self.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found = []
        while True:
            value, at = one(at)
            found.append(value)
            if not self.text.startswith("; ", at):
                return found, at
            at += 2

    def numbers(self, at: int) -> tuple[list[int], int]:
        if self.text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found = []
        while number := _NUMBER.match(self.text, at):
            found.append(int(number[0]))
            at = number.end()
            more = re.compile(r", (?=\d)").match(self.text, at)
            if more is None:
                return found, at
            at = more.end()
        raise SentenceError("number-missing", position=at)

    def sign(self, sign: str, at: int) -> int:
        if not self.text.startswith(sign, at):
            raise SentenceError("sign-missing", sign=sign.strip(), position=at)
        return at + len(sign)

    def value(self, at: int) -> tuple[str, int]:
        found, end = read_at(self.text, at, stop_words())
        return stored_value(found, self.ids), end

    def pair(self, at: int) -> tuple[tuple[str, str], int]:
        first, at = self.value(at)
        second, at = self.value(self.sign(", ", at))
        return (first, second), at

    def size(self, at: int) -> tuple[list[str], int]:
        first, at = self.value(at)
        if not self.text.startswith(", ", at):
            return [first], at
        second, at = self.value(at + 2)
        return [first, second], at

    def node(self, at: int) -> tuple[dict[str, Any], int]:
        (x, y), at = self.pair(at)
        node: dict[str, Any] = {"x": x, "y": y}
        if self.text.startswith(" [", at):
            before, at = self.pair(at + 2)
            after, at = self.pair(self.sign(" | ", at))
            node |= {"before": before, "after": after}
            at = self.sign("]", at)
        return node, at

    def pick(self, at: int) -> tuple[dict[str, Any], int]:
        for (keep, covered), form in PICKED.items():
            readers = {"cover": self.cover, "rank": self.number, "alike": self.alike, "reach": self.reach}
            found = hear(self.text, at, form, readers)
            if found is None:
                continue
            slots, end = found
            cover = slots["cover"] if covered else []
            rank = max(slots["rank"], 1) - 1
            alike, near = slots["alike"]
            picked = {"keep": keep, "cover": cover, "rank": rank, "alike": alike, "every": slots["reach"], "near": near}
            return picked, end
        raise SentenceError("pick-missing", position=at)

    def cover(self, at: int) -> tuple[list[str], int]:
        found: list[str] = []
        while True:
            owner, at = self.figure(at)
            if copy := _COPY.match(self.text, at):
                owner, at = f"{owner}#{int(copy[1]) - 1}", copy.end()
            found.append(owner)
            if not self.text.startswith(" + ", at):
                return found, at
            at += 3

    def number(self, at: int) -> tuple[int, int]:
        found = _NUMBER.match(self.text, at)
        if found is None:
            raise SentenceError("pick-missing", position=at)
        return int(found[0]), found.end()

    def alike(self, at: int) -> tuple[tuple[int, tuple[float, float] | None], int]:
        """Among how many regions one is chosen, and its witness where one stands behind."""
        count, at = self.number(at)
        witness = re.compile(rf" {re.escape(tr(ABOUT))} (-?\d+\.\d+) (-?\d+\.\d+)").match(self.text, at)
        if witness is None:
            return (count, None), at
        return (count, (float(witness[1]), float(witness[2]))), witness.end()

    def reach(self, at: int) -> tuple[int, int]:
        for every, word in ((1, tr(ALL_ROUND)), (0, tr(HERE))):
            if self.text.startswith(word, at):
                return every, at + len(word)
        found = hear(self.text, at, EVERY, {"every": self.number})
        if found is None:
            raise SentenceError("pick-missing", position=at)
        return found[0]["every"], found[1]


def stop_words() -> frozenset[str]:
    """Words that follow a value in some sentence and so end it; no measure can be called so."""
    return _stop_words(tr(LANGUAGE))


@cache
def _stop_words(_language: str) -> frozenset[str]:
    found: set[str] = set()
    for kind in IN_ORDER_OF_WORK:
        parts = [part for part in sentence_parts(kind) if not (isinstance(part, Words) and part.text.isspace())]
        for before, after in pairwise(parts):
            if not (isinstance(before, Slot) and before.kind in (*VALUES, FieldKind.NODES, FieldKind.SIZES)):
                continue
            if isinstance(after, Words):
                found.update(_WORD.findall(after.text)[:1])
            elif isinstance(after, Slot) and after.kind is FieldKind.CHOICE:
                found.update(tr(choice).split()[0] for choice in kind.choices(after.field))
    found.update(_WORD.findall(tr(GUIDE))[:1])
    return frozenset(found - RESERVED)


def read_sentence(text: str, ids: Mapping[str, str]) -> Sentence:
    """Read a typed sentence; `ids` are those of the figures before it, by name.

    Raises:
        SentenceError: with the character from which on no kind's sentence fits, and what could stand there.
    """
    text = text.strip()
    if not text:
        raise SentenceError("empty-sentence", position=0)
    if len(text) > limits.SENTENCE_LENGTH:
        raise SentenceError("sentence-too-long", length=len(text), position=limits.SENTENCE_LENGTH)
    failure = _Failure()
    for nameless, kind in product((False, True), IN_ORDER_OF_WORK):
        fields = _Reader(text, ids, failure).sentence(kind, nameless)
        if fields is not None:
            return Sentence(kind, fields)
    if failure.error is not None and failure.error.values.get("position") == failure.at:
        raise SentenceError("sentence-stops-at", reason=str(failure.error), position=failure.at)
    wanted = " or ".join(f"“{word}”" for word in failure.wanted[:8]) or "its end"
    raise SentenceError("sentence-unread", found=text[failure.at : failure.at + 24], wanted=wanted, position=failure.at)


def read_field(kind: type[Step], name: str, text: str, ids: Mapping[str, str]) -> Any:
    """One field's value as it is written in the kind's sentence.

    Raises:
        SentenceError: it cannot be read, or goes on too long.
    """
    failure = _Failure()
    found = _Reader(text.strip(), ids, failure).slot(kind, Slot(name, kind.field_kinds()[name]), 0)
    if found is None:
        assert failure.error is not None
        raise SentenceError("sentence-stops-at", reason=str(failure.error), position=failure.at)
    value, end = found
    if end != len(text.strip()):
        raise SentenceError("sentence-unread", found=text.strip()[end : end + 24], wanted="its end", position=end)
    return value


def furthest(text: str, ids: Mapping[str, str]) -> tuple[int, list[str]]:
    """How far any kind's sentence fits a text that was begun, and what may stand there: words, or kinds of things such
    as “a place”.
    """
    failure = _Failure()
    for kind in IN_ORDER_OF_WORK:
        _Reader(text, ids, failure).sentence(kind, nameless=False)
    return failure.at, failure.wanted
