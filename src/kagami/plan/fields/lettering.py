"""Fields that hold words to be set, and the face that they are set in."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Final, TypeAlias

from pydantic import AfterValidator, StringConstraints

from kagami.lettering.errors import LetteringError
from kagami.lettering.face import Face
from kagami.lettering.shelf import face_named, face_names
from kagami.plan import limits
from kagami.plan.errors import PlanError
from kagami.plan.fields.kind import FieldKind, Shown, Surroundings
from kagami.plan.fields.scanner import Scanner, SentenceError
from kagami.plan.wording.texts import on_one_line, typed_text

OPENING: Final = "“"
CLOSING: Final = "”"
_QUOTED: Final = re.compile(rf"{OPENING}((?:[^{CLOSING}]|{CLOSING}{CLOSING})*){CLOSING}|\"([^\"]*)\"")
_FACE: Final = re.compile(r"[A-Z][\w-]+(?: [A-Z0-9][\w-]*){0,5}")
"""The name of a face that is not at hand: words with capitals."""


class WordsKind(FieldKind):
    """Words in quotes; “¶” begins a new line. A closing quote within them is written twice."""

    label: ClassVar[str] = "words"
    wanted: ClassVar[str] = "words in quotes"
    holds_text: ClassVar[bool] = True

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """What stands in quotes, curly or straight."""
        found = _QUOTED.match(scanner.text, at)
        if found is None:
            raise SentenceError("words-missing", position=at)
        curly = found[1] is not None
        text = found[1].replace(CLOSING * 2, CLOSING) if curly else found[2]
        if len(text) > limits.WORDS_LENGTH:
            raise SentenceError("words-too-long", length=len(text), most=limits.WORDS_LENGTH, position=at)
        return text, found.end()

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """In curly quotes."""
        return f"{OPENING}{value.replace(CLOSING, CLOSING * 2)}{CLOSING}"

    def given(self, value: Any, names: Mapping[str, str]) -> Any:
        """The words themselves."""
        return value

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """The words as they are typed, with quotes round them or without."""
        text = typed_text(given, what, limits.WORDS_LENGTH + 2)
        quoted = _QUOTED.fullmatch(text)
        return self.parse(scanner.over(text), 0)[0] if quoted else text

    def shown(self, value: Any) -> Shown:
        """As words that are typed over."""
        return Shown("typed")


class FaceKind(FieldKind):
    """The name of a face that is at hand; it resolves to the face."""

    label: ClassVar[str] = "face"
    wanted: ClassVar[str] = "a face"
    holds_text: ClassVar[bool] = True
    varies: ClassVar[bool] = True

    @property
    def words(self) -> tuple[str, ...]:
        """The names of the faces that are at hand."""
        return face_names()

    def parse(self, scanner: Scanner, at: int) -> tuple[str, int]:
        """The longest known name that stands there, one in quotes, or what looks like one: it may be brought yet."""
        quoted = _QUOTED.match(scanner.text, at)
        if quoted and (quoted[1] or quoted[2]):
            return quoted[1] or quoted[2], quoted.end()
        known = [name for name in face_names() if scanner.text[at : at + len(name)].lower() == name.lower()]
        if known:
            name = max(known, key=len)
            return name, at + len(name)
        found = _FACE.match(scanner.text, at)
        if found is None:
            raise SentenceError("face-missing", known=", ".join(face_names()), position=at)
        return found[0], found.end()

    def write(self, value: Any, names: Mapping[str, str]) -> str:
        """The name; in quotes where it would not be read as one by itself."""
        return str(value) if _FACE.fullmatch(value) else f"{OPENING}{value}{CLOSING}"

    def expected(self) -> list[str]:
        """The faces that are at hand."""
        return list(face_names())

    def given(self, value: Any, names: Mapping[str, str]) -> Any:
        """The name."""
        return value

    def resolve(self, value: Any, field: str, surroundings: Surroundings) -> Face:
        """The face."""
        try:
            return face_named(value)
        except LetteringError as error:
            raise PlanError(error.code, field=field, **error.values) from error

    def key(self, resolved: Any) -> object:
        """What its files hold, and its name, which remarks tell."""
        return (resolved.name, resolved.digest)

    def take(self, given: object, what: str, scanner: Scanner) -> str:
        """A name."""
        return typed_text(given, what, limits.FACE_LENGTH)

    def shown(self, value: Any) -> Shown:
        """As a list to choose from; a face that is not at hand stands in it as well."""
        known = face_names()
        return Shown("choice", options=known if value in known else (value, *known))


def _showable(text: str) -> str:
    if not on_one_line(text):
        raise ValueError("holds a line break or a sign that cannot be shown")
    return text


WORDS: Final = WordsKind()
FACE: Final = FaceKind()
WordsText: TypeAlias = Annotated[
    str, StringConstraints(max_length=limits.WORDS_LENGTH), AfterValidator(_showable), WORDS
]
FaceName: TypeAlias = Annotated[
    str,
    StringConstraints(min_length=1, max_length=limits.FACE_LENGTH, pattern=r'^[^,“”"{}]+$'),
    AfterValidator(_showable),
    FACE,
]
