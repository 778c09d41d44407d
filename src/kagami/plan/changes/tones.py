"""Changes to the list of tones."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.scanner import NOTHING
from kagami.plan.fields.tones import ITS_OWN, with_tone_names
from kagami.plan.messages import listing
from kagami.plan.tones.colourways import DROPPED
from kagami.plan.tones.listed import Tone, tone_colours
from kagami.plan.tones.mixing import colour_of
from kagami.plan.tones.notation import LITERAL, names_in, step_text, with_names
from kagami.plan.wording.names import sayable

MOST_STEPS: Final = 5
RESERVED: Final = (NOTHING, ITS_OWN, DROPPED)
"""What no tone can be called, since it means something else where tones are named."""


def add_tone(plan: Plan, given: Given) -> Changed:
    """A new tone `name` of the colour `value`. A colour that is listed already is not listed twice."""
    name, value = given.text("name", limits.NAME_LENGTH), given.text("value")
    require_room(plan, 1)
    require_name(plan, name)
    colour = colour_of(value, tone_colours(plan.tones).known)
    _require_new(colour, _listed_colours(plan))
    return Changed(plan.model_copy(update={"tones": (*plan.tones, Tone(name=name, colour=value))}), f"{name} = {value}")


def set_tone(plan: Plan, given: Given) -> Changed:
    """A tone's colour."""
    name, value = given.text("name", limits.NAME_LENGTH), given.text("value")
    position = [tone.name for tone in plan.tones].index(listed(plan, name).name)
    colour_of(value, tone_colours(plan.tones[:position]).known)
    tones = tuple(Tone(name=name, colour=value) if tone.name == name else tone for tone in plan.tones)
    return Changed(plan.model_copy(update={"tones": tones}), f"{name} = {value}")


def rename_tone(plan: Plan, given: Given) -> Changed:
    """A tone's name, there and wherever it is used."""
    name, new = given.text("name", limits.NAME_LENGTH), given.text("new", limits.NAME_LENGTH)
    listed(plan, name)
    if new != name:
        require_name(plan, new)
    return Changed(_rewritten(plan, {name: new}), f"{name} is called {new}")


def remove_tone(plan: Plan, given: Given) -> Changed:
    """Take a tone out, unless a step, another tone or a colourway uses it."""
    tone = listed(plan, given.text("name", limits.NAME_LENGTH))
    users = [other.name for other in plan.tones if tone.name in names_in(other.colour)]
    users += [step.name for step in plan.steps if any(tone.name in _names(laid) for laid in step.tone_names())]
    users += [
        one.name
        for one in plan.colourways
        if any(tone.name == role.role or tone.name in _names(role.tone) for role in one.roles)
    ]
    if users:
        raise ChangeRefused("needed-by", name=tone.name, users=listing(users))
    tones = tuple(other for other in plan.tones if other != tone)
    return Changed(plan.model_copy(update={"tones": tones}), f"without {tone.name}")


def add_ramp(plan: Plan, given: Given) -> Changed:
    """So many tones `lighter` and `darker` than the listed tone `name`, all steps even to the eye; those that are
    listed already stay as they are.
    """
    base = listed(plan, given.text("name", limits.NAME_LENGTH))
    lighter, darker = given.number("lighter"), given.number("darker")
    if lighter + darker == 0 or not all(0 <= count <= MOST_STEPS for count in (lighter, darker)):
        raise ChangeRefused("bad-change", path="lighter", reason=f"and darker are from 0 to {MOST_STEPS}, not both 0")
    if lighter and darker and lighter != darker:
        raise ChangeRefused("bad-change", path="lighter", reason="and darker are equal, or one of them 0")
    whole = lighter + darker + 1
    way = "about" if lighter == darker else "up from" if lighter else "down from"
    known = _listed_colours(plan)
    tones = list(plan.tones)
    place = tones.index(base) + 1
    for number in [*range(lighter, 0, -1), *range(-1, -darker - 1, -1)]:
        text = step_text(lighter - number + 1, whole, way, base.name)
        colour = colour_of(text, tone_colours(plan.tones).known)
        name = f"{base.name}-{'light' if number > 0 else 'dark'} {abs(number)}"
        if colour not in known.values() and all(tone.name != name for tone in tones):
            require_name(plan, name)
            tones.insert(place, Tone(name=name[: limits.NAME_LENGTH], colour=text))
            place += 1
    if len(tones) == len(plan.tones):
        raise ChangeRefused("ramp-there", name=base.name)
    require_room(plan, len(tones) - len(plan.tones))
    return Changed(plan.model_copy(update={"tones": tuple(tones)}), f"ramp of {base.name}")


