"""What the Delivery page shows of a plan: work for evaluators (see `web.evaluation.door`)."""

from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.exchange.delivery.ordering import varied_in
from kagami.exchange.delivery.planning import planned_files
from kagami.geometry.measure.size import Box
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.forms import clear_of, formed, ground_of, line_of, sizes_of
from kagami.plan.evaluation.ink import ink_box
from kagami.plan.language.sentences import write_sentence
from kagami.plan.language.variants import variant_text
from kagami.plan.messages import number_text
from kagami.plan.steps import Step
from kagami.plan.values.stored import typed_value
from kagami.plan.variants.naming import check_pattern
from kagami.plan.variants.variant import AS_IT_IS, FORMATS, FORMS, IN_ONE, OUTLINED, REVERSED, Package, Variant
from kagami.plan.varying import varied_step
from web.delivery.files import files_planned, purpose_of
from web.pictures.picture import PICTURE, Picture, picture_from

BEGINNINGS: Final = (
    Variant(name="full"),
    Variant(name="one ink", form=IN_ONE),
    Variant(name="reversed", form=REVERSED, plate=True),
    Variant(name="small", below=24, clear="0u", formats=("svg", "png", "icons")),
)
"""The variants that a mark is most often begun with."""


@dataclass(frozen=True)
class Line:
    """A variant as a row of the page."""

    name: str
    told: str
    picture: Picture
    ground: str
    formats: tuple[tuple[str, bool], ...]
    fault: str = ""
    below: int = 0


@dataclass(frozen=True)
class Altered:
    """What is other in a variant than in the mark: a measure's value, or a step that is muted, heard or said anew."""

    name: str
    words: str
    own: str
    measure: str = ""
    step: str = ""
    state: str = ""


@dataclass(frozen=True)
class Looked:
    """The variant that is looked at: its fields as they are typed, and its picture in a square of 100 with the frame of
    its ink, round which its clear space lies.
    """

    variant: Variant
    sentence: str
    clear: str
    line: str
    usual_clear: str
    usual_line: str
    picture: Picture
    ground: str
    frame: tuple[float, float, float, float] | None
    altered: tuple[Altered, ...]
    measures: tuple[str, ...]
    steps: tuple[tuple[str, str, str], ...]
    """Steps that may be muted or said anew: id, name and sentence."""
    earlier: int
    later: int


@dataclass(frozen=True)
class Beginning:
    """A variant that most marks have: the sentence that makes it, what it is, and how it looks where it is shown."""

    text: str
    words: str
    line: Line | None = None


@dataclass(frozen=True)
class Spread:
    """All that the page needs of a plan."""

    lines: tuple[Line, ...]
    beginnings: tuple[Beginning, ...]
    """Those that there are none of yet."""
    at: Looked | None
    files: tuple[tuple[str, str], ...]
    """Files of the variant that is looked at: name and what each is for."""
    file: str
    """The one whose report is shown."""
    all_files: int
    example: str
    pattern: str
    pixels: str
    height: str
    own_height: str
    own_width: str
    colourways: tuple[str, ...]
    forms: tuple[str, ...]
    formats: tuple[str, ...]
    inked: bool
    sound: bool


def spread_of(plan: Plan, cache: Cache, brand: str, at: str, file: str) -> Spread:
    """The page, with a variant of a name looked at, and one of its files."""
    result = evaluate(plan, cache)
    package = plan.package or Package()
    variant = plan.variant(at) or (plan.variants[0] if plan.variants else None)
    planned = files_planned(plan, cache, brand)
    own = [one for one in planned if variant is not None and one.variant == variant.name]
    shown = next((one for one in own if one.name == file), own[0] if own else None)
    box = ink_box(formed(result, None))
    return Spread(
        lines=lines_of(plan, cache),
        beginnings=_beginnings(plan, cache) if box is not None else (),
        at=_looked(plan, cache, variant) if variant is not None else None,
        files=tuple((one.name, purpose_of(one)) for one in own),
        file=shown.name if shown else "",
        all_files=len(planned),
        example=(shown or planned[0]).name if planned else "",
        pattern=package.pattern,
        pixels=", ".join(str(size) for size in package.pixels),
        height=package.height,
        own_height=f"{number_text(box.height * plan.module.size)} {plan.module.unit}" if box else "",
        own_width=f"{number_text(box.width * plan.module.size)} {plan.module.unit}" if box else "",
        colourways=tuple(one.name for one in plan.colourways),
        forms=FORMS,
        formats=FORMATS,
        inked=box is not None,
        sound=result.sound,
    )


def _beginnings(plan: Plan, cache: Cache) -> tuple[Beginning, ...]:
    words = (_("the mark as it is"), _("in one colour"), _("reversed, on its plate"), _("a small one"))
    alike = {(one.form, bool(one.below)) for one in plan.variants}
    return tuple(
        Beginning(variant_text(variant, {}), said, None if plan.variants else _line(plan, cache, variant))
        for variant, said in zip(BEGINNINGS, words, strict=True)
        if (variant.form, bool(variant.below)) not in alike and plan.variant(variant.name) is None
    )


