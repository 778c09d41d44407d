"""What all kinds of step have in common, and the registry of the kinds."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import Enum
from functools import cache
from typing import TYPE_CHECKING, ClassVar, Final, TypeAlias, get_args

from pydantic import BaseModel, ConfigDict

from kagami.geometry.curves import Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH
from kagami.plan.errors import PlanError
from kagami.plan.fields import FieldKind, Identifier, Name, texts_in
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.places.references import figures_of, read_reference
from kagami.plan.values.expressions import figures_in

if TYPE_CHECKING:
    from kagami.plan.evaluation.evaluate import Outcome


class Chapter(Enum):
    """Where a kind stands in the order of work."""

    SETTING_OUT = "Set out"
    FIGURES = "Figure"
    REPEATS = "Repeat"
    PLACING = "Place"
    CARVE = "Carve"
    REFINE = "Refine"
    TONE = "Tone"


@dataclass(frozen=True, slots=True)
class Inputs:
    """A step's fields, resolved: numbers, places, and the outcomes of earlier steps."""

    values: Mapping[str, float]
    texts: Mapping[str, str]
    places: Mapping[str, Point]
    several: Mapping[str, tuple[Point, ...]]
    """Lists of places."""
    figures: Mapping[str, tuple[Outcome, ...]]
    rows: Mapping[str, tuple[tuple[float, ...], ...]]
    """Lists of values: for nodes of free outlines x, y and the two handles' moves, for sizes one factor or two."""
    sheet: float
    """Side of the sheet in module units."""

    def figure(self, field: str) -> Figure:
        """The one figure of a field."""
        return _drawn(self.figures[field][0])

    def all_figures(self, field: str) -> tuple[Figure, ...]:
        """All figures of a field."""
        return tuple(_drawn(outcome) for outcome in self.figures[field])

    def areas(self, field: str, least: int) -> tuple[Figure, ...]:
        """All figures of a field, each of which must bound an area.

        Raises:
            PlanError: fewer than `least`, one named twice, or a line among them.
        """
        self.require_several(field, least)
        for outcome in self.figures[field]:
            if not _drawn(outcome).bounds_area:
                raise PlanError("no-area", field=field, name=outcome.name)
        return self.all_figures(field)

    def operands(self, field: str, least: int) -> tuple[tuple[Figure, ...], Notes]:
        """The figures of a field as `areas`; a single repeat is taken as its copies, which a remark says.

        Raises:
            PlanError: as `areas`.
        """
        outcomes = self.figures[field]
        only = _drawn(outcomes[0]) if len(outcomes) == 1 else None
        if only is None or not least <= len(only.copies):
            return self.areas(field, least), ()
        self.areas(field, 1)
        note = ("taken-as-copies", {"name": outcomes[0].name, "count": len(only.copies)})
        return tuple(Figure((shape,)) for shape in only.copies), (note,)

    def require_several(self, field: str, least: int) -> None:
        """Refuse too few figures, or one named twice.

        Raises:
            PlanError: which of the two it is.
        """
        outcomes = self.figures[field]
        if len(outcomes) < least:
            raise PlanError("too-few-figures", field=field, least=least, given=len(outcomes))
        seen: set[str] = set()
        for outcome in outcomes:
            if outcome.id in seen:
                raise PlanError("figure-twice", field=field, name=outcome.name)
            seen.add(outcome.id)

    def positive(self, field: str) -> float:
        """A length that must be more than 0.

        Raises:
            PlanError: with the expression and what it came to.
        """
        value = self.values[field]
        if value <= 0:
            raise PlanError(
                "length-not-positive", field=field, what=field, expression=self.texts[field], value=number_text(value)
            )
        return value

    def shape(self, field: str) -> Shape:
        """All copies of the one figure of a field as one area, or as lines where it bounds none."""
        figure = self.figure(field)
        return figure.united if figure.bounds_area else figure.whole

    def area(self, field: str) -> Shape:
        """All copies of the one figure of a field as one area.

        Raises:
            PlanError: it is a line.
        """
        return self.areas(field, 1)[0].united

    def axis(self, field: str) -> Line:
        """The first straight segment of a figure, to go by.

        Raises:
            PlanError: it has none.
        """
        for curve in self.figure(field).whole.curves:
            if isinstance(curve, Line):
                return curve
        raise PlanError("not-a-line", field=field, name=self.figures[field][0].name)

    def one_outline(self, field: str) -> Outline:
        """The one outline of a figure.

        Raises:
            PlanError: it has none, or several.
        """
        outlines = self.shape(field).outlines
        if len(outlines) != 1:
            raise PlanError("one-outline", field=field, name=self.figures[field][0].name, count=len(outlines))
        return outlines[0]

    def apart(self, first: str, second: str) -> tuple[Point, Point]:
        """Two places that must not be one.

        Raises:
            PlanError: they are.
        """
        a, b = self.places[first], self.places[second]
        if a.distance(b) <= LENGTH:
            raise PlanError("same-place", field=second, what=f"{first} and {second}")
        return a, b

    def count(self, field: str, least: int, most: int) -> int:
        """A whole number in a range.

        Raises:
            PlanError: with the expression, what it came to, and the range.
        """
        value = self.values[field]
        if value != round(value) or not least <= value <= most:
            raise PlanError(
                "not-a-count",
                field=field,
                what=field,
                expression=self.texts[field],
                value=number_text(value),
                least=least,
                most=most,
            )
        return int(value)


