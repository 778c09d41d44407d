"""Sentences that are not quite right: read as they are most likely meant.

Clauses may stand in any order, and those with a usual value may be missing; small words (with, on, its …), units and
the sign of degrees may be missing; words of the trade stand for the verbs of the plan. What was understood is written
as the plan says it. A misspelt word is mended too, but only offered.
"""

from __future__ import annotations

import difflib
import re
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from itertools import product
from typing import Any, Final, TypeAlias

from kagami.plan.errors import PlanError
from kagami.plan.fields.figures import FiguresKind
from kagami.plan.fields.kind import FieldKind
from kagami.plan.fields.scanner import Scanner
from kagami.plan.fields.values import LENGTH, ValueKind
from kagami.plan.language.clauses import SMALL, Clause, Form, forms_of, vocabulary, words_of
from kagami.plan.language.orders import without_order
from kagami.plan.language.sentences import Own, Slot
from kagami.plan.language.trade import NO_LINES, SAME, meanings, without_guide
from kagami.plan.references.places import parse_reference, values_of
from kagami.plan.references.spoken import OF_ONE, PLACE_WORDS
from kagami.plan.steps import Step
from kagami.plan.translation import LANGUAGE, tr
from kagami.plan.values.expressions import parse_value
from kagami.plan.wording.names import QUOTES, parse_name

_SKIPPED: Final = re.compile(r"(?:[\s,;:°%=]|\.(?!\d)|degrees?\b|deg\b|called\b|named\b)*", re.IGNORECASE)
_WORD: Final = re.compile(r"[^\W\d_]+")
_QUOTED: Final = re.compile(r"(“[^”]*”|\"[^\"]*\")")
"""Names and words in quotes: they are as they are."""
ASIDE: Final = frozenset(("degrees", "degree", "deg", "called", "named"))
"""Words that end a value and are read with what they stand beside."""
_LEADS: Final = r"(?:on|of|with|from|at|through)\b"
_ARTICLE_AS_NAME: Final = re.compile(rf"an?\s+{_LEADS}")
"""A figure called “a”, as figures are in geometry."""
Allowance: TypeAlias = Callable[[str, bool], bool]
"""Whether a value may use the measures that it does, and whether it may be made of one that is still to come."""
# fmt: off
UNNAMED: Final = frozenset((
    "inside", "outside", "around", "about", "through", "between", "above", "below", "under", "over", "near", "within",
    "along", "across", "against", "behind", "before", "beside", "left", "right", "up", "down", "pointing", "facing",
    "horizontal", "vertical", "concentric", "rounded", "rotated", "turned", "tilted",
))
# fmt: on
"""Words that no figure is called by behind its verb, since something else is meant."""
_COMMA: Final = re.compile(r"(?<![\d,(])(\d+),(\d+)(?![\d,)])")
"""A decimal comma."""
_NUMBER: Final = re.compile(r"-?(?:\d+(?:\.\d+)?|\.\d+)")
_CALLED: Final = re.compile(r"(?::|\bcalled|\bnamed)\s*$", re.IGNORECASE)
_CLOSE: Final = 0.75
LEAST_LETTERS: Final = 4
"""Shorter words are not taken for misspelt ones."""
MOST_IDLE: Final = 6
"""Small words that may stand in a sentence without leading to anything."""
MOST_LENGTH: Final = 300
"""Longer sentences are read as they stand, or not at all."""


def words_said() -> frozenset[str]:
    """The words of sentences, and those that are said for them, in small letters."""
    return SMALL | ASIDE | vocabulary() | frozenset[str]().union(*SAME)


def _same(word: str) -> frozenset[str]:
    return frozenset().union(*(words for words in SAME if word in words))


def _values_in(kind: FieldKind, value: Any) -> tuple[str, ...]:
    """The values that a field, or a place in it, is made of."""
    return (value,) if isinstance(kind, ValueKind) else values_of(parse_reference(value)) if kind.is_place else ()


def _leads(clauses: Iterable[Clause]) -> Iterator[str]:
    return (word for clause in clauses for word in clause.leads())


