"""A made-up kind of step, whole in this file: a bar that rises as steeply as a slope says."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import ClassVar, Literal

from kagami.geometry import figures
from kagami.plan.fields import AnchorRef, Length
from kagami.plan.figure import Figure
from kagami.plan.language import parsing
from kagami.plan.outcome import Drawing
from kagami.plan.steps.base import KINDS, Chapter, Inputs, Step, register
from tests.plan.fields.slope import Slope


class Ramp(Step):
    """A bar along a slope."""

    title: ClassVar = "ramp"
    chapter: ClassVar = Chapter.FIGURES
    sentence: ClassVar = "Ramp {name} from {foot}, {length} long, rising {slope} and {width} wide."
    noun: ClassVar = "ramp"

    kind: Literal["ramp"] = "ramp"
    foot: AnchorRef = "O"
    length: Length = "5u"
    slope: Slope = ("3u", "4u")
    width: Length = "1u"

    def draw(self, inputs: Inputs) -> Drawing:
        foot, angle = inputs.place("foot"), inputs.fields["slope"]
        length = inputs.positive("length")
        shape = figures.bar(foot, angle, inputs.positive("width"), length)
        return Drawing(Figure((shape,), {"head": foot.toward(angle, length)}))


@contextmanager
def ramps() -> Iterator[None]:
    """Within the block, ramps are a kind of step like all others."""
    register("ramp")(Ramp)
    parsing.stop_words_of.cache_clear()
    try:
        yield
    finally:
        KINDS.leave("ramp")
        parsing.stop_words_of.cache_clear()