def _drawn(outcome: Outcome) -> Figure:
    if outcome.figure is None:
        raise AssertionError("a step is drawn only after its inputs")
    return outcome.figure


Notes: TypeAlias = tuple[tuple[str, Mapping[str, object]], ...]
"""Remarks for the designer: message code and values."""


@dataclass(frozen=True, slots=True)
class Drawing:
    """What drawing a step gives: its figure, remarks for the designer (message code and values), and, for a carve, the
    regions it chose among.
    """

    figure: Figure
    notes: Notes = ()
    detail: object = None

    def weight(self, of_a_curve: int) -> int:
        """About how many bytes it takes, at so many a curve; a detail that is large tells its own."""
        own = getattr(self.detail, "weight", 0)
        return of_a_curve * (self.figure.curves + len(self.figure.anchors) + 1) + int(own)


class Step(BaseModel):
    """One entry of a plan. `guide` steps never carry ink.

    A kind sets `kind`, `title` (the verb's word), `chapter`, and `sentence`, where {field} stands for a field and
    {name} for the glyph and the name of what the step makes.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    title: ClassVar[str]
    chapter: ClassVar[Chapter]
    sentence: ClassVar[str]
    noun: ClassVar[str]
    """Begins the default name of what the step makes."""
    always_guide: ClassVar[bool] = False
    takes_lines: ClassVar[bool] = True
    """Whether lines that bound no area may be chosen for its figures."""

    id: Identifier
    name: Name
    guide: bool = False

    @property
    def carries_no_ink(self) -> bool:
        """Whether the step is a guide, by its kind or by choice."""
        return self.guide or self.always_guide

    def draw(self, inputs: Inputs) -> Drawing:
        """Draw the step.

        Raises:
            PlanError: the step cannot be drawn with these inputs.
        """
        raise NotImplementedError

    @classmethod
    @cache
    def field_kinds(cls) -> dict[str, FieldKind]:
        """The kinds of the fields that the sentence holds, in its order, then those beside it."""
        kinds = {
            name: kind
            for name, info in cls.model_fields.items()
            for kind in info.metadata
            if isinstance(kind, FieldKind)
        }
        in_sentence = [name for name in re.findall(r"{(\w+)}", cls.sentence) if name in kinds]
        return {name: kinds[name] for name in (*in_sentence, *kinds)}

    @classmethod
    def choices(cls, field: str) -> tuple[str, ...]:
        """The words that a choice field takes."""
        return get_args(cls.model_fields[field].annotation)

    def figure_ids(self) -> tuple[str, ...]:
        """Ids of the figures that the step is made from (not those whose anchors it uses), in the sentence's order."""
        found: list[str] = []
        for name, kind in self.field_kinds().items():
            if kind is FieldKind.FIGURE:
                found.append(getattr(self, name))
            elif kind is FieldKind.FIGURES:
                found.extend(getattr(self, name))
        return tuple(reference.partition("#")[0] for reference in found)

    def anchor_refs(self) -> tuple[str, ...]:
        """The anchors that the step stands on."""
        found: list[str] = []
        for name, kind in self.field_kinds().items():
            if kind is FieldKind.ANCHOR:
                found.append(getattr(self, name))
            elif kind is FieldKind.ANCHORS:
                found.extend(getattr(self, name))
        return tuple(found)

    def tone_names(self) -> tuple[str, ...]:
        """The tones that the step lays."""
        return tuple(
            tone for name, kind in self.field_kinds().items() if kind is FieldKind.TONES for tone in getattr(self, name)
        )

    def uses(self) -> frozenset[str]:
        """Ids of all steps that this one depends on."""
        anchored = (identifier for ref in self.anchor_refs() for identifier in figures_of(read_reference(ref)))
        return frozenset((*self.figure_ids(), *anchored, *self.figures_read()))

    def figures_read(self) -> frozenset[str]:
        """Ids of the figures that the step's values read."""
        found: frozenset[str] = frozenset()
        for name, kind in self.field_kinds().items():
            for row in texts_in(kind, getattr(self, name)):
                found = found.union(*(figures_in(text) for text in row))
        return found


KINDS: Final[dict[str, type[Step]]] = {}
"""Kinds of step by the word that stands in documents."""


def register(kind: str) -> Callable[[type[Step]], type[Step]]:
    """Enter a kind of step. Doubled kinds and sentences with unknown fields are mistakes of the program."""

    def enter(cls: type[Step]) -> type[Step]:
        if kind in KINDS:
            raise AssertionError(f"two kinds of step are called {kind}")
        unknown = set(re.findall(r"{(\w+)}", cls.sentence)) - set(cls.model_fields)
        if unknown:
            raise AssertionError(f"the sentence of {kind} names unknown fields: {unknown}")
        KINDS[kind] = cls
        return cls

    return enter


def kind_of(cls: type[Step]) -> str:
    """The word of a kind."""
    return next(kind for kind, entry in KINDS.items() if entry is cls)
