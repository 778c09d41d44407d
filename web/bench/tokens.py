"""The parts of a sentence, ready to be set: words, values, anchors and figures with their glyphs."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from kagami.plan.changes.rewriting import measures_named
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.result import Result
from kagami.plan.language.sentences import Own, Slot, Words, counted_words, sentence_parts, slot_text
from kagami.plan.messages import number_text
from kagami.plan.outcome import Outcome
from kagami.plan.places.selecting import plain_id, reference_text
from kagami.plan.references.places import SHEET_ORIGIN
from kagami.plan.steps import Step
from kagami.plan.steps.carve import Carve, CarveDetail, kept_count
from kagami.plan.tones.listed import tone_colours
from kagami.plan.translation import tr
from web.bench.glyphs import MISSING, ORIGIN, PLACE, glyph


@dataclass(frozen=True)
class Token:
    """A part of a sentence, set by the partial of its `form`."""

    form: str
    text: str = ""
    field: str = ""
    label: str = ""
    hue: str = ""
    glyph: SafeString | str = ""
    value: str = ""
    options: tuple[tuple[str, str], ...] = ()
    """Choices as they are stored, and as they are said."""
    members: tuple["Token", ...] = ()
    hint: str = ""
    faulty: bool = False
    tail: str = ""
    uses: str = ""
    """The measures that a value names, to be lit with them."""

    @property
    def partial(self) -> str:
        """The template that sets it."""
        return f"bench/token/{self.form}.html"


def sentence_tokens(
    step: Step, outcome: Outcome, result: Result, names: dict[str, str], hues: dict[str, str]
) -> Iterable[Token]:
    found: list[Token] = []
    for part in sentence_parts(type(step)):
        if isinstance(part, Words):
            add_words(found, counted_words(part.text, found[-1].text if found else ""))
        elif isinstance(part, Own):
            sign = glyph(step.id)
            found.append(
                Token("own", step.name, "name", _("name of step {name}").format(name=step.name), hues[step.id], sign)
            )
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
    label = _("{field} of {name}").format(field=tr(slot.field), name=step.name)
    faulty = error is not None and error.field == slot.field and error.code != "figure-waits"
    value = step[slot.field]
    shown = slot.kind.shown(value)
    token = Token(shown.form, text, slot.field, label, value=text, faulty=faulty)
    match shown.form:
        case "value":
            uses = " ".join(sorted(measures_named(value)))
            return replace(token, hint="" if error else _hint(shown.unit, value, result), uses=uses)
        case "anchor":
            sign, hue = anchor_sign(shown.place, result, hues)
            return replace(token, hue=hue, glyph=sign, value=shown.place)
        case "figures":
            members = tuple(figure_token(identifier, names, hues) for identifier in shown.figures)
            many = "many" if shown.many else ""
            return replace(token, hue=many, value=" ".join(shown.figures), members=members)
        case "choice":
            return replace(token, value=value, options=tuple((word, tr(word)) for word in shown.options), faulty=False)
        case "picks":
            return replace(token, text=_kept_text(step, result), value="", faulty=False)
        case _:
            return replace(token, members=_swatches(shown.tones, result))


def _swatches(tones: Iterable[str], result: Result) -> tuple[Token, ...]:
    """The colours of tones, each once."""
    colours = tone_colours(result.plan.tones)
    laid = [tone for tone in dict.fromkeys(tones) if colours.fault_of(tone) is None]
    return tuple(Token("swatch", tone, value=colours.of(tone)) for tone in laid)


def figure_token(identifier: str, names: dict[str, str], hues: dict[str, str]) -> Token:
    """A figure that is named in a sentence."""
    plain = plain_id(identifier)
    hue = hues.get(plain, "")
    sign = glyph(plain) if plain in names else MISSING
    text = names.get(plain, plain) if plain == identifier else reference_text(identifier, names)
    return Token("figure", text, hue=hue, glyph=sign, value=plain)


def anchor_sign(reference: str, result: Result, hues: dict[str, str]) -> tuple[SafeString, str]:
    """The glyph and hue of an anchor: a cross for the sheet's origin, a small ring in its figure's hue else."""
    if reference == SHEET_ORIGIN:
        return ORIGIN, ""
    return PLACE, hues.get(reference.partition(".")[0], "")


def _hint(unit: str, text: str, result: Result) -> str:
    """What a value with a unit comes to."""
    if not unit:
        return ""
    try:
        value = result.values.of(text)
    except PlanError as error:
        return str(error)
    module = result.plan.module
    return f"{number_text(value)}{unit}, {number_text(value * module.size)} {module.unit}"


def shown_values(step: Step, result: Result, error: PlanError | None) -> tuple[str, ...]:
    """What a step's tokens show of what was evaluated: what its values come to, and how many regions are kept."""
    found = []
    for name, kind in step.field_kinds().items():
        shown = kind.shown(step[name])
        if shown.unit and not error:
            found.append(_hint(shown.unit, step[name], result))
        elif shown.form == "picks":
            found.append(_kept_text(step, result))
    return tuple(found)


def _all_but(dropped: int) -> str:
    """What is kept where the rest is: all but so many."""
    if dropped == 0:
        return _("all regions")
    return ngettext("all but {count} region", "all but {count} regions", dropped).format(count=dropped)


def _kept_text(step: Step, result: Result) -> str:
    outcome = result.outcomes.get(step.id)
    if outcome is None or outcome.drawing is None or not isinstance(outcome.drawing.detail, CarveDetail):
        return _("regions")
    if isinstance(step, Carve) and step.rest == "kept":
        return _all_but(len(outcome.drawing.detail.kept) - 1 - kept_count(outcome.drawing.detail))
    count = kept_count(outcome.drawing.detail)
    if count == 0:
        return _("no region yet")
    return ngettext("{count} region", "{count} regions", count).format(count=count)
