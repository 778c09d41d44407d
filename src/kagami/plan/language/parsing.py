"""Parsing sentences: from one typed line to the fields of a step, with what could come next where it stops.

A sentence is matched against every kind's words and slots, letter by letter; the kind that gets furthest tells what is
wrong and what may come next.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache
from itertools import pairwise, product
from typing import Any, Final

from kagami.plan import limits
from kagami.plan.errors import ExpressionError, PlanError
from kagami.plan.fields.scanner import Scanner, SentenceError
from kagami.plan.language.called import with_names_quoted
from kagami.plan.language.clauses import SMALL_WORDS
from kagami.plan.language.forgiving import UNNAMED, Reached, forgiven, mended, words_said
from kagami.plan.language.sentences import GUIDE, MUTED, SINGULAR, Own, Slot, Words, sentence_parts
from kagami.plan.language.trade import NO_LINES
from kagami.plan.messages import listing
from kagami.plan.steps import KINDS, Step, beginning_with, in_order_of_work, kind_of
from kagami.plan.translation import LANGUAGE, tr
from kagami.plan.values.expressions import RESERVED
from kagami.plan.wording.names import parse_name

STOP_WORDS: Final = (
    "across after along altogether and apart as at away bands by cells copies cut each from high its lines long"
    " muted of out pieces points rays reading right rings sides sized steadied steps the thick times tips to tones"
    " touching turning up upright wide with"
)
"""What `stop_words_in` finds for all kinds in English, so that a text need not load them all."""
FORGIVEN = ((r"^pieces?$", "pieces"), (r"^pieces?$", "piece"), (r"^pieces?$", ""), (r"^copy$", "piece"), (r"^°", ""))
"""What may be typed for fixed words: “piece” for “pieces” and the other way, or neither, and an angle without its sign.
"""
MANY = {one: many for many, one in SINGULAR.items()}
_ONE = re.compile(rf"(?<![\w.])1 ({'|'.join(MANY)})\b")
_SPACE = re.compile(r"\s+")
_WORD = re.compile(r"[^\W\d_]+")


@dataclass(frozen=True, slots=True)
class Sentence:
    """What a sentence says: the kind of step and its fields, figures by their ids; `name` may be missing."""

    kind: type[Step]
    fields: Mapping[str, Any]


@dataclass
class _Failure:
    """Where parsing stopped, and what could have stood there."""

    at: int = -1
    wanted: list[str] = field(default_factory=list)
    error: PlanError | None = None

    def note(self, at: int, wanted: list[str], error: PlanError | None = None) -> None:
        if at > self.at:
            self.at, self.wanted, self.error = at, [], error
        if at == self.at:
            self.wanted.extend(word for word in wanted if word not in self.wanted)


@dataclass
class _SentenceParser:
    """One attempt at one kind."""

    scanner: Scanner
    failure: _Failure

    @property
    def text(self) -> str:
        return self.scanner.text

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
            value = self.own(at) if isinstance(part, Own) else self.slot(part, at)
            if value is None:
                return None
            found["name" if isinstance(part, Own) else part.field], at = value
        return found if self.finished(at, found, kind) else None

    def finished(self, at: int, found: dict[str, Any], kind: type[Step]) -> bool:
        """Whether nothing stands behind but that it is a guide, or muted."""
        rest, wanted = self.text[at:].strip().removesuffix("."), []
        for name, aside in (("guide", tr(GUIDE).strip()), ("muted", tr(MUTED).strip())):
            if re.match(rf"{re.escape(aside)}\b", rest):
                found[name], rest = True, rest[len(aside) :].strip()
            elif not (name == "guide" and kind.always_guide):
                wanted.append(aside)
        if not rest:
            return True
        self.failure.note(len(self.text.rstrip().removesuffix(".")) - len(rest), wanted)
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
            end = at + len(said)
            if self.text[at:end].lower() == said.lower() and not self.within_word(end):
                return end
        return None

    def within_word(self, at: int) -> bool:
        """Whether a position is between two letters: “let” is no word of “letter”."""
        return at > 0 and self.text[at - 1 : at].isalpha() and self.text[at : at + 1].isalpha()

    def own(self, at: int) -> tuple[str, int] | None:
        found = parse_name(self.text, at)
        if found is None:
            self.failure.note(at, ["a name"])
        return found

    def slot(self, slot: Slot, at: int) -> tuple[Any, int] | None:
        """A field's value and where it ends, or None with the failure noted."""
        try:
            return slot.kind.parse(self.scanner, at)
        except (ExpressionError, SentenceError) as error:
            position = error.values.get("position")
            assert isinstance(position, int)
            self.failure.note(position, slot.kind.expected(), error)
            return None


