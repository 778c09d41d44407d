"""Fields that hold the nodes of a free outline."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from kagami.plan import limits
from kagami.plan.fields.kind import FieldKind, Rewrite, Surroundings, entry_at, replaced
from kagami.plan.fields.scanner import NOTHING, Scanner
from kagami.plan.translation import tr
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.texts import ValueText

BEFORE: Final = 2
AFTER: Final = 4
"""Where among a node's values its handles begin."""


class FreeNode(BaseModel):
    """A node at x, y from the outline's origin, with the moves to its handle before and its handle after."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    x: ValueText
    y: ValueText
    before: tuple[ValueText, ValueText] = ("0", "0")
    after: tuple[ValueText, ValueText] = ("0", "0")

    def values(self) -> tuple[str, ...]:
        """Its six values, as typed."""
        return (self.x, self.y, *self.before, *self.after)

    @property
    def has_handles(self) -> bool:
        """Whether a handle was moved off the node."""
        return {*self.before, *self.after} != {"0"}


class NodesKind(FieldKind):
    """Nodes with their handles; they resolve to rows of x, y and the two handles' moves."""

    label: ClassVar[str] = "nodes"
    wanted: ClassVar[str] = NOTHING
    ends_in_value: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[list[dict[str, Any]], int]:
        """Nodes with semicolons between them: “2u, 3u”, or “2u, 3u [-1u, 0 | 1u, 0]” with the handles' moves."""

        def node(at: int) -> tuple[dict[str, Any], int]:
            (x, y), at = scanner.pair(at)
            found: dict[str, Any] = {"x": x, "y": y}
            if scanner.text.startswith(" [", at):
                before, at = scanner.pair(at + 2)
                after, at = scanner.pair(scanner.sign(" | ", at))
                found |= {"before": before, "after": after}
                at = scanner.sign("]", at)
            return found, at

        return scanner.entries(at, node)

    def expected(self) -> list[str]:
        """The word for none."""
        return [tr(NOTHING)]

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """With semicolons between them."""
        return "; ".join(_node_text(node, names) for node in value) or tr(NOTHING)

    def texts(self, value: Any) -> tuple[str, ...]:
        """Six values a node."""
        return tuple(text for node in value for text in node.values())

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """One of the six values of a node, by the numbers of the node and of the value."""
        node, number = part
        return str(entry_at(entry_at(value, node).values(), number))

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> tuple[FreeNode, ...]:
        """Another value in its place."""
        node, number = part
        x, y, *moves = replaced(entry_at(value, node).values(), number, text)
        anew = FreeNode(x=x, y=y, before=(moves[0], moves[1]), after=(moves[2], moves[3]))
        return replaced(value, node, anew)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[tuple[float, ...], ...]:
        """A row of six numbers a node."""
        return tuple(tuple(surroundings.value_of(text, field) for text in node.values()) for node in value)

    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        """Each value rewritten."""
        return [_rewritten(node, rewrite) for node in data] if isinstance(data, list) else data


def _node_text(node: FreeNode, names: Mapping[str, str]) -> str:
    def pair_text(pair: tuple[str, str]) -> str:
        return ", ".join(typed_value(value.strip(), names) for value in pair)

    place = pair_text((node.x, node.y))
    if not node.has_handles:
        return place
    return f"{place} [{pair_text(node.before)} | {pair_text(node.after)}]"


def _rewritten(node: Any, rewrite: Rewrite) -> Any:
    """A node as documents hold it; one that is no node yet is left for validation to refuse."""
    if isinstance(node, str):
        return rewrite(node)
    if isinstance(node, list):
        return [_rewritten(part, rewrite) for part in node]
    return {key: _rewritten(part, rewrite) for key, part in node.items()} if isinstance(node, dict) else node


NODES: Final = NodesKind()
Nodes: TypeAlias = Annotated[tuple[FreeNode, ...], Field(max_length=limits.NODES), NODES]
