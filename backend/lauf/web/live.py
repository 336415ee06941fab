"""What happens in a lesson, told to its devices as it happens: server-sent events, fed by what
PostgreSQL notifies of (`records/migrations/0017`).

A stream holds no thread and no place in the queue of requests: who may have it is asked of the
application as of every address, and once it has answered, this layer goes on. An event says what
has changed and never what it is now, so that a device asks for that as for everything else. After a
gap (a database that was away, a device that slept) a device is told `gap`, and asks for all of it.
"""

from __future__ import annotations

import asyncio
import json
import re
from collections import defaultdict
from collections.abc import AsyncIterator, Mapping
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any, Final, Required

import psycopg
from django.conf import settings
from psycopg.conninfo import conninfo_to_dict, make_conninfo
from sse_starlette import EventSourceResponse, ServerSentEvent
from typing_extensions import TypedDict

from lauf.messages import say
from lauf.web.watching import STREAMS

if TYPE_CHECKING:
    from collections.abc import Iterator

    from lauf.web.shapes import Application, Message, Receive, Send

#: Addresses that go on as a stream once they were answered.
_LIVE: Final = re.compile(r"/api/(lessons/[0-9a-f-]{36}|help)/live")
_HELPERS: Final = "/api/help/live"
_CHANNEL: Final = "lauf_live"
#: What the connection that listens calls itself to the database.
LISTENER: Final = "lauf-live"
#: Streams of one process; beyond them a device asks now and then instead.
MOST_STREAMS: Final = 600
#: Events that wait for one device; one that is slower than that is told of a gap.
_MOST_WAITING: Final = 200
#: Seconds between two signs of life, and between two looks at who may still have the stream.
_SIGN_OF_LIFE: Final = 15
_LOOK_AGAIN: Final = 60.0
#: Seconds before a database that is away is asked again, the first time and at most.
_FIRST_PAUSE: Final = 0.25
_LONGEST_PAUSE: Final = 4.0
#: Milliseconds after which a device whose stream broke off comes again.
_COME_AGAIN_MS: Final = 1000


class Event(TypedDict, total=False):
    """One thing that happened: in which test and with which child, where it is of one, and the
    entry it was made by."""

    what: Required[str]
    activity: str | None
    pupil: str | None
    entry: str | None


HELLO: Final[Event] = {"what": "hello"}
GAP: Final[Event] = {"what": "gap"}
ENDED: Final[Event] = {"what": "ended"}


class Hub:
    """Listens to the database once for all devices of this process, from the first on."""

    def __init__(self) -> None:
        self._waiting: dict[str, set[asyncio.Queue[Event]]] = defaultdict(set)
        self._listening: asyncio.Task[None] | None = None
        self.streams = 0

    @contextmanager
    def events_of(self, lesson: str) -> Iterator[asyncio.Queue[Event]]:
        """What happens in a lesson from now on."""
        if self._listening is None or self._listening.done():
            self._listening = asyncio.get_running_loop().create_task(self._listen())
        queue: asyncio.Queue[Event] = asyncio.Queue(_MOST_WAITING)
        self._waiting[lesson].add(queue)
        self.streams += 1
        STREAMS.inc()
        try:
            yield queue
        finally:
            self.streams -= 1
            STREAMS.dec()
            self._waiting[lesson].discard(queue)
            if not self._waiting[lesson]:
                del self._waiting[lesson]

    def tell(self, payload: str) -> None:
        """Pass on what the database said, to whom it concerns."""
        told = json.loads(payload)
        lesson = told.pop("lesson")
        event: Event = told
        for queue in self._waiting.get(lesson, ()):
            _put(queue, event)

    def tell_of_a_gap(self) -> None:
        """Something may have been missed by everybody."""
        for queues in self._waiting.values():
            for queue in queues:
                _put(queue, GAP)

    async def _listen(self) -> None:
        pause = _FIRST_PAUSE
        is_first = True
        while True:
            try:
                async with await psycopg.AsyncConnection.connect(
                    _database(), autocommit=True
                ) as connection:
                    await connection.execute(f"LISTEN {_CHANNEL}")
                    if not is_first:
                        self.tell_of_a_gap()
                    is_first, pause = False, _FIRST_PAUSE
                    async for note in connection.notifies():
                        self.tell(note.payload)
            except psycopg.Error:
                pass  # it is away: whoever writes is told so
            is_first = False
            await asyncio.sleep(pause)
            pause = min(_LONGEST_PAUSE, 2 * pause)


