"""All dimensions of a step."""

from __future__ import annotations

from typing import Final

from kagami.geometry.errors import GeometryError
from kagami.plan.dimensions.kinds import Dimension, Hook
from kagami.plan.errors import PlanError
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Step
from kagami.plan.steps.inputs import Inputs

MOST: Final = 200
"""Dimensions of one step that are drawn; a free outline of more nodes is dragged in its sentence."""


def dimensions_of(step: Step, inputs: Inputs, made: Figure | None) -> tuple[Dimension, ...]:
    """The rings of its places, then what its own class says; as far as it comes where a value lies nowhere."""
    found: list[Dimension] = []
    for name, kind in step.field_kinds().items():
        found.extend(Hook(name, place, part) for part, place in kind.rings(inputs.fields[name]))
    try:
        for dimension in step.dimensions(inputs, made):
            found.append(dimension)  # those before a refusal stay
    except (PlanError, GeometryError):
        pass  # the step itself says what is wrong; what lies nowhere is not drawn
    return tuple(found[:MOST])
