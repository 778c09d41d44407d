"""The slip: the sentence of a step that is about to be made, with its defaults filled in."""

import contextlib
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext as _
from pydantic import ValidationError

from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.figures import FigureKind, FiguresKind
from kagami.plan.fields.kind import Offer
from kagami.plan.fields.scanner import Scanner
from kagami.plan.language.parsing import stop_words
from kagami.plan.language.sentences import Own, Words, sentence_parts, write_sentence
from kagami.plan.language.translation import tr
from kagami.plan.lettering.laying import Lettering
from kagami.plan.naming import free_name
from kagami.plan.places.selecting import plain_id
from kagami.plan.steps import KINDS, Carve, Chapter, Step, Turn, in_order_of_work, kind_of
from kagami.plan.steps.guides import GuideLine
from web.bench.by_hand import ByHand, by_hand
from web.bench.hues import hues_of
from web.bench.tokens import Token, add_words, slot_token

ALONG: Final = ("line", "axis")
"""Fields for a figure along which something is done to another one: a line, if there is one."""
GONE_BY: Final = ("course", "edge")
"""Fields for a figure that words go by."""
CHAPTERS: Final = tuple(Chapter)


@dataclass(frozen=True)
class Verb:
    """What can be done, as a word in the strip."""

    kind: str
    title: str
    word: str
    sentence: str = ""
    """What it is said by, its fields left open."""
    takes: str = ""
    """Whether it is done with figures: “one”, “two”, “many”, or empty."""


@dataclass(frozen=True)
class Family:
    """A verb and those whose words begin with it, such as “circle” and “circle through”, set as “through” beside it."""

    verbs: tuple[Verb, ...]


@dataclass(frozen=True)
class Slip:
    """A step in the making."""

    kind: str
    title: str
    tokens: tuple[Token, ...]
    by_hand: ByHand
    """How it is begun on the sheet."""
    along: str = ""
    """The field for a line to go by, where there is no line yet."""
    lines: tuple[tuple[str, str], ...] = ()
    """Lines that may be drawn for it: what each is, and its sentence."""


def verbs() -> tuple[tuple[str, tuple[Family, ...]], ...]:
    """The verbs by chapter and family, in the order of work."""
    return tuple(
        (tr(chapter.value), tuple(_families([cls for cls in in_order_of_work() if cls.chapter is chapter])))
        for chapter in CHAPTERS
    )


def _families(kinds: Sequence[type[Step]]) -> Iterable[Family]:
    heads: dict[str, list[Verb]] = {}
    for cls in kinds:
        title = tr(cls.title)
        head = next((known for known in heads if title.startswith(f"{known} ")), title)
        verb = Verb(kind_of(cls), title, title.removeprefix(f"{head} "), _pattern(cls), _takes(cls))
        heads.setdefault(head, []).append(verb)
    return (Family(tuple(found)) for found in heads.values())


def _pattern(cls: type[Step]) -> str:
    """The sentence of a kind, with its fields left open."""
    return re.sub(r"{\w+}", "…", tr(cls.sentence))


def _takes(cls: type[Step]) -> str:
    """Whether a kind is made from figures."""
    kinds = cls.field_kinds().values()
    single = sum(isinstance(kind, FigureKind) for kind in kinds)
    if any(isinstance(kind, FiguresKind) for kind in kinds):
        return "many"
    return ("", "one", "two")[min(single, 2)]


def draw_slip(
    plan: Plan,
    result: Result,
    kind: str,
    position: int,
    asked: Sequence[str] = (),
    stood: Mapping[str, Any] | None = None,
) -> Slip:
    """The slip of a kind at a place of the plan; `result` is the plan up to there, `asked` are figures to begin with,
    `stood` is what was filled in before.
    """
    cls = KINDS[kind]
    step = _with_what_stood(plan, _model(plan, result, cls, position, asked), stood or {}, position)
    names, hues = plan.names(), hues_of(plan)
    tokens: list[Token] = []
    for part in sentence_parts(cls):
        if isinstance(part, Words):
            add_words(tokens, part.text)
        elif isinstance(part, Own):
            tokens.append(Token("own", step.name, "name", _("name")))
        elif not part.kind.typed:
            tokens.append(Token("words", _("the regions chosen on the sheet")))
        else:
            tokens.append(slot_token(step, part, result, names, hues))
    along = "" if any(_is_line(step, result) for step in plan.steps[:position]) else _along(cls)
    return Slip(kind, tr(cls.title), tuple(tokens), by_hand(cls), along, _lines(plan) if along else ())


def _along(cls: type[Step]) -> str:
    """The field along which something is done to another figure; empty where there is none."""
    return next(
        (name for name, kind in cls.field_kinds().items() if name in ALONG and isinstance(kind, FigureKind)), ""
    )


def _lines(plan: Plan) -> tuple[tuple[str, str], ...]:
    """The lines that things are most often mirrored across."""
    name = free_name(plan, _("axis"))
    found = ((_("an upright one"), "90"), (_("a level one"), "0"))
    return tuple((said, write_sentence(GuideLine(id="new", name=name, angle=angle), {})) for said, angle in found)


