"""Many colourways at once: from a palette, along a hue walk, in pairs of light and dark."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Final

from kagami.plan.tones.colourways import Colourway, RoleTone
from kagami.plan.tones.listed import GROUND
from kagami.plan.tones.notation import Turned, shade_text, tint_of, tone_text
from kagami.plan.tones.seeing import ENOUGH, contrast, lightness

MOST: Final = 24
WHITE: Final = "#ffffff"
MOST_SHADE: Final = 70.0
"""How far the roles of a pair are spread, in per cent."""


def from_palette(roles: Mapping[str, str], palette: Mapping[str, str], count: int) -> list[Colourway]:
    """Colourways in which each tone of a palette is the ground once and more, and the others play the roles.

    `roles` and `palette` hold names and colours (#rrggbb). Each mark stands out from its ground by WCAG's least
    contrast for graphical objects at least; the strongest come first, all grounds in turn.
    """
    grounds = {**palette, "white": WHITE}
    by_ground: list[list[Colourway]] = []
    order = sorted(roles, key=lambda role: lightness(roles[role]))
    for ground, colour in grounds.items():
        seen = {name: contrast(other, colour) for name, other in palette.items() if name != ground}
        strong = sorted((name for name in seen if seen[name] >= ENOUGH), key=lambda name: -seen[name])
        found = []
        for first in range(len(strong)):
            chosen = [strong[(first + k) % len(strong)] for k in range(len(order))]
            given = _roles(order, chosen, ground if ground in palette else WHITE)
            found.append(Colourway(name=f"{strong[first]} on {ground}"[:40], roles=given))
        by_ground.append(found)
    return _in_turn(by_ground)[:count]


def _roles(order: Sequence[str], tones: Sequence[str], ground: str) -> tuple[RoleTone, ...]:
    """Roles with tones; a tone that would be laid twice stands a shade lighter the next time."""
    given = []
    for k, (role, tone) in enumerate(zip(order, tones, strict=True)):
        again = list(tones[:k]).count(tone)
        given.append(RoleTone(role=role, tone=shade_text(tone, min(30.0 * again, 90.0), "lighter") if again else tone))
    return (*given, RoleTone(role=GROUND, tone=ground))


def _in_turn(lists: Sequence[Sequence[Colourway]]) -> list[Colourway]:
    longest = max(map(len, lists), default=0)
    return [entries[k] for k in range(longest) for entries in lists if k < len(entries)]


def hue_walk(roles: Iterable[str], count: int) -> list[Colourway]:
    """Colourways in which the hues of all roles are turned alike, in equal parts of the whole turn."""
    names = list(roles)
    turns = [360.0 * k / (count + 1) for k in range(1, count + 1)]
    return [
        Colourway(
            name=f"hue {turn:.0f}°", roles=tuple(RoleTone(role=name, tone=turned_text(name, turn)) for name in names)
        )
        for turn in turns
    ]


def turned_text(tone: str, degrees: float) -> str:
    """A tone with its hue turned."""
    return tone_text(Turned(tint_of(tone), round(degrees, 2)))


def pairs(roles: Mapping[str, str], palette: Mapping[str, str], count: int) -> list[Colourway]:
    """For each tone of a palette the mark in it on white, and in white on it; several roles are spread as a ramp."""
    order = sorted(roles, key=lambda role: lightness(roles[role]))
    found = []
    for name in palette:
        apart = [MOST_SHADE * k / len(order) for k in range(1, len(order))]
        dark = [name, *(shade_text(name, share, "lighter") for share in apart)]
        light = [WHITE, *(shade_text(name, 100.0 - share, "lighter") for share in apart)]
        found.append(_pair(f"{name} on white", order, dark, WHITE))
        found.append(_pair(f"white on {name}", order, light, name))
    return found[:count]


def _pair(name: str, order: Sequence[str], tones: Sequence[str], ground: str) -> Colourway:
    given = [RoleTone(role=role, tone=tone) for role, tone in zip(order, tones, strict=True)]
    return Colourway(name=name[:40], roles=(*given, RoleTone(role=GROUND, tone=ground)))


def differing(found: Sequence[Colourway], known: Sequence[Colourway]) -> list[Colourway]:
    """Those that no known one has the roles of, with names of their own."""
    taken, given = {one.name for one in known}, {one.roles for one in known}
    answer: list[Colourway] = []
    for one in found:
        if one.roles not in given:
            name = free_name_among(one.name, taken)
            answer.append(one.model_copy(update={"name": name}))
            taken.add(name)
            given.add(one.roles)
    return answer


def free_name_among(name: str, taken: Iterable[str]) -> str:
    """A name that is not taken: with a number where it is."""
    known = set(taken)
    if name not in known:
        return name
    return next(text for k in range(2, len(known) + 3) if (text := f"{name[:36]} {k}") not in known)
