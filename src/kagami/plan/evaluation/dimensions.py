"""All dimensions of a step."""

from __future__ import annotations

from typing import Final

from kagami.plan.dimensions.kinds import Dimension, Hook
from kagami.plan.evaluation.faults import fault_of
from kagami.plan.figure import Figure
from kagami.plan.steps.base import Step, kind_of
from kagami.plan.steps.inputs import Inputs

MOST: Final = 200
"""Dimensions of one step that are drawn; a free outline of more nodes is dragged in its sentence."""


def dimensions_of(step: Step, inputs: Inputs, made: Figure | None) -> tuple[Dimension, ...]:
    """The rings of its places, then what its own class says; as far as it comes where a value lies nowhere.

    Whatever goes wrong in a kind of step costs that step its dimensions alone; a fault of the program is logged.
    """
    found: list[Dimension] = []
    for name, kind in step.field_kinds().items():
        found.extend(Hook(name, place, part) for part, place in kind.rings(inputs.fields[name]))
    try:
        for dimension in step.dimensions(inputs, made):
            found.append(dimension)  # those before a refusal stay
    except Exception as error:  # noqa: BLE001  (see `faults`: what is no error of a plan is logged with its trace)
        fault_of(kind_of(type(step)), error)
    return tuple(found[:MOST])
