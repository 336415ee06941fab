"""What each request took, as a line of the log and as numbers for Prometheus. Nothing of it has a
name, a score or a secret: an address is told as the pattern of its route, a person by its id."""

from __future__ import annotations

import logging
import re
import time
import uuid
from pathlib import Path
from typing import TYPE_CHECKING, Final

from prometheus_client import Counter, Gauge, Histogram
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.registry import Collector

from lauf.sandbox.run import COUNTED_BY
from lauf.web.database.base import pool_numbers

if TYPE_CHECKING:
    from collections.abc import Iterator

    from lauf.web.shapes import Application, Message, Receive, Send

log: Final = logging.getLogger("lauf.requests")

REQUESTS: Final = Counter(
    "lauf_requests", "Requests that were answered.", ["method", "route", "status"]
)
SECONDS: Final = Histogram(
    "lauf_request_seconds", "How long an answer took, without streams of events.", ["route"],
    buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10),
)  # fmt: skip
IN_WORK: Final = Gauge("lauf_requests_in_work", "Requests that are being answered.",
                       multiprocess_mode="livesum")  # fmt: skip
WAITING: Final = Gauge("lauf_requests_waiting", "Requests that wait for their turn.",
                       multiprocess_mode="livesum")  # fmt: skip
STREAMS: Final = Gauge("lauf_event_streams", "Devices that follow a lesson.",
                       multiprocess_mode="livesum")  # fmt: skip
CONNECTIONS: Final = Gauge(
    "lauf_database_connections",
    "Connections of the pool to the database: open, free, and requests that wait for one.",
    ["state"], multiprocess_mode="livesum",
)  # fmt: skip
JOBS: Final = Gauge("lauf_jobs", "Files that are being read, each by a process of its own.",
                     multiprocess_mode="livesum")  # fmt: skip

COUNTED_BY.append(JOBS.inc)

#: What the application leaves in a request's scope for this layer.
ROUTE: Final = "lauf.route"
PERSON: Final = "lauf.person"
_ID: Final = re.compile(rb"[A-Za-z0-9._-]{8,64}")


class Watched:
    """An ASGI application around another one: every answer gets a number, a line and a count."""

    def __init__(self, application: Application) -> None:
        self._application = application

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._application(scope, receive, send)
            return
        begun, status, number = time.perf_counter(), 500, _number(scope)

        async def numbered(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = int(message["status"])
                named = [*message.get("headers", ()), (b"x-request-id", number)]
                message = {**message, "headers": named}
            await send(message)

        IN_WORK.inc()
        try:
            await self._application(scope, receive, numbered)
        finally:
            IN_WORK.dec()
            _tell(scope, status, time.perf_counter() - begun, number.decode())


def _number(scope: Message) -> bytes:
    """The request's own, as a proxy has given it, or a new one."""
    given = dict(scope["headers"]).get(b"x-request-id", b"")
    return given if _ID.fullmatch(given) else uuid.uuid4().hex.encode()


def _tell(scope: Message, status: int, seconds: float, number: str) -> None:
    route = str(scope.get(ROUTE) or "none")
    method = scope["method"] if scope["method"] in _METHODS else "other"
    REQUESTS.labels(method, route, str(status)).inc()
    if not route.endswith("/live"):
        SECONDS.labels(route).observe(seconds)
    for state, held in pool_numbers().items():
        CONNECTIONS.labels(state).set(held)
    told = {
        "request": number,
        "method": method,
        "route": route,
        "status": status,
        "ms": round(seconds * 1000),
        "person": scope.get(PERSON, ""),
    }
    log.info("%(method)s %(route)s %(status)s %(ms)s ms request=%(request)s person=%(person)s",
             told, extra=told)  # fmt: skip


_METHODS: Final = frozenset({"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"})


class LastBackup(Collector):
    """How old the newest nightly backup is, in seconds; nothing where there is none."""

    def __init__(self, pattern: str) -> None:
        self._pattern = Path(pattern)

    def collect(self) -> Iterator[GaugeMetricFamily]:
        told = GaugeMetricFamily("lauf_last_backup_age_seconds", "Age of the last backup.")
        made = [one.stat().st_mtime for one in self._pattern.parent.glob(self._pattern.name)]
        if made:
            told.add_metric([], max(0.0, time.time() - max(made)))
        yield told
