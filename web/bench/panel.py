"""The plan as prose: measures, and steps as sentences with their glyphs, values, faults and tools."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Final

from django.utils.safestring import SafeString

from kagami.plan import anchors
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluate import Outcome, Result
from kagami.plan.fields import VALUES, FieldKind
from kagami.plan.measures import evaluate_expression
from kagami.plan.messages import explain, number_text
from kagami.plan.sentences import Own, Slot, Words, sentence_parts, slot_text
from kagami.plan.steps import Chapter, Step
from kagami.plan.steps.carve import Carve, CarveDetail, kept_count
from web.bench.glyphs import MISSING, ORIGIN, PLACE, glyph
from web.bench.hues import PIECE, hues_of
from web.bench.state import Looking

HEADINGS: Final = {
    Chapter.SETTING_OUT: "Setting out",
    Chapter.FIGURES: "Figures and repeats",
    Chapter.REPEATS: "Figures and repeats",
    Chapter.CARVE: "Carve",
}
CHOICES: Final = {"rest": ("dropped", "kept")}
NOTES: Final = {
    "pick-gone": "A chosen region in {cover} is not there at these measures. Its choice is kept for when it returns.",
    "pick-changed": "The regions in {cover} were {before} when one was chosen and are {now} now. Look whether it is "
    "still the right one.",
    "pick-uneven": "Every {every}. of {copies} copies does not come out even, so only one region was taken.",
}


@dataclass(frozen=True)
class Token:
    """A part of a sentence: `form` names the partial that sets it."""

    form: str
    text: str = ""
    field: str = ""
    label: str = ""
    hue: str = ""
    glyph: SafeString | str = ""
    value: str = ""
    options: tuple[str, ...] = ()
    members: tuple["Token", ...] = ()
    hint: str = ""
    faulty: bool = False
    tail: str = ""


@dataclass(frozen=True)
class Line:
    """A step in the plan."""

    step: Step
    number: int
    heading: str
    tokens: tuple[Token, ...]
    hue: str
    active: bool
    fault: str
    waits: bool
    notes: tuple[str, ...]
    reaches: tuple[tuple[int, str], ...]
    needle: bool = False


@dataclass(frozen=True)
class MeasureLine:
    """A measure, with what it comes to."""

    name: str
    value: str
    result: str
    fault: str


@dataclass(frozen=True)
class Panel:
    """All that the plan's template needs."""

    module: str
    measures: tuple[MeasureLine, ...]
    lines: tuple[Line, ...]
    needle_first: bool
    position: int
    steps: tuple[Step, ...] = field(default=())


def draw_panel(plan: Plan, result: Result, state: Looking) -> Panel:
    """The panel; `result` is the whole plan, evaluated."""
    hues, names = hues_of(plan), plan.names()
    position = state.position(plan)
    lines: list[Line] = []
    before = ""
    for number, step in enumerate(plan.steps, 1):
        heading = HEADINGS[step.chapter]
        outcome = result.outcomes[step.id]
        lines.append(
            Line(
                step=step,
                number=number,
                heading=heading if heading != before else "",
                tokens=tuple(_tokens(step, outcome, result, names, hues)),
                hue=hues[step.id],
                active=step.id == state.step,
                fault=_fault(outcome),
                waits=outcome.waits,
                notes=tuple(_notes(outcome)),
                reaches=tuple(_reaches(step, outcome)) if step.id == state.step else (),
                needle=number == position,
            )
        )
        before = heading
    return Panel(
        module=f"{number_text(plan.module.size)} {plan.module.unit}",
        measures=tuple(_measures(result)),
        lines=tuple(lines),
        needle_first=position == 0,
        position=position,
        steps=plan.steps,
    )


def _measures(result: Result) -> Iterable[MeasureLine]:
    module = result.plan.module
    for measure in result.plan.measures:
        error = result.measures.errors.get(measure.name)
        value = result.measures.values.get(measure.name)
        shown = "" if value is None else f"{number_text(value * module.size)} {module.unit}"
        yield MeasureLine(measure.name, measure.value, shown, str(error) if error else "")


def _fault(outcome: Outcome) -> str:
    if outcome.error is None:
        return ""
    text = str(outcome.error)
    return f"{outcome.error.field}: {text}" if outcome.error.field and not outcome.waits else text


def _notes(outcome: Outcome) -> Iterable[str]:
    for code, values in outcome.drawing.notes if outcome.drawing else ():
        yield NOTES[code].format(**values)


