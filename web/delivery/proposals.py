"""Proposals for a variant that is to be small, as the page tells them. Work for evaluators."""

from dataclasses import dataclass
from typing import Final

from django.utils.translation import gettext as _

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.fields.values import ANGLE
from kagami.plan.messages import number_text
from kagami.plan.proposals.proposing import Mending, propose

LIMIT: Final = 1.0
"""Pixels that every part must have."""
SECONDS: Final = 24.0


@dataclass(frozen=True)
class Proposal:
    """One change that mends a fault: what is wrong, what would be other, and what that comes to. `kind` and the values
    beside it are those of the form that takes it; without a `kind` nothing was found.
    """

    key: str
    fault: str
    words: str
    comes_to: str
    kind: str = ""
    measure: str = ""
    step: str = ""
    field: str = ""
    value: str = ""


@dataclass(frozen=True)
class Proposed:
    """All of them, and in words what they come to together."""

    pixels: int
    proposals: tuple[Proposal, ...]
    before: str
    after: str
    enough: bool


def proposed_for(plan: Plan, cache: Cache, name: str, pixels: int, refused: tuple[str, ...]) -> Proposed | None:
    """What would make a variant fit for a size; None where there is no such variant."""
    variant = plan.variant(name)
    if variant is None:
        return None
    found = propose(plan, cache, variant, pixels, LIMIT, frozenset(refused), SECONDS)
    lines = tuple(_proposal(one, plan) for one in found.mendings)
    return Proposed(pixels, lines, _px(found.before), _px(found.after), found.enough)


def _proposal(mending: Mending, plan: Plan) -> Proposal:
    what = _("A part is {size} wide") if mending.what == "ink" else _("A gap is {size} wide")
    fault = what.format(size=_px(mending.was))
    alteration = mending.alteration
    if alteration is None:
        return Proposal("", fault, _("no single change mends it"), "")
    comes_to = _("it becomes {size}, and {share} % of the mark is other").format(
        size=_px(mending.becomes), share=number_text(round(100 * mending.changes))
    )
    common = {"key": alteration.key, "fault": fault, "comes_to": comes_to}
    if alteration.measure:
        words = _("{name} is {value}").format(name=alteration.measure, value=alteration.value)
        return Proposal(
            words=words, kind="set-variant-value", measure=alteration.measure, value=alteration.value, **common
        )
    altered = plan.step(alteration.step)
    step = altered.name if altered else alteration.step
    if not alteration.value:
        return Proposal(
            words=_("without {name}").format(name=step), kind="hush-in-variant", step=alteration.step, **common
        )
    degrees = altered is not None and altered.field_kinds().get(alteration.field) is ANGLE
    words = _("{field} of {name} is {value}").format(
        field=alteration.field.replace("_", " "), name=step, value=alteration.value + "°" * degrees
    )
    return Proposal(
        words=words, kind="vary", step=alteration.step, field=alteration.field, value=alteration.value, **common
    )


def _px(pixels: float) -> str:
    return f"{number_text(float(f'{pixels:.2g}'))} px"
