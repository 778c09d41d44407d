"""Work that takes long is done one at a time in a process, so that it never holds all threads."""

import contextlib
import threading
from collections.abc import Iterator
from typing import Final

from django.utils.translation import gettext as _

WAIT_SECONDS: Final = 10.0
_one: Final = threading.Lock()


class Busy(Exception):
    """Other heavy work has not ended in time."""


@contextlib.contextmanager
def heavy_work() -> Iterator[None]:
    """Hold the one place for heavy work.

    Raises:
        Busy: it was not free in time.
    """
    if not _one.acquire(timeout=WAIT_SECONDS):
        raise Busy(_("Others are drawing large sheets just now. Try again in a moment."))
    try:
        yield
    finally:
        _one.release()
