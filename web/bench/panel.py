"""The plan as prose: measures, and steps as sentences with their faults, notes and tools."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Final

from django.template.loader import render_to_string
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from kagami.plan.changes.copying import carried_lines
from kagami.plan.changes.mending import mends
from kagami.plan.changes.moving import plain_number
from kagami.plan.changes.ordering import reaches
from kagami.plan.changes.reforming import other_forms
from kagami.plan.changes.rewriting import measures_named
from kagami.plan.changes.taken_as import taken_as
from kagami.plan.document import Plan
from kagami.plan.evaluation.result import Result
from kagami.plan.evaluation.solution import Solution
from kagami.plan.fields.values import LENGTH
from kagami.plan.language.measures import measure_text
from kagami.plan.language.sentences import write_sentence
from kagami.plan.messages import number_text
from kagami.plan.outcome import Outcome
from kagami.plan.ranges import subjects
from kagami.plan.steps import Chapter, Step
from kagami.plan.steps.carve import Carve, CarveDetail, cover_text
from kagami.plan.steps.free import FreeStroke
from kagami.plan.steps.weaving import WeaveDetail
from kagami.plan.tones.listed import tone_colours
from kagami.plan.translation import tr
from web.bench.glyphs import Glyph, glyph_of
from web.bench.hues import PIECE, hues_of
from web.bench.lettered import lettered
from web.bench.state import Looking
from web.bench.tasks import Task, tasks_of
from web.bench.tokens import sentence_tokens, shown_values
from web.memo import Memo

HEADINGS: Final = {
    Chapter.SETTING_OUT: "Setting out",
    Chapter.FIGURES: "Figures, repeats, places",
    Chapter.REPEATS: "Figures, repeats, places",
    Chapter.PLACING: "Figures, repeats, places",
    Chapter.CARVE: "Carve",
    Chapter.REFINE: "Refine",
    Chapter.TONE: "Tone",
    Chapter.LETTER: "Letter",
}
MOST_PARTS: Final = 13
LINES: Final[Memo[SafeString]] = Memo()
NOTES: Final = {
    "pick-gone": "A chosen region in {cover} is not there at these measures. Its choice is kept for when it returns.",
    "pick-changed": "The regions in {cover} were {before} when one was chosen and are {now} now. Look whether it is "
    "still the right one.",
    "pick-doubtful": "It is not certain that the chosen region in {cover} is still the one that was meant. Look, and "
    "choose it again.",
    "taken-as-copies": "{name} is one repeat, so its {count} copies were taken one by one.",
    "round-reduced": "Not every corner has room for {radius}u. Rounded as far as it goes: {places}.",
    "rim-wide": "There is no room for {width}u from both sides, and pieces of the rim go across to an outline that "
    "looks the other way: {count}. A narrower rim shows both.",
    "gap-lapping": "Pairs of pieces that overlap: {count}. Both give way there; to keep what they share, divide them "
    "first, or let the first keep its form.",
    "pieces-gone": "{count} pieces are narrower than the gap and left nothing.",
    "weave-crowded": "Crossings lie closer together along a strand than its band is wide, so that pieces overlap or "
    "miss there: at {places} (u right and up from O). Make the bands narrower, or move the crossings apart.",
    "weave-strands": "Each outline of {name} is a strand of its own: {count} strands in all. For one strand, weave the "
    "line along its middle: open {name} and press “the circle along its middle” if it is a ring.",
    "weave-clash": "Over and under cannot alternate everywhere: the crossings at {x}u, {y}u and at {to_x}u, {to_y}u "
    "follow each other and are passed alike. Turn one of them over.",
    "crumbs": "{count} regions are too small to be meant; the smallest, {width}u wide, lies {x}u right and {y}u up "
    "from O.",
    "near-miss": "{owner} misses {other} by {distance}u, {x}u right and {y}u up from O.",
    "weight-nearest": "{face} has no weight {asked}; {weight} is the nearest.",
    "face-lacks-feature": "{face} has no {feature}. These faces have: {others}.",
    "faces-lack-feature": "Neither {face} nor any other face at hand has {feature}.",
    "stems-nearest": "Stems come to {stem}u, not {asked}u: weight {weight} is as near as {face} comes.",
    "shade-unseen": "{tone} cannot be {way} than it is, so that this is not seen. Lay another tone first.",
    "flattened": "{before} pieces become {pieces}, one a tone.",
    "flattened-hidden": "{count} pieces that others hide are left out.",
    "flattened-gradients": "{count} gradients become bands of one tone each.",
    "pick-uneven": "Every {every}. of {copies} copies does not come out even, so only one region was taken.",
}


@dataclass(frozen=True)
class Line:
    """A step in the plan: its heading, where a new chapter begins or a part of its own (`part`), and its sentence as
    HTML.
    """

    step: str
    heading: str
    part: str
    html: SafeString
    needle: bool
    same: bool = False
    """Whether the page shows it already."""


@dataclass(frozen=True)
class MeasureLine:
    """A measure, with what it comes to."""

    name: str
    value: str
    result: str
    fault: str
    open_to_range: bool


@dataclass(frozen=True)
class ToneLine:
    """A tone, and its colour as #rrggbb, empty where it comes to nothing."""

    name: str
    value: str
    colour: str
    fault: str


