"""Within an evaluator: plans that were seen before, the cache of drawings, and the work itself.

It holds no connection to the database and knows no request.
"""

import contextlib
import gc
import resource
from collections import OrderedDict
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Final

from django.utils import translation
from django.utils.translation import gettext

from kagami.lettering.shelf import lending
from kagami.plan.document import Plan, from_data
from kagami.plan.evaluation.cache import Cache
from kagami.plan.translation import speaking
from kagami.warm import warm
from web import tracing
from web.evaluation.lent import StudioFaces

MOST_PLANS: Final = 400
CACHE: Final = Cache()
PLANS: Final[OrderedDict[tuple[int, int], Plan]] = OrderedDict()


@dataclass(frozen=True)
class Call:
    """Work on a plan, and on whose behalf: the language of the answer, and what the log notes."""

    work: Callable[..., Any]
    key: tuple[int, int]
    data: dict[str, Any] | None
    given: tuple[Any, ...]
    language: str
    studio: int
    noted: tracing.Noted


@dataclass(frozen=True)
class Unknown:
    """The plan of a call is not known here: it is to be sent once."""


def prepare(megabytes: int) -> None:
    """Make ready for calls: everything that drawing needs is loaded, and memory has an end."""
    warm()
    gc.freeze()  # see `asgi`: what the libraries loaded is not looked through for cycles again
    gc.set_threshold(100_000, 20, 50)
    if megabytes:
        resource.setrlimit(resource.RLIMIT_AS, (megabytes * 1_000_000,) * 2)


def answer(call: Call) -> Any:
    """What comes of a call."""
    with _surroundings(call):
        plan = _plan(call)
        return Unknown() if plan is None else call.work(plan, CACHE, *call.given)


def remember(key: tuple[int, int], plan: Plan) -> None:
    """Keep a plan for later calls."""
    if key == (0, 0):
        return
    PLANS[key] = plan
    PLANS.move_to_end(key)
    while len(PLANS) > MOST_PLANS:
        PLANS.popitem(last=False)


def _plan(call: Call) -> Plan | None:
    plan = PLANS.get(call.key)
    if plan is None and call.data is not None:
        plan = from_data(call.data)
    if plan is not None:
        remember(call.key, plan)
    return plan


@contextlib.contextmanager
def _surroundings(call: Call) -> Iterator[None]:
    with (
        tracing.noting(call.noted),
        translation.override(call.language),
        speaking(gettext),
        lending(StudioFaces(call.studio)),
    ):
        yield