def _reaches(step: Step, outcome: Outcome) -> Iterable[tuple[int, str]]:
    """How far a pick in this carve may reach: the parts of the turn, from all round to one."""
    if not isinstance(step, Carve) or outcome.drawing is None or not isinstance(outcome.drawing.detail, CarveDetail):
        return
    group = outcome.drawing.detail.regions.group
    if group is None:
        return
    yield 1, f"all round: {group.order}"
    for every in (part for part in range(2, min(group.order, 13)) if group.order % part == 0):
        if every < group.order:
            yield every, f"every {ordinal(every)}: {group.order // every}"
    yield 0, "this one only"


def ordinal(number: int) -> str:
    """2nd, 3rd, 4th …"""
    ending = "th" if 10 < number % 100 < 14 else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{ending}"


def _tokens(
    step: Step, outcome: Outcome, result: Result, names: dict[str, str], hues: dict[str, str]
) -> Iterable[Token]:
    found: list[Token] = []
    for part in sentence_parts(type(step)):
        if isinstance(part, Words):
            add_words(found, part.text)
        elif isinstance(part, Own):
            sign = glyph(outcome, hues[step.id] == PIECE)
            found.append(Token("own", step.name, "name", f"name of step {step.name}", hues[step.id], sign))
        else:
            found.append(slot_token(step, part, result, names, hues, outcome.error))
    return found


def add_words(tokens: list[Token], text: str) -> None:
    """Add fixed words; signs right behind a field (“.”, “°,”) are set with it, so that no line begins with them."""
    close = len(text) if " " not in text else text.index(" ")
    if tokens and close:
        tokens[-1] = replace(tokens[-1], tail=text[:close])
        text = text[close:]
    if text:
        tokens.append(Token("words", text))


def slot_token(
    step: Step,
    slot: Slot,
    result: Result,
    names: dict[str, str],
    hues: dict[str, str],
    error: PlanError | None = None,
) -> Token:
    """A field of a sentence, ready to be set."""
    text = slot_text(step, slot, names)
    label = f"{slot.field} of {step.name}"
    faulty = error is not None and error.field == slot.field and error.code != "figure-waits"
    value = getattr(step, slot.field)
    if slot.kind in VALUES:
        hint = "" if error else _hint(slot.kind, value, result)
        return Token("value", text, slot.field, label, value=value, faulty=faulty, hint=hint)
    if slot.kind is FieldKind.ANCHOR:
        sign, hue = anchor_sign(value, result, hues)
        return Token("anchor", text, slot.field, label, hue, sign, value, faulty=faulty)
    if slot.kind in (FieldKind.FIGURE, FieldKind.FIGURES):
        ids = (value,) if slot.kind is FieldKind.FIGURE else value
        members = tuple(figure_token(identifier, result, names, hues) for identifier in ids)
        many = "many" if slot.kind is FieldKind.FIGURES else ""
        return Token("figures", text, slot.field, label, many, value=" ".join(ids), members=members, faulty=faulty)
    if slot.kind is FieldKind.CHOICE:
        return Token("choice", text, slot.field, label, value=value, options=CHOICES[slot.field])
    return Token("picks", _kept_text(step, result), slot.field, label)


def figure_token(identifier: str, result: Result, names: dict[str, str], hues: dict[str, str]) -> Token:
    """A figure that is named in a sentence."""
    hue = hues.get(identifier, "")
    sign = glyph(result.outcomes.get(identifier), hue == PIECE) if identifier in names else MISSING
    return Token("figure", names.get(identifier, identifier), hue=hue, glyph=sign, value=identifier)


def anchor_sign(reference: str, result: Result, hues: dict[str, str]) -> tuple[SafeString, str]:
    """The glyph and hue of an anchor: a cross for the sheet's origin, a small ring in its figure's hue else."""
    if reference == anchors.SHEET_ORIGIN:
        return ORIGIN, ""
    return PLACE, hues.get(reference.partition(".")[0], "")


def _hint(kind: FieldKind, text: str, result: Result) -> str:
    """What a length that is not a plain number comes to."""
    if kind is not FieldKind.LENGTH:
        return ""
    try:
        value = evaluate_expression(text, result.measures, result.plan.module.millimetres)
    except PlanError as error:
        return explain(error)
    module = result.plan.module
    return f"{number_text(value)}u, {number_text(value * module.size)} {module.unit}"


def _kept_text(step: Step, result: Result) -> str:
    outcome = result.outcomes.get(step.id)
    if outcome is None or outcome.drawing is None or not isinstance(outcome.drawing.detail, CarveDetail):
        return "regions"
    count = kept_count(outcome.drawing.detail)
    return "no region yet" if count == 0 else "1 region" if count == 1 else f"{count} regions"
