"""Changes to the list of tones."""

from __future__ import annotations

from collections.abc import Mapping

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.document import Plan, from_data
from kagami.plan.errors import ChangeRefused
from kagami.plan.language.wording import sayable
from kagami.plan.messages import listing
from kagami.plan.tones import LITERAL, Tone, colour_of, made_from, tone_colours, with_tone_named


def add_tone(plan: Plan, given: Given) -> Changed:
    """A new tone `name` of the colour `value`. A colour that is listed already is not listed twice."""
    name, value = given.text("name", limits.NAME_LENGTH), given.text("value")
    if len(plan.tones) >= limits.TONES:
        raise ChangeRefused("too-many", what="tones", most=limits.TONES)
    _require_name(plan, name)
    known = tone_colours(plan.tones).colours
    _require_new(colour_of(value, known), known)
    return Changed(plan.model_copy(update={"tones": (*plan.tones, Tone(name=name, colour=value))}), f"{name} = {value}")


def set_tone(plan: Plan, given: Given) -> Changed:
    """A tone's colour."""
    name, value = given.text("name", limits.NAME_LENGTH), given.text("value")
    position = [tone.name for tone in plan.tones].index(_tone(plan, name).name)
    colour_of(value, tone_colours(plan.tones[:position]).colours)
    tones = tuple(Tone(name=name, colour=value) if tone.name == name else tone for tone in plan.tones)
    return Changed(plan.model_copy(update={"tones": tones}), f"{name} = {value}")


def rename_tone(plan: Plan, given: Given) -> Changed:
    """A tone's name, there and wherever it is used."""
    name, new = given.text("name", limits.NAME_LENGTH), given.text("new", limits.NAME_LENGTH)
    _tone(plan, name)
    if new != name:
        _require_name(plan, new)
    data = plan.model_dump(mode="json")
    for tone in data["tones"]:
        tone["colour"] = with_tone_named(tone["colour"], name, new)
        tone["name"] = new if tone["name"] == name else tone["name"]
    for step, entry in zip(plan.steps, data["steps"], strict=True):
        for field, kind in step.field_kinds().items():
            entry[field] = kind.with_tones(entry[field], lambda used: new if used == name else used)
    return Changed(from_data(data), f"{name} is called {new}")


def remove_tone(plan: Plan, given: Given) -> Changed:
    """Take a tone out, unless a step or another tone uses it."""
    tone = _tone(plan, given.text("name", limits.NAME_LENGTH))
    users = [other.name for other in plan.tones if made_from(other.colour) == tone.name]
    users += [step.name for step in plan.steps if tone.name in step.tone_names()]
    if users:
        raise ChangeRefused("needed-by", name=tone.name, users=listing(users))
    tones = tuple(other for other in plan.tones if other != tone)
    return Changed(plan.model_copy(update={"tones": tones}), f"without {tone.name}")


def _tone(plan: Plan, name: str) -> Tone:
    for tone in plan.tones:
        if tone.name == name:
            return tone
    raise ChangeRefused("no-tone", name=name, known=listing([tone.name for tone in plan.tones]) or "none")


def _require_name(plan: Plan, name: str) -> None:
    if not name:
        raise ChangeRefused("empty-name")
    if not sayable(name):
        raise ChangeRefused("name-with-quotes", name=name)
    if any(tone.name == name for tone in plan.tones):
        raise ChangeRefused("doubled-name", name=name)


def _require_new(colour: str, known: Mapping[str, str]) -> None:
    for name, other in known.items():
        if other == colour:
            raise ChangeRefused("doubled-tone", name=name, colour=colour)


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
