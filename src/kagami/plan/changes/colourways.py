"""Changes to colourways, and to how a mark is drawn in one colour."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Final

from kagami.plan import limits
from kagami.plan.changes.given import Changed, Given
from kagami.plan.document import Plan
from kagami.plan.errors import ChangeRefused, PlanError
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.roles import proposed, roles_of
from kagami.plan.language.colourways import colourway_text, parse_colourway
from kagami.plan.messages import listing
from kagami.plan.naming import require_sayable
from kagami.plan.tones.colourways import DROPPED, IN_ONE, IN_TONES, Colourway, OneColour
from kagami.plan.tones.listed import ALWAYS, GROUND, Tone, tone_colours
from kagami.plan.tones.many import differing, free_name_among, from_palette, hue_walk, pairs, turned_text
from kagami.plan.tones.mixing import colour_of
from kagami.plan.tones.notation import names_in, parse_tone
from kagami.plan.values.expressions import parse_value
from kagami.plan.wording.texts import on_a_line, on_one_line

MOST_MADE: Final = 24


def add_colourway(plan: Plan, given: Given) -> Changed:
    """A new colourway: told by the sentence `text`, else one `name`d that changes nothing yet."""
    if given.values.get("text"):
        colourway = parse_colourway(given.text("text", limits.SENTENCE_LENGTH))
        _require_tones(plan, colourway, given)
        known = plan.colourway(colourway.name)
        if known is not None:
            return Changed(_replaced(plan, known, colourway), colourway_text(colourway).rstrip("."))
    else:
        taken = [one.name for one in plan.colourways]
        name = given.text("name", limits.NAME_LENGTH)
        colourway = Colourway(name=require_sayable(name or free_name_among("colourway", taken)))
    return Changed(_with_new(plan, [colourway]), f"colourway {colourway.name}")


def set_role(plan: Plan, given: Given) -> Changed:
    """The tone of a `role` in the colourway `name`: `tone`, “none” to leave its pieces out, empty for its own. Tones of
    the `palette` that it names are listed.
    """
    colourway, role = _colourway(plan, given), given.text("role", limits.NAME_LENGTH)
    tone = given.text("tone")
    if not role:
        raise ChangeRefused("no-role", name=role, known=listing([*_role_names(plan, given), GROUND]))
    plan = _with_tones_named(plan, tone, given)
    changed = colourway.with_tone(role, tone or None)
    _require_tones(plan, changed, given)
    return Changed(_replaced(plan, colourway, changed), f"{colourway.name}: {role} is {tone or 'its own'}")


def rename_colourway(plan: Plan, given: Given) -> Changed:
    """Another name."""
    colourway, new = _colourway(plan, given), require_sayable(given.text("new", limits.NAME_LENGTH))
    if new != colourway.name and plan.colourway(new) is not None:
        raise ChangeRefused("doubled-name", name=new)
    changed = _replaced(plan, colourway, colourway.model_copy(update={"name": new}))
    variants = tuple(
        one.model_copy(update={"colourway": new}) if one.colourway == colourway.name else one for one in plan.variants
    )
    return Changed(changed.model_copy(update={"variants": variants}), f"{colourway.name} is called {new}")


def note_colourway(plan: Plan, given: Given) -> Changed:
    """A note for whoever looks at it."""
    colourway, note = _colourway(plan, given), given.text("note", limits.NOTE_LENGTH)
    if not on_one_line(note):
        raise ChangeRefused("text-not-plain", what="note")
    changed = colourway.model_copy(update={"note": on_a_line(note)})
    return Changed(_replaced(plan, colourway, changed), f"note on {colourway.name}")


def choose_colourway(plan: Plan, given: Given) -> Changed:
    """Mark it as `chosen`, or no longer."""
    colourway, chosen = _colourway(plan, given), given.values.get("chosen") is True
    changed = colourway.model_copy(update={"chosen": chosen})
    return Changed(_replaced(plan, colourway, changed), f"{colourway.name} {'is' if chosen else 'is not'} chosen")


def form_colourway(plan: Plan, given: Given) -> Changed:
    """Whether the mark is drawn in its tones or in one colour there."""
    colourway, form = _colourway(plan, given), given.text("form")
    if form not in (IN_TONES, IN_ONE):
        raise ChangeRefused("not-a-choice", value=form, known=f"{IN_TONES} or {IN_ONE}")
    changed = colourway.model_copy(update={"form": form})
    return Changed(_replaced(plan, colourway, changed), f"{colourway.name}: {form}")


def remove_colourway(plan: Plan, given: Given) -> Changed:
    """Take it out."""
    colourway = _colourway(plan, given)
    left = tuple(one for one in plan.colourways if one != colourway)
    return Changed(plan.model_copy(update={"colourways": left}), f"without {colourway.name}")


def move_colourway(plan: Plan, given: Given) -> Changed:
    """To another place among the colourways, counted from 0."""
    colourway = _colourway(plan, given)
    left = [one for one in plan.colourways if one != colourway]
    left.insert(max(0, min(given.number("position"), len(left))), colourway)
    return Changed(plan.model_copy(update={"colourways": tuple(left)}), f"{colourway.name} moved")


def copy_colourway(plan: Plan, given: Given) -> Changed:
    """Another one with the same tones, behind it."""
    colourway = _colourway(plan, given)
    name = free_name_among(colourway.name, [one.name for one in plan.colourways])
    copy = colourway.model_copy(update={"name": name, "chosen": False, "note": ""})
    changed = _with_new(plan, [copy])
    return Changed(_moved_behind(changed, copy, colourway), f"{name} from {colourway.name}")


def swap_roles(plan: Plan, given: Given) -> Changed:
    """The roles `first` and `second` change their tones in a colourway."""
    colourway = _colourway(plan, given)
    first, second = given.text("first", limits.NAME_LENGTH), given.text("second", limits.NAME_LENGTH)
    one, other = colourway.tone_of(first) or first, colourway.tone_of(second) or second
    if DROPPED in (one, other):
        raise ChangeRefused("dropped-role", name=first if one == DROPPED else second)
    changed = colourway.with_tone(first, other).with_tone(second, one)
    _require_tones(plan, changed, given)
    return Changed(_replaced(plan, colourway, changed), f"{colourway.name}: {first} and {second} swapped")


def turn_hues(plan: Plan, given: Given) -> Changed:
    """The hues of all roles turned by so many `degrees` in a colourway; the ground's as well where it is given."""
    colourway, degrees = _colourway(plan, given), given.number("degrees")
    names = [role.name for role in roles_of(evaluate(plan, given.cache))]
    names += [GROUND] * (colourway.tone_of(GROUND) is not None)
    changed = colourway
    for name in names:
        tone = colourway.tone_of(name) or name
        if tone != DROPPED:
            changed = changed.with_tone(name, _turned(plan, tone, degrees))
    return Changed(_replaced(plan, colourway, changed), f"{colourway.name}: hues turned by {degrees}°")


