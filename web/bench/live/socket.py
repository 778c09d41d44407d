"""The live socket: a question at a time, the newest next.

A page sends questions as JSON texts and gets an answer to each that was not overtaken. What is being evaluated is not
broken off; of the questions that came meanwhile only the last one is taken up. What is asked when the hand rests is
answered beside the others, which do not wait for it. Nobody who is not signed in to the page has a token, and a page of
another site is turned away by its origin.

Source of the messages: ASGI specification 3.0, chapter “WebSocket”.
"""

import asyncio
import contextlib
import json
import logging
import re
from collections.abc import Awaitable, Callable
from typing import Any, Final
from urllib.parse import urlsplit

from asgiref.sync import sync_to_async
from django.conf import settings
from django.db import close_old_connections
from django.http.request import validate_host

from web.bench.live.answers import answer

LOG: Final = logging.getLogger(__name__)
PATH: Final = re.compile(r"^/live/$")
REFUSED: Final = 4403
Message = dict[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]


async def live(scope: dict[str, Any], receive: Receive, send: Send) -> None:
    """Talk with one page until it goes."""
    if (await receive())["type"] != "websocket.connect":
        return
    if not PATH.match(scope["path"]) or not _from_here(scope):
        await send({"type": "websocket.close", "code": REFUSED})
        return
    await send({"type": "websocket.accept"})
    await _Talk(receive, send).go_on()


def _from_here(scope: dict[str, Any]) -> bool:
    """Whether a socket was opened by a page of this site: its origin has the host that was asked for."""
    headers = {name.decode("latin-1").lower(): value.decode("latin-1") for name, value in scope["headers"]}
    host, origin = headers.get("host", ""), urlsplit(headers.get("origin", "")).netloc
    name = host.rpartition(":")[0] if re.search(r":\d+$", host) else host
    return bool(host) and host == origin and validate_host(name, settings.ALLOWED_HOSTS)


class _Talk:
    """The questions and answers of one page."""

    def __init__(self, receive: Receive, send: Send) -> None:
        self.receive, self.send = receive, send
        self.sending = asyncio.Lock()
        self.moving, self.resting = _Line(self._send_back), _Line(self._send_back)

    async def go_on(self) -> None:
        answering = [asyncio.create_task(line.answer()) for line in (self.moving, self.resting)]
        try:
            while (message := await self.receive())["type"] == "websocket.receive":
                self._take(message.get("text") or "")
        finally:
            for task in answering:
                task.cancel()
            for task in answering:
                with contextlib.suppress(asyncio.CancelledError):
                    await task

    def _take(self, text: str) -> None:
        try:
            question = json.loads(text)
        except (ValueError, RecursionError):
            return
        if isinstance(question, dict):
            (self.resting if question.get("rested") is True else self.moving).take(question)

    async def _send_back(self, found: dict[str, Any]) -> None:
        with contextlib.suppress(OSError, RuntimeError):  # the page is gone
            async with self.sending:
                await self.send({"type": "websocket.send", "text": json.dumps(found, ensure_ascii=False)})


class _Line:
    """Questions that wait for each other: the newest is next, and those that it overtakes are not answered."""

    def __init__(self, send_back: Callable[[dict[str, Any]], Awaitable[None]]) -> None:
        self.send_back = send_back
        self.newest: Message | None = None
        self.asked = asyncio.Event()

    def take(self, question: Message) -> None:
        self.newest = question
        self.asked.set()

    async def answer(self) -> None:
        while True:
            await self.asked.wait()
            self.asked.clear()
            question, self.newest = self.newest, None
            if question is not None:
                await self.send_back(await _answered(question))


async def _answered(question: Message) -> dict[str, Any]:
    try:
        return await sync_to_async(_in_thread, thread_sensitive=False)(question)
    except Exception as error:
        LOG.error("a live question broke", exc_info=error)
        return {"seq": question.get("seq"), "error": "", "code": "broken"}


def _in_thread(question: Message) -> dict[str, Any]:
    try:
        return answer(question)
    finally:
        close_old_connections()
