"""Evaluators: processes that evaluate, beside the web's own. Each is a pool of one worker; a mark always goes to the
same one, whose caches are warm. One that takes too long or too much memory is ended and replaced, and its caller told;
the others do not notice. They hold no connection to the database.
"""

import gc
import multiprocessing
import os
import threading
from collections.abc import Callable
from concurrent.futures.process import BrokenProcessPool
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
MOST_DEATHS: Final = 3
"""So often may an evaluator die of a call; an idle one that was killed counts as one too."""


class Stopped(Exception):
    """Work was ended, because it took too long or too much memory; nothing was changed."""


class Busy(Exception):
    """Other heavy work has not ended in time."""


class _Ended(Exception):
    """The process of an evaluator died while it worked, or before."""


class _Evaluator:
    """One process that evaluates; it is replaced whenever it ends."""

    def __init__(self, make: Callable[[], ProcessPool]) -> None:
        self._make = make
        self._pool = make()
        self._lock = threading.Lock()

    def call(self, function: Callable[..., T], *given: Any, seconds: float | None = None) -> T:
        """What a function gives there.

        Raises:
            TimeoutError: it took longer than `seconds`; its process was ended.
            _Ended: its process died.
            Exception: what the function raises.
        """
        pool = self._pool
        try:
            future = pool.schedule(function, args=given, timeout=seconds)
        except RuntimeError as error:
            self._replace(pool)
            raise _Ended from error
        try:
            return future.result()
        except ProcessExpired as error:
            raise _Ended from error
        except BrokenProcessPool as error:  # it died while it had nothing to do, which its pool does not get over
            self._replace(pool)
            raise _Ended from error

    def _replace(self, broken: ProcessPool) -> None:
        with self._lock:
            if self._pool is broken:
                self._pool = self._make()
        broken.stop()

    def close(self) -> None:
        """End it."""
        self._pool.stop()
        self._pool.join()


class Evaluators:
    """`count` evaluators for marks, and one for heavy work, which has the lowest claim on the processor."""

    def __init__(self, count: int, megabytes: int = MEGABYTES) -> None:
        os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
        context = multiprocessing.get_context("forkserver")
        context.set_forkserver_preload(["web.evaluator"])

        def pool(niceness: int) -> ProcessPool:
            return ProcessPool(max_workers=1, context=context, initializer=_begin, initargs=(megabytes, niceness))

        self._marks = [_Evaluator(lambda: pool(0)) for _number in range(count)]
        self._heavy = _Evaluator(lambda: pool(10))
        self._one = threading.Lock()

    def ready(self) -> None:
        """Wait until every evaluator takes calls."""
        for evaluator in (*self._marks, self._heavy):
            evaluator.call(os.getpid)

    def call(self, work: Callable[..., T], reference: PlanReference, given: tuple[Any, ...], *, heavy: bool) -> T:
        """What comes of work on a plan (see `door`)."""
        if not heavy:
            return _called(self._marks[reference.mark % len(self._marks)], work, reference, given, SECONDS)
        if not self._one.acquire(timeout=HEAVY_WAIT):
            raise Busy(_("Others are drawing large sheets just now. Try again in a moment."))
        try:
            return _called(self._heavy, work, reference, given, HEAVY_SECONDS)
        finally:
            self._one.release()

    def close(self) -> None:
        """End all evaluators."""
        for evaluator in (*self._marks, self._heavy):
            evaluator.close()


def _called(
    evaluator: _Evaluator, work: Callable[..., T], reference: PlanReference, given: tuple[Any, ...], seconds: float
) -> T:
    call = Call(work, reference.key, None, given, get_language() or "en", reference.studio, tracing.noted())
    data = reference.load() if reference.key == (0, 0) else None
    deaths = 0
    while deaths < MOST_DEATHS:
        try:
            found = evaluator.call(answer, replace(call, data=data), seconds=seconds)
        except TimeoutError as error:
            text = _("This took longer than {seconds} seconds and was stopped.")
            raise Stopped(text.format(seconds=f"{seconds:g}")) from error
        except _Ended:
            deaths += 1
            continue
        if not isinstance(found, Unknown):
            return found
        data = reference.load()
    raise Stopped(_("This took more memory than there is and was stopped."))


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
        gc.collect()  # semaphores are given back when what holds them is gone