def _turned(plan: Plan, tone: str, degrees: int) -> str:
    """A tone with its hue turned; one that names no listed tone becomes the colour itself, so that turns do not heap
    up.
    """
    text = turned_text(tone, degrees)
    if len(text) > limits.EXPRESSION_LENGTH or not names_in(tone) or " turned " in tone:
        return colour_of(text, tone_colours(plan.tones).known)
    return text


def add_colourways(plan: Plan, given: Given) -> Changed:
    """Several at once, by the `way`: “palette”, “hues” or “pairs”. `palette` holds further tones by name, which are
    listed where a colourway uses them; `count` tells how many.
    """
    way, count = given.text("way"), given.number("count")
    if not 1 <= count <= MOST_MADE:
        raise ChangeRefused("bad-change", path="count", reason=f"is not from 1 to {MOST_MADE}")
    colours = tone_colours(plan.tones)
    roles = {role.name: colours.of(role.name) for role in roles_of(evaluate(plan, given.cache))}
    if not roles:
        raise ChangeRefused("no-ink-yet")
    begun, palette = _with_palette(plan, given)
    match way:
        case "palette":
            found = from_palette(roles, palette, MOST_MADE)
        case "pairs":
            found = pairs(roles, palette, MOST_MADE)
        case "hues":
            found = hue_walk(roles, count)
        case _:
            raise ChangeRefused("not-a-choice", value=way, known="palette, hues or pairs")
    made = differing(found, plan.colourways)[:count]
    if not made:
        raise ChangeRefused("no-colourway-made")
    used = {name for one in made for role in one.roles for name in names_in(role.tone)}
    kept = tuple(tone for tone in begun.tones if tone in plan.tones or tone.name in used)
    return Changed(_with_new(begun.model_copy(update={"tones": kept}), made), f"{len(made)} colourways by {way}")


def _with_tones_named(plan: Plan, tone: str, given: Given) -> Plan:
    """The plan with the tones of the palette listed that a tone names and the mark does not have."""
    listed = given.values.get("palette") or []
    if not isinstance(listed, list) or len(listed) > limits.TONES:
        raise ChangeRefused("bad-change", path="palette", reason=f"is no list of up to {limits.TONES} tones")
    known = {entry.name for entry in plan.tones} | set(ALWAYS)
    palette = dict(map(_named_colour, listed))
    wanted = [name for name in (tone, *names_in(tone)) if name in palette and name not in known]
    tones = (*plan.tones, *(Tone(name=name, colour=palette[name]) for name in dict.fromkeys(wanted)))
    if len(tones) > limits.TONES:
        raise ChangeRefused("too-many", what="tones", most=limits.TONES)
    return plan.model_copy(update={"tones": tones})


