"""Fields that hold tones: listed ones by name, or such as are made from them."""

from __future__ import annotations

import itertools
import re
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields.kind import FieldKind, Offer, Rewrite, Shown, Surroundings
from kagami.plan.fields.scanner import NOTHING, Scanner, joint
from kagami.plan.messages import listing
from kagami.plan.tones.listed import ALWAYS, INK
from kagami.plan.tones.notation import Named, names_in, parse_tone, tone_at, tone_text, with_names
from kagami.plan.translation import tr
from kagami.plan.wording.forms import PhraseError
from kagami.plan.wording.names import QUOTES, name_text

ITS_OWN: Final = "its own"
"""Stands for the tone that a piece has already."""
_TIMES: Final = re.compile(r"(\d{1,3}) times ")
_AT: Final = re.compile(r" at (\d{1,3}(?:\.\d{1,2})?) ?%")
ToneText: TypeAlias = Annotated[
    str, StringConstraints(min_length=1, max_length=limits.EXPRESSION_LENGTH, strip_whitespace=True)
]


class ToneKind(FieldKind):
    """One tone."""

    label: ClassVar[str] = "tone"
    wanted: ClassVar[str] = "a tone"
    holds_text: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """A tone as it is written (see `tones.notation`)."""
        return _tone(scanner.text, at)

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """As it is written."""
        return _written(value)

    def tones(self, value: Any) -> tuple[str, ...]:
        """The one."""
        return (value,)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> str:
        """The tone, all of whose names must be listed."""
        _require_listed(value, surroundings)
        return str(value)

    def with_tones(self, data: Any, rewrite: Rewrite) -> Any:
        """Its names rewritten."""
        return with_tone_names(data, rewrite)

    def shown(self, value: Any) -> Shown:
        """As text, with its swatch."""
        return Shown("typed", tones=(value,))

    def begin(self, offer: Offer) -> Any | None:
        """The first that is listed."""
        return next(iter(offer.tones), None)


MIDDLE: Final = "50%"
"""A grey half way between black and white."""


class LastToneKind(ToneKind):
    """A tone that others lead to."""

    def begin(self, offer: Offer) -> Any | None:
        """The last that is listed; of a single one a paler shade."""
        tones = list(offer.tones)
        return tones[-1] if len(tones) > 1 else f"70% lighter than {name_text(tones[0])}" if tones else None


class TonesKind(FieldKind):
    """Tones, in order; each may be said to stand several times."""

    label: ClassVar[str] = "tones"
    wanted: ClassVar[str] = "a tone"

    def parse(self, scanner: Scanner, at: int) -> tuple[list[str], int]:
        """A list in words; a colour may be typed instead of a name (see `changes.tones`)."""
        text = scanner.text
        if text.startswith(tr(NOTHING), at):
            return [], at + len(tr(NOTHING))
        found: list[str] = []
        while True:
            times = _TIMES.match(text, at)
            entry, at = _entry(text, times.end() if times else at)
            found.extend([entry] * (int(times[1]) if times else 1))
            more = joint().match(text, at)
            if more is None:
                return found, at
            at = more.end()

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The tones as a list in words, those that stand more often than twice in a row with their number."""
        words = []
        for entry, run in itertools.groupby(value):
            count, text = len(list(run)), tr(ITS_OWN) if entry == ITS_OWN else _written(entry)
            words.extend([f"{count} times {text}"] if count > 2 else [text] * count)
        return listing(words) or tr(NOTHING)

    def tones(self, value: Any) -> tuple[str, ...]:
        """All of them."""
        return tuple(entry for entry in value if entry != ITS_OWN)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> Any:
        """The tones, all of whose names must be listed."""
        for entry in value:
            if entry != ITS_OWN:
                _require_listed(entry, surroundings)
        return value

    def with_tones(self, data: Any, rewrite: Rewrite) -> Any:
        """The names in each rewritten."""
        return [entry if entry == ITS_OWN else with_tone_names(entry, rewrite) for entry in data]

    def shown(self, value: Any) -> Shown:
        """As text, with swatches."""
        return Shown("typed", tones=self.tones(value))

    def begin(self, offer: Offer) -> Any | None:
        """All that are listed; a middle grey where none is, to be typed over."""
        return list(offer.tones) or [MIDDLE]


class Stop(BaseModel):
    """A tone of a gradient, and where it stands in per cent of the way; None for evenly between its neighbours."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    tone: ToneText
    at: Annotated[float, Field(ge=0, le=100)] | None = None