def _model(plan: Plan, result: Result, cls: type[Step], position: int, asked: Sequence[str]) -> Step:
    """A step with the kind's defaults, and the figures that it is most likely about."""
    before = plan.steps[:position]
    asked = [identifier for identifier in asked if any(step.id == identifier for step in before)]
    used = {identifier for step in before for identifier in step.figure_ids()}
    closed = [step.id for step in before if _is_area(step, result)]
    kinds = cls.field_kinds()
    offer = Offer(
        asked=asked,
        free=[identifier for identifier in closed if identifier not in used],
        areas=closed,
        tones=[tone.name for tone in plan.tones],
        newest_first=issubclass(cls, Turn),
        beside_figure="figure" in kinds and not issubclass(cls, Carve),
    )
    begun = {name: kind.begin(offer) for name, kind in kinds.items()}
    single = [name for name, kind in kinds.items() if isinstance(kind, FigureKind)]
    lines = [step.id for step in before if step.id in result.outcomes and not _is_area(step, result)]
    begun |= _single(single, asked, lines, offer.free or closed)
    if len(single) == 2 and not begun.keys() & {*ALONG, *GONE_BY, "ground"}:
        begun |= _paired(asked, closed, single)
    words = [step.id for step in before if _are_words(step, result)]
    if cls.chapter is Chapter.LETTER and words:
        newest = next((one for one in asked if one in words), words[-1])
        begun |= {name: newest for name in single if name not in GONE_BY}
    begun |= _gone_by(single, asked, begun, [step.id for step in before if step.id not in words])
    fields = {name: value for name, value in begun.items() if value is not None}
    return cls.model_validate({**fields, "id": "new", "name": free_name(plan, tr(cls.noun))})


def _single(single: Sequence[str], asked: Sequence[str], lines: Sequence[str], areas: Sequence[str]) -> dict[str, str]:
    """What fields of one figure begin with: those that were asked for, in order; but lines go to the field along which
    something is done, and what is to be done on a ground begins with an earlier area as the ground.
    """
    along = next((name for name in single if name in ALONG), None)
    if along is not None and len(single) > 1:
        others = [name for name in single if name != along]
        found = dict(zip(others, [one for one in asked if one not in lines] or list(areas)[-1:], strict=False))
        rest = (
            [one for one in asked if one in lines] or [one for one in asked if one not in found.values()] or lines[-1:]
        )
        return found | ({along: rest[-1]} if rest else {})
    if "ground" in single and len(asked) < 2:
        figure = asked[0] if asked else next(iter(areas[-1:]), "")
        ground = next((one for one in areas if one != figure), figure)
        return {name: ground if name == "ground" else figure for name in single if figure}
    return dict(zip(single, asked, strict=False))


def _paired(asked: Sequence[str], areas: Sequence[str], single: Sequence[str]) -> dict[str, str]:
    """What two fields begin with where one figure was asked for, or none: that or the newest area, and the newest one
    beside it; a first and a second as they stand in the plan.
    """
    figure = asked[0] if asked else next(iter(areas[-1:]), "")
    if len(asked) > 1 or not figure:
        return {}
    pair = [figure, next((one for one in reversed(areas) if one != figure), figure)]
    if single[0] == "first":
        pair.sort(key=lambda one: areas.index(one) if one in areas else -1)
    return dict(zip(single, pair, strict=True))


def _gone_by(
    single: Sequence[str], asked: Sequence[str], begun: Mapping[str, Any], figures: Sequence[str]
) -> dict[str, str]:
    """What words run along, or are held off: of the figures that were asked for the one that is not the words; else the
    newest that is no words.
    """
    field = next((name for name in single if name in GONE_BY), None)
    if field is None:
        return {}
    others = {begun.get(name) for name in single if name != field}
    wanted = [one for one in asked if one in figures and one not in others] or [*figures][-1:]
    return {field: wanted[-1]} if wanted else {}


def _are_words(step: Step, result: Result) -> bool:
    outcome = result.outcomes.get(step.id)
    return bool(outcome and outcome.drawing and isinstance(outcome.drawing.detail, Lettering))


def _with_what_stood(plan: Plan, step: Step, stood: Mapping[str, Any], position: int) -> Step:
    """The step with the fields that were filled in, as far as they can be read; a figure that is gone is begun anew."""
    ids = {other.name: other.id for other in plan.steps[:position]}
    for field, kind in step.field_kinds().items():
        if field not in stood or not kind.typed:
            continue
        with contextlib.suppress(PlanError, ValidationError):
            value = kind.take(stood[field], field, Scanner("", ids, stop_words()))
            anew = type(step).model_validate({**step.model_dump(), field: value})
            if {plain_id(one) for one in kind.figures(anew[field])} <= set(ids.values()):
                step = anew
    return step


def _is_line(step: Step, result: Result) -> bool:
    """Whether something can be done along a step: a line, an open figure."""
    outcome = result.outcomes.get(step.id)
    return bool(outcome and outcome.figure and outcome.figure.whole.outlines and not outcome.figure.bounds_area)


def _is_area(step: Step, result: Result) -> bool:
    outcome = result.outcomes.get(step.id)
    return bool(outcome and outcome.figure and outcome.figure.bounds_area and not step.always_guide)