def _with_palette(plan: Plan, given: Given) -> tuple[Plan, dict[str, str]]:
    """The plan with further tones listed, and the palette: the tones given, else those that are listed and plain."""
    listed = given.values.get("palette") or []
    if not isinstance(listed, list) or len(listed) > limits.TONES:
        raise ChangeRefused("bad-change", path="palette", reason=f"is no list of up to {limits.TONES} tones")
    colours = dict(tone_colours(plan.tones).known)
    tones, palette = list(plan.tones), {}
    for entry in listed:
        name, colour = _named_colour(entry)
        if colours.get(name) != colour:
            name = next((known for known, other in colours.items() if other == colour and known not in ALWAYS), name)
        if colours.get(name) != colour:
            name = free_name_among(name, {tone.name for tone in tones} | set(ALWAYS))
            tones.append(Tone(name=name, colour=colour))
            colours[name] = colour
        palette[name] = colour
    if len(tones) > limits.TONES:
        raise ChangeRefused("too-many", what="tones", most=limits.TONES)
    if not palette:
        plain = [tone for tone in plan.tones if not names_in(tone.colour)] or plan.tones
        palette = {tone.name: colours[tone.name] for tone in plain if tone.name in colours}
    if not palette:
        raise ChangeRefused("no-palette")
    return plan.model_copy(update={"tones": tuple(tones)}), palette


def _named_colour(entry: object) -> tuple[str, str]:
    if not isinstance(entry, dict) or not all(isinstance(entry.get(part), str) for part in ("name", "colour")):
        raise ChangeRefused("bad-change", path="palette", reason="holds something that is no tone")
    name = on_a_line(entry["name"])[: limits.NAME_LENGTH]
    return require_sayable(name), colour_of(entry["colour"][: limits.EXPRESSION_LENGTH], {})


def set_one_colour(plan: Plan, given: Given) -> Changed:
    """How the mark is drawn in one colour: `gap` between its pieces, roles `without`; or as is `proposed`."""
    if given.values.get("proposed") is True:
        return Changed(plan.model_copy(update={"one_colour": None}), "in one colour as proposed")
    if not {"gap", "without"} & given.values.keys():
        raise ChangeRefused("bad-change", path="gap", reason="is missing, and so are the roles without")
    before = plan.one_colour or proposed(evaluate(plan, given.cache))
    gap = given.text("gap") if "gap" in given.values else before.gap
    without = given.values.get("without", list(before.without))
    if not isinstance(without, list) or not all(isinstance(name, str) for name in without):
        raise ChangeRefused("bad-change", path="without", reason="is no list of roles")
    parse_value(gap)
    form = OneColour(gap=gap, without=tuple(dict.fromkeys(without))[: limits.TONES])
    words = f"in one colour parted by {gap}" + (f", without {listing(list(form.without))}" if form.without else "")
    return Changed(plan.model_copy(update={"one_colour": form}), words)


def _colourway(plan: Plan, given: Given) -> Colourway:
    name = given.text("name", limits.NAME_LENGTH)
    found = plan.colourway(name)
    if found is None:
        known = listing([one.name for one in plan.colourways]) or "none"
        raise ChangeRefused("no-colourway", name=name, known=known)
    return found


def _require_tones(plan: Plan, colourway: Colourway, given: Given) -> None:
    """Refuse roles that the mark does not have, and tones that come to nothing."""
    colours = tone_colours(plan.tones).known
    known = {tone.name for tone in plan.tones} | set(ALWAYS)
    for entry in colourway.roles:
        if entry.role not in known:
            roles = dict.fromkeys([*_role_names(plan, given), GROUND])
            raise ChangeRefused("no-role", name=entry.role, known=listing(list(roles)))
        if entry.tone == DROPPED and entry.role != GROUND:
            continue
        try:
            parse_tone(entry.tone)
            colour_of(entry.tone, colours)
        except PlanError as error:
            raise error.at(entry.role) from error


def _role_names(plan: Plan, given: Given) -> list[str]:
    return [role.name for role in roles_of(evaluate(plan, given.cache))]


def _replaced(plan: Plan, before: Colourway, after: Colourway) -> Plan:
    changed = tuple(after if one == before else one for one in plan.colourways)
    return plan.model_copy(update={"colourways": changed})


def _with_new(plan: Plan, made: Sequence[Colourway]) -> Plan:
    if len(plan.colourways) + len(made) > limits.COLOURWAYS:
        raise ChangeRefused("too-many", what="colourways", most=limits.COLOURWAYS)
    for one in made:
        if plan.colourway(one.name) is not None:
            raise ChangeRefused("doubled-name", name=one.name)
    return plan.model_copy(update={"colourways": (*plan.colourways, *made)})


def _moved_behind(plan: Plan, moved: Colourway, other: Colourway) -> Plan:
    left = [one for one in plan.colourways if one != moved]
    left.insert(left.index(other) + 1, moved)
    return plan.model_copy(update={"colourways": tuple(left)})


CHANGES: Final[Mapping[str, Any]] = {
    "add-colourway": add_colourway,
    "add-colourways": add_colourways,
    "set-role": set_role,
    "rename-colourway": rename_colourway,
    "note-colourway": note_colourway,
    "choose-colourway": choose_colourway,
    "form-colourway": form_colourway,
    "remove-colourway": remove_colourway,
    "move-colourway": move_colourway,
    "copy-colourway": copy_colourway,
    "swap-roles": swap_roles,
    "turn-hues": turn_hues,
    "set-one-colour": set_one_colour,
}
