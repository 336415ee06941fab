"""What stands before the application: it reads each request whole, within limits of size and time,
and lets only so many in at once. Whoever has to wait too long is told when to come again.

A slow or endless sender holds neither a thread, nor a connection to the database, nor the disk.
There are four queues, and none takes a place of another: those who take scores (and all else);
sign-ins, links and codes of strangers; those of devices that are known; files that are read.
"""

from __future__ import annotations

import asyncio
import json
import re
import threading
from collections.abc import Awaitable, Callable, MutableMapping
from contextlib import asynccontextmanager
from typing import TYPE_CHECKING, Any, Final

from lauf.messages import say
from lauf.sandbox.run import CLIENT_GONE

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
#: Requests that have a file read, by the end of their address.
_READS_FILE: Final = (*_WITH_FILE, _WITH_SCHOOL, "/games/look", "/games/join", "/results")
#: Where somebody proves who they are, by a password, a link or a code.
_DOORS: Final = re.compile(
    r"/api/(welcome|setup|own/.*|calendar/.*|session/(password|second-factor.*))"
)
#: Seconds in which all of a request has to be here.
LONGEST_SENDING: Final = 30.0
#: Requests that are worked on at once, each on a thread of its own and perhaps a connection.
AT_ONCE: Final = 24
#: Seconds after which a request that waits for its turn is sent away, and comes again.
LONGEST_WAIT: Final = 8.0
COME_AGAIN: Final = 2
#: The same of the small queues: at once, how many may wait, and for how many seconds.
DOOR: Final = (2, 40, 12.0)
KNOWN_DOOR: Final = (2, 100, 20.0)
FILES: Final = (2, 20, 20.0)


class _Refused(Exception):
    def __init__(self, status: int, message: str, **headers: str) -> None:
        super().__init__(message)
        self.status, self.message, self.headers = status, message, headers


class _Queue:
    """Places that are taken one after the other; who comes when too many wait is sent away."""

    def __init__(self, at_once: int, waiting: int | None, seconds: float | None) -> None:
        self._places = asyncio.Semaphore(at_once)
        self._most, self._seconds = waiting, seconds
        self._waiting = 0

    @asynccontextmanager
    async def place(self) -> AsyncIterator[None]:
        if self._most is not None and self._waiting >= self._most:
            raise _too_many()
        self._waiting += 1
        try:
            await asyncio.wait_for(self._places.acquire(), self._seconds or LONGEST_WAIT)
        except TimeoutError:
            raise _too_many() from None
        finally:
            self._waiting -= 1
        try:
            yield
        finally:
            self._places.release()


def _too_many() -> _Refused:
    words = say("Lauf is very busy at the moment. It tries again.")
    return _Refused(503, words, **{"retry-after": str(COME_AGAIN)})


class Guard:
    """An ASGI application around another one.

    is_known  whether a cookie header is of a device on which somebody has signed in before
    """

    def __init__(
        self, application: Application, is_known: Callable[[bytes], bool] = lambda _: False
    ) -> None:
        self._application = application
        self._is_known = is_known
        self._all = _Queue(AT_ONCE, None, None)
        self._door, self._known = _Queue(*DOOR), _Queue(*KNOWN_DOOR)
        self._files = _Queue(*FILES)

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        gone = threading.Event()
        CLIENT_GONE.set(gone)
        try:
            body = await _read(scope, receive)
            if body is None:
                return
            async with self._queue(scope).place():
                await self._application(scope, _again(body, receive, gone), send)
        except _Refused as refused:
            await _answer(send, refused)

    def _queue(self, scope: Message) -> _Queue:
        path, method = scope["path"], scope["method"]
        if method == "POST" and path.endswith(_READS_FILE):
            return self._files
        if _DOORS.fullmatch(path) or (path == "/api/session" and method == "POST"):
            cookie = dict(scope["headers"]).get(b"cookie", b"")
            return self._known if self._is_known(cookie) else self._door
        return self._all


def _most(path: str) -> int:
    """How many bytes a request to an address may hold."""
    if path.endswith(_WITH_SCHOOL):
        return LARGEST_SCHOOL
    return LARGEST_FILE if path.endswith(_WITH_FILE) else LARGEST


async def _read(scope: Message, receive: Receive) -> bytes | None:
    """The body of a request; None when who sent it has gone. Raises _Refused."""
    most = _most(scope["path"])
    size = say("A request can have at most {most} MB.", most=most // 1000000)
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
        words = say(
            "A request must arrive within {longest_sending} s.",
            longest_sending=f"{LONGEST_SENDING:g}",
        )
        raise _Refused(408, words) from None


def _again(body: bytes, receive: Receive, gone: threading.Event) -> Receive:
    """The body once more, and after it whatever comes then: mostly that the client has gone."""
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
