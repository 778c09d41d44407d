"""Alterations of a plan that are tried for a variant: another value of a measure or of a field, or a step muted."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, TypeAlias

from kagami.geometry.tolerance import SAME
from kagami.plan.document import Plan
from kagami.plan.evaluation.solving import exact_text
from kagami.plan.fields.values import ANGLE
from kagami.plan.messages import number_text
from kagami.plan.steps import Step
from kagami.plan.varying import varied_step

STEP: Final = 0.05
"""Proposed lengths are whole multiples of this, in u."""
TURN: Final = 15.0
"""An angle goes by so many degrees where a length would be doubled."""
STEP_TURNED: Final = 0.5
"""Proposed angles are whole multiples of this, in degrees."""


@dataclass(frozen=True, slots=True)
class Alteration:
    """One change of a variant: a `measure`, or a `field` of a `step`, is `value`; or, without a value, a step is muted.
    `key` tells it from others.
    """

    step: str = ""
    field: str = ""
    measure: str = ""
    value: str = ""

    @property
    def key(self) -> str:
        """What it is about, whatever the value."""
        return f"={self.measure}" if self.measure else f"{self.step}.{self.field}"

    def made_in(self, plan: Plan) -> Plan:
        """The plan with it.

        Raises:
            PlanError: the field cannot hold the value.
        """
        if self.measure:
            measures = (
                m.model_copy(update={"value": self.value, "solve": None}) if m.name == self.measure else m
                for m in plan.measures
            )
            return plan.model_copy(update={"measures": tuple(measures)})
        steps = tuple(self._altered(step) if step.id == self.step else step for step in plan.steps)
        return plan.model_copy(update={"steps": steps})

    def _altered(self, step: Step) -> Step:
        return varied_step(step, {self.field: self.value}) if self.value else step.model_copy(update={"muted": True})


Way: TypeAlias = Callable[[float], Alteration]
"""What a value is altered to, by a factor: at 1 it stays as it is."""


def scaled(value: float, made: Callable[[str], Alteration]) -> Way:
    """An alteration to a length times a factor, as a tidy number of modules, rounded away from where it was."""

    def way(factor: float) -> Alteration:
        wanted = value * factor
        step = STEP if wanted >= 10 * STEP else STEP / 10
        count = math.ceil(wanted / step - SAME) if factor > 1 else math.floor(wanted / step + SAME)
        tidy = max(count, 1) * step
        text = number_text(tidy) if abs(tidy - value) > SAME else exact_text(value)
        return made(f"{text}u")

    return way


def turned(value: float, made: Callable[[str], Alteration]) -> Way:
    """An alteration to an angle in degrees, by so much more as the factor is more than 1, rounded away from where it
    was.
    """

    def way(factor: float) -> Alteration:
        by = TURN * (factor - 1.0) / STEP_TURNED
        count = math.ceil(by - SAME) if by > 0 else math.floor(by + SAME)
        return made(ANGLE.number(value + STEP_TURNED * count))

    return way