def stop_words() -> frozenset[str]:
    """Words that follow a value in some sentence and so end it; no measure can be called so."""
    return stop_words_of(tr(LANGUAGE))


@cache
def stop_words_of(language: str) -> frozenset[str]:
    """Those of a language; in English, of kinds that stand in no table and `STOP_WORDS`."""
    if language == LANGUAGE:
        return stop_words_in(KINDS.beside_the_table()).union(STOP_WORDS.split())
    return stop_words_in(in_order_of_work())


def stop_words_in(kinds: Iterable[type[Step]]) -> frozenset[str]:
    """Those of the sentences of some kinds."""
    found: set[str] = set()
    for kind in kinds:
        parts = [part for part in sentence_parts(kind) if not (isinstance(part, Words) and part.text.isspace())]
        for before, after in pairwise(parts):
            if not (isinstance(before, Slot) and before.kind.ends_in_value):
                continue
            if isinstance(after, Words):
                found.update(_WORD.findall(after.text)[:1])
            elif isinstance(after, Slot):
                found.update(tr(word).split()[0] for word in after.kind.words)
    found.update(word for aside in (GUIDE, MUTED) for word in _WORD.findall(tr(aside))[:1])
    return frozenset(found - RESERVED)


def parse_sentence(
    text: str, ids: Mapping[str, str], measures: Collection[str] = (), lines: Mapping[str, str] = NO_LINES
) -> Sentence:
    """Parse a typed sentence; `ids` are those of the figures before it, by name. For what is not quite right,
    `measures` are the names of those there are, and `lines` says what an upright line and a level one are called.

    Raises:
        SentenceError: with the character from which on no kind's sentence fits, and what could stand there; `nearest`
            is the kind of which it is likeliest a sentence, and the fields that it says of it.
    """
    text = text.strip()
    if not text:
        raise SentenceError("empty-sentence", position=0)
    if len(text) > limits.SENTENCE_LENGTH:
        raise SentenceError("sentence-too-long", length=len(text), position=limits.SENTENCE_LENGTH)
    found = _read_by_its_opening(text, ids)
    if found is not None:
        return found
    failure, scanner = _Failure(), Scanner(text, ids, stop_words())
    many, kinds = _one_as_many(text), in_order_of_work()
    found = _parsed(scanner, failure, kinds)
    if found is None and many != text:
        found = _parsed(Scanner(many, ids, stop_words()), _Failure(), kinds)
    if found is not None:
        return found
    reached = Reached()
    meant = forgiven(text, ids, stop_words(), measures, reached, lines)
    if meant is not None:
        return Sentence(*meant)
    better = mended(text, ids)
    if better is not None and (forgiven(better, ids, stop_words(), measures) or _reads(better, ids)):
        raise SentenceError("did-you-mean", mended=better, position=_differs(text, better))
    found = _with_a_long_name(text, ids, measures, lines)
    if found is not None:
        return found
    raise _refusal(text, failure, reached)