class StopsKind(FieldKind):
    """The tones of a gradient, with their places; they resolve to pairs of a place, 0 to 1, and a tone."""

    label: ClassVar[str] = "tones of a gradient"
    wanted: ClassVar[str] = "a tone"

    def parse(self, scanner: Scanner, at: int) -> tuple[list[dict[str, object]], int]:
        """Such as “salt, dim at 30% and shade”."""
        found: list[dict[str, object]] = []
        while True:
            tone, at = _tone(scanner.text, at)
            place = _AT.match(scanner.text, at)
            found.append({"tone": tone, "at": float(place[1]) if place else None})
            at = place.end() if place else at
            more = joint().match(scanner.text, at)
            if more is None:
                return found, at
            at = more.end()

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """As they are read."""
        return listing([_written(stop.tone) + ("" if stop.at is None else f" at {stop.at:g}%") for stop in value])

    def tones(self, value: Any) -> tuple[str, ...]:
        """All of them."""
        return tuple(stop.tone for stop in value)

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> tuple[tuple[float, str], ...]:
        """Places and tones; the places must rise."""
        for stop in value:
            _require_listed(stop.tone, surroundings)
        if len(value) < 2:
            raise PlanError("stops-too-few", field=field)
        places = _spread([stop.at for stop in value])
        if any(b < a for a, b in itertools.pairwise(places)):
            raise PlanError("stops-not-rising", field=field)
        return tuple((place / 100, stop.tone) for place, stop in zip(places, value, strict=True))

    def with_tones(self, data: Any, rewrite: Rewrite) -> Any:
        """The names in each rewritten."""
        return [{**stop, "tone": with_tone_names(stop["tone"], rewrite)} for stop in data]

    def shown(self, value: Any) -> Shown:
        """As text, with swatches."""
        return Shown("typed", tones=self.tones(value))

    def begin(self, offer: Offer) -> Any | None:
        """From the first that is listed to the last."""
        tones = list(offer.tones) or [INK]
        last = tones[-1] if len(tones) > 1 else f"70% lighter than {name_text(tones[0])}"
        return [{"tone": tones[0]}, {"tone": last}]


def _spread(places: list[float | None]) -> list[float]:
    """The places, those that are not given evenly between their neighbours; the first is 0 and the last 100."""
    given = list(places)
    given[0] = 0.0 if given[0] is None else given[0]
    given[-1] = 100.0 if given[-1] is None else given[-1]
    known = [k for k, place in enumerate(given) if place is not None]
    answer: list[float] = []
    for a, b in itertools.pairwise(known):
        low, high = float(given[a] or 0.0), float(given[b] or 0.0)
        answer.extend(low + (high - low) * (k - a) / (b - a) for k in range(a, b))
    return [*answer, float(given[-1] or 0.0)]


def _tone(text: str, at: int) -> tuple[str, int]:
    found = tone_at(text, at)
    if found is None:
        raise PhraseError("no-tone-here", position=at)
    tint = parse_tone(found[0])
    return (tint.name if isinstance(tint, Named) else found[0]), found[1]


def _entry(text: str, at: int) -> tuple[str, int]:
    if text.startswith(tr(ITS_OWN), at):
        return ITS_OWN, at + len(tr(ITS_OWN))
    return _tone(text, at)


def _written(tone: str) -> str:
    """A tone as a sentence holds it."""
    try:
        text = tone_text(parse_tone(tone))
    except PlanError:
        text = name_text(tone)
    # A name that begins as a word of the list does stands in quotes.
    return f"{QUOTES[0]}{text}{QUOTES[1]}" if text.startswith((tr(NOTHING), tr(ITS_OWN))) else text


def _require_listed(tone: str, surroundings: Surroundings) -> None:
    listed = surroundings.tones
    if tone in listed:
        return
    parse_tone(tone)
    for name in names_in(tone):
        if name not in listed and name not in ALWAYS:
            raise PlanError("no-tone", field="tones", name=name, known=listing(list(listed)) or "none")


def with_tone_names(tone: str, rewrite: Rewrite) -> str:
    """A tone in which each name is rewritten; one that is a name itself, whatever it holds, as a whole."""
    return rewrite(tone) if rewrite(tone) != tone else with_names(tone, rewrite)


TONE: Final = ToneKind()
LAST_TONE: Final = LastToneKind()
TONES: Final = TonesKind()
STOPS: Final = StopsKind()
Tone: TypeAlias = Annotated[ToneText, TONE]
LastTone: TypeAlias = Annotated[ToneText, LAST_TONE]
Tones: TypeAlias = Annotated[tuple[ToneText, ...], Field(max_length=limits.COPIES), TONES]
GradientStops: TypeAlias = Annotated[tuple[Stop, ...], Field(max_length=limits.STOPS), STOPS]