@dataclass
class Reached:
    """How far a text could be read at best: what is left of it, and what may be said from there on."""

    left: str | None = None
    wanted: list[str] = field(default_factory=list)
    turned_down: bool = False
    """Whether a value was turned down for the measures in it."""
    kind: type[Step] | None = None
    """What it is likeliest to be a sentence of."""
    fields: Mapping[str, Any] = field(default_factory=dict)
    """What it says of that, as far as it could be read."""

    def note(self, left: str, words: Iterable[str]) -> None:
        """One attempt stopped before this, where these words could have stood."""
        if self.left is None or len(left) < len(self.left):
            self.left, self.wanted = left, []
        if len(left) == len(self.left):
            self.wanted = list(dict.fromkeys((*self.wanted, *words)))

    def take(self, kind: type[Step], fields: Mapping[str, Any]) -> None:
        """One attempt, at a kind, read these fields: most of all, or as many and earlier, is the likeliest."""
        if self.kind is None or len(fields) > len(self.fields):
            self.kind, self.fields = kind, fields


def forgiven(
    text: str,
    ids: Mapping[str, str],
    stops: frozenset[str],
    measures: Collection[str],
    reached: Reached | None = None,
    lines: Mapping[str, str] = NO_LINES,
) -> tuple[type[Step], dict[str, Any]] | None:
    """The kind and fields that a sentence most likely means; None where nothing fits.

    `ids` are those of the figures before it, by name; `stops` the words that end a value; `measures` the names of those
    there are: what uses no other one is likelier; `lines` what an upright line and a level one are called. `reached` is
    told how far it could be read so.
    """
    if len(text) > MOST_LENGTH:
        return None
    text, guide = without_guide(without_order(text))
    few, every = stops | SMALL | ASIDE, stops | words_said()
    # A measure may be called like a word of a sentence: at first all such words end a value, then only those that must.
    plain = _plain(text, ids)
    meant = (one for said in dict.fromkeys((plain, _COMMA.sub(r"\1.\2", plain))) for one in meanings(said, ids, lines))
    said = [*product(meant, (every, few))]
    reserved = every | set(OF_ONE) | set(PLACE_WORDS) | ids.keys() | {"O"}
    known, one_more = _allowances(measures, reserved)
    reached = reached or Reached()
    found = _read(said, ids, known, reached) or _by_title(plain, ids, (every, few), known, reached)
    if found is None and reached.turned_down:
        found = _read(said, ids, one_more, Reached())
    if found is None or not guide or found[0].always_guide:
        return found
    return found[0], {**found[1], "guide": True}


def _read(
    said: Sequence[tuple[str, frozenset[str]]], ids: Mapping[str, str], may_use: Allowance, reached: Reached
) -> tuple[type[Step], dict[str, Any]] | None:
    """What the first of several texts means that means something; each stands with the words that end a value in it."""
    for meant, ending in said:
        scanner = Scanner(meant, ids, ending, lenient=True)
        for form in forms_of(tr(LANGUAGE)):
            found = _Reader(scanner, form, may_use, reached).read()
            if found is not None:
                return form.kind, found
    return None


def _by_title(
    text: str, ids: Mapping[str, str], endings: Iterable[frozenset[str]], may_use: Allowance, reached: Reached
) -> tuple[type[Step], dict[str, Any]] | None:
    """What a text means that begins with what a kind is called among the verbs, such as “joined star”; `reached` is
    told of that kind alone.
    """
    titled = ((words_of(_plain(tr(form.kind.title), ids)), form) for form in forms_of(tr(LANGUAGE)))
    begun = [(len(title), form) for title, form in titled if words_of(text)[: len(title)] == title]
    if not begun:
        return None
    count, form = max(begun, key=lambda one: one[0])
    end = [*_WORD.finditer(text)][count - 1].end()
    said, own = " ".join(form.verb) + text[end:], Reached()
    for ending in endings:
        found = _Reader(Scanner(said, ids, ending, lenient=True), form, may_use, own).read()
        if found is not None:
            return form.kind, found
    own.take(form.kind, {})
    reached.left, reached.wanted, reached.kind, reached.fields = own.left, own.wanted, own.kind, own.fields
    return None