def _with_a_long_name(
    text: str, ids: Mapping[str, str], measures: Collection[str], lines: Mapping[str, str]
) -> Sentence | None:
    """What a text says whose step's name has several words, or begins with a number, and stands without its quotes."""
    words = stop_words() | words_said() | UNNAMED | {name.lower() for name in ids} | {"o", "u", *measures}
    for said, name in with_names_quoted(text, words):
        found = _parsed(Scanner(said, ids, stop_words()), _Failure(), in_order_of_work())
        meant = None if found else forgiven(said, ids, stop_words(), measures, None, lines)
        found = found or (Sentence(*meant) if meant else None)
        if found is not None and found.fields.get("name") == name:
            return found
    return None


def _refusal(text: str, failure: _Failure, reached: Reached) -> SentenceError:
    """What to say of a text that is no sentence: where it was read furthest, and what it is nearest to."""
    error = _unread(text, failure.at, failure.wanted)
    if reached.left is not None and len(reached.left) < len(SMALL_WORDS.sub("", text[failure.at :], count=1)) - 1:
        error = _stopped(text, reached.left, reached.wanted)
    elif failure.error is not None and failure.error.values.get("position") == failure.at:
        error = SentenceError("sentence-stops-at", reason=str(failure.error), position=failure.at)
    if reached.kind is not None:
        error.values["nearest"] = {"kind": kind_of(reached.kind), "fields": dict(reached.fields)}
    return error


def _stopped(text: str, left: str, wanted: Sequence[str]) -> SentenceError:
    """What is left of a text that was read so far in other words than the plan's."""
    position = text.rfind(left) if left else len(text)
    if position < 0:  # articles were taken out of it
        position = text.rfind(" ", 0, max(0, len(text) - len(left))) + 1
    return _unread(text, position, wanted)


def _unread(text: str, position: int, wanted: Sequence[str]) -> SentenceError:
    """What cannot stand at a position; words are quoted, things such as “a place” are not."""
    said = [word if re.match(r"an? ", word) else f"“{word}”" for word in wanted[:8]]
    found = text[position : position + 24]
    code = "sentence-unread" if found.strip(" .") else "sentence-breaks-off"
    return SentenceError(code, found=found, wanted=listing(said, "or") or "its end", position=position)


def _read_by_its_opening(text: str, ids: Mapping[str, str]) -> Sentence | None:
    """What an English sentence says, of the kinds alone that begin with its first word: no other one could fit it."""
    opening = _WORD.match(text)
    if opening is None or tr(LANGUAGE) != LANGUAGE:
        return None
    return _parsed(Scanner(text, ids, stop_words()), _Failure(), beginning_with(opening[0]))


def _parsed(scanner: Scanner, failure: _Failure, kinds: Sequence[type[Step]]) -> Sentence | None:
    """The sentence of the first kind that fits."""
    for nameless, kind in product((False, True), kinds):
        fields = _SentenceParser(scanner, failure).sentence(kind, nameless)
        if fields is not None:
            return Sentence(kind, fields)
    return None


def _one_as_many(text: str) -> str:
    """A text in which “1 step” is “1 steps”: `step` alone may be the name of a measure."""
    return _ONE.sub(lambda found: f"1 {MANY[found[1]]}", text)


def _reads(text: str, ids: Mapping[str, str]) -> bool:
    """Whether a text is a sentence as it stands."""
    scanner = Scanner(text, ids, stop_words())
    parsers = ((_SentenceParser(scanner, _Failure()), kind) for kind in in_order_of_work())
    return any(parser.sentence(kind, nameless=False) is not None for parser, kind in parsers)


def _differs(text: str, other: str) -> int:
    """The first character in which a text is not as another one."""
    return next((k for k, (a, b) in enumerate(zip(text, other, strict=False)) if a != b), min(len(text), len(other)))


def furthest(text: str, ids: Mapping[str, str]) -> tuple[int, list[str]]:
    """How far any kind's sentence fits a text that was begun, and what may stand there: words, or kinds of things such
    as “a place”.
    """
    failure, scanner = _Failure(), Scanner(text, ids, stop_words())
    for kind in in_order_of_work():
        _SentenceParser(scanner, failure).sentence(kind, nameless=False)
    return failure.at, failure.wanted