def lines_of(plan: Plan, cache: Cache) -> tuple[Line, ...]:
    """All variants as they look."""
    return tuple(_line(plan, cache, one) for one in plan.variants)


def example_name(plan: Plan, cache: Cache, brand: str, pattern: str) -> str:
    """What the first file would be called under another pattern.

    Raises:
        ChangeRefused: what is wrong with the pattern.
    """
    check_pattern(pattern)
    package = (plan.package or Package()).model_copy(update={"pattern": pattern})
    named = planned_files(plan.model_copy(update={"package": package}), brand, frozenset())
    return named[0].name if named else ""


def _line(plan: Plan, cache: Cache, variant: Variant) -> Line:
    picture, ground, fault = Picture(), "#ffffff", ""
    try:
        result = evaluate(varied_in(plan, cache, variant), cache)
        marks = formed(result, variant)
        picture, ground = picture_from(marks, ink_box(marks), result.sound), ground_of(result, variant)
        fault = _("A step of it wants mending.") if not result.sound else "" if marks else _("It has no ink.")
    except PlanError as error:
        fault = str(error)
    formats = tuple((one, one in variant.formats) for one in FORMATS)
    return Line(variant.name, _told(variant), picture, ground, formats, fault, variant.below)


def _told(variant: Variant) -> str:
    """What a variant is, beside its name."""
    words = [_("in {colourway}").format(colourway=variant.colourway)] if variant.colourway else []
    words += [_(variant.form)] if variant.form != AS_IT_IS else []
    words += [_("on its plate")] if variant.plate else []
    words += [_("under {pixels} px").format(pixels=variant.below)] if variant.below else []
    return ", ".join(words)


def _looked(plan: Plan, cache: Cache, variant: Variant) -> Looked:
    picture, ground, frame, clear, line = Picture(), "#ffffff", None, "", ""
    try:
        result = evaluate(varied_in(plan, cache, variant), cache)
        marks = formed(result, variant)
        around = ink_box(marks)
        ground = ground_of(result, variant)
        if around is not None:
            space = clear_of(result, variant, around.longer)
            picture, frame = picture_from(marks, around.grown(space), result.sound), _frame(around, space)
            clear = f"{number_text(clear_of(result, None, around.longer))}u"
            usual = variant.model_copy(update={"line": ""})
            line = f"{number_text(line_of(result, usual, marks))}u" if variant.form == OUTLINED else ""
    except PlanError:
        frame = None  # what is wrong stands in its line
    names = plan.names()
    place = plan.variants.index(variant)
    return Looked(
        variant,
        variant_text(variant, names),
        typed_value(variant.clear, names) if variant.clear else "",
        typed_value(variant.line, names) if variant.line else "",
        clear,
        line,
        picture,
        ground,
        frame,
        tuple(_altered(plan, variant)),
        tuple(measure.name for measure in plan.measures),
        tuple((step.id, step.name, write_sentence(step, names)) for step in plan.steps),
        max(place - 1, 0),
        place + 1,
    )


def _frame(around: Box, space: float) -> tuple[float, float, float, float]:
    """Where the ink's box lies in the square in which it is drawn with its clear space: x, y, width and height."""
    scale = PICTURE / (around.longer + 2 * space)
    width, height = around.width * scale, around.height * scale
    return (PICTURE - width) / 2, (PICTURE - height) / 2, width, height


def _altered(plan: Plan, variant: Variant) -> list[Altered]:
    names = plan.names()
    own = {measure.name: typed_value(measure.value, names) for measure in plan.measures}
    found = [
        Altered(entry.measure, typed_value(entry.value, names), own.get(entry.measure, ""), measure=entry.measure)
        for entry in variant.values
    ]
    states = ((variant.muted, "muted", _("muted")), (variant.heard, "heard", _("heard")))
    for steps, state, words in states:
        found += [Altered(names[one], words, "", step=one, state=state) for one in steps if one in names]
    for entry in variant.others:
        step: Step | None = plan.step(entry.step)
        if step is not None:
            said = write_sentence(varied_step(step, entry.fields), names)
            found.append(Altered(step.name, said, write_sentence(step, names), step=step.id, state="anew"))
    return found


@dataclass(frozen=True)
class Needs:
    """How small a variant may be, in words."""

    print: str
    screen: str


def needs_of(plan: Plan, cache: Cache, name: str) -> Needs | None:
    """What the finest part of a variant asks for; None where it has none."""
    variant = plan.variant(name)
    result = evaluate(varied_in(plan, cache, variant), cache)
    sizes = sizes_of(result, variant, formed(result, variant))
    millimetres, pixels = (sizes.smallest_millimetres(), sizes.smallest_pixels()) if sizes else (None, None)
    if millimetres is None or pixels is None:
        return None
    return Needs(f"{number_text(float(f'{millimetres:.2g}'))} mm", f"{number_text(float(f'{pixels:.2g}'))} px")
