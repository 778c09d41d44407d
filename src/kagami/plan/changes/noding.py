"""Nodes of free outlines under a hand: handles that are dragged, corners made smooth and smooth nodes corners.

Both handles of a smooth node are multiples, in two decimals, of one move in few decimals: what is written lies in one
line to the last digit.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Final, TypeAlias

from kagami.geometry.tolerance import LENGTH as SAME_PLACE
from kagami.plan.changes.given import Changed, Given
from kagami.plan.changes.moving import plain_number
from kagami.plan.changes.steps import step_of, with_fields
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused
from kagami.plan.evaluation.evaluate import evaluate_before, inputs_of
from kagami.plan.fields.nodes import AFTER, BEFORE, NODES
from kagami.plan.steps.free import FreeOutline, is_smooth

Texts: TypeAlias = Mapping[tuple[int, ...], str]
"""Values of nodes, by the numbers of the node and of the value."""
_THIRD: Final = 1 / 3
"""So long a handle is by its side: that of a straight one is then divided evenly."""


def press_node(plan: Plan, given: Given) -> Changed:
    """A node of a free outline that is a corner becomes smooth, along its neighbours, and a smooth one a corner: `step`
    and `part`, its number from 0.

    Raises:
        ChangeRefused: there is no such node, it is an end, or its neighbours lie where it does.
    """
    step = step_of(plan, given)
    part = given.values.get("part")
    if not isinstance(step, FreeOutline) or not isinstance(part, list) or not all(isinstance(n, int) for n in part):
        raise ChangeRefused("no-dimension", field="nodes")
    inputs = inputs_of(step, evaluate_before(plan, given.cache, plan.steps.index(step)))
    rows = inputs.rows("nodes")
    node = part[0] if len(part) == 1 else -1
    ends = (0, len(rows) - 1) if step.form == "open" else ()
    if not 0 <= node < len(rows) or node in ends:
        raise ChangeRefused("no-dimension", field="nodes")
    smooth = is_smooth(rows[node])
    texts = corner_texts(node) if smooth else smooth_texts(rows, node)
    said = "a corner" if smooth else "smooth"
    nodes = step.nodes
    for place, text in texts.items():
        nodes = NODES.with_entry(nodes, place, text)
    return Changed(with_fields(plan, step, nodes=nodes), f"{step.name}: node {node + 1} is {said}", step.id)


def corner_texts(node: int) -> Texts:
    """No handles."""
    return {(node, number): "0" for side in (BEFORE, AFTER) for number in (side, side + 1)}


def smooth_texts(rows: Sequence[Sequence[float]], node: int) -> Texts:
    """Handles along the line from the node before to the one behind, each a third as long as its side.

    Raises:
        ChangeRefused: all three are nearer to each other than what is written can tell.
    """
    last, here, after = (rows[(node + k) % len(rows)] for k in (-1, 0, 1))
    way = tuple(round(after[k] - last[k], 2) for k in (0, 1))
    long = math.hypot(*way)
    if long <= SAME_PLACE:  # there and back: across
        way = (round(here[1] - last[1], 2), round(last[0] - here[0], 2))
        long = math.hypot(*way)
    if long <= SAME_PLACE:
        raise ChangeRefused("nodes-together")
    shares = (-_share(math.dist(last[:2], here[:2]), long), _share(math.dist(after[:2], here[:2]), long))
    return {
        (node, side + axis): exact_text(share * way[axis])
        for side, share in zip((BEFORE, AFTER), shares, strict=True)
        for axis in (0, 1)
    }


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


def _share(side: float, way: float) -> float:
    return max(0.01, round(side * _THIRD / way, 2))


def exact_text(value: float) -> str:
    """A length that is a product of a share in two decimals and a move in stops, the whole of it."""
    text = f"{value:.6f}".rstrip("0").rstrip(".")
    return "0" if text in ("0", "-0") else f"{text}u"
