"""Values as typed: arithmetic over measures and the module, read by a small grammar with limits.

    sum      = product (("+" | "-") product)*
    product  = signed (("*" | "/") signed)*
    signed   = "-" signed | joined
    joined   = power power*          side by side multiplies and binds closer: 3u, 2 gap, 6u/2u = 3
    power    = atom ("^" signed)?
    atom     = number | name | name "(" sum ("," sum)* ")" | "(" sum ")"

`×`, `·`, `÷`, `−` and `**` are read as well. A length is in module units, so that u is 1; 12mm is turned by the
module's real size. Angles are degrees.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Final

from kagami.plan import limits
from kagami.plan.errors import ExpressionError

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

_TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d*)?|\.\d+)|([A-Za-z][A-Za-z0-9_]*)|(\*\*|[-+*/^(),×·÷−]))")
_SIGNS = {"×": "*", "·": "*", "÷": "/", "−": "-", "**": "^"}
_NAME = re.compile(r"[A-Za-z][A-Za-z0-9_]*")


@dataclass(frozen=True, slots=True)
class _Token:
    kind: str  # "number", "name", "sign" or "end"
    text: str
    position: int


@dataclass(frozen=True, slots=True)
class Node:
    """A part of an expression: an operation over parts, a number or a name; `start` and `end` cut it from the text."""

    operation: str
    parts: tuple[Node, ...]
    value: float | str
    start: int
    end: int


@dataclass(frozen=True, slots=True)
class Expression:
    """A value that was read, ready to be computed."""

    text: str
    root: Node

    @property
    def names(self) -> frozenset[str]:
        """The measures that it uses."""
        found: set[str] = set()
        waiting = [self.root]
        while waiting:
            node = waiting.pop()
            if node.operation == "name" and node.value not in RESERVED:
                found.add(str(node.value))
            waiting.extend(node.parts)
        return frozenset(found)

    def value(self, measures: Mapping[str, float], module_mm: float = 1.0) -> float:
        """The number that it comes to.

        `measures` give the values of names, `module_mm` the real size of u in millimetres.

        Raises:
            ExpressionError: an unknown name, a division by zero, no real value, or a value too large.
        """
        return _Computation(self.text, measures, module_mm).of(self.root)


def is_measure_name(name: str) -> bool:
    """Whether a measure may have this name."""
    return bool(_NAME.fullmatch(name)) and name not in RESERVED and len(name) <= limits.NAME_LENGTH


def read(text: str) -> Expression:
    """Read a value.

    Raises:
        ExpressionError: with the position of the first sign that cannot stand there.

    >>> read("3u + 2 gap").value({"gap": 0.25})
    3.5
    """
    if len(text) > limits.EXPRESSION_LENGTH:
        raise ExpressionError("value-too-long", length=len(text), position=limits.EXPRESSION_LENGTH)
    if not text.strip():
        raise ExpressionError("empty-value", position=0)
    reader = _Reader(text)
    root = reader.sum(0)
    reader.expect_end()
    return Expression(text, root)


class _Reader:
    """Recursive descent over the tokens of one value."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.tokens = list(_tokens(text))
        self.index = 0

    @property
    def token(self) -> _Token:
        return self.tokens[self.index]

    def take(self, *signs: str) -> str | None:
        if self.token.kind == "sign" and self.token.text in signs:
            self.index += 1
            return self.tokens[self.index - 1].text
        return None

    def node(self, operation: str, *parts: Node, start: int, value: float | str = 0.0) -> Node:
        last = self.tokens[self.index - 1]
        return Node(operation, parts, value, start, last.position + len(last.text))

    def expect_end(self) -> None:
        if self.token.kind != "end":
            raise ExpressionError("unexpected-sign", found=self.token.text, position=self.token.position)

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
        left = self.power(depth)
        while self.token.kind in ("number", "name") or (self.token.kind == "sign" and self.token.text == "("):
            left = self.node("*", left, self.power(depth), start=start)
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
            self.index += 1
            return self.node("number", start=token.position, value=float(token.text))
        if token.kind == "name":
            self.index += 1
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


def _tokens(text: str) -> list[_Token]:
    tokens, position = [], 0
    end = len(text.rstrip())
    while position < end:
        match = _TOKEN.match(text, position)
        if match is None:
            position += len(text[position:]) - len(text[position:].lstrip())
            raise ExpressionError("unexpected-sign", found=text[position], position=position)
        kind = ("number", "name", "sign")[match.lastindex - 1] if match.lastindex else ""
        word = match[match.lastindex or 0]
        tokens.append(_Token(kind, _SIGNS.get(word, word), match.start(match.lastindex or 0)))
        position = match.end()
    tokens.append(_Token("end", "", end))
    return tokens


@dataclass(frozen=True, slots=True)
class _Computation:
    text: str
    measures: Mapping[str, float]
    module_mm: float

    def of(self, node: Node) -> float:
        match node.operation:
            case "number":
                result = float(node.value)
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
            known = f"Known are: u, {', '.join(self.measures)}." if self.measures else "Known is only u as yet."
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
