"""Errors in words: what is wrong, where, and a way to mend it. The one place where texts of errors stand."""

from __future__ import annotations

from typing import Final

from kagami.plan import limits
from kagami.plan.errors import PlanError

TEXTS: Final[dict[str, str]] = {
    # values
    "empty-value": "There is no value here. Type a number, such as 3u, or a measure.",
    "value-too-long": "This value is {length} characters long; " + str(limits.EXPRESSION_LENGTH) + " is the most. "
    "Make a measure of a part of it.",
    "value-too-deep": "This value nests brackets or powers more than " + str(limits.EXPRESSION_DEPTH) + " deep. "
    "Make a measure of a part of it.",
    "unexpected-sign": "“{found}” cannot stand here. Values are written like 3u, gap*2 or (lens + gap)/2.",
    "unfinished-value": "The value stops too soon: {wanted} is missing at the end.",
    "unknown-name": "There is no measure “{name}”. {known}",
    "wrong-arguments": "{name} takes {wanted}, not {given}.",
    "division-by-zero": "“{part}” comes to 0, and nothing can be divided by 0. Divide by something else.",
    "not-a-number": "“{part}” has no real value here. {mend}",
    "value-too-large": "“{part}” comes to more than a thousand million. Use smaller numbers or powers.",
    "measure-cycle": "These measures wait for each other: {cycle}. Give one of them a value of its own.",
    "measure-failed": "The measure “{name}” has no value itself: {reason}",
    # fields
    "length-not-positive": "The {what} {expression} comes to {value}u; it must be more than 0. Type a larger value.",
    "not-a-count": "The number of {what} {expression} comes to {value}; "
    "it must be a whole number from {least} to {most}.",
    "out-of-reach": "The {what} {expression} comes to {value}u; nothing lies further out than "
    + f"{limits.SHEET_REACH:,.0f}u. Type a smaller value.",
    "no-figure": "There is no figure “{name}” before this step. Choose another one, or move this step further down.",
    "no-anchor": "{figure} has no anchor “{anchor}”. It has: {known}.",
    "no-copy": "{figure} has {count} copies, so there is no copy {copy}. Choose one from 1 to {count}.",
    "figure-waits": "This step waits for {name}, which cannot be drawn yet. Mend that step first.",
    "no-area": "{name} is a line and bounds no area. Choose closed figures here.",
    "too-few-figures": "Choose at least {least} figures; there is only {given}.",
    "figure-twice": "{name} is named twice here. Take one of them out.",
    "nothing-left": "Nothing is left of {name}: the others cover it whole. Move or shrink one of them.",
    "too-large": "This step would make {curves} lines and arcs; {most} is the most. Use fewer copies or figures.",
    # documents
    "not-json": "This is not a plan: it is not readable as JSON ({reason} at line {line}, column {column}).",
    "too-large-document": "This plan is {size} bytes long; " + f"{limits.DOCUMENT_BYTES:,} is the most.",
    "newer-schema": "This plan was written by a newer Kagami (schema {schema}; this one reads up to {known}).",
    "unknown-field": "The plan has a field that is not known: {path}. Take it out, or correct its name.",
    "missing-field": "The plan lacks a field: {path}.",
    "bad-field": "The plan's field {path} is not right: {reason}.",
    "unknown-kind": "The plan's step {path} has the kind “{kind}”, which is not known. Known are: {known}.",
    "doubled-id": "Two steps have the id “{id}” ({path}). Give one of them another id.",
    "doubled-name": "The name “{name}” is taken already. Choose another one.",
    "bad-name": "“{name}” cannot be the name of a measure. A name is a letter followed by letters, digits or _, "
    "and is not u, a unit or a function.",
    # changes
    "no-step": "There is no such step any more.",
    "no-measure": "There is no measure “{name}”.",
    "no-field": "This step has no field “{name}”.",
    "needed-by": "{name} is used by {users}. Change or remove that first.",
    "no-region": "That region is not there any more. The sheet was drawn anew: choose again.",
    "too-many": "A plan has at most {most} {what}.",
    "not-a-choice": "“{value}” is not one of {known}.",
    "text-too-long": "A {what} has at most {most} characters; this one has {length}.",
    "empty-name": "A name cannot be empty.",
    "no-such-change": "This change is not known: {kind}.",
    "bad-change": "This change is not complete: {path} {reason}.",
}


def explain(error: PlanError) -> str:
    """The error in words."""
    return TEXTS[error.code].format(**{key: _text(value) for key, value in error.values.items()})


def number_text(value: float) -> str:
    """A number with at most four decimals, a true minus sign, and no zeros at its end."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text.replace("-", "−")


def listing(words: list[str], joiner: str = "and") -> str:
    """Words as a list in a sentence: “a, b and c”."""
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} {joiner} {words[-1]}" if words else ""


def _text(value: object) -> str:
    return number_text(value) if isinstance(value, float) else str(value)
