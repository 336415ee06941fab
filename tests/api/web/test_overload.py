"""Endless, slow and very many requests, on real sockets against a real uvicorn."""

from __future__ import annotations

import asyncio
import http.client
import socket
import threading
import time
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from typing import Any

import pytest
import uvicorn
from asgiref.sync import SyncToAsync

from lauf.sandbox.run import CLIENT_GONE
from lauf.serving import protocol
from lauf.web import overload
from lauf.web.asgi import OneThread
from tests.support.served import wait_for
from tests.support.waits import LIMIT_S

MB = 1_000_000


class Behind:
    """The application behind the overload: it says how much it was sent, when it is let."""

    def __init__(self) -> None:
        self.sizes: list[int] = []
        self.may_answer = threading.Event()
        self.may_answer.set()
        self.see: Callable[[], object] = lambda: None

    async def __call__(self, _scope: Any, receive: Any, send: Any) -> None:
        message = await receive()
        self.sizes.append(len(message["body"]))
        assert not message["more_body"]
        self.see()
        # As Django does: it hears of a client that goes.
        hearing = asyncio.ensure_future(receive())
        while not self.may_answer.is_set() and not hearing.done():
            await asyncio.sleep(0.01)
        hearing.cancel()
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"good"})


class Running:
    def __init__(self, behind: Behind, port: int) -> None:
        self.behind, self.port = behind, port

    def connect(self) -> socket.socket:
        return socket.create_connection(("127.0.0.1", self.port), 30)

    def ask(
        self, body: bytes, path: str = "/api/x", headers: dict[str, str] | None = None
    ) -> tuple[int, http.client.HTTPResponse]:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=LIMIT_S)
        connection.request("POST", path, body, headers or {})
        answer = connection.getresponse()
        answer.read()
        connection.close()
        return answer.status, answer


@pytest.fixture
def running(monkeypatch: pytest.MonkeyPatch) -> Iterator[Running]:
    monkeypatch.setattr(overload, "CONCURRENT_REQUESTS", 2)
    behind = Behind()
    with closing(socket.create_server(("127.0.0.1", 0))) as listening:
        config = uvicorn.Config(
            overload.OverloadLimiter(behind, lambda cookie: b"known" in cookie),
            http=protocol.PromptProtocol,
            lifespan="off",
            log_level="critical",
        )
        server = uvicorn.Server(config)
        thread = threading.Thread(target=lambda: server.run([listening]))
        thread.start()
        wait_for(lambda: server.started, bool)
        yield Running(behind, listening.getsockname()[1])
        behind.may_answer.set()
        server.should_exit = True
        thread.join()


def read_all(open_socket: socket.socket) -> bytes:
    """Until the server closes it."""
    found = b""
    try:
        while part := open_socket.recv(65536):
            found += part
    except ConnectionError:
        pass
    return found


def test_a_large_request_is_refused_by_what_it_says_or_as_it_comes(running: Running) -> None:
    """300 MB posted to any address filled the disk before they were refused."""
    with running.connect() as one:
        one.sendall(b"POST /x HTTP/1.1\r\nHost: x\r\nContent-Length: 300000000\r\n\r\n")
        assert b"413" in read_all(one).split(b"\r\n")[0]
    sent = 0
    with running.connect() as one:
        one.sendall(b"POST /x HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\n")
        chunk = b"10000\r\n" + b"x" * 65536 + b"\r\n"
        try:
            while sent < 300 * MB:
                one.sendall(chunk)
                sent += 65536
        except ConnectionError:
            pass
    assert sent < 20 * MB, "it is cut off, whatever lies in the sockets between"
    assert running.behind.sizes == [], "nothing of it has reached the application"


def test_what_fits_arrives_whole(running: Running) -> None:
    for size in (0, 1, overload.LARGEST):
        assert running.ask(b"x" * size)[0] == 200
    with running.connect() as one:
        # Refused by what it says: who goes on sending would find the line cut.
        head = b"POST /api/x HTTP/1.1\r\nHost: x\r\nContent-Length: %d\r\n\r\n"
        one.sendall(head % (overload.LARGEST + 1))
        assert b"413" in read_all(one).split(b"\r\n")[0]
    assert running.ask(b"x" * overload.LARGEST_FILE, "/api/tests/t/norms")[0] == 200
    assert running.behind.sizes == [0, 1, overload.LARGEST, overload.LARGEST_FILE]


