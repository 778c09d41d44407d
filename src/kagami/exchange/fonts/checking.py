"""A font file checked: what it is, and the same font put together anew by a sanitizer.

The sanitizer (OpenType Sanitizer, as browsers use it) runs as a process of its own, with an end to its memory and its
time, since fonts are programs that strangers write. Nothing but its output is read here.
"""

from __future__ import annotations

import re
import resource
import struct
import subprocess
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import ots
import uharfbuzz as hb

from kagami.lettering.errors import LetteringError
from kagami.lettering.face import REGULAR, FontFile

MOST_BYTES: Final = 4_000_000
"""Of the file that is brought."""
MOST_MADE: Final = 12_000_000
"""Of the font that comes out, unpacked."""
MOST_GLYPHS: Final = 20_000
MOST_MEMORY: Final = 400_000_000
SECONDS: Final = 1
"""Processor time; the wall clock may show some more."""
MOST_WAIT: Final = 5.0
MOST_NAME: Final = 60
MOST_LICENCE: Final = 2000
SIGNS: Final = {b"\0\1\0\0", b"true", b"OTTO", b"wOFF", b"wOF2"}
"""What files begin with: TrueType, OpenType with cubics, WOFF, WOFF2 (OpenType 1.9.1; WOFF 2.0, W3C 2022)."""
NEEDED: Final = ("cmap", "head", "hhea", "hmtx", "maxp", "name", "OS/2")
_WEIGHT: Final = re.compile(
    r" (?:Thin|Hairline|(?:Extra|Ultra|Semi|Demi)?(?:Light|Bold)|Regular|Medium|Black|Heavy)$", re.I
)
"""What families of varied weight are called by the weight that they begin with."""
EMBEDDING: Final = {
    0: "may be installed and embedded",
    2: "restricted: may not be embedded without leave of its owner",
    4: "may be embedded to look at and print",
    8: "may be embedded to edit",
}
"""Bits 0 to 3 of fsType (OpenType 1.9.1, table OS/2)."""


@dataclass(frozen=True, slots=True)
class Checked:
    """A font that can be used: its bytes, put together anew, and what it says of itself."""

    data: bytes
    name: str
    weight: float | None
    """None where it can be varied."""
    glyphs: int
    embedding: str
    restricted: bool
    licence: str
    digest: str


def checked_font(data: bytes) -> Checked:
    """Check a file: TrueType or OpenType, plain or packed as WOFF or WOFF2.

    Raises:
        LetteringError: it is none that can be used, with the reason.
    """
    if len(data) > MOST_BYTES:
        raise LetteringError("font-too-large", size=len(data), most=MOST_BYTES)
    if data[:4] == b"ttcf":
        raise LetteringError("font-collection")
    if data[:4] not in SIGNS:
        raise LetteringError("no-font")
    made = _sanitized(data)
    file = FontFile(lambda: made)
    face = file.opened
    if face.glyph_count > MOST_GLYPHS:
        raise LetteringError("font-too-many", count=face.glyph_count, most=MOST_GLYPHS)
    missing = [tag for tag in NEEDED if not len(face.reference_table(tag).data)]
    if missing or not file.covers:
        raise LetteringError("font-lacks", tables=", ".join(missing or ["cmap"]))
    if not ({"glyf", "CFF ", "CFF2"} & set(face.table_tags)):
        raise LetteringError("font-no-outlines")
    weight, bits = _of_os2(face)
    return Checked(
        data=made,
        name=_called(face),
        weight=None if "wght" in file.axes else weight,
        glyphs=face.glyph_count,
        embedding=EMBEDDING[bits],
        restricted=bits == 2,
        licence=_licence(face),
        digest=file.digest,
    )


def _sanitized(data: bytes) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        given, made = Path(folder) / "given.font", Path(folder) / "made.font"
        given.write_bytes(data)
        try:
            done = subprocess.run(
                [ots.OTS_SANITIZE, str(given), str(made)],
                capture_output=True,
                timeout=MOST_WAIT,
                preexec_fn=_limited,
                check=False,
            )
        except subprocess.TimeoutExpired as error:
            raise LetteringError("font-too-slow") from error
        if done.returncode < 0:
            raise LetteringError("font-too-slow")
        if done.returncode or not made.exists():
            reason = (done.stdout + done.stderr).decode("utf-8", "replace")
            raise LetteringError("font-broken", reason=_first_reason(reason))
        return made.read_bytes()


def _limited() -> None:
    """Ends for what the process may take."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_FSIZE, (MOST_MADE, MOST_MADE))


def _first_reason(text: str) -> str:
    """The first error that the sanitizer tells, in a line."""
    lines = [line.removeprefix("ERROR: ").strip() for line in text.splitlines() if line.startswith("ERROR")]
    return (lines or ["it cannot be read"])[0][:200]


def _of_os2(face: hb.Face) -> tuple[float, int]:
    """Weight and the bits of embedding; of several bits that are set the most permissive counts."""
    table = bytes(face.reference_table("OS/2").data)
    weight, _width, kind = struct.unpack(">HHH", table[4:10])
    bits = kind & 0xF
    return float(weight) if 1 <= weight <= 1000 else REGULAR, next((bit for bit in (8, 4, 2) if bits & bit), 0)


def _called(face: hb.Face) -> str:
    """Family and style, as sentences can hold them; a regular one by its family alone."""
    family = _name(face, 16) or _name(face, 1)
    style = _name(face, 17) or _name(face, 2)
    varied = any(axis.tag == "wght" for axis in face.axis_infos)
    if varied:
        family = _WEIGHT.sub("", family)
    whole = family if varied or style.lower() in ("", "regular") else f"{family} {style}"
    plain = " ".join("".join(" " if sign in ',“”"{}' else sign for sign in whole if sign.isprintable()).split())
    if not plain:
        raise LetteringError("font-nameless")
    return plain[:MOST_NAME].strip()


def _licence(face: hb.Face) -> str:
    """What it says of its licence and its copyright."""
    said = [_name(face, number) for number in (13, 14, 0)]
    text = " ".join(" ".join(part.split()) for part in said if part)
    return "".join(sign for sign in text if sign.isprintable())[:MOST_LICENCE]


def _name(face: hb.Face, number: int) -> str:
    return (face.get_name(hb.OTNameIdPredefined(number)) or "") if number < 26 else ""
