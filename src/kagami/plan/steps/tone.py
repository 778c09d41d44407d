"""Tone: colours laid on finished pieces."""

from __future__ import annotations

from typing import ClassVar, Literal

from kagami.plan.errors import PlanError
from kagami.plan.fields import FigureRef, Tones
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Chapter, Drawing, Inputs, Step, register


@register("fill")
class Fill(Step):
    """A figure's copies and pieces filled with tones."""

    takes_lines: ClassVar = False
    title: ClassVar = "fill"
    chapter: ClassVar = Chapter.TONE
    sentence: ClassVar = "Fill {figure} with {tones}: pieces {name}."
    noun: ClassVar = "toned"

    kind: Literal["fill"] = "fill"
    figure: FigureRef
    tones: Tones = ()

    def draw(self, inputs: Inputs) -> Drawing:
        """Copy by copy; when there are more copies than tones, the tones begin again."""
        source = inputs.areas("figure", 1)[0]
        if not self.tones:
            raise PlanError("tones-missing", field="tones")
        tones = tuple(self.tones[k % len(self.tones)] for k in range(len(source.copies)))
        return Drawing(Figure(source.copies, source.anchors, source.group, tones, source.layer, source.apart))
