"""Small plans that several tests build on, made by the same changes that the Bench makes."""

from __future__ import annotations

import numpy as np

from kagami.plan.changes.change import change
from kagami.plan.changes.picks import carve_detail
from kagami.plan.document import Plan
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result
from kagami.plan.steps.carve import CarveDetail


class Builder:
    """A plan that grows by changes."""

    def __init__(self, title: str = "Test mark") -> None:
        self.plan = Plan(title=title)

    def do(self, kind: str, **given: object) -> str | None:
        """Make a change; returns the step that it was about."""
        changed = change(self.plan, kind, given)
        self.plan = changed.plan
        return changed.step

    def add(self, step_kind: str, **fields: object) -> str:
        """Add a step; returns its id."""
        step = self.do("add-step", step_kind=step_kind, fields=fields)
        assert step is not None
        return step

    def measure(self, name: str, value: str) -> None:
        """Add a measure."""
        self.do("add-measure", name=name, value=value)

    @property
    def result(self) -> Result:
        """The plan, evaluated."""
        return evaluate(self.plan)

    def detail(self, step: str) -> CarveDetail:
        """The regions of a carve."""
        detail = carve_detail(self.result.outcomes[step])
        assert detail is not None
        return detail

    def face_at(self, step: str, x: float, y: float) -> int:
        """The region of a carve at a place."""
        return int(self.detail(step).regions.arrangement.locate(np.array([[x, y]]))[0])

    def pick(self, step: str, x: float, y: float, every: int = 1) -> None:
        """Click the region at a place."""
        self.do("pick", step=step, region=self.face_at(step, x, y), every=every)

    def kept_at(self, step: str, x: float, y: float) -> bool:
        """Whether the region at a place is kept."""
        return bool(self.detail(step).kept[self.face_at(step, x, y)])


def beams(copies: str = "12") -> Builder:
    """Twelve beams round a lens, carved: the lens and the beams between foot and rim are kept."""
    mark = Builder("Beams")
    mark.measure("gap", "u/4")
    mark.add("circle", name="lens", radius="1.5u")
    mark.add("circle", name="foot", radius="1.5u + 4gap")
    mark.add("circle", name="rim", radius="8u")
    mark.add("bar", name="beam", width="1.1u", length="9u")
    mark.add("turn", name="beams", figure="beam", copies=copies)
    mark.add("carve", name="light", figures=["lens", "foot", "rim", "beams"])
    mark.pick("light", 0, 5)
    return mark
