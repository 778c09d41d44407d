"""The live socket: a question at a time, the newest next.

A page sends questions as JSON texts and gets an answer to each that was not overtaken. What is being evaluated is not
broken off; of the questions that came meanwhile only the last one is taken up. Nobody who is not signed in to the page
has a token, and a page of another site is turned away by its origin.

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

from web.live.answers import answer

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
        self.newest: Message | None = None
        self.asked = asyncio.Event()

    async def go_on(self) -> None:
        answering = asyncio.create_task(self._answer())
        try:
            while (message := await self.receive())["type"] == "websocket.receive":
                self._take(message.get("text") or "")
        finally:
            answering.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await answering

    def _take(self, text: str) -> None:
        """Note the newest question; those that it overtakes are not answered."""
        try:
            question = json.loads(text)
        except (ValueError, RecursionError):
            return
        if isinstance(question, dict):
            self.newest = question
            self.asked.set()

    async def _answer(self) -> None:
        while True:
            await self.asked.wait()
            self.asked.clear()
            question, self.newest = self.newest, None
            if question is not None:
                await self._send_back(await _answered(question))

    async def _send_back(self, found: dict[str, Any]) -> None:
        with contextlib.suppress(OSError, RuntimeError):  # the page is gone
            await self.send({"type": "websocket.send", "text": json.dumps(found, ensure_ascii=False)})


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
