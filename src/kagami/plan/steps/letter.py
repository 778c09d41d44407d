"""Words set as type, straight or along a figure. They stay words: what later steps do with them, they do anew."""

import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from kagami.geometry.course import course_along
from kagami.geometry.measure.size import area
from kagami.geometry.outline import Outline, Shape
from kagami.geometry.point import Point
from kagami.lettering.face import Face
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, AnchorRef, Angle, BesideRef, FaceName, Length, Number, WordsText
from kagami.plan.figure import Figure
from kagami.plan.lettering.dimensions import along_dimensions, straight_dimensions, type_dimensions
from kagami.plan.lettering.drawing import drawing_of, facts_of
from kagami.plan.lettering.laying import Lettering
from kagami.plan.lettering.setting import Setting
from kagami.plan.lettering.where import Along, Straight, Where
from kagami.plan.outcome import Notes
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register

Height = Annotated[Literal["caps", "x-height", "em"], CHOICE]
LEAST_WAY = 0.25
"""Of a hand that presses and draws on: less is a press alone (u)."""


def lettering_of(inputs: Inputs, field: str) -> Lettering:
    """The words of the one figure of a field.

    Raises:
        PlanError: it is no words, or they are outlines by now.
    """
    outcome = inputs.outcomes(field)[0]
    words = lettering_in(outcome.drawing) if outcome.drawing else None
    if words is None:
        raise PlanError("not-words", field=field, name=outcome.name)
    return words


def lettering_in(drawing: Drawing) -> Lettering | None:
    """The words that a drawing holds; None where it holds none, or outlines by now."""
    return drawing.detail if isinstance(drawing.detail, Lettering) else None


def course_of(inputs: Inputs, field: str, place: Point, lies: str) -> Outline:
    """Of the one figure of a field, the outline that words on a side of it run along: within a figure with holes those
    are the holes, without it is what bounds it; of several the one that is nearest to a place.

    Raises:
        PlanError: it has no line.
    """
    outlines = inputs.shape(field).outlines
    if not outlines:
        raise PlanError("no-course", field=field, name=inputs.name(field))
    if len(outlines) == 1 or lies == "on":
        wanted = outlines
    else:
        holes = tuple(outline for outline in outlines if outline.closed and area(Shape((outline,))) < 0)
        others = tuple(outline for outline in outlines if outline not in holes)
        wanted = (holes or others) if lies == "inside" else (others or holes)
    return min(wanted, key=lambda outline: course_along(outline).distance(place)) if len(wanted) > 1 else wanted[0]


class _Words(Step):
    chapter: ClassVar = Chapter.LETTER
    noun: ClassVar = "words"
    press: ClassVar = "place"

    text: WordsText = "Name"

    def setting(self, inputs: Inputs) -> Setting:
        """How they are set."""
        raise NotImplementedError

    def where(self, inputs: Inputs) -> Where:
        """Where they run."""
        raise NotImplementedError

    def draw(self, inputs: Inputs) -> Drawing:
        """The letters as one area; anchors are the ends and the middle of baseline and cap line, and those of each
        letter: its foot, middle, head and the sides of its stem.
        """
        return drawing_of(Lettering(self.text, self.setting(inputs), self.where(inputs)))

    def facts(self, inputs: Inputs, drawing: Drawing) -> Notes:
        """What the letters measure."""
        words = lettering_in(drawing)
        return facts_of(words) if words else ()


class _InFace(_Words):
    face: FaceName = "Jost"
    weight: Number = "500"
    by: Height = "caps"
    size: Length = "1u"
    tracking: Length = "0.1u"

    def setting(self, inputs: Inputs) -> Setting:
        """As its fields say."""
        face: Face = inputs.fields["face"]
        weight = inputs.value("weight")
        if not 1 <= weight <= 1000:
            raise PlanError("weight-out-of-range", field="weight", weight=weight)
        return Setting(face, weight, self.by, inputs.positive("size"), inputs.value("tracking"))