def _allowances(measures: Collection[str], words: Collection[str]) -> tuple[Allowance, Allowance]:
    """Which measures a value may use, one after the other: those there are; then one besides, if no word of a sentence
    is called so.
    """
    known, taken = frozenset(measures), frozenset(words)

    def with_one_more(value: str, of_one_to_come: bool) -> bool:
        others = parse_value(value).names - known
        beside = any(name in taken or re.search(rf"{name} \d|\d {name}", value) for name in others)
        return not others or (of_one_to_come and len(others) == 1 and not beside)

    return (lambda value, _: parse_value(value).names <= known), with_one_more


def mended(text: str, ids: Mapping[str, str]) -> str | None:
    """The text with misspelt words as they are most likely spelt; None where none is."""
    known = (
        vocabulary()
        | UNNAMED
        | frozenset[str]().union(*SAME)
        | {"rectangle", "ellipse", "triangle", "hexagon", "mirror", "subtract", "merge"}
    )
    names = {word.lower() for name in ids for word in _WORD.findall(name)}
    words = sorted(known | names)
    changed = False

    def spelt(match: re.Match[str]) -> str:
        nonlocal changed
        word = match[0]
        if len(word) < LEAST_LETTERS or word.lower() in known or word.lower() in names:
            return word
        near = difflib.get_close_matches(word.lower(), words, 1, _CLOSE)
        if not near:
            return word
        changed = True
        return near[0].capitalize() if word[0].isupper() else near[0]

    parts = _alternating(_QUOTED.split(text[:MOST_LENGTH]))
    found = "".join(part if quoted else _WORD.sub(spelt, part) for quoted, part in parts)
    return found if changed else None


def _plain(text: str, ids: Mapping[str, str]) -> str:
    """Without articles, unless a figure is called so, and on one blank each. Before “on” and the like it is a name."""
    articles = [word for word in ("a", "an", "the") if word not in ids]
    article = re.compile(rf"\b(?:{'|'.join(articles)})\s+(?!{_LEADS})" if articles else r"(?!)", re.IGNORECASE)
    parts = _QUOTED.split(text)
    return "".join(
        part if quoted else re.sub(r"\s+", " ", article.sub("", part)) for quoted, part in _alternating(parts)
    ).strip()


def _alternating(parts: list[str]) -> Iterator[tuple[bool, str]]:
    """Parts of a text that stand outside of quotes and within them, in turn."""
    return ((number % 2 == 1, part) for number, part in enumerate(parts))


