"""What all kinds of step have in common, and the registry of the kinds."""

import re
from collections.abc import Callable, Iterator, Mapping
from enum import Enum
from functools import cache
from importlib import import_module
from typing import Any, ClassVar, Final

from pydantic import BaseModel, ConfigDict

from kagami.geometry.point import Point
from kagami.plan.dimensions.kinds import Dimensions
from kagami.plan.fields.kind import FieldKind
from kagami.plan.figure import Figure
from kagami.plan.outcome import Drawing, Notes
from kagami.plan.places.selecting import plain_id
from kagami.plan.references.places import parse_reference
from kagami.plan.steps.inputs import Inputs
from kagami.plan.values.dependencies import figures_of
from kagami.plan.values.expressions import figures_in
from kagami.plan.wording.texts import Heading, Identifier, Name

__all__ = ["KINDS", "Chapter", "Dimensions", "Drawing", "Inputs", "Notes", "Step", "kind_of", "register"]


class Chapter(Enum):
    """Where a kind stands in the order of work."""

    SETTING_OUT = "Set out"
    FIGURES = "Figure"
    REPEATS = "Repeat"
    PLACING = "Place"
    CARVE = "Carve"
    REFINE = "Refine"
    TONE = "Tone"
    LETTER = "Letter"


class Step(BaseModel):
    """One entry of a plan. `guide` steps never carry ink.

    A kind sets `kind`, `title` (the verb's word), `chapter`, and `sentence`, where {field} stands for a field and
    {name} for the glyph and the name of what the step makes.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    title: ClassVar[str]
    chapter: ClassVar[Chapter]
    sentence: ClassVar[str]
    noun: ClassVar[str]
    """Begins the default name of what the step makes."""
    always_guide: ClassVar[bool] = False
    largest_first: ClassVar[bool] = False
    """Whether its figure is most likely the largest that there is, the others being taken from it."""
    lines_first: ClassVar[bool] = False
    """Whether it is most likely about lines where there are any that nothing was made from."""
    takes_lines: ClassVar[bool] = True
    """Whether lines that bound no area may be chosen for its figures."""

    needs_several: ClassVar[bool] = False
    """Whether a single figure, where several were given, leaves it nothing to do."""

    lays_tones: ClassVar[bool] = False
    """Whether it lays tones itself; other kinds hand on those of what they are made from (see `evaluation.handing`)."""
    hands_on: ClassVar[str] = "first"
    """Which tones it hands on: that of the `first` piece, or of each region its `own`."""

    press: ClassVar[str] = ""
    """The place that a hand gives it which presses on the sheet; empty for kinds that are not begun there."""
    release: ClassVar[str] = ""
    """The place that it gives where it lets go."""
    drawn_out: ClassVar[tuple[str, ...]] = ()
    """Its width and height, where a hand draws them out: drawn straight along one, the other keeps their proportion."""
    apart: ClassVar[tuple[str, ...]] = ()
    """Its values that may be neither equal nor nothing, however small it is drawn."""
    presses: ClassVar[str] = ""
    """The field to which each press on the sheet adds a place."""
    corner_of: ClassVar[str] = ""
    """The field of the figure that has a corner where it is pressed."""
    runs_along: ClassVar[str] = ""
    """The field of the figure along whose line it runs, which may be the one that is pressed."""
    wants: ClassVar[type | None] = None
    """What the drawing of its figure must have as its detail, where that must be something."""
    along: ClassVar[str] = ""
    """The field of a figure with a straight line that it goes by."""
    mirrors: ClassVar[bool] = False
    """Whether it mirrors across that line, which is most often one through the middle of the sheet."""
    along_bent: ClassVar[bool] = False
    """Whether that line may be bent, so that it cuts the figure in two."""
    along_all: ClassVar[bool] = False
    """Whether it goes by all lines of that figure, bent ones too."""
    trail: ClassVar[str] = ""
    """The field of nodes that takes the whole way of a hand over the sheet."""
    by_way: ClassVar[bool] = False
    """Whether a hand that is drawn over the sheet, from wherever it likes, tells how far it goes and which way."""
    by_anchors: ClassVar[str] = ""
    """The kind that it becomes where such a way leads from an anchor of a figure to another anchor."""

    @classmethod
    def begun_by_hand(cls) -> bool:
        """Whether it is begun on the sheet."""
        return bool(cls.press or cls.presses or cls.trail)

    id: Identifier
    name: Name
    guide: bool = False
    muted: bool = False
    """Whether it is passed over: what it is made from goes on in its place (see `evaluation.muting`)."""
    heading: Heading = ""
    """What the part of the plan is called that begins here; empty where none does."""

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

    def facts(self, inputs: Inputs, drawing: Drawing) -> Notes:
        """What its drawing came to: asked for by whoever looks at the step, so that no drag waits for it. Nothing that
        wants to be seen to; that is a note of the drawing.
        """
        return ()

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Where its values and choices lie on the sheet; rings of its places are drawn without (see `plan.dimensions`).
        `made` is what was drawn, None while the step holds an error.

        Raises:
            PlanError: with these inputs they lie nowhere.
        """
        yield from ()

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """The values that a hand gives it which presses at `start` and lets go at `end`: numbers are rounded to stops
        afterwards, texts stand as they are.
        """
        return {}

    @classmethod
    def in_proportion(cls, width: float, height: float) -> tuple[float, float]:
        """Two sizes that are drawn out, of which one may be 0: that one as the defaults of both have it."""
        wide, high = (float(str(cls.model_fields[name].default).rstrip("u")) for name in cls.drawn_out)
        return width or height * wide / high, height or width * high / wide

    @classmethod
    def about(cls, figure: Figure) -> Mapping[str, str]:
        """What its fields begin with because of the figure that it is begun with; the others have their defaults."""
        return {}

    @classmethod
    @cache
    def field_kinds(cls) -> dict[str, FieldKind]:
        """The kinds of the fields that the sentence holds, in its order, then those beside it."""
        kinds = {
            name: kind.bound(info.annotation)
            for name, info in cls.model_fields.items()
            for kind in info.metadata
            if isinstance(kind, FieldKind)
        }
        in_sentence = [name for name in re.findall(r"{(\w+)}", cls.sentence) if name in kinds]
        return {name: kinds[name] for name in (*in_sentence, *kinds)}

    def figure_ids(self) -> tuple[str, ...]:
        """Ids of the figures that the step is made from (not those whose anchors it uses), in the sentence's order."""
        return tuple(plain_id(ref) for name, kind in self.field_kinds().items() for ref in kind.figures(self[name]))

    def beside_ids(self) -> tuple[str, ...]:
        """Ids of the figures that the step goes by; nothing is made from them."""
        return tuple(plain_id(ref) for name, kind in self.field_kinds().items() for ref in kind.beside(self[name]))

    def anchor_refs(self) -> tuple[str, ...]:
        """The places that the step stands on."""
        return tuple(place for name, kind in self.field_kinds().items() for place in kind.places(self[name]))

    def typed_values(self) -> tuple[str, ...]:
        """The typed values of its fields, those of its places excepted."""
        return tuple(text for name, kind in self.field_kinds().items() for text in kind.texts(self[name]))

    def tone_names(self) -> tuple[str, ...]:
        """The tones that the step lays."""
        return tuple(tone for name, kind in self.field_kinds().items() for tone in kind.tones(self[name]))

    def uses(self) -> frozenset[str]:
        """Ids of all steps that this one depends on."""
        anchored = (identifier for ref in self.anchor_refs() for identifier in figures_of(parse_reference(ref)))
        return frozenset((*self.figure_ids(), *self.beside_ids(), *anchored)).union(
            *map(figures_in, self.typed_values())
        )

    def __getitem__(self, field: str) -> Any:
        """What a field holds."""
        return getattr(self, field)


