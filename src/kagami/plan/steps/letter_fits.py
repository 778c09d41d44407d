"""Words fitted: composed otherwise, as wide as asked, matched to the mark, held off a figure; letters and outlines."""

import itertools
import math
from dataclasses import replace
from typing import Annotated, ClassVar, Literal

from kagami.geometry.point import Point
from kagami.geometry.tolerance import MATCHED
from kagami.plan.dimensions.drawn import corner_of, middle_of
from kagami.plan.dimensions.kinds import Angular, Flip, Linear, Word
from kagami.plan.errors import PlanError
from kagami.plan.fields import CHOICE, Angle, BesideRef, FigureRef, Length, Number, Numbers, Percent
from kagami.plan.figure import Figure
from kagami.plan.lettering.drawing import drawing_of, facts_of, letters_of
from kagami.plan.lettering.fitting import fitted_to_span, fitted_to_width, matched
from kagami.plan.lettering.holding import evenness, held_from, way_from
from kagami.plan.lettering.laying import Lettering, laid
from kagami.plan.messages import number_text
from kagami.plan.outcome import Notes
from kagami.plan.steps.base import Chapter, Dimensions, Drawing, Inputs, Step, register
from kagami.plan.steps.letter import lettering_in, lettering_of

Way = Annotated[Literal["tracking", "size"], CHOICE]
QUARTER = math.pi / 2
BELOW = -0.3
"""Where the numbers of gaps stand, as a share of the capitals' height above the baseline."""


class _Fitted(Step):
    """Words of an earlier step, set or laid anew."""

    chapter: ClassVar = Chapter.LETTER
    noun: ClassVar = "words"

    figure: FigureRef

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """The words as they are by this step."""
        raise NotImplementedError

    def remarked(self, words: Lettering, inputs: Inputs) -> Notes:
        """What is remarked about the fitted words."""
        return ()

    def came_to(self, words: Lettering, inputs: Inputs) -> Notes:
        """What the fitted words came to."""
        return ()

    def draw(self, inputs: Inputs) -> Drawing:
        """The letters as one area, with the same anchors."""
        words = self.fitted(lettering_of(inputs, "figure"), inputs)
        return drawing_of(words, self.remarked(words, inputs))

    def facts(self, inputs: Inputs, drawing: Drawing) -> Notes:
        """What the letters measure, and what fitting came to."""
        words = lettering_in(drawing)
        return (*facts_of(words), *self.came_to(words, inputs)) if words else ()


@register("compose")
class Compose(_Fitted):
    """Words with other letters: small capitals, old-style figures, without kerning, wider, lines further apart."""

    title: ClassVar = "compose"
    sentence: ClassVar = (
        "Compose {figure} with capitals {capitals}, figures {figures}, kerning {kerning}, letters {width}% wide, "
        "drawn for size {optical}, lines {leading}% apart: {name}."
    )

    kind: Literal["compose"] = "compose"
    capitals: Annotated[Literal["as typed", "small capitals", "all small capitals"], CHOICE] = "as typed"
    figures: Annotated[Literal["as the face has them", "lining", "old style"], CHOICE] = "as the face has them"
    kerning: Annotated[Literal["on", "off"], CHOICE] = "on"
    width: Percent = "100"
    optical: Number = "24"
    leading: Percent = "140"

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """With what its fields say."""
        setting = replace(
            words.setting,
            capitals=self.capitals,
            figures=self.figures,
            kerned=self.kerning == "on",
            width=inputs.positive("width"),
            optical=inputs.positive("optical"),
            leading=inputs.value("leading"),
        )
        return replace(words, setting=setting)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """At the words' corners, a unit of length for all of their size."""
        words = inputs.figure("figure")
        middle, corner = middle_of(words), corner_of(words)
        size = lettering_of(inputs, "figure").setting.caps
        yield Linear("width", Point(middle.x, corner.y), 0.0, per=size / 100)
        yield Linear("leading", middle, -QUARTER, per=size / 100)
        yield Linear("optical", corner, 0.0, per=size / 24)
        yield Word("capitals", middle)
        yield Word("figures", corner)
        yield Word("kerning", Point(middle.x, 2 * middle.y - corner.y))


@register("kern")
class Kern(_Fitted):
    """Words with room added between some letters, or taken away."""

    title: ClassVar = "kern"
    sentence: ClassVar = "Kern {figure} by {room} after letters {letters}: {name}."

    kind: Literal["kern"] = "kern"
    room: Length = "-0.05u"
    letters: Numbers = (1,)

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """With that room after each of the letters, which are counted as they are seen; it grows with the type."""
        room = inputs.value("room") / words.setting.em
        found = dict(words.setting.kerns)
        for letter in self.letters:
            found[letter] = found.get(letter, 0.0) + room
        return replace(words, setting=replace(words.setting, kerns=tuple(sorted(found.items()))))

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Below each gap the number of the letter before it; the room of the first gap, from where it had none."""
        words = lettering_of(inputs, "figure")
        for number, (one, other) in enumerate(itertools.pairwise(laid(self.fitted(words, inputs)).letters), 1):
            if one.line is other.line:
                yield Flip("letters", one.side(+1, BELOW).middle(other.side(-1, BELOW)), number)
        if self.letters:
            other = laid(words).letters[min(self.letters)]
            foot = other.side(-1, 0.5)
            yield Linear("room", foot, foot.direction(other.at(0.0, other.line.caps / 2)))


@register("fit-width")
class FitWidth(_Fitted):
    """Words made as wide as asked, by what is seen."""

    title: ClassVar = "fit to a width"
    sentence: ClassVar = "Fit {figure} to a width of {width} by its {way}: {name}."

    kind: Literal["fit-width"] = "fit-width"
    width: Length = "10u"
    way: Way = "tracking"

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """Tracked, or of another size."""
        return fitted_to_width(words, inputs.positive("width"), self.way)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The width across the words' middle, and what makes it."""
        middle = middle_of(inputs.figure("figure"))
        yield Linear("width", middle, 0.0, per=0.5, both=True)
        yield Word("way", middle)


