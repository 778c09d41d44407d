"""Nodes of free outlines under a hand: handles that are dragged, corners made smooth and smooth nodes corners, nodes
added, taken out and let go.

Both handles of a smooth node are multiples, in two decimals, of one move in few decimals: what is written lies in one
line to the last digit.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Final, TypeAlias

from kagami.geometry.bezier import Cubic
from kagami.geometry.reshape import without_node
from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.moving import plain_number
from kagami.plan.changes.steps import step_of, with_fields
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.evaluate import evaluate_before, inputs_of
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.nodes import AFTER, BEFORE, HANGS, NODES
from kagami.plan.steps.free import FreeOutline, Rows, is_smooth, node_rows

Texts: TypeAlias = Mapping[tuple[int, ...], str]
"""Values of nodes, by the numbers of the node and of the value."""
Pair: TypeAlias = Sequence[float]
"""A place or a move: x and y."""
_THIRD: Final = 1 / 3
"""So long a handle is by its side: that of a straight one is then divided evenly."""


def press_node(plan: Plan, given: Given) -> Changed:
    """A node of a free outline that is a corner becomes smooth, along its neighbours, and a smooth one a corner: `step`
    and `part`, its number from 0.

    Raises:
        ChangeRefused: there is no such node, it is an end, or its neighbours lie where it does.
    """
    step, rows, node = _node_of(plan, given)
    ends = (0, len(rows) - 1) if step.form == "open" else ()
    if node in ends:
        raise ChangeRefused("no-dimension", field="nodes")
    smooth = is_smooth(rows[node])
    texts = corner_texts(node) if smooth else smooth_texts(rows, node)
    said = "a corner" if smooth else "smooth"
    nodes = step.nodes
    for place, text in texts.items():
        nodes = NODES.with_entry(nodes, place, text)
    return Changed(with_fields(plan, step, nodes=nodes), f"{step.name}: node {node + 1} is {said}", step.id)


def add_node(plan: Plan, given: Given) -> Changed:
    """A node half way from one to the next, on what is drawn there, which stays as it is: `step` and `part`.

    Raises:
        ChangeRefused: there is no such node, it is the last one of an open outline, or there are enough.
    """
    step, rows, node = _node_of(plan, given)
    behind = (node + 1) % len(rows)
    if step.form == "open" and behind == 0:
        raise ChangeRefused("no-node-behind")
    if len(rows) >= limits.NODES:
        raise ChangeRefused("too-many", what="nodes", most=limits.NODES)
    here, there = rows[node], rows[behind]
    curve = [here[:2], _sum(here[:2], here[AFTER:HANGS]), _sum(there[:2], there[BEFORE:AFTER]), there[:2]]
    (_, _, second, middle), (_, first, _, _) = _halves(curve)
    straight = max(map(abs, (*here[AFTER:HANGS], *there[BEFORE:AFTER]))) <= SAME_PLACE
    x, y = (exact_text(value) for value in middle)
    moves = [_difference(tip, middle) for tip in (second, first)]
    before, after = (("0", "0"), ("0", "0")) if straight else (_texts(moves[0]), _texts(moves[1]))
    nodes = [one.model_dump(mode="json") for one in step.nodes]
    nodes[node]["after"] = [_half(text) for text in nodes[node]["after"]]
    nodes[behind]["before"] = [_half(text) for text in nodes[behind]["before"]]
    nodes.insert(node + 1, {"x": x, "y": y, "before": before, "after": after})
    return Changed(with_fields(plan, step, nodes=nodes), f"{step.name}: a node behind node {node + 1}", step.id)


def take_node_out(plan: Plan, given: Given) -> Changed:
    """A node is taken out: its neighbours' handles follow what was drawn as well as one curve can: `step` and `part`.

    Raises:
        ChangeRefused: there is no such node, or too few would be left.
    """
    step, rows, node = _node_of(plan, given)
    if len(rows) <= step.fewest:
        raise ChangeRefused("too-few-nodes", least=step.fewest)
    nodes = [one.model_dump(mode="json") for one in step.nodes]
    if step.form == "closed" or 0 < node < len(rows) - 1:
        moves = _moves_without(step, node, evaluate_before(plan, given.cache, plan.steps.index(step)))
        beside_it = ((node - 1) % len(rows), "after", AFTER), ((node + 1) % len(rows), "before", BEFORE)
        for (beside, side, begins), move in zip(beside_it, moves, strict=False):
            nodes[beside][side] = _longer(nodes[beside][side], rows[beside][begins : begins + 2], move)
    del nodes[node]
    return Changed(with_fields(plan, step, nodes=nodes), f"{step.name} without node {node + 1}", step.id)


def let_node_go(plan: Plan, given: Given) -> Changed:
    """A node that hangs on a place is told by lengths from the outline's origin: `step` and `part`.

    Raises:
        ChangeRefused: there is no such node, or it hangs on nothing.
    """
    step, rows, node = _node_of(plan, given)
    if step.nodes[node].on is None:
        raise ChangeRefused("no-dimension", field="nodes")
    nodes = step.nodes
    for axis in (0, 1):
        nodes = NODES.with_entry(nodes, (node, axis), exact_text(rows[node][axis]))
    return Changed(with_fields(plan, step, nodes=nodes), f"{step.name}: node {node + 1} let go", step.id)


def _node_of(plan: Plan, given: Given) -> tuple[FreeOutline, Rows, int]:
    """The free outline that is meant, its nodes as rows, and the number of one of them."""
    step, part = step_of(plan, given), given.values.get("part")
    if not isinstance(step, FreeOutline) or not isinstance(part, list) or len(part) != 1:
        raise ChangeRefused("no-dimension", field="nodes")
    rows = node_rows(inputs_of(step, evaluate_before(plan, given.cache, plan.steps.index(step))))
    (node,) = part
    if not isinstance(node, int) or not 0 <= node < len(rows):
        raise ChangeRefused("no-dimension", field="nodes")
    return step, rows, node


def _halves(curve: Sequence[Pair]) -> tuple[tuple[Pair, ...], tuple[Pair, ...]]:
    """Both halves of a cubic, each by four places (de Casteljau)."""
    a, b, c, d = curve
    ab, bc, cd = _middle(a, b), _middle(b, c), _middle(c, d)
    abc, bcd = _middle(ab, bc), _middle(bc, cd)
    middle = _middle(abc, bcd)
    return (a, ab, abc, middle), (middle, bcd, cd, d)


def _moves_without(step: FreeOutline, node: int, before: Result) -> tuple[Pair, ...]:
    """The moves from both neighbours of a node to their handles on the one curve that runs between them without it;
    none where that is straight, or where nothing is drawn, perhaps because of that very node.
    """
    try:
        one = without_node(step.through(inputs_of(step, before)), node).curves[node - 1]
    except PlanError:
        return ()
    if not isinstance(one, Cubic):
        return ()
    return _difference(one.first_handle, one.start), _difference(one.second_handle, one.end)


def _longer(texts: Sequence[str], move: Pair, wanted: Pair) -> list[str]:
    """A handle as it is typed, as long as is wanted; in the direction it had, if it had one, to the last digit."""
    if math.hypot(*move) <= SAME_PLACE or math.hypot(*wanted) <= SAME_PLACE:
        return _texts(wanted)
    share = max(0.01, round(math.hypot(*wanted) / math.hypot(*move), 2))
    numbers = [plain_number(text) for text in texts]
    return [
        exact_text(share * number) if number is not None else f"{share:g}*({text})"
        for number, text in zip(numbers, texts, strict=True)
    ]


def _middle(a: Pair, b: Pair) -> Pair:
    return (a[0] + b[0]) / 2, (a[1] + b[1]) / 2


def _sum(a: Pair, b: Pair) -> Pair:
    return a[0] + b[0], a[1] + b[1]


def _difference(a: Pair, b: Pair) -> Pair:
    return a[0] - b[0], a[1] - b[1]


def _texts(move: Pair) -> list[str]:
    return [exact_text(part) for part in move]


def _half(text: str) -> str:
    """Half a value: a number where it is one."""
    number = plain_number(text)
    return exact_text(number / 2) if number is not None else f"({text})/2"


def corner_texts(node: int) -> Texts:
    """No handles."""
    return {(node, number): "0" for side in (BEFORE, AFTER) for number in (side, side + 1)}


def smooth_texts(rows: Sequence[Sequence[float]], node: int) -> Texts:
    """Handles along the line from the node before to the one behind, each a third as long as its side. Where one side
    is straight and the other is not, handles along the straight one, which stays so.

    Raises:
        ChangeRefused: all three are nearer to each other than what is written can tell.
    """
    last, here, after = (rows[(node + k) % len(rows)] for k in (-1, 0, 1))
    straight = _is_straight(last, here), _is_straight(here, after)
    if straight[0] != straight[1]:
        way = _difference(here, last) if straight[0] else _difference(after, here)
    else:
        way = round(after[0] - last[0], 2), round(after[1] - last[1], 2)
    if math.hypot(*way) <= SAME_PLACE:  # there and back: across
        way = round(here[1] - last[1], 2), round(last[0] - here[0], 2)
    long = math.hypot(*way)
    if long <= SAME_PLACE:
        raise ChangeRefused("nodes-together")
    shares = (-_share(math.dist(last[:2], here[:2]), long), _share(math.dist(after[:2], here[:2]), long))
    return {
        (node, side + axis): exact_text(share * way[axis])
        for side, share in zip((BEFORE, AFTER), shares, strict=True)
        for axis in (0, 1)
    }


def _is_straight(start: Sequence[float], end: Sequence[float]) -> bool:
    """Whether the side from one node to the next has no handles."""
    return math.hypot(*start[AFTER:HANGS]) <= SAME_PLACE and math.hypot(*end[BEFORE:AFTER]) <= SAME_PLACE


def turned_texts(row: Sequence[float], texts: Sequence[str], node: int, side: int, move: Sequence[float]) -> Texts:
    """The other handle of a smooth node, when one of them is moved: in line with it, about as long as it was. Nothing
    where the node is not smooth, or the other handle is told by more than numbers.
    """
    other = BEFORE if side == AFTER else AFTER
    far = math.hypot(*move)
    plain = all(plain_number(texts[other + axis]) is not None for axis in (0, 1))
    if not is_smooth(row) or not plain or far <= SAME_PLACE:
        return {}
    share = max(0.01, round(math.hypot(row[other], row[other + 1]) / far, 2))
    return {(node, other + axis): exact_text(-share * move[axis]) for axis in (0, 1)}


def in_line_texts(moves: Sequence[float]) -> tuple[tuple[str, str], tuple[str, str]]:
    """The handles of a smooth node, from their moves, as they are typed: one in two decimals, the other in line."""
    before, after = moves[:2], moves[2:]
    first, second = (before, after) if math.hypot(*before) > math.hypot(*after) else (after, before)
    way = tuple(round(part, 2) for part in first)
    share = max(0.01, round(math.hypot(*second) / math.hypot(*first), 2))
    x, y = (exact_text(part) for part in way)
    other = exact_text(-share * way[0]), exact_text(-share * way[1])
    return ((x, y), other) if first is before else (other, (x, y))


def _share(side: float, way: float) -> float:
    return max(0.01, round(side * _THIRD / way, 2))


def exact_text(value: float) -> str:
    """A length that is a product of a share in two decimals and a move in stops, the whole of it."""
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return "0" if text in ("0", "-0") else f"{text}u"
