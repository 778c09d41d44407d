"""Requests are taken in whole, within limits of size and time, before a thread works on them: a client that sends half
a request holds nothing but its own connection.
"""

import asyncio
from collections.abc import Awaitable, Callable
from typing import Any, Final

MOST_BODY: Final = 1_000_000
FILES: Final = {
    "/faces/bring/": 4_200_000,
    "/sketch/bring/": 30_000_000,
    "/outlines/read/": 2_100_000,
    "/outlines/bring/": 2_100_000,
}
"""Ends of addresses that take a file, and how large a request may be there, in place of `MOST_BODY`."""
MOST_HEARD: Final = 32_000_000
"""So much of a request that is too large is heard out and dropped: who is cut off while sending hears no answer."""
SECONDS: Final = 20.0
FILE_SECONDS: Final = 90.0
"""Where a file is brought: a photograph may come over a slow line."""
Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[dict[str, Any], Receive, Send], Awaitable[None]]


class _Refused(Exception):
    def __init__(self, status: int, text: str) -> None:
        super().__init__(text)
        self.status = status


def within_limits(application: Application) -> Application:
    """The application, whose requests come whole or are refused: 413 when too large, 408 when too slow."""

    async def answer(scope: dict[str, Any], receive: Receive, send: Send) -> None:
        try:
            body = await asyncio.wait_for(_body(receive, most_of(scope)), seconds_of(scope))
        except TimeoutError:
            await _refuse(send, _Refused(408, "The request did not come whole in time.\n"))
            return
        except _Refused as refusal:
            await _refuse(send, refusal)
            return
        if body is None:  # the client is gone
            return
        waiting: list[Message] = [{"type": "http.request", "body": body, "more_body": False}]

        async def again() -> Message:
            return waiting.pop() if waiting else await receive()

        await application(scope, again, send)

    return answer


def most_of(scope: dict[str, Any]) -> int:
    """How large a request may be, by its address."""
    path = str(scope.get("path", ""))
    return next((most for end, most in FILES.items() if path.endswith(end)), MOST_BODY)


def seconds_of(scope: dict[str, Any]) -> float:
    """How long a request may take to come, by its address."""
    return FILE_SECONDS if str(scope.get("path", "")).endswith(tuple(FILES)) else SECONDS


async def _body(receive: Receive, most: int) -> bytes | None:
    parts, size = [], 0
    while True:
        message = await receive()
        if message["type"] == "http.disconnect":
            return None
        part = message.get("body", b"")
        size += len(part)
        whole = not message.get("more_body")
        if size > most:
            parts.clear()
            if whole or size > MOST_HEARD:
                raise _Refused(413, f"The request is larger than {most:,} bytes.\n")
            continue
        parts.append(part)
        if whole:
            return b"".join(parts)


async def _refuse(send: Send, refusal: _Refused) -> None:
    text = str(refusal).encode()
    headers = [
        (b"content-type", b"text/plain"),
        (b"content-length", str(len(text)).encode()),
        (b"connection", b"close"),
    ]
    await send({"type": "http.response.start", "status": refusal.status, "headers": headers})
    await send({"type": "http.response.body", "body": text})