@dataclass(frozen=True, slots=True)
class _Reader:
    """One attempt at one kind."""

    scanner: Scanner
    form: Form
    may_use: Allowance
    reached: Reached

    def read(self) -> dict[str, Any] | None:
        at = 0
        for word in self.form.verb:
            end = self.word(word, self.skipped(at), by_others=False)
            if end is None:
                return None
            at = end
        return self.rest(at, self.form.clauses, {})

    def skipped(self, at: int) -> int:
        match = _SKIPPED.match(self.scanner.text, at)
        return match.end() if match else at

    def word(self, word: str, at: int, *, by_others: bool = True) -> int | None:
        """Where a fixed word ends; plural or singular, and `by_others` that are said for it."""
        match = _WORD.match(self.scanner.text, at)
        if match is None:
            return None
        said = match[0].lower()
        meant = {said, said.removesuffix("s"), f"{said}s", *(_same(said) if by_others else ())}
        return match.end() if word in meant else None

    def rest(
        self, at: int, left: tuple[Clause, ...], found: dict[str, Any], idle: int = MOST_IDLE
    ) -> dict[str, Any] | None:
        """The fields that the text says from a position on; `idle` words may still be passed over."""
        at = self.skipped(at)
        self.reached.take(self.form.kind, found)
        if at == len(self.scanner.text):
            missing = [clause for clause in left if not self.may_miss(clause)]
            self.reached.note("", _leads(missing))
            return None if missing else found
        for number, clause in enumerate(left):
            if isinstance(clause.slot, Own) and not self.names_here(at, found, idle):
                continue
            for value, end in self.clause(clause, at):
                others = (
                    *left[number + 1 :],
                    *left[:number],
                )  # what follows in its sentence is likeliest to follow here
                more = self.rest(end, others, {**found, clause.field: value}, idle)
                if more is not None:
                    return more
        match = _WORD.match(self.scanner.text, at)
        if idle and match and match[0].lower() in SMALL:
            return self.rest(match.end(), left, found, idle - 1)
        self.reached.note(self.scanner.text[at:], _leads(left))
        return None

    def names_here(self, at: int, found: Mapping[str, Any], idle: int) -> bool:
        """Whether a name may stand at a position: right behind the verb where its sentence has it there, or behind a
        colon or a word that says so.
        """
        first = bool(self.form.clauses) and isinstance(self.form.clauses[0].slot, Own)
        return (first and not found and idle == MOST_IDLE) or bool(_CALLED.search(self.scanner.text, 0, at))

    def may_miss(self, clause: Clause) -> bool:
        """Whether a clause may be left out: the name may, and a field with a usual value."""
        if isinstance(clause.slot, Own):
            return True
        places = [kind for kind in self.form.kind.field_kinds().values() if kind.is_place]
        if clause.slot.kind.is_place and len(places) > 1:
            return False  # of two places neither is the usual one
        info = self.form.kind.model_fields[clause.field]
        drawn = clause.field in (self.form.kind.presses, self.form.kind.trail)
        nothing = (drawn or isinstance(clause.slot.kind, FiguresKind)) and not info.default
        return not info.is_required() and info.default is not None and not nothing

    def clause(self, clause: Clause, at: int) -> Iterator[tuple[Any, int]]:
        """What a clause says at a position, and where it ends."""
        own = words_of(tr(clause.field.replace("_", " ")))
        for before, behind in ((clause.before, clause.behind), (own, ())):
            start = self.leading(before, at, len(before) - 1)
            said = None if start is None else self.said(clause, self.skipped(start), led=self.led(at, start))
            if said is None:
                if start is not None and start > at and isinstance(clause.slot, Slot):
                    self.reached.note(self.scanner.text[self.skipped(start) :], clause.slot.kind.expected())
                continue
            value, end = said
            closed = self.leading(behind, end, 0)
            if closed is not None:
                yield value, closed
        if self.needs_no_lead(clause, at):
            value, end = self.said(clause, at, led=False) or ("", at)
            if end > at:
                yield value, end

    def needs_no_lead(self, clause: Clause, at: int) -> bool:
        """Whether a bare number says this: the only length that its kind has."""
        kinds = [kind for kind in self.form.kind.field_kinds().values() if kind is LENGTH]
        alone = isinstance(clause.slot, Slot) and clause.slot.kind is LENGTH and len(kinds) == 1
        return alone and bool(_NUMBER.match(self.scanner.text, at))

    def led(self, at: int, start: int) -> bool:
        """Whether words that lead to a field stand between two positions."""
        return bool(_WORD.search(self.scanner.text, at, start))

    def said(self, clause: Clause, at: int, *, led: bool) -> tuple[Any, int] | None:
        text = self.scanner.text
        if isinstance(clause.slot, Own):
            found, first = parse_name(text, at), _WORD.match(text, at)
            named = _ARTICLE_AS_NAME.match(text, at)
            words = self.scanner.stops | {"o"} | self.form.words
            words = words if _CALLED.search(text, 0, at) else words | UNNAMED
            taken = first is not None and not named and first[0].lower() in words and text[at] not in QUOTES
            return None if found is None or taken or found[0] in self.scanner.ids else found
        try:
            value, end = clause.slot.kind.parse(self.scanner, at)
        except PlanError:
            return None
        values = _values_in(clause.slot.kind, value)
        # Behind a colon stands a name, and no value of a measure that there is none of.
        is_length = (clause.slot.kind is LENGTH or clause.slot.kind.is_place) and not _CALLED.search(text, 0, at)
        if not all(self.may_use(one, is_length and (led or not one.strip().isidentifier())) for one in values):
            self.reached.turned_down = True
            return None
        bare = clause.slot.kind is LENGTH and _NUMBER.fullmatch(value)
        return (f"{value}{LENGTH.unit}" if bare else value), end

    def leading(self, words: tuple[str, ...], at: int, missing: int) -> int | None:
        """Where the words beside a field end: small ones may be missing, and so many of the others, but not all."""
        there = False
        for word in words:
            end = self.word(word, self.skipped(at))
            if end is not None:
                at, there = end, True
            elif word not in SMALL:
                missing -= 1
                if missing < 0:
                    return None
        return at if there or all(word in SMALL for word in words) else None
