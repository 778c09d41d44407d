"""The one door to evaluation. Pages hand work through it and get plain values back: HTML, numbers, bytes.

Work is a function of a module, called with a plan, the cache of drawings and what else was given. With evaluators it
runs in one of their processes, a mark's always in the same one; without, as in tests and commands, in this one.
"""

from collections.abc import Callable
from typing import Any, Concatenate, Final, ParamSpec, TypeVar

from kagami.lettering.shelf import lending
from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from web.evaluation import evaluators
from web.evaluation.lent import StudioFaces
from web.evaluation.references import PlanReference

T = TypeVar("T")
P = ParamSpec("P")
Work = Callable[Concatenate[Plan, Cache, P], T]
HERE: Final = Cache()
"""Drawings of this process, where there are no evaluators."""


def ask(work: Callable[..., T], reference: PlanReference, *given: Any) -> T:
    """What comes of work on a plan.

    Raises:
        Stopped: it took too long or too much memory, and was ended.
        PlanError, Exception: what the work itself raises.
    """
    return _ask(work, reference, given, heavy=False)


def ask_heavy(work: Callable[..., T], reference: PlanReference, *given: Any) -> T:
    """The same for work that may take seconds: it stands in no editor's way.

    Raises:
        Busy: other heavy work has not ended in time.
        Stopped, PlanError, Exception: as `ask`.
    """
    return _ask(work, reference, given, heavy=True)


def _ask(work: Callable[..., T], reference: PlanReference, given: tuple[Any, ...], *, heavy: bool) -> T:
    pools = evaluators.running()
    if pools is not None:
        return pools.call(work, reference, given, heavy=heavy)
    with lending(StudioFaces(reference.studio)):
        return work(reference.plan(), HERE, *given)
