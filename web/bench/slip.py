"""The slip: the sentence of a step that is about to be made, with its defaults filled in."""

import contextlib
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext as _
from pydantic import ValidationError

from kagami.geometry.curves import Line
from kagami.geometry.point import ORIGIN, Point
from kagami.geometry.tolerance import LENGTH
from kagami.plan.changes.going_along import along_one_line, done_to
from kagami.plan.document import Plan
from kagami.plan.errors import PlanError
from kagami.plan.evaluation.result import Result
from kagami.plan.fields.figures import FigureKind, FiguresKind
from kagami.plan.fields.scanner import Scanner
from kagami.plan.language.parsing import stop_words
from kagami.plan.language.sentences import Own, Words, sentence_parts, write_sentence
from kagami.plan.naming import free_name
from kagami.plan.places.selecting import lines_of, plain_id
from kagami.plan.steps import KINDS, Chapter, Step, in_order_of_work, kind_of
from kagami.plan.steps.guides import GuideLine
from kagami.plan.translation import tr
from web.bench.beginnings import begun, lines_for
from web.bench.by_hand import ByHand, by_hand
from web.bench.hues import hues_of
from web.bench.tokens import Token, add_words, slot_token

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
    """The field for a line to go by, where one may be drawn for it."""
    lines: tuple[tuple[str, str], ...] = ()
    """Lines that may be drawn for it: what each is, and its sentence."""
    lined: bool = False
    """Whether there is one to go by already."""


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
    at: Point | None = None,
) -> Slip:
    """The slip of a kind at a place of the plan; `result` is the plan up to there, `asked` are figures to begin with,
    `stood` is what was filled in before, `at` where a figure of it was picked on the sheet.
    """
    cls = KINDS[kind]
    step = _with_what_stood(plan, begun(plan, result, cls, position, asked), stood or {}, position)
    step = along_one_line(step, result, at)
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
    other = done_to(cls)
    there = lines_for(cls, plan.steps[:position], result, step[other] if other else "") if cls.along else []
    lines = () if not cls.along or (there and not cls.mirrors) else _lines(plan, result, there)
    return Slip(kind, tr(cls.title), tuple(tokens), by_hand(cls), cls.along if lines else "", lines, bool(there))


def _lines(plan: Plan, result: Result, there: Sequence[str]) -> tuple[tuple[str, str], ...]:
    """The lines that things are most often mirrored across: those through the middle of the sheet; none where one of
    them is there.
    """
    if any(_is_axis(way, line) for one in there for way, line in _straight(result, one)):
        return ()
    name = free_name(plan, _("axis"))
    found = ((_("an upright one"), "90"), (_("a level one"), "0"))
    return tuple((said, write_sentence(GuideLine(id="new", name=name, angle=angle), {})) for said, angle in found)


def _straight(result: Result, identifier: str) -> Iterable[tuple[str, Line]]:
    figure = result.outcomes[identifier].figure
    return lines_of(figure).items() if figure is not None else ()


def _is_axis(way: str, line: Line) -> bool:
    """Whether a line, gone on with, is upright or level through O."""
    return way in ("upright", "level") and abs(line.side_of(ORIGIN)) <= LENGTH


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