def test_a_slow_sender_is_not_waited_for(running: Running, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(overload, "BODY_TIMEOUT", 0.3)
    monkeypatch.setattr(protocol, "LONGEST_HEAD", 0.3)
    with running.connect() as one:
        one.sendall(b"POST /x HTTP/1.1\r\nHost: x\r\nContent-Length: 10\r\n\r\nabc")
        assert b"408" in read_all(one).split(b"\r\n")[0]
    for head in (b"", b"GET / HT", b"GET / HTTP/1.1\r\nHost: x\r\n"):
        with running.connect() as one:
            one.sendall(head)
            assert read_all(one) == b"", "closed without an answer to half a question"
    # After an answer too: the next request on the same connection has to come whole.
    with running.connect() as one:
        one.sendall(b"GET / HTTP/1.1\r\nHost: x\r\n\r\n")
        assert one.recv(65536).startswith(b"HTTP/1.1 200")
        one.sendall(b"GET / HTTP/1.1\r\nHo")
        begun = time.monotonic()
        assert b"200" not in read_all(one)
        assert time.monotonic() - begun < 20


def test_who_waits_too_long_for_a_turn_is_told_when_to_come_again(
    running: Running, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(overload, "QUEUE_TIMEOUT", 0.3)
    running.behind.may_answer.clear()
    found: list[tuple[int, http.client.HTTPResponse]] = []
    people = [threading.Thread(target=lambda: found.append(running.ask(b"x"))) for _ in range(6)]
    for person in people:
        person.start()
    wait_for(lambda: len(found), lambda number: number == 4)
    assert [status for status, _ in found] == [503] * 4
    assert {answer.headers["Retry-After"] for _, answer in found} == {"2"}
    running.behind.may_answer.set()
    for person in people:
        person.join()
    assert sorted(status for status, _ in found) == [200] * 2 + [503] * 4
    # And then there is room again.
    assert running.ask(b"x")[0] == 200


def test_credentials_and_files_have_queues_of_their_own(
    running: Running, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A hundred who guess held all places, and a score got 503."""
    running.behind.may_answer.clear()
    found: dict[str, list[int]] = {}

    def ask(path: str, times: int, **headers: str) -> list[threading.Thread]:
        told = found.setdefault(path + headers.get("Cookie", ""), [])
        people = [
            threading.Thread(target=lambda: told.append(running.ask(b"{}", path, headers)[0]))
            for _ in range(times)
        ]
        for person in people:
            person.start()
        return people

    concurrent, waiting = overload.UNKNOWN_DEVICES[0], overload.UNKNOWN_DEVICES[1]
    asking = ask("/api/session", 100)
    # Two are let in, forty wait, and the others are sent away at once.
    wait_for(lambda: len(found["/api/session"]), lambda n: n == 100 - concurrent - waiting)
    assert set(found["/api/session"]) == {503}
    wait_for(lambda: len(running.behind.sizes), lambda n: n == concurrent)
    # A known device, a file and a score: each is let in all the same.
    for number, (path, headers) in enumerate(
        [("/api/session", {"Cookie": "known"}), ("/api/lists/preview", {}), ("/api/x", {})],
        concurrent + 1,
    ):
        asking += ask(path, 1, **headers)
        assert wait_for(lambda: len(running.behind.sizes), lambda n, k=number: n == k) == number
    running.behind.may_answer.set()
    for person in asking:
        person.join()
    assert found["/api/session"].count(200) == concurrent + waiting
    assert [found[one] for one in ("/api/sessionknown", "/api/lists/preview", "/api/x")] == [
        [200]
    ] * 3


@pytest.mark.parametrize(
    ("method", "path", "queue"),
    [
        ("POST", "/api/session", "_unknown"), ("GET", "/api/session", "_all"),
        ("DELETE", "/api/session", "_all"), ("PUT", "/api/welcome", "_unknown"),
        ("POST", "/api/setup", "_unknown"), ("GET", "/api/own/ABC", "_unknown"),
        ("GET", "/api/calendar/x.ics", "_unknown"),
        ("POST", "/api/session/second-factor", "_unknown"),
        ("PUT", "/api/session/password", "_unknown"), ("POST", "/api/setup/package", "_files"),
        ("POST", "/api/lists", "_files"), ("POST", "/api/tests/t/norms", "_files"),
        ("POST", "/api/games/g/results", "_files"), ("POST", "/api/games/join", "_files"),
        ("GET", "/api/lessons/l/results", "_all"), ("POST", "/api/activities/a/attempts", "_all"),
    ],
)  # fmt: skip
def test_which_queue_a_request_waits_in(method: str, path: str, queue: str) -> None:
    standing = overload.OverloadLimiter(Behind())
    scope = {"method": method, "path": path, "headers": []}
    assert standing._queue(scope) is getattr(standing, queue)


def test_who_goes_while_a_file_is_read_is_noticed(running: Running) -> None:
    """What reads it looks for that, and ends."""
    running.behind.may_answer.clear()
    gone: list[threading.Event] = []
    running.behind.see = lambda: gone.append(CLIENT_GONE.get())
    with running.connect() as one:
        head = b"POST /api/lists HTTP/1.1\r\nHost: x\r\nContent-Length: 2\r\n\r\n{}"
        one.sendall(head)
        wait_for(lambda: gone, bool)
        assert not gone[0].is_set()
    assert wait_for(gone[0].is_set, bool)


def test_a_request_goes_to_its_thread_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """And not to the loop and back between every two of the layers before a view. The other two are
    the signals that it begins and that it is over."""
    went: list[str] = []
    go = SyncToAsync.__call__

    async def counted(self: SyncToAsync, *words: Any, **named: Any) -> Any:
        went.append(getattr(self.func, "__name__", "?"))
        return await go(self, *words, **named)

    monkeypatch.setattr(SyncToAsync, "__call__", counted)
    sent: list[Any] = []

    async def ask() -> None:
        scope = {
            "type": "http", "method": "GET", "path": "/sign-in", "query_string": b"",
            "headers": [(b"host", b"127.0.0.1")],
        }  # fmt: skip
        come = [{"type": "http.request", "body": b"", "more_body": False}]

        async def receive() -> Any:
            return come.pop() if come else await asyncio.sleep(60)

        async def send(message: Any) -> None:
            sent.append(message)

        await OneThread()(scope, receive, send)

    # In a thread of its own: a browser's loop may be running in this one.
    with ThreadPoolExecutor() as thread:
        thread.submit(lambda: asyncio.run(ask())).result()
    assert sent[0]["status"] == 200
    assert went.count("_answered") == 1 and len(went) <= 3, went
