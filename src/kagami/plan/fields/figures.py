"""Fields that hold the figures a step is made from."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import Field, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import ChangeRefused
from kagami.plan.fields.kind import FieldKind, Offer, Shown, Surroundings
from kagami.plan.fields.scanner import NOTHING, Scanner, joint
from kagami.plan.messages import listing
from kagami.plan.outcome import Outcome, drawn
from kagami.plan.places.selecting import SELECTION, parse_selection, reference_text, selected
from kagami.plan.translation import tr
from kagami.plan.wording.names import parse_name
from kagami.plan.wording.texts import Identifier, typed_text


class FigureKind(FieldKind):
    """One figure, by the id of an earlier step, perhaps with a selection of its copies; it resolves to outcomes."""

    label: ClassVar[str] = "figure"
    wanted: ClassVar[str] = "a figure"
    holds_text: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """A name, or some copies of a name."""
        return scanner.figure(at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The name."""
        return reference_text(value, names)

    def figures(self, value: Any) -> tuple[str, ...]:
        """The one."""
        return (value,)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[Outcome, ...]:
        """What the step before made: one outcome, or one a copy."""
        return outcomes_of(value, surroundings)

    def key(self, resolved: Any) -> object:
        """Which figures, what they are called (remarks name them), and what they were drawn from."""
        return key_of(resolved)

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """An id, as the sheet and lists of figures give it."""
        return typed_text(given, what, limits.SENTENCE_LENGTH)

    def shown(self, value: Any) -> Shown:
        """By its glyph and name."""
        return Shown("figures", figures=(value,))

    def begin(self, offer: Offer) -> Any | None:
        """The figure that was asked for, or the one that a step of its class is most likely about."""
        if offer.asked:
            return offer.asked[0]
        newest = offer.free[-1] if offer.free else offer.areas[-1] if offer.areas else "none"
        return newest if offer.newest_first else (offer.free[0] if offer.free else newest)


class BesideKind(FigureKind):
    """One figure that the step goes by, such as a line along which words run; it stays what it is."""

    label: ClassVar[str] = "figure beside"

    def figures(self, value: Any) -> tuple[str, ...]:
        """None: nothing is made from it."""
        return ()

    def beside(self, value: Any) -> tuple[str, ...]:
        """The one."""
        return (value,)


BARE: Final = re.compile(r"\s+(?=\S)")
"""What stands between figures where nothing else does."""


class FiguresKind(FieldKind):
    """Several figures, as `FigureKind`."""

    label: ClassVar[str] = "figures"
    wanted: ClassVar[str] = "a figure"

    def parse(self, scanner: Scanner, at: int) -> tuple[list[str], int]:
        """A list in words; it ends where no known figure follows. Typed loosely, names may follow each other bare."""
        text = scanner.text
        between = BARE if scanner.lenient else joint()
        if text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        first, at = scanner.figure(at)
        found = [first]
        while joined := joint().match(text, at) or between.match(text, at):
            after = joined.end()
            name = parse_name(text, after)
            some = None if name and name[0] in scanner.ids else parse_selection(text, after, scanner.identify)
            if some is not None:
                found.append(some[0])
                at = some[1]
            elif name is not None and name[0] in scanner.ids:
                found.append(scanner.ids[name[0]])
                at = name[1]
            else:
                break
        return found, at

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The names as a list in words."""
        return listing([reference_text(entry, names) for entry in value]) or tr(NOTHING)

    def figures(self, value: Any) -> tuple[str, ...]:
        """All of them."""
        return tuple(value)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[Outcome, ...]:
        """What the steps before made, in order; those that are muted are left out, unless all are."""
        found = tuple(found for reference in value for found in outcomes_of(reference, surroundings))
        return tuple(one for one in found if not one.muted) or found

    def key(self, resolved: Any) -> object:
        """As that of one figure."""
        return key_of(resolved)

    def take(self, given: object, what: str, scanner: Scanner) -> list[str]:
        """A list of ids."""
        if not isinstance(given, list) or not all(isinstance(entry, str) for entry in given):
            raise ChangeRefused("bad-change", path="figures", reason="is no list of figures")
        if len(given) > limits.FIGURES_PER_STEP:
            raise ChangeRefused("too-many", what="figures in one step", most=limits.FIGURES_PER_STEP)
        return given

    def shown(self, value: Any) -> Shown:
        """By their glyphs and names."""
        return Shown("figures", figures=tuple(value), many=True)

    def begin(self, offer: Offer) -> Any | None:
        """The figures that it was asked for, or those that no step is made from yet; but for one that stands beside."""
        found = offer.asked or offer.free
        return list(found[1:] if offer.beside_figure else found)


def outcomes_of(reference: str, surroundings: Surroundings) -> tuple[Outcome, ...]:
    """What the step of a reference made, or the selected copies of it.

    Raises:
        ReferenceLost: there is no such figure before, or it waits itself.
        PlanError: there is no such copy.
    """
    identifier, _, selection = reference.partition("#")
    return selected(drawn(identifier, surroundings.outcomes), selection)


def key_of(outcomes: tuple[Outcome, ...]) -> object:
    """What of outcomes a drawing depends on."""
    return [(outcome.id, outcome.name, outcome.key) for outcome in outcomes]


FIGURE: Final = FigureKind()
BESIDE: Final = BesideKind()
FIGURES: Final = FiguresKind()
Selected: TypeAlias = Annotated[str, StringConstraints(pattern=rf"^[a-z][a-z0-9-]{{0,39}}{SELECTION}$")]
FigureRef: TypeAlias = Annotated[Selected, FIGURE]
BesideRef: TypeAlias = Annotated[Selected, BESIDE]
WholeFigureRefs: TypeAlias = Annotated[tuple[Identifier, ...], Field(max_length=limits.FIGURES_PER_STEP), FIGURES]
FigureRefs: TypeAlias = Annotated[tuple[Selected, ...], Field(max_length=limits.FIGURES_PER_STEP), FIGURES]
