"""Fields that hold the nodes of a free outline."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, Self, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, model_validator

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields.kind import FieldKind, Rewrite, Surroundings, entry_at, replaced
from kagami.plan.fields.places import PlaceReference, joined_places, place_of
from kagami.plan.fields.scanner import NOTHING, Scanner
from kagami.plan.places.described import describe
from kagami.plan.translation import tr
from kagami.plan.values.stored import typed_value
from kagami.plan.wording.texts import ValueText

BEFORE: Final = 2
AFTER: Final = 4
"""Where among a node's values its handles begin."""
HANGS: Final = 6
"""Where in the row of a node it is told whether it hangs on a place."""


class FreeNode(BaseModel):
    """A node at x, y from the outline's origin, or hanging on a place, with the moves to its handle before and its
    handle after.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    x: ValueText = "0"
    y: ValueText = "0"
    before: tuple[ValueText, ValueText] = ("0", "0")
    after: tuple[ValueText, ValueText] = ("0", "0")
    on: PlaceReference | None = None

    @model_validator(mode="after")
    def _placed(self) -> Self:
        if self.on is None and not {"x", "y"} <= self.model_fields_set:
            raise ValueError("wants x and y, or the place that it hangs on")
        if self.on is not None and (self.x, self.y) != ("0", "0"):
            raise ValueError("hangs on a place, so that it has no x and y of its own")
        return self

    def values(self) -> tuple[str, ...]:
        """Its six values, as typed; the first two count for nothing where it hangs on a place."""
        return (self.x, self.y, *self.before, *self.after)

    @property
    def has_handles(self) -> bool:
        """Whether a handle was moved off the node."""
        return {*self.before, *self.after} != {"0"}


class NodesKind(FieldKind):
    """Nodes with their handles; they resolve to rows of x, y, the two handles' moves, and whether the node hangs on a
    place (1), so that x and y are those of the sheet, or is told from the outline's origin (0).
    """

    label: ClassVar[str] = "nodes"
    wanted: ClassVar[str] = NOTHING
    ends_in_value: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[list[dict[str, Any]], int]:
        """Nodes with semicolons between them: “2u, 3u”, or “2u, 3u [-1u, 0 | 1u, 0]” with the handles' moves; in place
        of the two lengths a place. Places that are typed loosely may be joined as figures are.
        """

        def node(at: int) -> tuple[dict[str, Any], int]:
            found, at = _spot(scanner, at)
            if scanner.text.startswith(" [", at):
                before, at = scanner.pair(at + 2)
                after, at = scanner.pair(scanner.sign(" | ", at))
                found |= {"before": before, "after": after}
                at = scanner.sign("]", at)
            return found, at

        found, at = scanner.entries(at, node)
        more, at = joined_places(scanner, at) if found and "on" in found[-1] else ([], at)
        return [*found, *({"on": place} for place in more)], at

    def expected(self) -> list[str]:
        """The word for none."""
        return [tr(NOTHING)]

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """With semicolons between them."""
        return "; ".join(_node_text(node, names) for node in value) or tr(NOTHING)

    def texts(self, value: Any) -> tuple[str, ...]:
        """Six values a node."""
        return tuple(text for node in value for text in node.values())

    def places(self, value: Any) -> tuple[str, ...]:
        """What nodes hang on."""
        return tuple(node.on for node in value if node.on is not None)

    def entry(self, value: Any, part: tuple[int, ...]) -> str:
        """One of the six values of a node, by the numbers of the node and of the value; of a node that hangs on a
        place, that place by its number alone.
        """
        number, *inner = part
        node = entry_at(value, number)
        if inner:
            return str(entry_at(node.values(), inner[0]))
        if node.on is None:
            raise LookupError(part)
        return str(node.on)

    def with_entry(self, value: Any, part: tuple[int, ...], text: str) -> tuple[FreeNode, ...]:
        """Another value in its place; or a node, by its number alone, hung on a place."""
        number, *inner = part
        node = entry_at(value, number)
        if not inner:
            return replaced(value, number, FreeNode(on=text, before=node.before, after=node.after))
        x, y, *moves = replaced(node.values(), inner[0], text)
        handles: dict[str, Any] = {"before": (moves[0], moves[1]), "after": (moves[2], moves[3])}
        if inner[0] < BEFORE or node.on is None:
            return replaced(value, number, FreeNode(x=x, y=y, **handles))
        return replaced(value, number, FreeNode(on=node.on, **handles))

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[tuple[float, ...], ...]:
        """A row a node."""

        def row(node: FreeNode) -> tuple[float, ...]:
            x, y, *moves = (surroundings.value_of(text, field) for text in node.values())
            if node.on is None:
                return (x, y, *moves, 0.0)
            return (*place_of(node.on, surroundings), *moves, 1.0)

        return tuple(row(node) for node in value)

    def with_texts(self, data: Any, rewrite: Rewrite) -> Any:
        """Each value rewritten."""
        return [_rewritten(node, rewrite) for node in data] if isinstance(data, list) else data

    def with_places(self, data: Any, rewrite: Rewrite) -> Any:
        """Each place that a node hangs on rewritten."""
        return [_moved(node, rewrite) for node in data] if isinstance(data, list) else data


def _spot(scanner: Scanner, at: int) -> tuple[dict[str, Any], int]:
    """Where a node is: two lengths from the outline's origin, or a place.

    Raises:
        PlanError: neither is written there; with what could be read longest.
    """
    try:
        (x, y), end = scanner.pair(at)
        return {"x": x, "y": y}, end
    except PlanError as error:
        try:
            place, end = scanner.place(at)
        except PlanError as other:
            raise max(error, other, key=_position) from None
    return {"on": place}, end


def _position(error: PlanError) -> int:
    """How far a text was read."""
    position = error.values.get("position")
    return position if isinstance(position, int) else 0


def _node_text(node: FreeNode, names: Mapping[str, str]) -> str:
    def pair_text(pair: tuple[str, str]) -> str:
        return ", ".join(typed_value(value.strip(), names) for value in pair)

    place = pair_text((node.x, node.y)) if node.on is None else describe(node.on, names)
    if not node.has_handles:
        return place
    return f"{place} [{pair_text(node.before)} | {pair_text(node.after)}]"


def _rewritten(node: Any, rewrite: Rewrite) -> Any:
    """A node as documents hold it; one that is no node yet is left for validation to refuse."""
    if isinstance(node, str):
        return rewrite(node)
    if isinstance(node, list):
        return [_rewritten(part, rewrite) for part in node]
    if not isinstance(node, dict):
        return node
    return {key: part if key == "on" else _rewritten(part, rewrite) for key, part in node.items()}


def _moved(node: Any, rewrite: Rewrite) -> Any:
    """A node as documents hold it, hung on another place."""
    if not isinstance(node, dict) or not isinstance(node.get("on"), str):
        return node
    return {**node, "on": rewrite(node["on"])}


NODES: Final = NodesKind()
Nodes: TypeAlias = Annotated[tuple[FreeNode, ...], Field(max_length=limits.NODES), NODES]
