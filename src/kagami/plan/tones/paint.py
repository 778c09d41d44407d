"""Gradients: tones that go over into each other along a line or from a centre."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import dataclass, replace

from kagami.geometry.affine import Affine
from kagami.plan.tones.notation import mix_text

Stop = tuple[float, str]
BETWEEN = 6
"""Into how many parts the way between two tones of a gradient falls for those who draw it."""


@dataclass(frozen=True, slots=True)
class Gradient:
    """Tones at their places, 0 to 1 and rising. `frame` lays the unit gradient on the sheet: along the x axis from 0 to
    1 and the same all along y, or, where it is `round`, from the origin out to the unit circle.
    """

    frame: Affine
    round: bool
    stops: tuple[Stop, ...]

    def mapped(self, by: Affine) -> Gradient:
        """Moved along with what it fills."""
        return replace(self, frame=by.after(self.frame))

    def coloured(self, of: Callable[[str], str]) -> Gradient:
        """With colours in place of tones."""
        return replace(self, stops=tuple((at, of(tone)) for at, tone in self.stops))

    def in_colours(self, of: Callable[[str], str]) -> Gradient:
        """With colours in place of tones, and colours between them: receivers mix in sRGB, which is not even to the
        eye, so that they are given enough stops to follow.
        """
        places: list[float] = []
        for (low, _), (high, _) in itertools.pairwise(self.stops):
            places.extend(low + (high - low) * k / BETWEEN for k in range(BETWEEN))
        found = [(at, of(self.tone_at(at))) for at in places]
        return replace(self, stops=(*found, (self.stops[-1][0], of(self.stops[-1][1]))))

    def tone_at(self, share: float) -> str:
        """The tone at a place between 0 and 1, mixed from its neighbours."""
        (before, tone), *rest = self.stops
        for at, following in rest:
            if share <= at:
                if at <= before or share <= before:
                    return tone
                part = (share - before) / (at - before)
                return mix_text(tone, 100 * part, following)
            before, tone = at, following
        return tone

    def __str__(self) -> str:
        return " to ".join(tone for _, tone in self.stops)


Paint = str | Gradient


def tones_in(paint: Paint) -> tuple[str, ...]:
    """The tone, or those of a gradient."""
    return tuple(tone for _, tone in paint.stops) if isinstance(paint, Gradient) else (paint,)


def mapped_paint(paint: Paint, by: Affine) -> Paint:
    """A tone as it is, a gradient moved."""
    return paint.mapped(by) if isinstance(paint, Gradient) else paint
