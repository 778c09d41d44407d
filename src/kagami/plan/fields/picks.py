"""Fields that hold choices of regions."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from kagami.plan import limits
from kagami.plan.fields.kind import FieldKind, Shown
from kagami.plan.fields.scanner import NOTHING, Scanner, SentenceError
from kagami.plan.translation import tr
from kagami.plan.wording.forms import format_phrase, parse_phrase
from kagami.plan.wording.names import name_text
from kagami.plan.wording.texts import Identifier

PICKED: Final = {
    (True, True): "in {cover}, {rank} of {alike}, {reach}",
    (False, True): "not in {cover}, {rank} of {alike}, {reach}",
    (True, False): "outside all, {rank} of {alike}, {reach}",
    (False, False): "not outside all, {rank} of {alike}, {reach}",
}
"""A choice of regions, by whether it is kept and whether figures cover it."""
ALL_ROUND: Final = "all round"
HERE: Final = "here"
ABOUT: Final = "about"
"""Before the witness of a choice: its place in the frame of the figure."""
CUT_BY: Final = "cut by"
"""Before the figures that alone cut a region out."""
EVERY: Final = "every {every}"
_COPY: Final = re.compile(r"/(\d{1,3})")
_NUMBER: Final = re.compile(r"\d{1,4}")

Share = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class Pick(BaseModel):
    """One choice: keep or drop a region and its images round the turn.

    The region is named by its `cover` and `rank` (see `places.regions`); `alike` remembers among how many. `every` is 1
    for all round, 2 for every second image, and so on; 0 for this region only.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    keep: bool
    cover: Annotated[tuple[str, ...], Field(max_length=limits.COPIES * 2)]
    rank: Annotated[int, Field(ge=0)] = 0
    alike: Annotated[int, Field(ge=1)] = 1
    every: Annotated[int, Field(ge=0, le=limits.COPIES)] = 1
    near: tuple[Share, Share] | None = None
    """The witness: a place inside the region, in the frame of the first figure that covers it."""
    among: Annotated[tuple[Identifier, ...], Field(max_length=limits.FIGURES_PER_STEP)] = ()
    """The figures that cut the region out, where it is chosen as a whole although others cross it; empty for all."""


class PicksKind(FieldKind):
    """Choices of regions; made on the sheet, where regions are pointed at."""

    label: ClassVar[str] = "choices of regions"
    wanted: ClassVar[str] = NOTHING
    typed: ClassVar[bool] = False

    def parse(self, scanner: Scanner, at: int) -> tuple[list[dict[str, Any]], int]:
        """Choices with semicolons between them."""
        return scanner.entries(at, lambda at: _PickParser(scanner).pick(at))

    def expected(self) -> list[str]:
        """The word for none."""
        return [tr(NOTHING)]

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """With semicolons between them."""
        return "; ".join(_pick_text(pick, names) for pick in value) or tr(NOTHING)

    def shown(self, value: Any) -> Shown:
        """By how many regions are kept."""
        return Shown("picks")


class _PickParser:
    """Parses one choice: “in lens and beams/1, 1 of 2, all round”, after “not” when the regions are dropped."""

    def __init__(self, scanner: Scanner) -> None:
        self.scanner, self.text = scanner, scanner.text

    def pick(self, at: int) -> tuple[dict[str, Any], int]:
        for (keep, covered), form in PICKED.items():
            parsers = {"cover": self.cover, "rank": self.number, "alike": self.alike, "reach": self.reach}
            found = parse_phrase(self.text, at, form, parsers)
            if found is None:
                continue
            slots, end = found
            cover = slots["cover"] if covered else []
            rank = max(slots["rank"], 1) - 1
            alike, near = slots["alike"]
            among, end = self.among(end)
            named = {"cover": cover, "rank": rank, "alike": alike, "near": near, "among": among}
            return {"keep": keep, "every": slots["reach"], **named}, end
        raise SentenceError("pick-missing", position=at)

    def cover(self, at: int) -> tuple[list[str], int]:
        found: list[str] = []
        while True:
            owner, at = self.scanner.figure(at)
            if copy := _COPY.match(self.text, at):
                owner, at = f"{owner}#{int(copy[1]) - 1}", copy.end()
            found.append(owner)
            if not self.text.startswith(" + ", at):
                return found, at
            at += 3

    def among(self, at: int) -> tuple[list[str], int]:
        """The figures that alone cut a region out, where they are told."""
        words = f", {tr(CUT_BY)} "
        return self.cover(at + len(words)) if self.text.startswith(words, at) else ([], at)

    def number(self, at: int) -> tuple[int, int]:
        found = _NUMBER.match(self.text, at)
        if found is None:
            raise SentenceError("pick-missing", position=at)
        return int(found[0]), found.end()

    def alike(self, at: int) -> tuple[tuple[int, tuple[float, float] | None], int]:
        """Among how many regions one is chosen, and its witness where one stands behind."""
        count, at = self.number(at)
        witness = re.compile(rf" {re.escape(tr(ABOUT))} (-?\d+\.\d+) (-?\d+\.\d+)").match(self.text, at)
        if witness is None:
            return (count, None), at
        return (count, (float(witness[1]), float(witness[2]))), witness.end()

    def reach(self, at: int) -> tuple[int, int]:
        for every, word in ((1, tr(ALL_ROUND)), (0, tr(HERE))):
            if self.text.startswith(word, at):
                return every, at + len(word)
        found = parse_phrase(self.text, at, EVERY, {"every": self.number})
        if found is None:
            raise SentenceError("pick-missing", position=at)
        return found[0]["every"], found[1]


def _pick_text(pick: Pick, names: Mapping[str, str]) -> str:
    owners = []
    for owner in pick.cover:
        identifier, _, copy = owner.partition("#")
        name = name_text(names.get(identifier, identifier))
        owners.append(f"{name}/{int(copy) + 1}" if copy else name)
    reaches = {0: tr(HERE), 1: tr(ALL_ROUND)}
    reach = reaches.get(pick.every) or format_phrase(EVERY, every=pick.every)
    form = PICKED[pick.keep, bool(owners)]
    alike = str(pick.alike) if pick.near is None else f"{pick.alike} {tr(ABOUT)} {pick.near[0]:.6f} {pick.near[1]:.6f}"
    text = format_phrase(form, cover=" + ".join(owners), rank=pick.rank + 1, alike=alike, reach=reach)
    among = " + ".join(name_text(names.get(identifier, identifier)) for identifier in pick.among)
    return f"{text}, {tr(CUT_BY)} {among}" if among else text


PICKS: Final = PicksKind()
Picks: TypeAlias = Annotated[tuple[Pick, ...], Field(max_length=limits.PICKS), PICKS]