def _put(queue: asyncio.Queue[Event], event: Event) -> None:
    try:
        queue.put_nowait(event)
    except asyncio.QueueFull:
        while not queue.empty():
            queue.get_nowait()
        queue.put_nowait(GAP)


def _database() -> str:
    """How the database is reached: directly, because who listens keeps a connection of its own."""
    held: Mapping[str, Any] = settings.DATABASES["default"]
    # Whatever the address says beside; a test's database has another name.
    told = {**settings.CONFIGURATION.database, "dbname": held["NAME"]}
    if past_the_pooler := settings.CONFIGURATION["LAUF_LISTEN_URL"]:
        told = conninfo_to_dict(past_the_pooler)
    told.pop("options", None)
    return make_conninfo("", **{**told, "connect_timeout": 5, "application_name": LISTENER})


class _Answered:
    """What the application answered, held back."""

    def __init__(self) -> None:
        self.messages: list[Message] = []

    async def send(self, message: Message) -> None:
        self.messages.append(message)

    @property
    def status(self) -> int:
        return int(self.messages[0]["status"]) if self.messages else 500

    @property
    def headers(self) -> dict[str, str]:
        """Those that are not of the body."""
        own = {"content-length", "content-type"}
        named = ((one.decode(), held.decode()) for one, held in self.messages[0]["headers"])
        return {one: held for one, held in named if one.lower() not in own}

    @property
    def body(self) -> bytes:
        return b"".join(one.get("body", b"") for one in self.messages[1:])


class LiveStreams:
    """An ASGI application around another one, which says who may have a stream."""

    def __init__(self, application: Application) -> None:
        self._application = application
        self.hub = Hub()
        self._asked: set[asyncio.Future[None]] = set()

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not _LIVE.fullmatch(scope["path"]):
            await self._application(scope, receive, send)
            return
        answered = _Answered()
        await self._application(scope, receive, answered.send)
        if answered.status != 200 or scope["method"] != "GET":
            for message in answered.messages:
                await send(message)
            return
        if self.hub.streams >= MOST_STREAMS:
            await _too_many(send)
            return
        stream = EventSourceResponse(
            self._events(scope, json.loads(answered.body)["lesson_id"]),
            headers={**answered.headers, "cache-control": "no-store", "x-accel-buffering": "no"},
            ping=_SIGN_OF_LIFE,
            send_timeout=30,
        )
        await stream(scope, receive, send)

    async def _events(self, scope: Message, lesson: str) -> AsyncIterator[ServerSentEvent]:
        clock = asyncio.get_running_loop()
        with self.hub.events_of(lesson) as queue:
            yield _said(HELLO)
            look_at = clock.time() + _LOOK_AGAIN
            while True:
                event: Event | None
                try:
                    left = max(0.0, look_at - clock.time())
                    event = await asyncio.wait_for(queue.get(), left)
                except TimeoutError:
                    event = None
                # Helpers may have been sent away with it.
                asks = event is not None and event["what"] in ("helpers", "plan")
                if event is None or (asks and scope["path"] == _HELPERS):
                    if not await self._may_still(scope):
                        yield _said(ENDED)
                        return
                    look_at = clock.time() + _LOOK_AGAIN
                if event is not None:
                    yield _said(event)

    async def _may_still(self, scope: Message) -> bool:
        """Whether the application would still answer; a database that is away sends nobody off."""
        answered = _Answered()

        bodies: list[Message] = [{"type": "http.request", "body": b"", "more_body": False}]
        never = asyncio.get_running_loop().create_future()

        async def nothing() -> Message:
            # After its empty body nothing comes: nobody goes.
            return bodies.pop() if bodies else await never

        # Asked to the end, also where the device goes meanwhile: nobody else would end it.
        asked = asyncio.ensure_future(self._application(dict(scope), nothing, answered.send))
        self._asked.add(asked)
        asked.add_done_callback(self._asked.discard)
        await asyncio.shield(asked)
        return answered.status not in (401, 403, 404, 423)


def _said(event: Event) -> ServerSentEvent:
    return ServerSentEvent(json.dumps(event), retry=_COME_AGAIN_MS)


async def _too_many(send: Send) -> None:
    body = json.dumps({"message": say("Too many devices follow. This one asks now and then.")})
    headers = {"content-type": "application/json", "cache-control": "no-store", "retry-after": "60"}
    named = [(one.encode(), held.encode()) for one, held in headers.items()]
    await send({"type": "http.response.start", "status": 503, "headers": named})
    await send({"type": "http.response.body", "body": body.encode()})
