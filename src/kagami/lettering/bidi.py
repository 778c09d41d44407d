"""The order of letters in text that runs both ways (Unicode Standard Annex 9, the bidirectional algorithm)."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Run:
    """A stretch of text that runs one way: its characters in the order in which they are read."""

    text: str
    start: int
    """Where it begins in the whole."""
    leftward: bool


def runs_of(text: str) -> tuple[Run, ...]:
    """The runs of a line from left to right, as they are seen. The line runs as its first strong letter does (rules P2
    and P3); characters that only direct (rule X9) belong to no run.
    """
    if text.isascii():
        return (Run(text, 0, False),) if text else ()
    levels = _levels(text)
    order = sorted({level for level in levels if level is not None}, reverse=True)
    spans = _spans(levels)
    if not spans:
        return ()
    lowest_odd = min((level for level in order if level % 2), default=None)
    for level in range(order[0], (lowest_odd or 0) - 1, -1) if lowest_odd is not None else ():
        spans = _reversed_at(spans, level)  # rule L2
    return tuple(Run(text[start:end], start, bool(level % 2)) for start, end, level in spans)


def _levels(text: str) -> list[int | None]:
    """The embedding level of each character; None for those that only direct."""
    from bidi import algorithm

    storage = algorithm.get_empty_storage()
    base = algorithm.get_base_level(text)
    storage["base_level"] = base
    storage["base_dir"] = ("L", "R")[base]
    algorithm.get_embedding_levels(text, storage)
    for number, entry in enumerate(storage["chars"]):
        entry["at"] = number
    algorithm.explicit_embed_and_overrides(storage)
    algorithm.resolve_weak_types(storage)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    levels: list[int | None] = [None] * len(text)
    for entry in storage["chars"]:
        levels[entry["at"]] = entry["level"]
    return _with_ends_at(base, text, levels)


def _with_ends_at(base: int, text: str, levels: list[int | None]) -> list[int | None]:
    """Blanks at the end of a line have its own level (rule L1)."""
    for at in range(len(text) - 1, -1, -1):
        if levels[at] is not None and not text[at].isspace():
            break
        if levels[at] is not None:
            levels[at] = base
    return levels


def _spans(levels: list[int | None]) -> list[tuple[int, int, int]]:
    found: list[tuple[int, int, int]] = []
    for at, level in enumerate(levels):
        if level is None:
            continue
        if found and found[-1][1] == at and found[-1][2] == level:
            found[-1] = (found[-1][0], at + 1, level)
        else:
            found.append((at, at + 1, level))
    return found


def _reversed_at(spans: list[tuple[int, int, int]], level: int) -> list[tuple[int, int, int]]:
    answer: list[tuple[int, int, int]] = []
    waiting: list[tuple[int, int, int]] = []
    for span in spans:
        if span[2] >= level:
            waiting.append(span)
        else:
            answer.extend(reversed(waiting))
            answer.append(span)
            waiting = []
    return [*answer, *reversed(waiting)]