@dataclass(frozen=True)
class Panel:
    """All that the plan's template needs."""

    module: str
    measures: tuple[MeasureLine, ...]
    tones: tuple[ToneLine, ...]
    lines: tuple[Line, ...]
    glyphs: tuple[Glyph, ...]
    needle_first: bool
    tasks: tuple[Task, ...] = ()


def draw_panel(plan: Plan, result: Result, state: Looking) -> Panel:
    """The panel; `result` is the whole plan, evaluated."""
    hues, names = hues_of(plan), plan.names()
    position = state.position(plan)
    lines: list[Line] = []
    before, reach = "", reaches(plan)
    for number, step in enumerate(plan.steps, 1):
        heading = _(HEADINGS[step.chapter])
        html = _set(step, number, result, state, names, hues, reach[step.id])
        begins = heading != before and not step.heading
        lines.append(Line(step.id, heading if begins else "", step.heading, html, number == position))
        before = heading
    return Panel(
        module=f"{number_text(plan.module.size)} {plan.module.unit}",
        measures=tuple(_measures(result)),
        tones=tuple(_tones(plan)),
        lines=tuple(lines),
        glyphs=tuple(glyph_of(outcome, hues[outcome.id] == PIECE) for outcome in result.outcomes.values()),
        needle_first=position == 0,
        tasks=tasks_of(plan),
    )


def _set(
    step: Step,
    number: int,
    result: Result,
    state: Looking,
    names: dict[str, str],
    hues: dict[str, str],
    reach: tuple[int, int],
) -> SafeString:
    """A step as HTML, set anew only when something that it shows is new."""
    outcome, plan = result.outcomes[step.id], result.plan
    active = step.id == state.step
    used = tuple((one, names.get(one), hues.get(one)) for one in sorted(step.uses()))
    looks = (reach, *((state.every, state.without, len(plan.steps), outcome.key) if active else ()))
    seen = (fault_text(outcome), tuple(notes_of(outcome, names)), shown_values(step, result, outcome.error))
    tones = plan.tones if step.tone_names() else ()
    measures = plan.measures if any(map(measures_named, step.typed_values())) else ()
    key = (
        step,
        number,
        active,
        looks,
        used,
        hues[step.id],
        seen,
        outcome.waits,
        outcome.muted,
        _is_line(outcome),
        plan.module,
        tones,
        measures,
    )
    return LINES.get(key, lambda: _set_anew(step, number, result, state, names, hues, reach))


def _set_anew(
    step: Step,
    number: int,
    result: Result,
    state: Looking,
    names: dict[str, str],
    hues: dict[str, str],
    reach: tuple[int, int],
) -> SafeString:
    outcome = result.outcomes[step.id]
    active = step.id == state.step
    context = {
        "step": step,
        "number": number,
        "reach": reach,
        "muted": outcome.muted and not step.muted,
        "tokens": sentence_tokens(step, outcome, result, names, hues),
        "active": active,
        "every": state.every,
        "fault": fault_text(outcome),
        "waits": outcome.waits,
        "notes": tuple(notes_of(outcome, names)),
        "crumbs": active and isinstance(step, Carve) and _has_crumbs(outcome),
        "mends": tuple(_mends(result, outcome)) if active else (),
        "forms": tuple((tr(label), text) for label, text in other_forms(step, result)) if active else (),
        "takings": tuple(taken_as(step, result)) if active and isinstance(step, FreeStroke) else (),
        "varied": next((s.key for s in subjects(result.plan) if s.key.startswith(f"{step.id}.")), "") if active else "",
        "spoken": write_sentence(step, names),
        "numbers": tuple(_numbers(step)) if active else (),
        "carried": "\n".join(carried_lines(step, result.plan)),
        "reaches": tuple(_reaches(step, outcome)) if active else (),
        "line": _is_line(outcome),
        "words": lettered(step, outcome, result) if active else None,
        "cutting": tuple(_cutting(step, state, names)) if active else (),
    }
    return render_to_string("bench/_step.html", context)