class _Straight(_Words):
    held: Annotated[Literal["left", "middle", "right"], CHOICE] = "middle"
    place: AnchorRef = "O"
    angle: Angle = "0"

    @classmethod
    def swept(cls, start: Point, end: Point) -> Mapping[str, float | str]:
        """A press alone sets them level; a way drawn on is the line that they run along."""
        if start.distance(end) < LEAST_WAY:
            return {"angle": 0.0}
        return {"angle": math.degrees(start.direction(end))}

    def where(self, inputs: Inputs) -> Straight:
        """Straight from the place."""
        return Straight(self.held, inputs.place("place"), math.radians(inputs.value("angle")))


class _Along(_Words):
    runs_along: ClassVar = "course"

    course: BesideRef
    held: Annotated[Literal["start", "middle", "end"], CHOICE] = "middle"
    place: AnchorRef = "O"
    lies: Annotated[Literal["outside", "inside", "on"], CHOICE] = "outside"
    clear: Length = "0u"
    reading: Annotated[Literal["upright", "outward", "inward"], CHOICE] = "upright"

    def where(self, inputs: Inputs) -> Along:
        """Along the outline of the figure that is nearest to the place."""
        place = inputs.place("place")
        outline = course_of(inputs, "course", place, self.lies)
        return Along(outline, self.held, place, self.lies, self.reading, inputs.value("clear"))


class _Like(_Words):
    like: BesideRef

    def setting(self, inputs: Inputs) -> Setting:
        """That of the other words, as it came out."""
        return replace(lettering_of(inputs, "like").setting, kerns=())  # other letters want other kerning


@register("set-line")
class SetLine(_InFace, _Straight):
    """Words on a straight line."""

    title: ClassVar = "set words"
    sentence: ClassVar = (
        "Set {text} in {face}, weight {weight}, {by} {size} high, tracked {tracking}, "
        "its {held} at {place}, turned by {angle}°: {name}."
    )

    kind: Literal["set-line"] = "set-line"

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Size, weight and tracking of the type; where the line is held, and its angle."""
        setting, where = self.setting(inputs), self.where(inputs)
        yield from type_dimensions(setting, where)
        yield from straight_dimensions(self.text, setting, where, tracked=True)


@register("set-along")
class SetAlong(_InFace, _Along):
    """Words along a figure: a circle, an arc, any outline or line."""

    title: ClassVar = "set words along"
    sentence: ClassVar = (
        "Set {text} in {face}, weight {weight}, {by} {size} high, tracked {tracking}, along {course}, "
        "its {held} at {place}, {lies} it by {clear}, reading {reading}: {name}."
    )

    kind: Literal["set-along"] = "set-along"

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Size, weight and tracking of the type; how far it lies from the figure, and the words that tell how."""
        setting, where = self.setting(inputs), self.where(inputs)
        yield from type_dimensions(setting, where)
        yield from along_dimensions(self.text, setting, where, tracked=True)


@register("set-like")
class SetLike(_Like, _Straight):
    """Further words on a straight line, set as others are."""

    title: ClassVar = "set more words"
    sentence: ClassVar = "Set {text} like {like}, its {held} at {place}, turned by {angle}°: {name}."

    kind: Literal["set-like"] = "set-like"

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Where the line is held, and its angle."""
        yield from straight_dimensions(self.text, self.setting(inputs), self.where(inputs), tracked=False)


@register("set-like-along")
class SetLikeAlong(_Like, _Along):
    """Further words along a figure, set as others are."""

    title: ClassVar = "set more words along"
    sentence: ClassVar = (
        "Set {text} like {like}, along {course}, its {held} at {place}, {lies} it by {clear}, "
        "reading {reading}: {name}."
    )

    kind: Literal["set-like-along"] = "set-like-along"

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """How far it lies from the figure, and the words that tell how."""
        yield from along_dimensions(self.text, self.setting(inputs), self.where(inputs), tracked=False)
