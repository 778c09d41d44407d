"""From whatever went wrong while a step was drawn to a fault of that step."""

from __future__ import annotations

import logging
import secrets
from collections.abc import Callable
from typing import Final

from kagami.geometry.errors import GeometryError, InvalidLength, TooLarge
from kagami.geometry.rounding import RadiusTooLarge
from kagami.lettering.errors import LetteringError
from kagami.plan.errors import PlanError

LOG: Final = logging.getLogger(__name__)

FIELDS: Final = {
    "no-words": "text",
    "face-lacks": "face",
    "faces-lack": "text",
    "no-face": "face",
    "no-stem": "face",
    "nothing-follows": "letters",
}
"""The fields that errors of setting type are about."""


def untyped(_field: str) -> str:
    """Stands for the values of a step that could not be resolved."""
    return ""


def fault_of(kind: str, error: Exception, typed: Callable[[str], str] = untyped) -> PlanError:
    """The fault that a step of a kind holds for an exception; `typed` gives a field's value as typed.

    What is neither an error of a plan nor one of geometry is a fault of the program: the step shows a number, and the
    log holds that number with the trace, and the kind of step, but nothing of the plan.
    """
    match error:
        case PlanError():
            return error
        case LetteringError():
            return PlanError(error.code, field=FIELDS.get(error.code), **error.values)
        case TooLarge():
            return PlanError("too-much", field=None, **error.values)
        case InvalidLength():
            name = str(error.values.get("name", "length"))
            value = error.values.get("value", 0.0)
            if not typed(name):  # it comes of figures, or is no length that a designer knows
                return PlanError("geometry-refuses", reason=str(error))
            return PlanError("length-not-positive", field=name, what=name, expression=typed(name), value=value)
        case RadiusTooLarge():
            return PlanError("radius-too-large", field="radius", **error.values)
        case GeometryError():
            return PlanError("geometry-refuses", reason=str(error))
        case MemoryError():
            LOG.error("a step of kind %s ran out of memory", kind)
            return PlanError("out-of-memory")
        case _:
            number = secrets.token_hex(4)
            LOG.error("fault %s while a step of kind %s was drawn", number, kind, exc_info=error)
            return PlanError("step-broke", number=number)
