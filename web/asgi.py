"""The ASGI application: Django for requests, the live socket beside it, both within limits."""

import gc
import os
import warnings
from typing import Any

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "web.settings")
_pages = get_asgi_application()

from web.intake import within_limits  # noqa: E402  (after Django is set up)
from web.live.socket import live  # noqa: E402

_requests = within_limits(_pages)

# Static files come from an iterator that reads a file bit by bit in a thread; that is what is wanted.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")

# An answer makes tens of thousands of small values that die at once by their counts. Looking for cycles among them, and
# among all that the libraries loaded, would halt one answer in twenty.
gc.freeze()
gc.set_threshold(100_000, 20, 50)


async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
    """Answer a request, or talk over a socket."""
    if scope["type"] == "websocket":
        await live(scope, receive, send)
    else:
        await _requests(scope, receive, send)
