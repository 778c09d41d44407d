"""Make your first mark: five tasks that notice, from the plan alone, when they are done."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.plan.document import Plan
from kagami.plan.steps import Carve, Circle, Turn
from kagami.plan.steps.bar import Bar, BarBetween


@dataclass(frozen=True)
class Task:
    """What to do, and whether it is done."""

    text: str
    done: bool


TASKS: Final[tuple[tuple[str, Callable[[Plan], bool]], ...]] = (
    (
        "Draw a circle: click “circle” in the strip, press on O and draw outward.",
        lambda plan: any(isinstance(step, Circle) for step in plan.steps),
    ),
    (
        "Set a bar on its top: click “bar”, press on the top of the circle and draw upward.",
        lambda plan: any(isinstance(step, Bar | BarBetween) and "." in step.foot for step in plan.steps),
    ),
    (
        "Repeat it: choose the bar, click “turn”, press on O.",
        lambda plan: any(isinstance(step, Turn) for step in plan.steps),
    ),
    (
        "Carve: click “keep or drop” and draw a line across the regions that are to stay.",
        lambda plan: any(isinstance(step, Carve) and step.picks for step in plan.steps),
    ),
    (
        "Give a number a name: open the circle and click “name” below it, so that other values can use it.",
        lambda plan: bool(plan.measures),
    ),
)


def tasks_of(plan: Plan) -> tuple[Task, ...]:
    """The tasks; none where all are done."""
    found = tuple(Task(_(text), done(plan)) for text, done in TASKS)
    return () if all(task.done for task in found) else found