def listed(plan: Plan, name: str) -> Tone:
    """The listed tone of a name.

    Raises:
        ChangeRefused: there is none.
    """
    for tone in plan.tones:
        if tone.name == name:
            return tone
    raise ChangeRefused("no-tone", name=name, known=listing([tone.name for tone in plan.tones]) or "none")


def require_name(plan: Plan, name: str) -> None:
    """Refuse a name that no new tone can have."""
    if not name:
        raise ChangeRefused("empty-name")
    if not sayable(name):
        raise ChangeRefused("name-with-quotes", name=name)
    if name in RESERVED:
        raise ChangeRefused("name-with-a-meaning", name=name)
    if any(tone.name == name for tone in plan.tones):
        raise ChangeRefused("doubled-name", name=name)


def require_room(plan: Plan, count: int) -> None:
    """Refuse more tones than a plan may hold."""
    if len(plan.tones) + count > limits.TONES:
        raise ChangeRefused("too-many", what="tones", most=limits.TONES)


def _listed_colours(plan: Plan) -> dict[str, str]:
    return tone_colours(plan.tones).colours


def listed_as(plan: Plan, value: str) -> str | None:
    """The tone that has the colour of a value already, if one does.

    Raises:
        PlanError: the value is no colour.
    """
    colours = tone_colours(plan.tones)
    colour = colour_of(value, colours.known)
    return next((name for name, other in colours.colours.items() if other == colour), None)


def _require_new(colour: str, known: Mapping[str, str]) -> None:
    for name, other in known.items():
        if other == colour:
            raise ChangeRefused("doubled-tone", name=name, colour=colour)


def _names(tone: str) -> tuple[str, ...]:
    return (tone, *names_in(tone))


def _rewritten(plan: Plan, names: Mapping[str, str]) -> Plan:
    """The plan with tones under other names, wherever they are used."""

    def renamed(name: str) -> str:
        return names.get(name, name)

    data = plan.model_dump(mode="json")
    for tone in data["tones"]:
        tone["colour"] = with_names(tone["colour"], renamed)
        tone["name"] = renamed(tone["name"])
    for step, entry in zip(plan.steps, data["steps"], strict=True):
        for field, kind in step.field_kinds().items():
            entry[field] = kind.with_tones(entry[field], renamed)
    for colourway in data["colourways"]:
        for role in colourway["roles"]:
            role.update(role=renamed(role["role"]), tone=with_tone_names(role["tone"], renamed))
    if data["one_colour"]:
        data["one_colour"]["without"] = [renamed(name) for name in data["one_colour"]["without"]]
    return from_data(data)


def with_typed_tones(plan: Plan) -> Plan:
    """The plan in which colours that were typed where tones are named are tones: the one that is listed with that
    colour, or a new one.

    Raises:
        ChangeRefused: there would be too many tones.
    """
    typed = [tone for step in plan.steps for tone in step.tone_names() if LITERAL.fullmatch(tone)]
    if not typed:
        return plan
    tones = list(plan.tones)
    renamed: dict[str, str] = {}
    for text in dict.fromkeys(typed):
        known = tone_colours(tones).colours
        colour = colour_of(text, {})
        name = next((name for name, other in known.items() if other == colour), None)
        if name is None:
            taken = {tone.name for tone in tones}
            name = next(f"tone {k}" for k in range(1, limits.TONES + 2) if f"tone {k}" not in taken)
            tones.append(Tone(name=name, colour=text))
        renamed[text] = name
    if len(tones) > limits.TONES:
        raise ChangeRefused("too-many", what="tones", most=limits.TONES)
    data = plan.model_dump(mode="json")
    data["tones"] = [tone.model_dump(mode="json") for tone in tones]
    for step, entry in zip(plan.steps, data["steps"], strict=True):
        for field, kind in step.field_kinds().items():
            entry[field] = kind.with_tones(entry[field], lambda used: renamed.get(used, used))
    return from_data(data)
