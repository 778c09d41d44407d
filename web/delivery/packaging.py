"""A package: the mark in its chosen colourways, in every form a client asks for, as one ZIP with a page of contents.

Names hold brand, mark, colourway and size, are safe on every file system, and none is given twice. Equal plans give
equal bytes.
"""

import io
import re
import unicodedata
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final

from django.template.loader import render_to_string
from django.utils.translation import gettext as _

from kagami.plan.document import Plan, to_json
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.roles import dressed
from kagami.plan.tones.colourways import Colourway, colours_in
from kagami.plan.tones.listed import GROUND
from web.delivery.works import FORMS, Wanted, file_of

MOST_COLOURWAYS: Final = 12
MOST_NAME: Final = 60
SINCE: Final = (1980, 1, 1, 0, 0, 0)
"""The time of every entry: the earliest that the format knows, so that equal plans give equal bytes."""
IN_A_PACKAGE: Final = (
    ("svg", False, 0),
    ("pdf", False, 0),
    ("pdf-cmyk", False, 0),
    ("png", False, 512),
    ("png", False, 1024),
    ("png", True, 1024),
    ("webp", False, 1024),
    ("ico", False, 0),
)
"""Form, whether on its ground, and the size of a picture's longer side (0 for forms that have none)."""
_RESERVED: Final = re.compile(r"(?:con|prn|aux|nul|com\d|lpt\d)(?:\..*)?", re.IGNORECASE)


@dataclass(frozen=True)
class Entry:
    """A file of a package, as its page of contents tells it."""

    name: str
    colourway: str
    purpose: str
    bytes: int


def package_of(plan: Plan, cache: Cache, brand: str) -> bytes:
    """The ZIP of a plan: its chosen colourways, or all where none is chosen, and the mark's own tones.

    Raises:
        NothingToDraw: no piece carries ink.
    """
    chosen = [one for one in plan.colourways if one.chosen] or list(plan.colourways)
    ways: list[Colourway | None] = [None, *chosen[:MOST_COLOURWAYS]]
    entries: list[Entry] = []
    files: list[tuple[str, bytes]] = []
    taken: set[str] = set()
    for way in ways:
        for name, purpose, content in _files(plan, cache, brand, way):
            free = _free(name, taken)
            files.append((free, content))
            entries.append(Entry(free, way.name if way else _("as it is built"), purpose, len(content)))
    stem = safe_name([brand, plan.title])
    files.append((_free(f"{stem}.json", taken), to_json(plan).encode()))
    page = render_to_string("delivery/contents.html", _contents(plan, cache, brand, ways, entries))
    return _zipped([("contents.html", page.encode()), *files])


def _files(plan: Plan, cache: Cache, brand: str, way: Colourway | None) -> Iterable[tuple[str, str, bytes]]:
    for form, on_ground, size in IN_A_PACKAGE:
        if on_ground and way is None:
            continue
        wanted = Wanted(way.name if way else "", on_ground, size or 1024)
        parts = [brand, plan.title, way.name if way else "", FORMS[form].suffix, "ground" if on_ground else ""]
        stem = safe_name([*parts, str(size) if size else ""])
        purpose = FORMS[form].ending.upper() + (f", {size} px" if size else "")
        yield f"{stem}.{FORMS[form].ending}", purpose, file_of(plan, cache, form, wanted)


def _contents(
    plan: Plan, cache: Cache, brand: str, ways: Sequence[Colourway | None], entries: Sequence[Entry]
) -> dict[str, object]:
    result = evaluate(plan, cache)
    rows = []
    for way in ways:
        colours = list(dict.fromkeys(piece.colour for piece in dressed(result, way)))
        ground = colours_in(plan.tones, way).known[GROUND]
        rows.append((way.name if way else _("as it is built"), colours, ground, way.note if way else ""))
    return {"title": plan.title, "brand": brand, "ways": rows, "entries": entries}


def safe_name(parts: Sequence[str]) -> str:
    """Words as a file name that every file system takes: letters, digits and hyphens.

    >>> safe_name(["Oar & Anvil", "Hinge", "", " cmyk"])
    'oar-anvil-hinge-cmyk'
    """
    text = unicodedata.normalize("NFKC", "-".join(part for part in parts if part.strip()))
    name = re.sub(r"[^\w]+", "-", text, flags=re.UNICODE).strip("-_").lower()[:MOST_NAME].strip("-_")
    return f"mark-{name}" if not name or _RESERVED.fullmatch(name) else name


def _free(name: str, taken: set[str]) -> str:
    stem, _dot, ending = name.rpartition(".")
    found = next(n for k in range(1, len(taken) + 2) if (n := name if k == 1 else f"{stem}-{k}.{ending}") not in taken)
    taken.add(found)
    return found


def _zipped(files: Sequence[tuple[str, bytes]]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as package:
        for name, content in files:
            entry = zipfile.ZipInfo(name, SINCE)
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = 0o644 << 16
            package.writestr(entry, content)
    return out.getvalue()
