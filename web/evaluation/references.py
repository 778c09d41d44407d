"""What is evaluated: a mark's plan, told by its revision, so that who knows it already need not be sent it."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from kagami.plan.document import Plan, from_data


@dataclass(frozen=True)
class PlanReference:
    """A revision of a mark; `load` gives its plan as a document, and is asked only where it is not known."""

    mark: int
    revision: int
    load: Callable[[], dict[str, Any]] = field(repr=False, compare=False)
    studio: int = 0
    """Whose faces are at hand; 0 for nobody's."""

    @property
    def key(self) -> tuple[int, int]:
        """What it is remembered by; revisions never change."""
        return self.mark, self.revision

    def plan(self) -> Plan:
        """The plan itself."""
        return from_data(self.load())


def unsaved(plan: Plan, studio: int) -> PlanReference:
    """A plan that belongs to no revision, in a studio; it is not remembered."""
    return PlanReference(0, 0, lambda: plan.model_dump(mode="json"), studio)
