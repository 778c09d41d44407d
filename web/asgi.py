"""The ASGI application: Django for requests, the live socket beside it, both within limits.

Pages are answered whole in one of a few threads, as under WSGI: to change between threads and the loop at every
middleware would cost more than most answers.
"""

import gc
import os
from collections.abc import Callable, Iterable
from typing import Any, Final

from a2wsgi import WSGIMiddleware
from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings")
_pages = get_wsgi_application()

from web.bench.live.socket import live  # noqa: E402
from web.intake import within_limits  # noqa: E402  (after Django is set up)

THREADS: Final = 48
"""Answers at once: those that wait for evaluators or heavy work included."""
SOCKET: Final = "kagami.socket"
"""In the environment of a request where pages may open a live socket."""

# An answer makes tens of thousands of small values that die at once by their counts. Looking for cycles among them, and
# among all that the libraries loaded, would halt one answer in twenty.
gc.freeze()
gc.set_threshold(100_000, 20, 50)


def _with_socket(environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
    environ[SOCKET] = True
    return _pages(environ, start_response)


_requests = within_limits(WSGIMiddleware(_with_socket, workers=THREADS))


async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
    """Answer a request, or talk over a socket."""
    if scope["type"] == "websocket":
        await live(scope, receive, send)
    else:
        await _requests(scope, receive, send)
