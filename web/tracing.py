"""Every request has an id: it stands in the log with what is known of the request, and on the page if something broke.

The log holds who, which mark and which revision, but never a password and nothing of a plan.
"""

import contextlib
import contextvars
import logging
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final

from django.http import HttpRequest, HttpResponse

Answer = Callable[[HttpRequest], HttpResponse]
HEADER: Final = "X-Request-ID"


@dataclass(frozen=True)
class Noted:
    """What the log notes of a request, in a form that can be handed to another process."""

    request_id: str = ""
    user_id: int | None = None
    mark: int | None = None
    revision: int | None = None


@dataclass
class _Known:
    """What is known of the request that is answered now."""

    request_id: str = ""
    request: HttpRequest | None = None
    mark: int | None = None
    revision: int | None = None

    def noted(self) -> Noted:
        user = getattr(self.request, "user", None) if self.request else None
        return Noted(self.request_id, getattr(user, "pk", None), self.mark, self.revision)


_known: contextvars.ContextVar[_Known | None] = contextvars.ContextVar("known", default=None)
_handed: contextvars.ContextVar[Noted | None] = contextvars.ContextVar("handed", default=None)


def noted() -> Noted:
    """What the log would note now."""
    known = _known.get()
    return _handed.get() or (known.noted() if known else Noted())


@contextlib.contextmanager
def noting(handed: Noted) -> Iterator[None]:
    """Within the block the log notes what another process handed over."""
    token = _handed.set(handed)
    try:
        yield
    finally:
        _handed.reset(token)


def traced(answer: Answer) -> Answer:
    """Give each request an id and carry it into the log and the answer."""

    def answering(request: HttpRequest) -> HttpResponse:
        known = _Known(uuid.uuid4().hex[:12], request)
        request.kagami_id = known.request_id
        _known.set(known)  # until the next request of this thread: what is logged after the answer belongs to it too
        response = answer(request)
        response[HEADER] = known.request_id
        return response

    return answering


def private_pages(answer: Answer) -> Answer:
    """Pages and answers that are somebody's own are kept by no cache."""

    def answering(request: HttpRequest) -> HttpResponse:
        response = answer(request)
        if not response.has_header("Cache-Control"):
            response["Cache-Control"] = "private, no-store"
        return response

    return answering


def about(mark: int, revision: int | None = None) -> None:
    """Note which mark, and which revision of it, the request is about."""
    known = _known.get()
    if known is not None:
        known.mark, known.revision = mark, revision


class WithRequest(logging.Filter):
    """Adds what is known of the request to a record of the log."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Never drops a record."""
        found = noted()
        record.request_id, record.user_id = found.request_id, found.user_id
        record.mark, record.revision = found.mark, found.revision
        return True
