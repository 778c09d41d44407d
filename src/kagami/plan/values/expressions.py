"""Values as typed: arithmetic over measures and the module, read by a small grammar with limits.

    sum      = product (("+" | "-") product)*
    product  = signed (("*" | "/") signed)*
    signed   = "-" signed | joined
    joined   = power power*          side by side multiplies, but for two numbers, and binds closer: 6u/2u = 3
    power    = atom ("^" signed)?
    atom     = number | name | name "(" sum ("," sum)* ")" | "(" sum ")" | reading (see `spoken`)

`×`, `·`, `÷`, `−` and `**` are read as well. A length is in module units, so that u is 1; 12mm is turned by the
module's real size. Angles are degrees.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Collection, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Final, TypeAlias

from kagami.plan import limits
from kagami.plan.errors import ExpressionError, PlanError
from kagami.plan.references.spoken import ParsedReading, Reading, parse_reading
from kagami.plan.translation import english, speaking

MILLIMETRES: Final = {"mm": 1.0, "cm": 10.0, "in": 25.4, "px": 25.4 / 96, "pt": 25.4 / 72}
"""Length of each unit; px and pt by CSS Values and Units Level 3, section 6.2 (1in = 96px = 72pt = 2.54cm)."""

CONSTANTS: Final = {"pi": math.pi, "phi": (1 + math.sqrt(5)) / 2}

FUNCTIONS: Final[dict[str, tuple[int, int, Callable[..., float]]]] = {
    "sqrt": (1, 1, math.sqrt),
    "abs": (1, 1, abs),
    "sin": (1, 1, lambda degrees: math.sin(math.radians(degrees))),
    "cos": (1, 1, lambda degrees: math.cos(math.radians(degrees))),
    "tan": (1, 1, lambda degrees: math.tan(math.radians(degrees))),
    "min": (1, 12, min),
    "max": (1, 12, max),
}
"""Name, least and greatest number of arguments, and what it does."""

RESERVED: Final = frozenset({"u", *MILLIMETRES, *CONSTANTS, *FUNCTIONS})

_TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d+)?|\.\d+)|([A-Za-z][A-Za-z0-9_]*)|(\*\*|[-+*/^(),×·÷−]))")
_SIGNS = {"×": "*", "·": "*", "÷": "/", "−": "-", "**": "^"}
_DECIMAL_COMMA = re.compile(r"\d,\d")
_NAME = re.compile(r"[A-Za-z][A-Za-z0-9_]*")


@dataclass(frozen=True, slots=True)
class _Token:
    kind: str  # "number", "name", "sign" or "end"
    text: str
    position: int
    end: int = 0


@dataclass(frozen=True, slots=True)
class Node:
    """A part of an expression: an operation over parts, a number or a name; `start` and `end` cut it from the text."""

    operation: str
    parts: tuple[Node, ...]
    value: float | str | ParsedReading
    start: int
    end: int


Measured: TypeAlias = Callable[[Reading], float]


def _unread(reading: Reading) -> float:
    raise PlanError("no-reading-here", what=reading.kind)


@dataclass(frozen=True, slots=True)
class Expression:
    """A value that was read, ready to be computed."""

    text: str
    root: Node

    @property
    def nodes(self) -> Iterator[Node]:
        """All parts of it, as they stand from left to right; what holds others comes before them."""
        waiting = [self.root]
        while waiting:
            node = waiting.pop()
            yield node
            waiting.extend(reversed(node.parts))

    @property
    def named(self) -> tuple[Node, ...]:
        """The names of measures in it, from left to right."""
        return tuple(node for node in self.nodes if node.operation == "name" and node.value not in RESERVED)

    @property
    def names(self) -> frozenset[str]:
        """The measures that it uses."""
        return frozenset(str(node.value) for node in self.named)

    @property
    def readings(self) -> tuple[ParsedReading, ...]:
        """The readings of figures in it, from left to right."""
        return tuple(node.value for node in self.nodes if isinstance(node.value, ParsedReading))

    def value(
        self,
        measures: Mapping[str, float],
        module_mm: float = 1.0,
        read: Measured = _unread,
        known: Collection[str] | None = None,
    ) -> float:
        """The number that it comes to.

        `measures` give the values of names, `module_mm` the real size of u in millimetres, `read` what a reading of
        figures comes to. `known` are all measures there are, for errors, where not all have values yet.

        Raises:
            ExpressionError: an unknown name, a division by zero, no real value, or a value too large.
        """
        return _Computation(self.text, measures, module_mm, read, measures if known is None else known).of(self.root)


def is_measure_name(name: str) -> bool:
    """Whether a measure may have this name."""
    return bool(_NAME.fullmatch(name)) and name not in RESERVED and len(name) <= limits.NAME_LENGTH


@lru_cache(maxsize=4096)
def parse_value(text: str) -> Expression:
    """Read a value. Values are notation and the same in every language.

    Raises:
        ExpressionError: with the position of the first sign that cannot stand there.

    >>> parse_value("3u + 2 gap").value({"gap": 0.25})
    3.5
    """
    if len(text) > limits.STORED_LENGTH:
        raise ExpressionError("value-too-long", length=len(text), position=limits.EXPRESSION_LENGTH)
    if not text.strip():
        raise ExpressionError("empty-value", position=0)
    parser = _ValueParser(text)
    root = parser.sum(0)
    parser.expect_end()
    return Expression(text, root)


def figures_in(text: str) -> frozenset[str]:
    """The figures that a value reads, as they are named in it; none in one that cannot be read."""
    if not may_read_figures(text):
        return frozenset()
    try:
        readings = parse_value(text).readings
    except ExpressionError:
        return frozenset()
    return frozenset().union(*(heard.named for heard in readings))


def may_read_figures(text: str) -> bool:
    """Whether a value may hold readings: quick, and never wrongly no."""
    return any(word in text for word in (" of ", " from ", " between "))


def parse_value_at(text: str, at: int, stops: frozenset[str]) -> tuple[str, int]:
    """The value that is written at a position of a sentence, up to where it cannot go on or a word of `stops` follows.

    Returns its text and where it ends.

    Raises:
        ExpressionError: no value begins there, or it stops in the middle.
    """
    # What is too long for a value is not read to its end.
    parser = _ValueParser(text[: at + limits.EXPRESSION_LENGTH + 2], at, stops)
    parser.sum(0)
    end = parser.behind  # with brackets round all of it, that is behind the last one
    found = text[at:end].strip()
    if len(found) > limits.EXPRESSION_LENGTH:
        raise ExpressionError("value-too-long", length=len(found), position=at)
    return found, end


def _reading_at(text: str, at: int) -> ParsedReading | None:
    with speaking(english):
        return parse_reading(text, at, parse_value_at)


class _ValueParser:
    """Recursive descent over one value. With `stops` it may be followed by other text."""

    def __init__(self, text: str, at: int = 0, stops: frozenset[str] | None = None) -> None:
        self.text = text
        self.stops = stops
        self.behind = at  # where the last token ended
        self.token = self._next(at)

    def _next(self, at: int) -> _Token:
        text, stops = self.text, self.stops
        match = _TOKEN.match(text, at)
        if match is None or match.lastindex is None:
            rest = text[at:].lstrip()
            position = len(text) - len(rest)
            if rest and stops is None:
                raise ExpressionError("unexpected-sign", found=rest[0], position=position)
            return _Token("end", "", position if rest else len(text.rstrip()))
        word, position = match[match.lastindex], match.start(match.lastindex)
        kind = ("number", "name", "sign")[match.lastindex - 1]
        if kind == "name" and stops is not None and word in stops and _reading_at(text, position) is None:
            return _Token("end", "", position)
        return _Token(kind, _SIGNS.get(word, word), position, match.end())

    def advance(self) -> _Token:
        """Go past the token at hand."""
        token = self.token
        self.behind = token.end
        self.token = self._next(token.end)
        return token

    def take(self, *signs: str) -> str | None:
        if self.token.kind == "sign" and self.token.text in signs:
            return self.advance().text
        return None

    def node(self, operation: str, *parts: Node, start: int, value: float | str | ParsedReading = 0.0) -> Node:
        return Node(operation, parts, value, start, self.behind)

    def expect_end(self) -> None:
        if self.token.kind != "end":
            comma = _DECIMAL_COMMA.match(self.text, max(0, self.token.position - 1))
            code = "decimal-comma" if comma else "unexpected-sign"
            raise ExpressionError(code, found=self.token.text, position=self.token.position)

    def sum(self, depth: int) -> Node:
        return self._chain(depth, self.product, "+", "-")

    def product(self, depth: int) -> Node:
        return self._chain(depth, self.signed, "*", "/")

    def _chain(self, depth: int, part: Callable[[int], Node], *signs: str) -> Node:
        if depth > limits.EXPRESSION_DEPTH:
            raise ExpressionError("value-too-deep", position=self.token.position)
        start = self.token.position
        left = part(depth)
        while sign := self.take(*signs):
            left = self.node(sign, left, part(depth), start=start)
        return left

    def signed(self, depth: int) -> Node:
        start = self.token.position
        if depth > limits.EXPRESSION_DEPTH:
            raise ExpressionError("value-too-deep", position=start)
        if self.take("-"):
            return self.node("negative", self.signed(depth + 1), start=start)
        left = last = self.power(depth)
        while self.token.kind in ("number", "name") or (self.token.kind == "sign" and self.token.text == "("):
            if self.token.kind == last.operation == "number":  # 1 1/2 would be a half
                raise ExpressionError("numbers-side-by-side", position=self.token.position)
            last = self.power(depth)
            left = self.node("*", left, last, start=start)
        return left

    def power(self, depth: int) -> Node:
        start = self.token.position
        base = self.atom(depth)
        if self.take("^"):
            return self.node("^", base, self.signed(depth + 1), start=start)
        return base

    def atom(self, depth: int) -> Node:
        token = self.token
        if token.kind == "number":
            self.advance()
            return self.node("number", start=token.position, value=float(token.text))
        if token.kind == "name":
            heard = _reading_at(self.text, token.position)
            if heard is not None:
                self.behind = heard.end
                self.token = self._next(heard.end)
                return self.node("reading", start=token.position, value=heard)
            self.advance()
            if token.text in FUNCTIONS:
                return self._call(token, depth)
            return self.node("name", start=token.position, value=token.text)
        if self.take("("):
            inner = self.sum(depth + 1)
            self._close()
            return inner
        if token.kind == "end":
            raise ExpressionError("unfinished-value", wanted="a number or a name", position=token.position)
        raise ExpressionError("unexpected-sign", found=token.text, position=token.position)

    def _call(self, name: _Token, depth: int) -> Node:
        least, most, _ = FUNCTIONS[name.text]
        if not self.take("("):
            given = {"name": name.text, "wanted": "brackets", "given": "none"}
            raise ExpressionError("wrong-arguments", position=name.position, **given)
        parts = [self.sum(depth + 1)]
        while self.take(","):
            parts.append(self.sum(depth + 1))
        self._close()
        if not least <= len(parts) <= most:
            wanted = "one value" if most == 1 else f"{least} to {most} values"
            raise ExpressionError(
                "wrong-arguments", name=name.text, wanted=wanted, given=len(parts), position=name.position
            )
        return self.node("call", *parts, start=name.position, value=name.text)

    def _close(self) -> None:
        if self.take(")"):
            return
        if self.token.kind == "end":
            raise ExpressionError("unfinished-value", wanted="a closing bracket", position=self.token.position)
        raise ExpressionError("unexpected-sign", found=self.token.text, position=self.token.position)


@dataclass(frozen=True, slots=True)
class _Computation:
    text: str
    measures: Mapping[str, float]
    module_mm: float
    read: Measured
    known: Collection[str]

    def of(self, node: Node) -> float:
        match node.operation:
            case "number":
                assert isinstance(node.value, float)
                result = node.value
            case "reading":
                assert isinstance(node.value, ParsedReading)
                result = self.read(node.value.reading)
            case "name":
                result = self._name(node)
            case "call":
                result = self._call(node)
            case _:
                result = self._arithmetic(node)
        if abs(result) > limits.GREATEST_VALUE:
            raise self._error("value-too-large", node)
        return result

    def _error(self, code: str, node: Node, **values: str) -> ExpressionError:
        return ExpressionError(code, part=self.text[node.start : node.end], position=node.start, **values)

    def _name(self, node: Node) -> float:
        name = str(node.value)
        if name == "u":
            return 1.0
        if name in CONSTANTS:
            return CONSTANTS[name]
        if name in MILLIMETRES:
            return MILLIMETRES[name] / self.module_mm
        if name not in self.measures:
            known = f"Known are: u, {', '.join(self.known)}." if self.known else "Known is only u as yet."
            raise ExpressionError("unknown-name", name=name, known=known, position=node.start)
        return self.measures[name]

    def _call(self, node: Node) -> float:
        try:
            return float(FUNCTIONS[str(node.value)][2](*(self.of(part) for part in node.parts)))
        except ValueError as error:
            mend = "A square root wants a value that is not negative."
            raise self._error("not-a-number", node, mend=mend) from error

    def _arithmetic(self, node: Node) -> float:
        left = self.of(node.parts[0])
        if node.operation == "negative":
            return -left
        right = self.of(node.parts[1])
        if node.operation == "+":
            return left + right
        if node.operation == "-":
            return left - right
        if node.operation == "*":
            return left * right
        if node.operation == "/":
            if right == 0:
                raise self._error("division-by-zero", node.parts[1])
            return left / right
        return self._power(node, left, right)

    def _power(self, node: Node, base: float, exponent: float) -> float:
        try:
            result = base**exponent
        except OverflowError as error:
            raise self._error("value-too-large", node) from error
        except ZeroDivisionError as error:
            raise self._error("division-by-zero", node.parts[0]) from error
        if isinstance(result, complex):
            raise self._error("not-a-number", node, mend="A broken power wants a base that is not negative.")
        return float(result)
