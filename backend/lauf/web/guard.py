"""What stands before the application: it reads each request whole, within limits of size and time,
and lets only so many in at once. Whoever has to wait too long is told when to come again.

A slow or endless sender holds neither a thread, nor a connection to the database, nor the disk.
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import Awaitable, Callable, MutableMapping
from contextlib import asynccontextmanager
from typing import TYPE_CHECKING, Any, Final

if TYPE_CHECKING:
    from collections.abc import AsyncIterator

Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
Application = Callable[[Message, Receive, Send], Awaitable[None]]

#: Bytes of a request: a conductor's state after a long lesson has about a third of it.
LARGEST: Final = 1_000_000
#: Of requests that carry a file: a norm table, a list of people.
LARGEST_FILE: Final = 4_000_000
#: A whole school, put into an empty Lauf.
LARGEST_SCHOOL: Final = 30_000_000
_WITH_SCHOOL: Final = "/setup/package"
_WITH_FILE: Final = ("/norms", "/norms/preview", "/lists", "/lists/preview")
#: Seconds in which all of a request has to be here.
LONGEST_SENDING: Final = 30.0
#: Requests that are worked on at once, each on a thread of its own and perhaps a connection.
AT_ONCE: Final = 24
#: Seconds after which a request that waits for its turn is sent away, and comes again.
LONGEST_WAIT: Final = 8.0
COME_AGAIN: Final = 2


class _Refused(Exception):
    def __init__(self, status: int, message: str, **headers: str) -> None:
        super().__init__(message)
        self.status, self.message, self.headers = status, message, headers


class Guard:
    """An ASGI application around another one."""

    def __init__(self, application: Application) -> None:
        self._application = application
        self._places = asyncio.Semaphore(AT_ONCE)

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        try:
            body = await _read(scope, receive)
            if body is None:
                return
            async with self._place():
                await self._application(scope, _again(body, receive), send)
        except _Refused as refused:
            await _answer(send, refused)

    @asynccontextmanager
    async def _place(self) -> AsyncIterator[None]:
        try:
            await asyncio.wait_for(self._places.acquire(), LONGEST_WAIT)
        except TimeoutError:
            words = "Very many are asking at this moment: what you sent is tried again."
            raise _Refused(503, words, **{"retry-after": str(COME_AGAIN)}) from None
        try:
            yield
        finally:
            self._places.release()


def _most(path: str) -> int:
    """How many bytes a request to an address may hold."""
    if path.endswith(_WITH_SCHOOL):
        return LARGEST_SCHOOL
    return LARGEST_FILE if path.endswith(_WITH_FILE) else LARGEST


async def _read(scope: Message, receive: Receive) -> bytes | None:
    """The body of a request; None when who sent it has gone. Raises _Refused."""
    most = _most(scope["path"])
    size = f"A request has at most {most // 1_000_000} MB."
    declared = dict(scope["headers"]).get(b"content-length", b"0")
    if not declared.isdigit() or int(declared) > most:
        raise _Refused(413, size)
    parts: list[bytes] = []
    held = 0
    try:
        async with asyncio.timeout(LONGEST_SENDING):
            while True:
                message = await receive()
                if message["type"] == "http.disconnect":
                    return None
                part = message.get("body", b"")
                held += len(part)
                if held > most:
                    raise _Refused(413, size)
                parts.append(part)
                if not message.get("more_body", False):
                    return b"".join(parts)
    except TimeoutError:
        words = f"A request has to be here within {LONGEST_SENDING:g} s."
        raise _Refused(408, words) from None


def _again(body: bytes, receive: Receive) -> Receive:
    """The body once more, and after it whatever comes then."""
    given = False

    async def receive_again() -> Message:
        nonlocal given
        if given:
            return await receive()
        given = True
        return {"type": "http.request", "body": body, "more_body": False}

    return receive_again


async def _answer(send: Send, refused: _Refused) -> None:
    """What is refused here is not read to its end: the connection closes."""
    body = json.dumps({"message": refused.message}).encode()
    headers = {
        "content-type": "application/json",
        "content-length": str(len(body)),
        "cache-control": "no-store",
        "connection": "close",
        **refused.headers,
    }
    named = [(name.encode(), value.encode()) for name, value in headers.items()]
    await send({"type": "http.response.start", "status": refused.status, "headers": named})
    await send({"type": "http.response.body", "body": body})
