"""Variants in words.

    Variant small, in lamp, on its plate, below 24 px: gap is 0.4u, without ring; clear 2u; smallest 9 mm; as svg, png.
    Instead in small: Circle lens on O with radius 3u.
    Note on variant small: for the app
    Package: {brand}-{mark}-{variant}-{size}, 16, 32 and 64 px, 60mm high

What is as usual is left out.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, Final

from kagami.plan.fields.scanner import Scanner, SentenceError
from kagami.plan.messages import listing
from kagami.plan.translation import tr
from kagami.plan.values.stored import typed_value
from kagami.plan.variants.variant import AS_IT_IS, FORMS, USUAL, OtherValue, Package, Variant
from kagami.plan.wording.names import name_text, parse_name, parse_name_before

WORD: Final = "Variant"
KEPT: Final = "nothing changed"
IN: Final = "in"
ON_ITS_PLATE: Final = "on its plate"
BELOW: Final = "below"
WITHOUT: Final = "without"
WITH: Final = "with"
IS: Final = "is"
CLEAR: Final = "clear"
LINE: Final = "line"
SMALLEST: Final = "smallest"
AS: Final = "as"
WORDS: Final = (WORD, KEPT, IN, ON_ITS_PLATE, BELOW, WITHOUT, WITH, IS, CLEAR, LINE, SMALLEST, AS, *FORMS)
NO_FILES: Final = "no file"
_MEASURE: Final = re.compile(r"[A-Za-z][A-Za-z0-9_]*")
_PIXELS: Final = re.compile(r"(\d{1,4}) px")
_PACKAGE: Final = re.compile(
    r"(?P<pattern>.+?), (?P<pixels>\d+(?:(?:, | and )\d+)*|no) px(?:, (?P<height>[\d.]+(?:mm|cm|in|pt|px)) high)?"
)


def variant_text(variant: Variant, names: Mapping[str, str]) -> str:
    """A variant as a sentence, without its note and without the steps that are said anew in it; `names` are those of
    the steps by id.
    """
    asides = [f"{tr(IN)} {name_text(variant.colourway)}"] if variant.colourway else []
    asides += [tr(variant.form)] if variant.form != AS_IT_IS else []
    asides += [tr(ON_ITS_PLATE)] if variant.plate else []
    asides += [f"{tr(BELOW)} {variant.below} px"] if variant.below else []
    head = ", ".join([f"{tr(WORD)} {name_text(variant.name)}", *asides])
    return f"{head}: {alterations_in_words(variant, names)}{_of_files(variant, names)}."


def alterations_in_words(variant: Variant, names: Mapping[str, str]) -> str:
    """What it alters: “gap is 0.4u, without ring”."""
    said = [f"{entry.measure} {tr(IS)} {typed_value(entry.value, names)}" for entry in variant.values]
    said += [f"{tr(WITHOUT)} {name_text(names[step])}" for step in variant.muted if step in names]
    said += [f"{tr(WITH)} {name_text(names[step])}" for step in variant.heard if step in names]
    return ", ".join(said) or tr(KEPT)


def _of_files(variant: Variant, names: Mapping[str, str]) -> str:
    clauses = [f"{tr(CLEAR)} {typed_value(variant.clear, names)}"] if variant.clear else []
    clauses += [f"{tr(LINE)} {typed_value(variant.line, names)}"] if variant.line else []
    clauses += [f"{tr(SMALLEST)} {variant.smallest}"] if variant.smallest else []
    if variant.formats != USUAL:
        clauses.append(f"{tr(AS)} {', '.join(variant.formats) or NO_FILES}")
    return "".join(f"; {clause}" for clause in clauses)


def _no_names() -> frozenset[str]:
    """Words that no name has that stands without its quotes: a comma was forgotten before them."""
    return frozenset(tr(words).split()[0].lower() for words in (IN, ON_ITS_PLATE, BELOW, WITH, WITHOUT))


def is_variant(text: str) -> bool:
    """Whether a sentence begins as one of a variant does."""
    return re.match(rf"{re.escape(tr(WORD))}\b", text.strip(), re.IGNORECASE) is not None


def parse_variant(text: str, ids: Mapping[str, str]) -> Variant:
    """The variant that a sentence tells; `ids` are those of the steps by name.

    Raises:
        SentenceError: with the character from which on it cannot be read.
    """
    text = text.strip()
    head = re.match(rf"{re.escape(tr(WORD))} +", text, re.IGNORECASE)
    name = parse_name_before(text, head.end(), ",:", _no_names()) if head else None
    if name is None:
        raise SentenceError("variant-unread", position=head.end() if head else 0)
    found: dict[str, Any] = {"name": name[0]}
    at = _asides(text, name[1], found)
    colon = re.compile(" *: *").match(text, at)
    if colon is None:
        raise SentenceError("variant-unread", position=at)
    scanner = Scanner(text.removesuffix("."), ids, frozenset())
    at = _alterations(scanner, colon.end(), found)
    while scanner.text.startswith("; ", at):
        at = _file_clause(scanner, at + 2, found)
    if at != len(scanner.text):
        raise SentenceError("variant-unread", position=at)
    return Variant.model_validate(found)


def _asides(text: str, at: int, found: dict[str, Any]) -> int:
    """What stands between the name and the colon."""
    forms = {tr(form): form for form in FORMS}
    while text.startswith(", ", at):
        at += 2
        form = next((word for word in forms if text.startswith(word, at)), None)
        below = re.compile(rf"{re.escape(tr(BELOW))} {_PIXELS.pattern}").match(text, at)
        begun = at + len(tr(IN)) + 1 if text.startswith(f"{tr(IN)} ", at) else None
        colourway = parse_name_before(text, begun, ",:", _no_names()) if begun else None
        if text.startswith(tr(ON_ITS_PLATE), at):
            found["plate"], at = True, at + len(tr(ON_ITS_PLATE))
        elif form is not None:
            found["form"], at = forms[form], at + len(form)
        elif below is not None:
            found["below"], at = int(below[1]), below.end()
        elif colourway is not None:
            found["colourway"], at = colourway
        else:
            raise SentenceError("variant-unread", position=at)
    return at


def _alterations(scanner: Scanner, at: int, found: dict[str, Any]) -> int:
    """The other values and steps, from a position on; gives where they end."""
    if scanner.text.startswith(tr(KEPT), at):
        return at + len(tr(KEPT))
    while True:
        at = _alteration(scanner, at, found)
        if not scanner.text.startswith(", ", at):
            return at
        at += 2


def _alteration(scanner: Scanner, at: int, found: dict[str, Any]) -> int:
    text = scanner.text
    for word, field in ((WITHOUT, "muted"), (WITH, "heard")):
        if text.startswith(f"{tr(word)} ", at):
            name = parse_name(text, at + len(tr(word)) + 1)
            if name is None or name[0] not in scanner.ids:
                raise SentenceError("no-step-named", name=name[0] if name else "", position=at)
            found.setdefault(field, []).append(scanner.ids[name[0]])
            return name[1]
    measure = re.compile(rf"({_MEASURE.pattern}) {re.escape(tr(IS))} ").match(text, at)
    if measure is None:
        raise SentenceError("variant-unread", position=at)
    value, at = scanner.value(measure.end())
    found.setdefault("values", []).append(OtherValue(measure=measure[1], value=value))
    return at


def _file_clause(scanner: Scanner, at: int, found: dict[str, Any]) -> int:
    """Clear space, line, smallest size or files; gives where they end."""
    text = scanner.text
    for word in (CLEAR, LINE):
        if text.startswith(f"{tr(word)} ", at):
            found[word], at = scanner.value(at + len(tr(word)) + 1)
            return at
    smallest = re.compile(rf"{re.escape(tr(SMALLEST))} ([\d.]+) *(mm|cm|in|pt|px)").match(text, at)
    if smallest is not None:
        found["smallest"] = smallest[1] + smallest[2]
        return smallest.end()
    files = re.compile(rf"{re.escape(tr(AS))} (?:{NO_FILES}|([a-z]+(?:, [a-z]+)*))").match(text, at)
    if files is None:
        raise SentenceError("variant-unread", position=at)
    found["formats"] = (files[1] or "").split(", ") if files[1] else []
    return files.end()


def package_text(package: Package) -> str:
    """How files are named and sized, in words."""
    pixels = listing([str(size) for size in package.pixels]) or "no"
    return f"{package.pattern}, {pixels} px" + (f", {package.height} high" if package.height else "")


def parse_package(text: str) -> Package:
    """What `package_text` wrote.

    Raises:
        SentenceError: it cannot be read.
    """
    found = _PACKAGE.fullmatch(text.strip().removesuffix("."))
    if found is None:
        raise SentenceError("package-unread", position=0)
    pixels: Sequence[int] = [int(size) for size in re.findall(r"\d+", found["pixels"])]
    return Package(pattern=found["pattern"], pixels=tuple(pixels), height=found["height"] or "")
