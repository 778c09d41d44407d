"""Evaluated plans, with one cache of drawings for the whole process."""

from typing import Final

from kagami.plan.document import Plan
from kagami.plan.evaluation.cache import Cache
from kagami.plan.evaluation.evaluate import evaluate
from kagami.plan.evaluation.result import Result

CACHE: Final = Cache()


def evaluated(plan: Plan) -> Result:
    """A plan, evaluated; what this process drew before is not drawn again."""
    return evaluate(plan, CACHE)
