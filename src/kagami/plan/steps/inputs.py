"""What a step draws from, checked as it is taken."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, cast

from kagami.geometry.curves import Line
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.geometry.tolerance import LENGTH
from kagami.plan.errors import PlanError
from kagami.plan.figure import Figure
from kagami.plan.messages import number_text
from kagami.plan.outcome import Notes, Outcome


@dataclass(frozen=True, slots=True)
class Inputs:
    """A step's fields, resolved by their kinds: numbers, places, and the outcomes of earlier steps."""

    fields: Mapping[str, Any]
    typed: Callable[[str], str]
    """The typed values of a field, for messages."""
    sheet: float
    """Side of the sheet in module units."""

    def value(self, field: str) -> float:
        """What a typed value came to."""
        return cast(float, self.fields[field])

    def place(self, field: str) -> Point:
        """A place."""
        return cast(Point, self.fields[field])

    def places(self, field: str) -> tuple[Point, ...]:
        """Several places."""
        return cast("tuple[Point, ...]", self.fields[field])

    def rows(self, field: str) -> tuple[tuple[float, ...], ...]:
        """Lists of numbers: for nodes of free outlines x, y and the two handles' moves, for sizes one factor or two."""
        return cast("tuple[tuple[float, ...], ...]", self.fields[field])

    def outcomes(self, field: str) -> tuple[Outcome, ...]:
        """The outcomes of the steps that a field names."""
        return cast("tuple[Outcome, ...]", self.fields[field])

    def name(self, field: str) -> str:
        """The name of the one figure of a field."""
        return self.outcomes(field)[0].name

    def figure(self, field: str) -> Figure:
        """The one figure of a field."""
        return self.outcomes(field)[0].made

    def all_figures(self, field: str) -> tuple[Figure, ...]:
        """All figures of a field."""
        return tuple(outcome.made for outcome in self.outcomes(field))

    def first_figure(self, field: str) -> Figure:
        """The first of the figures of a field.

        Raises:
            PlanError: there is none.
        """
        figures = self.all_figures(field)
        if not figures:
            raise PlanError("too-few-figures", field=field, given=0, least=1)
        return figures[0]

    def areas(self, field: str, least: int) -> tuple[Figure, ...]:
        """All figures of a field, each of which must bound an area.

        Raises:
            PlanError: fewer than `least`, one named twice, or a line among them.
        """
        self.require_several(field, least)
        for outcome in self.outcomes(field):
            if not outcome.made.bounds_area:
                raise PlanError("no-area", field=field, name=outcome.name)
        return self.all_figures(field)

    def operands(self, field: str, least: int) -> tuple[tuple[Figure, ...], Notes]:
        """The figures of a field as `areas`; a single repeat is taken as its copies, which a remark says.

        Raises:
            PlanError: as `areas`.
        """
        outcomes = self.outcomes(field)
        only = outcomes[0].made if len(outcomes) == 1 else None
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
        outcomes = self.outcomes(field)
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
        value = self.value(field)
        if value <= 0:
            raise PlanError(
                "length-not-positive", field=field, what=field, expression=self.typed(field), value=number_text(value)
            )
        return value

    def shape(self, field: str) -> Shape:
        """All copies of the one figure of a field as one area, or as lines where it bounds none.

        Raises:
            PlanError: it is a mere place.
        """
        figure = self.figure(field)
        if not figure.whole:
            raise PlanError("no-lines", field=field, name=self.name(field))
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
        raise PlanError("not-a-line", field=field, name=self.name(field))

    def one_outline(self, field: str) -> Outline:
        """The one outline of a figure.

        Raises:
            PlanError: it has none, or several.
        """
        outlines = self.shape(field).outlines
        if len(outlines) != 1:
            raise PlanError("one-outline", field=field, name=self.name(field), count=len(outlines))
        return outlines[0]

    def apart(self, first: str, second: str) -> tuple[Point, Point]:
        """Two places that must not be one.

        Raises:
            PlanError: they are.
        """
        a, b = self.place(first), self.place(second)
        if a.distance(b) <= LENGTH:
            raise PlanError("same-place", field=second, what=f"{first} and {second}")
        return a, b

    def count(self, field: str, least: int, most: int) -> int:
        """A whole number in a range.

        Raises:
            PlanError: with the expression, what it came to, and the range.
        """
        value = self.value(field)
        if value != round(value) or not least <= value <= most:
            raise PlanError(
                "not-a-count",
                field=field,
                what=field,
                expression=self.typed(field),
                value=number_text(value),
                least=least,
                most=most,
            )
        return int(value)
