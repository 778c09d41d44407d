"""Requests are taken in whole, within limits of size and time, before a thread works on them: a client that sends half
a request holds nothing but its own connection.
"""

import asyncio
from collections.abc import Awaitable, Callable
from typing import Any, Final

MOST_BODY: Final = 1_000_000
SECONDS: Final = 20.0
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
            body = await asyncio.wait_for(_body(receive), SECONDS)
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


async def _body(receive: Receive) -> bytes | None:
    parts, size = [], 0
    while True:
        message = await receive()
        if message["type"] == "http.disconnect":
            return None
        part = message.get("body", b"")
        size += len(part)
        if size > MOST_BODY:
            raise _Refused(413, f"The request is larger than {MOST_BODY:,} bytes.\n")
        parts.append(part)
        if not message.get("more_body"):
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
