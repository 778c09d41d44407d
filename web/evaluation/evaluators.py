"""Evaluators: processes that evaluate, beside the web's own. Each is a pool of one worker; a mark always goes to the
same one, whose caches are warm. One that takes too long or too much memory is ended and replaced, and its caller told;
the others do not notice. They hold no connection to the database.
"""

import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures import TimeoutError as FutureTimeout
from dataclasses import replace
from typing import Any, Final, TypeVar

from django.utils.translation import get_language
from django.utils.translation import gettext as _
from pebble import ProcessExpired, ProcessPool

from web import tracing
from web.evaluation.calls import Call, Unknown, answer, prepare
from web.evaluation.references import PlanReference

T = TypeVar("T")
SECONDS: Final = 20.0
"""What one call may take in all."""
HEAVY_SECONDS: Final = 40.0
HEAVY_WAIT: Final = 10.0
"""How long heavy work waits for the one before it."""
MEGABYTES: Final = 2000
"""Address space of an evaluator."""


class Stopped(Exception):
    """Work was ended, because it took too long or too much memory; nothing was changed."""


class Busy(Exception):
    """Other heavy work has not ended in time."""


class Evaluators:
    """`count` evaluators for marks, and one for heavy work, which has the lowest claim on the processor."""

    def __init__(self, count: int, megabytes: int = MEGABYTES) -> None:
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload(["web.evaluation.child"])
        self._marks = [_pool(context, megabytes, 0) for _number in range(count)]
        self._heavy = _pool(context, megabytes, 10)
        self._one = threading.Lock()

    def ready(self) -> None:
        """Wait until every evaluator takes calls."""
        for future in [pool.schedule(os.getpid) for pool in (*self._marks, self._heavy)]:
            future.result()

    def call(self, work: Callable[..., T], reference: PlanReference, given: tuple[Any, ...], *, heavy: bool) -> T:
        """What comes of work on a plan (see `door`)."""
        if not heavy:
            return self._called(self._marks[reference.mark % len(self._marks)], work, reference, given, SECONDS)
        if not self._one.acquire(timeout=HEAVY_WAIT):
            raise Busy(_("Others are drawing large sheets just now. Try again in a moment."))
        try:
            return self._called(self._heavy, work, reference, given, HEAVY_SECONDS)
        finally:
            self._one.release()

    def _called(
        self,
        pool: ProcessPool,
        work: Callable[..., T],
        reference: PlanReference,
        given: tuple[Any, ...],
        seconds: float,
    ) -> T:
        call = Call(work, reference.key, None, given, get_language() or "en", tracing.noted())
        data = reference.load() if reference.key == (0, 0) else None
        for _try in range(4):
            call = replace(call, data=data)
            try:
                found = pool.schedule(answer, args=(call,), timeout=seconds).result()
            except FutureTimeout as error:
                raise Stopped(_("This took longer than {seconds} seconds and was stopped.")) from error
            except ProcessExpired:
                continue
            if not isinstance(found, Unknown):
                return found
            data = reference.load()
        raise Stopped(_("This took more memory than there is and was stopped."))

    def close(self) -> None:
        """End all evaluators."""
        for pool in (*self._marks, self._heavy):
            pool.stop()
            pool.join()


def _pool(context: Any, megabytes: int, niceness: int) -> ProcessPool:
    return ProcessPool(max_workers=1, context=context, initializer=_begin, initargs=(megabytes, niceness))


def _begin(megabytes: int, niceness: int) -> None:
    os.nice(niceness)
    prepare(megabytes)


_running: Evaluators | None = None


def running() -> Evaluators | None:
    """The evaluators of this process, if it has any."""
    return _running


def start(count: int, megabytes: int = MEGABYTES) -> None:
    """Start evaluators for this process, and wait until they take calls."""
    global _running
    _running = Evaluators(count, megabytes)
    _running.ready()


def stop() -> None:
    """End the evaluators of this process."""
    global _running
    if _running is not None:
        _running.close()
        _running = None
