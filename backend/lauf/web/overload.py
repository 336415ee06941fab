"""Overload protection in front of the application: each request is read completely, within limits
of size and time, and only so many run at once. A request that waits too long gets 503 with
`Retry-After`.

A slow or endless client holds no thread, database connection or disk. Four queues are independent:
scores and everything else; sign-ins, links and codes of unknown devices; those of known devices;
uploaded files.
"""

from __future__ import annotations

import asyncio
import json
import re
import threading
from contextlib import asynccontextmanager
from typing import TYPE_CHECKING, Final

from lauf.messages import say
from lauf.sandbox.run import CLIENT_GONE
from lauf.web.shapes import LARGEST, LARGEST_FILE, LARGEST_SCHOOL
from lauf.web.watching import WAITING

if TYPE_CHECKING:
    from collections.abc import AsyncIterator, Callable

    from lauf.web.shapes import Application, Message, Receive, Send

_WITH_SCHOOL: Final = "/setup/package"
_WITH_FILE: Final = ("/norms", "/norms/preview", "/lists", "/lists/preview")
#: Requests that have a file read, by the end of their address.
_READS_FILE: Final = (*_WITH_FILE, _WITH_SCHOOL, "/games/look", "/games/join", "/results")
#: Endpoints that check a password, a link or a code.
_CREDENTIALS: Final = re.compile(
    r"/api/(welcome|setup|own/.*|calendar/.*|session/(password|second-factor.*))"
)
#: Seconds in which a whole request has to arrive.
BODY_TIMEOUT: Final = 30.0
#: Requests that run at once, each on its own thread and perhaps with a database connection.
CONCURRENT_REQUESTS: Final = 24
#: Seconds a request waits in the queue before it gets 503; then the client retries.
QUEUE_TIMEOUT: Final = 8.0
RETRY_AFTER: Final = 2
#: The same for the small queues: concurrent, waiting, seconds.
UNKNOWN_DEVICES: Final = (2, 40, 12.0)
KNOWN_DEVICES: Final = (2, 100, 20.0)
FILES: Final = (2, 20, 20.0)


class _Refused(Exception):
    def __init__(self, status: int, message: str, **headers: str) -> None:
        super().__init__(message)
        self.status, self.message, self.headers = status, message, headers


class _Queue:
    """A limit of concurrent requests; beyond `waiting` in the queue a request is refused."""

    def __init__(self, at_once: int, waiting: int | None, seconds: float | None) -> None:
        self._places = asyncio.Semaphore(at_once)
        self._most, self._seconds = waiting, seconds
        self._waiting = 0

    @asynccontextmanager
    async def place(self) -> AsyncIterator[None]:
        if self._most is not None and self._waiting >= self._most:
            raise _overloaded()
        self._waiting += 1
        WAITING.inc()
        try:
            await asyncio.wait_for(self._places.acquire(), self._seconds or QUEUE_TIMEOUT)
        except TimeoutError:
            raise _overloaded() from None
        finally:
            self._waiting -= 1
            WAITING.dec()
        try:
            yield
        finally:
            self._places.release()


def _overloaded() -> _Refused:
    words = say("Lauf is very busy at the moment. It tries again.")
    return _Refused(503, words, **{"retry-after": str(RETRY_AFTER)})


class OverloadLimiter:
    """An ASGI application around another one.

    is_known  whether a cookie header is of a device on which somebody has signed in before
    """

    def __init__(
        self, application: Application, is_known: Callable[[bytes], bool] = lambda _: False
    ) -> None:
        self._application = application
        self._is_known = is_known
        self._all = _Queue(CONCURRENT_REQUESTS, None, None)
        self._unknown, self._known = _Queue(*UNKNOWN_DEVICES), _Queue(*KNOWN_DEVICES)
        self._files = _Queue(*FILES)

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        gone = threading.Event()
        CLIENT_GONE.set(gone)
        try:
            body = await _read_body(scope, receive)
            if body is None:
                return
            async with self._queue(scope).place():
                await self._application(scope, _replayed(body, receive, gone), send)
        except _Refused as refused:
            await _answer(send, refused)

    def _queue(self, scope: Message) -> _Queue:
        path, method = scope["path"], scope["method"]
        if method == "POST" and path.endswith(_READS_FILE):
            return self._files
        if _CREDENTIALS.fullmatch(path) or (path == "/api/session" and method == "POST"):
            cookie = dict(scope["headers"]).get(b"cookie", b"")
            return self._known if self._is_known(cookie) else self._unknown
        return self._all


def _body_limit(path: str) -> int:
    """The largest request body of a path, in bytes."""
    if path.endswith(_WITH_SCHOOL):
        return LARGEST_SCHOOL
    return LARGEST_FILE if path.endswith(_WITH_FILE) else LARGEST


async def _read_body(scope: Message, receive: Receive) -> bytes | None:
    """The body of a request; None if the client has gone. Raises _Refused."""
    most = _body_limit(scope["path"])
    size = say("A request can have at most {most} MB.", most=most // 1000000)
    declared = dict(scope["headers"]).get(b"content-length", b"0")
    if not declared.isdigit() or int(declared) > most:
        raise _Refused(413, size)
    parts: list[bytes] = []
    held = 0
    try:
        async with asyncio.timeout(BODY_TIMEOUT):
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
        words = say(
            "A request must arrive within {seconds} s.",
            seconds=f"{BODY_TIMEOUT:g}",
        )
        raise _Refused(408, words) from None


def _replayed(body: bytes, receive: Receive, gone: threading.Event) -> Receive:
    """`receive` that gives the body again, then passes on what follows, such as a disconnect."""
    given = False

    async def receive_again() -> Message:
        nonlocal given
        if given:
            message = await receive()
            if message["type"] == "http.disconnect":
                gone.set()
            return message
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
