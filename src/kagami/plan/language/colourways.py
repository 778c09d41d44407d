"""Colourways in words.

Colourway night, chosen: ink is lamp, ground is night.
Colourway stamp, in one colour: ink is #1c2b45, mist is none.
In one colour: parted by 0.2u, without mist and pale.
"""

from __future__ import annotations

import re
from typing import Final

from kagami.plan.errors import PlanError
from kagami.plan.fields.scanner import SentenceError, joint
from kagami.plan.messages import listing
from kagami.plan.tones.colourways import DROPPED, IN_ONE, Colourway, OneColour, RoleTone
from kagami.plan.tones.notation import Named, parse_tone, tone_at, tone_text
from kagami.plan.translation import tr
from kagami.plan.wording.names import name_text, parse_name, parse_name_before

WORD: Final = "Colourway"
CHOSEN: Final = "chosen"
ROLES: Final = "{role} is {tone}"
KEPT: Final = "nothing changed"
"""Stands for the roles of a colourway that changes none."""
_ONE: Final = re.compile(r"parted by (?P<gap>[^,]+?)(?:, without (?P<without>.+?))?\.?")


def colourway_text(colourway: Colourway) -> str:
    """A colourway as a sentence, without its note; `parse_colourway` gives it back."""
    asides = "".join([f", {tr(CHOSEN)}" * colourway.chosen, f", {tr(IN_ONE)}" * (colourway.form == IN_ONE)])
    return f"{tr(WORD)} {name_text(colourway.name)}{asides}: {roles_in_words(colourway)}."


def roles_in_words(colourway: Colourway) -> str:
    """The roles with their tones: “ink is lamp, ground is night”."""
    return ", ".join(
        tr(ROLES).format(role=name_text(given.role), tone=given_text(given.tone)) for given in colourway.roles
    ) or tr(KEPT)


def given_text(tone: str) -> str:
    """What a role is given, as a sentence holds it."""
    if tone == DROPPED:
        return tr(DROPPED)
    try:
        return tone_text(parse_tone(tone))
    except PlanError:
        return name_text(tone)


def is_colourway(text: str) -> bool:
    """Whether a sentence begins as one of a colourway does."""
    return re.match(rf"{re.escape(tr(WORD))}\b", text.strip(), re.IGNORECASE) is not None


def parse_colourway(text: str) -> Colourway:
    """The colourway that a sentence tells.

    Raises:
        SentenceError: with the character from which on it cannot be read.
    """
    text = text.strip()
    head = re.match(rf"{re.escape(tr(WORD))} +", text, re.IGNORECASE)
    words = frozenset(tr(one).split()[0].lower() for one in (CHOSEN, IN_ONE))  # a comma was forgotten before them
    name = parse_name_before(text, head.end(), ",:", words) if head else None
    if name is None:
        raise SentenceError("colourway-unread", text=text, position=head.end() if head else 0)
    at, chosen, form = name[1], False, "in tones"
    while text.startswith(", ", at):
        if text.startswith(tr(CHOSEN), at + 2):
            at, chosen = at + 2 + len(tr(CHOSEN)), True
        elif text.startswith(tr(IN_ONE), at + 2):
            at, form = at + 2 + len(tr(IN_ONE)), IN_ONE
        else:
            break
    colon = re.compile(" *: *").match(text, at)
    if colon is None:
        raise SentenceError("colourway-unread", text=text, position=at)
    roles = _roles(text, colon.end())
    return Colourway.model_validate({"name": name[0], "roles": roles, "form": form, "chosen": chosen})


def _roles(text: str, at: int) -> list[RoleTone]:
    if text[at:].rstrip(".") == tr(KEPT):
        return []
    found = []
    while True:
        role = parse_name(text, at)
        between = tr(ROLES).split("{role}")[1].split("{tone}")[0]
        if role is None or not text.startswith(between, role[1]):
            raise SentenceError("colourway-unread", text=text, position=at)
        at = role[1] + len(between)
        tone, at = _given(text, at)
        found.append(RoleTone(role=role[0], tone=tone))
        more = joint().match(text, at)
        if more is None:
            break
        at = more.end()
    if text[at:].strip() not in ("", "."):
        raise SentenceError("colourway-unread", text=text, position=at)
    return found


def _given(text: str, at: int) -> tuple[str, int]:
    if re.compile(rf"{re.escape(tr(DROPPED))}\b").match(text, at):
        return DROPPED, at + len(tr(DROPPED))
    found = tone_at(text, at)
    if found is None:
        raise SentenceError("no-tone-here", position=at)
    tint = parse_tone(found[0])
    return (tint.name if isinstance(tint, Named) else found[0]), found[1]


def one_colour_text(form: OneColour) -> str:
    """How a mark is drawn in one colour, in words."""
    without = f", without {listing([name_text(role) for role in form.without])}" if form.without else ""
    return f"parted by {form.gap}{without}"


def parse_one_colour(text: str) -> OneColour:
    """What `one_colour_text` wrote.

    Raises:
        SentenceError: it cannot be read.
    """
    found = _ONE.fullmatch(text.strip())
    if found is None:
        raise SentenceError("colourway-unread", text=text, position=0)
    without, at = [], 0
    words = found["without"] or ""
    while words:
        name = parse_name(words, at)
        if name is None:
            raise SentenceError("colourway-unread", text=text, position=at)
        without.append(name[0])
        more = joint().match(words, name[1])
        if more is None:
            break
        at = more.end()
    return OneColour(gap=found["gap"].strip(), without=tuple(without))