class Kinds(Mapping[str, type[Step]]):
    """Kinds of step by the word that stands in documents. The module of one is imported when it is asked for; whoever
    asks for all has all imported. They come in the order of the table that tells where they lie, others after them.
    """

    def __init__(self) -> None:
        self._entered: dict[str, type[Step]] = {}
        self._where: dict[str, str] = {}

    def lie_in(self, where: Mapping[str, str]) -> None:
        """Tell the module of each kind that is not entered yet."""
        self._where.update(where)

    def enter(self, kind: str, cls: type[Step]) -> None:
        """Enter a kind.

        Raises:
            AssertionError: two kinds are called so, which is a mistake of the program.
        """
        if kind in self._entered:
            raise AssertionError(f"two kinds of step are called {kind}")
        self._entered[kind] = cls

    def leave(self, kind: str) -> None:
        """Take a kind out again."""
        del self._entered[kind]

    def beside_the_table(self) -> tuple[type[Step], ...]:
        """Kinds that were entered without a row in the table that tells where they lie."""
        return tuple(cls for kind, cls in self._entered.items() if kind not in self._where)

    def word_of(self, cls: type[Step]) -> str:
        """The word of a kind that is entered."""
        return next(kind for kind, entry in self._entered.items() if entry is cls)

    def __getitem__(self, kind: str) -> type[Step]:
        if kind not in self._entered and kind in self._where:
            import_module(self._where[kind])
        return self._entered[kind]

    def __iter__(self) -> Iterator[str]:
        for module in dict.fromkeys(self._where.values()):
            import_module(module)
        return iter([*self._where, *(kind for kind in self._entered if kind not in self._where)])

    def __len__(self) -> int:
        return len(self._where.keys() | self._entered.keys())

    def __contains__(self, kind: object) -> bool:
        return kind in self._entered or kind in self._where


KINDS: Final = Kinds()


def register(kind: str) -> Callable[[type[Step]], type[Step]]:
    """Enter a kind of step. Doubled kinds and sentences with unknown fields are mistakes of the program."""

    def enter(cls: type[Step]) -> type[Step]:
        unknown = set(re.findall(r"{(\w+)}", cls.sentence)) - set(cls.model_fields)
        if unknown:
            raise AssertionError(f"the sentence of {kind} names unknown fields: {unknown}")
        KINDS.enter(kind, cls)
        return cls

    return enter


def kind_of(cls: type[Step]) -> str:
    """The word of a kind."""
    return KINDS.word_of(cls)