@register("fit-span")
class FitSpan(_Fitted):
    """Words along a circle made to span an angle."""

    title: ClassVar = "fit to a span"
    sentence: ClassVar = "Span {angle}° with {figure} by its {way}: {name}."

    kind: Literal["fit-span"] = "fit-span"
    angle: Angle = "120"
    way: Way = "tracking"

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """Tracked, or of another size."""
        return fitted_to_span(words, inputs.positive("angle"), self.way)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """The angle about the words' first place, and what makes it."""
        words = inputs.figure("figure")
        middle, corner = middle_of(words), corner_of(words)
        yield Angular("angle", middle, middle.distance(corner))
        yield Word("way", middle)


@register("match-stems")
class MatchStems(_Fitted):
    """Words whose stems are as thick as a part of the mark, by the weight of their face."""

    title: ClassVar = "match stems"
    sentence: ClassVar = "Match the stems of {figure} to {thickness}: {name}."

    kind: Literal["match-stems"] = "match-stems"
    thickness: Length = "0.2u"

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """With the weight, and if need be the width, whose stems come nearest."""
        return replace(words, setting=matched(words.setting, inputs.positive("thickness")))

    def remarked(self, words: Lettering, inputs: Inputs) -> Notes:
        """What the stems came to, where the face does not come so far."""
        return () if self._reached(words, inputs) else (("stems-nearest", self._stems(words, inputs)),)

    def came_to(self, words: Lettering, inputs: Inputs) -> Notes:
        """What the stems came to, and at which weight."""
        return (("stems-match", self._stems(words, inputs)),) if self._reached(words, inputs) else ()

    def _reached(self, words: Lettering, inputs: Inputs) -> bool:
        return math.isclose(words.setting.stem, inputs.value("thickness"), rel_tol=MATCHED)

    def _stems(self, words: Lettering, inputs: Inputs) -> dict[str, object]:
        setting, asked = words.setting, inputs.value("thickness")
        return {"stem": setting.stem, "weight": setting.cut.weight, "asked": asked, "face": setting.face.name}

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """Across, at the words' middle."""
        yield Linear("thickness", middle_of(inputs.figure("figure")), 0.0, per=0.5, both=True)


@register("hold")
class Hold(_Fitted):
    """Words held off a figure: along its outline, at one distance all the way, or straight, at the nearest place."""

    title: ClassVar = "hold off"
    sentence: ClassVar = "Hold {figure} at {clear} from {edge}: {name}."

    kind: Literal["hold"] = "hold"
    clear: Length = "0.5u"
    edge: BesideRef

    def fitted(self, words: Lettering, inputs: Inputs) -> Lettering:
        """On the same side of the figure as they are, held where they are."""
        clear = inputs.value("clear")
        if clear < 0:
            values = {"what": "clear", "expression": inputs.typed("clear"), "value": number_text(clear)}
            raise PlanError("length-negative", field="clear", **values)
        return held_from(words, inputs.shape("edge"), clear)

    def came_to(self, words: Lettering, inputs: Inputs) -> Notes:
        """How evenly they lie."""
        found = evenness(words, inputs.shape("edge"))
        values = {"count": found.count, "clear": found.least, "off": found.most - found.least}
        return (("held-even", {**values, "name": inputs.name("edge")}),)

    def dimensions(self, inputs: Inputs, made: Figure | None) -> Dimensions:
        """From the figure to the words, where they are held."""
        edge, words = way_from(lettering_of(inputs, "figure"), inputs.shape("edge"))
        yield Linear("clear", edge, edge.direction(words))


@register("one-by-one")
class OneByOne(_Fitted):
    """The letters of words as copies of one figure, each to be chosen and toned by itself."""

    title: ClassVar = "letters one by one"
    noun: ClassVar = "letters"
    sentence: ClassVar = "Take the letters of {figure} one by one: {name}."

    kind: Literal["one-by-one"] = "one-by-one"

    def draw(self, inputs: Inputs) -> Drawing:
        """A copy a letter that carries ink, in the order in which they are seen, with its anchors."""
        return Drawing(letters_of(lettering_of(inputs, "figure")))


@register("as-outlines")
class AsOutlines(_Fitted):
    """Words as a plain figure, which knows no letters any more."""

    title: ClassVar = "as outlines"
    noun: ClassVar = "outlines"
    sentence: ClassVar = "Take {figure} as outlines: {name}."

    kind: Literal["as-outlines"] = "as-outlines"

    def draw(self, inputs: Inputs) -> Drawing:
        """The area of all letters; anchors are those of every figure."""
        lettering_of(inputs, "figure")
        return Drawing(Figure((inputs.shape("figure"),)))
