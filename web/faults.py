"""Faults of the program: told by a number that stands in the log with the trace, while the rest of a page comes."""

import logging
import secrets
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, TypeVar

from django.core.exceptions import ObjectDoesNotExist
from django.db import Error as DatabaseError

LOG: Final = logging.getLogger(__name__)
T = TypeVar("T")


@dataclass(frozen=True)
class Fault:
    """Something that could not be drawn; `number` stands in the log."""

    number: str


def guarded(what: str, draw: Callable[[], T]) -> T | Fault:
    """What is drawn or, whatever goes wrong, a fault. Trouble with the database, and that something was deleted in the
    meantime, is passed on: nothing comes then.
    """
    try:
        return draw()
    except (DatabaseError, ObjectDoesNotExist):
        raise
    except Exception as error:
        number = secrets.token_hex(4)
        LOG.error("fault %s while drawing %s", number, what, exc_info=error)
        return Fault(number)
