"""What can be wrong with a plan, by cause: a stable code and the values that a message needs."""

from __future__ import annotations

from kagami.plan.messages import explain
from kagami.plan.translation import tr


class PlanError(Exception):
    """Something in a plan that cannot be done. `field` names the place within the step, where there is one."""

    def __init__(self, code: str, /, *, field: str | None = None, **values: object) -> None:
        super().__init__(code)
        self.code = code
        self.field = field
        self.values = values

    def at(self, field: str) -> PlanError:
        """The same error, placed at a field."""
        return type(self)(self.code, field=field, **self.values)

    def __str__(self) -> str:
        place = {} if self.field is None else {"field": tr(self.field.replace("_", " "))}
        return explain(self.code, {**place, **self.values})


class ExpressionError(PlanError):
    """A value that cannot be read or computed; `values["position"]` is the character it is about, from 0."""


class ReferenceLost(PlanError):
    """A step names a figure or an anchor that is not there (before it)."""


class DocumentError(PlanError):
    """A document that is no plan; `values["path"]` says where in it."""


class ChangeRefused(PlanError):
    """A change that cannot be made to this plan."""
