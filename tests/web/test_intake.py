"""Requests are taken in whole or refused, and who sends too much hears so."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from unittest import IsolatedAsyncioTestCase
from unittest.mock import patch

from web import intake
from web.intake import FILES, MOST_BODY, MOST_HEARD, within_limits

MIB = 1 << 20


class Intake(IsolatedAsyncioTestCase):
    async def asked(self, parts: Iterator[bytes | None], path: str = "/marks/1/change/") -> tuple[int, bytes, int]:
        """Status and text of the answer to a request in parts (None: the client is gone), and how many parts were
        heard.
        """
        heard, sent = 0, []

        async def receive() -> dict[str, Any]:
            nonlocal heard
            part = next(parts, b"")
            heard += 1
            if part is None:
                return {"type": "http.disconnect"}
            return {"type": "http.request", "body": part, "more_body": bool(part)}

        async def send(message: dict[str, Any]) -> None:
            sent.append(message)

        async def application(scope: dict[str, Any], receive: Any, send: Any) -> None:
            body = (await receive())["body"]
            await send({"type": "http.response.start", "status": 200, "headers": []})
            await send({"type": "http.response.body", "body": str(len(body)).encode()})

        await within_limits(application)({"type": "http", "path": path}, receive, send)
        return (sent[0]["status"], sent[1]["body"], heard) if sent else (0, b"", heard)

    async def test_what_is_small_enough_comes_whole(self) -> None:
        for path, most in (("/marks/1/change/", MOST_BODY), *((f"/marks/1{end}", most) for end, most in FILES.items())):
            half = b"x" * (most // 2)
            self.assertEqual(await self.asked(iter([half, half]), path), (200, str(most).encode(), 3))

    async def test_what_is_too_large_is_heard_out_and_refused(self) -> None:
        status, text, heard = await self.asked(iter([b"x" * MIB] * 6))
        self.assertEqual((status, heard), (413, 7))
        self.assertIn(f"larger than {MOST_BODY:,} bytes", text.decode())

    async def test_nobody_is_listened_to_for_ever(self) -> None:
        status, _, heard = await self.asked(iter([b"x" * MIB] * 10_000))
        self.assertEqual((status, heard), (413, MOST_HEARD // MIB + 1))

    async def test_half_a_request_and_one_that_is_gone(self) -> None:
        self.assertEqual(await self.asked(iter([b"x", None])), (0, b"", 2))
        with patch.object(intake, "SECONDS", 0.0):
            status, text, _ = await self.asked(iter([b"x"] * 3))
        self.assertEqual((status, text), (408, b"The request did not come whole in time.\n"))