def _is_line(outcome: Outcome) -> bool:
    """Whether what a step draws is lines that bound no area."""
    figure = outcome.figure
    return figure is not None and not figure.bounds_area and any(map(bool, figure.copies))


def _numbers(step: Step) -> Iterable[tuple[str, str]]:
    """Lengths that are plain numbers, by their field: each can be given a name."""
    for name, kind in step.field_kinds().items():
        if kind is LENGTH and plain_number(step[name]) is not None:
            yield name, step[name].strip()


def _measures(result: Result) -> Iterable[MeasureLine]:
    names = result.plan.names()
    for measure in result.plan.measures:
        error = result.measures.errors.get(measure.name)
        text, shown = measure_text(measure, names), measure_result(result, measure.name)
        yield MeasureLine(measure.name, text, shown, str(error) if error else "", measure.solve is None)


def measure_result(result: Result, name: str) -> str:
    """What a measure comes to, in words; empty where it comes to nothing."""
    module, value = result.plan.module, result.measures.values.get(name)
    shown = "" if value is None else f"{number_text(value * module.size)} {module.unit}"
    found = result.findings.get(name)
    if isinstance(found, Solution):
        others = _(", one of {count} solutions").format(count=len(found.others) + 1) if found.others else ""
        shown = f"{number_text(found.value)}u{others}, {shown}"
    return shown


def _tones(plan: Plan) -> Iterable[ToneLine]:
    found = tone_colours(plan.tones)
    for tone in plan.tones:
        error = found.errors.get(tone.name)
        yield ToneLine(tone.name, tone.colour, found.colours.get(tone.name, ""), str(error) if error else "")


def fault_text(outcome: Outcome) -> str:
    """What is wrong with a step, in words; empty where nothing is."""
    if outcome.error is None:
        return ""
    text = str(outcome.error)
    return f"{tr(outcome.error.field)}: {text}" if outcome.error.field and not outcome.waits else text


def notes_of(outcome: Outcome, names: dict[str, str]) -> Iterable[str]:
    """Remarks on a step, in words."""
    for code, values in outcome.drawing.notes if outcome.drawing else ():
        shown = {name: number_text(value) if isinstance(value, float) else value for name, value in values.items()}
        shown |= {name: names.get(str(values[name]), values[name]) for name in ("owner", "other") if name in values}
        if isinstance(cover := values.get("cover"), tuple):
            shown["cover"] = cover_text(cover, names)
        yield _(NOTES[code]).format(**shown)


def _has_crumbs(outcome: Outcome) -> bool:
    return outcome.drawing is not None and any(code == "crumbs" for code, _ in outcome.drawing.notes)


def _mends(result: Result, outcome: Outcome) -> Iterable[tuple[str, str, str, str]]:
    """What one click can mend: step, field, other, and that in words."""
    names = result.plan.names()
    for mend in mends(result, outcome):
        yield (
            mend.step,
            mend.field,
            mend.other,
            _("let {one} meet {other}").format(one=names[mend.step], other=names[mend.other]),
        )


def _cutting(step: Step, state: Looking, names: dict[str, str]) -> Iterable[tuple[str, str, bool]]:
    """The figures that may cut the regions of this carve, by id and name, and whether they do now."""
    if isinstance(step, Carve) and len(step.figures) > 1:
        for identifier in step.figures:
            yield identifier, names.get(identifier, identifier), identifier not in state.without


def _reaches(step: Step, outcome: Outcome) -> Iterable[tuple[int, str]]:
    """How far a pick in this carve, or a crossing of this weave, may reach: from all round the symmetry to one."""
    detail = outcome.drawing.detail if outcome.drawing else None
    if isinstance(detail, WeaveDetail) and detail.group is not None and not step.lays_tones:
        yield 1, _("all round: {count}").format(count=detail.group.size)
        yield 0, _("this one only")
    group = detail.regions.group if isinstance(detail, CarveDetail) else None
    if group is None:
        return
    if group.order > 1:
        yield 1, _("all round: {count}").format(count=group.size)
    for every in (part for part in range(2, min(group.order, MOST_PARTS)) if group.order % part == 0):
        yield every, _("every {nth}: {count}").format(nth=ordinal(every), count=group.size // every)
    if group.axis is not None:
        yield group.order, _("both sides")
    yield 0, _("this one only")


def ordinal(number: int) -> str:
    """2nd, 3rd, 4th …"""
    forms = {1: _("{number}st"), 2: _("{number}nd"), 3: _("{number}rd")}
    last = 0 if 10 < number % 100 < 14 else number % 10
    return forms.get(last, _("{number}th")).format(number=number)
