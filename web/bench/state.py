"""What of the Bench is looked at: carried in the address and with every request, and kept nowhere else."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from kagami.plan.document import Plan
from kagami.plan.limits import COPIES, FIGURES_PER_STEP, STEPS
from kagami.plan.steps import Carve

MOST_LENGTH: Final = 41 * FIGURES_PER_STEP
"""Characters of a list of figures."""
VIEWS: Final = ("lines", "both", "ink", "regions")


@dataclass(frozen=True)
class Looking:
    """`step` is the active step, `view` one of `VIEWS`, `every` how far a pick reaches, `needle` the number of steps
    before the needle (None: all of them), `without` the figures that are left out of the cutting of regions.
    """

    step: str = ""
    view: str = "both"
    every: int = 1
    needle: int | None = None
    without: tuple[str, ...] = ()

    def position(self, plan: Plan) -> int:
        """Where a new step goes."""
        return len(plan.steps) if self.needle is None else min(self.needle, len(plan.steps))

    def carve(self, plan: Plan) -> Carve | None:
        """The carve whose regions are shown: the active one, or the last before the needle in the regions view."""
        carves = [step for step in plan.steps[: self.position(plan)] if isinstance(step, Carve)]
        active = next((step for step in carves if step.id == self.step), None)
        return active or (carves[-1] if carves and self.view == "regions" else None)

    def among(self, carve: Carve) -> tuple[str, ...]:
        """The figures of a carve that cut; none where all do."""
        among = tuple(identifier for identifier in carve.figures if identifier not in self.without)
        return among if len(among) < len(carve.figures) else ()


def looking(data: object) -> Looking:
    """Read the state from a query or a body; what cannot be read has its default."""
    if not isinstance(data, Mapping):
        return Looking()
    view = str(data.get("view", ""))
    return Looking(
        step=str(data.get("step", ""))[:40],
        view=view if view in VIEWS else "both",
        every=_whole(data.get("every"), 1, COPIES) or 0,
        needle=_whole(data.get("needle"), None, STEPS),
        without=tuple(sorted(set(str(data.get("without", ""))[:MOST_LENGTH].split()))),
    )


def _whole(value: object, default: int | None, most: int) -> int | None:
    text = str(value)
    return min(int(text), most) if text.isdecimal() and len(text) < 6 else default
