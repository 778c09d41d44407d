"""Other languages: every text that people read or type passes through here. The source speaks English.

A speaker is a function from an English text to that of its language, such as the `gettext` of a catalogue. Documents
and files never depend on it: they hold ids, values are notation, and plans as text are always English.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Final, TypeAlias

Speaker: TypeAlias = Callable[[str], str]
LANGUAGE: Final = "en"
"""Translated like all else: a catalogue has its own language's code here."""
_speaker: ContextVar[Speaker | None] = ContextVar("speaker", default=None)


def english(text: str) -> str:
    """The speaker of the source's own language."""
    return text


def tr(text: str) -> str:
    """A text in the language that is spoken now. Texts with slots, such as “{figure}”, keep them by name."""
    speaker = _speaker.get()
    return speaker(text) if speaker and text else text


@contextmanager
def speaking(speaker: Speaker) -> Iterator[None]:
    """Within the block another language is spoken."""
    token = _speaker.set(speaker)
    try:
        yield
    finally:
        _speaker.reset(token)
