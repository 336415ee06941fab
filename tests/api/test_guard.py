"""Endless, slow and very many requests, on real sockets against a real uvicorn."""

from __future__ import annotations

import asyncio
import http.client
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import closing
from typing import Any

import pytest
import uvicorn
from asgiref.sync import SyncToAsync

from lauf.web import guard, protocol
from lauf.web.asgi import OneThread
from tests.support.served import wait_for

MB = 1_000_000


class Behind:
    """The application behind the guard: it says how much it was sent, when it is let."""

    def __init__(self) -> None:
        self.sizes: list[int] = []
        self.may_answer = threading.Event()
        self.may_answer.set()

    async def __call__(self, _scope: Any, receive: Any, send: Any) -> None:
        message = await receive()
        self.sizes.append(len(message["body"]))
        assert not message["more_body"]
        while not self.may_answer.is_set():
            await asyncio.sleep(0.01)
        await send({"type": "http.response.start", "status": 200, "headers": []})
        await send({"type": "http.response.body", "body": b"good"})


class Running:
    def __init__(self, behind: Behind, port: int) -> None:
        self.behind, self.port = behind, port

    def connect(self) -> socket.socket:
        return socket.create_connection(("127.0.0.1", self.port), 30)

    def ask(self, body: bytes, path: str = "/api/x") -> tuple[int, http.client.HTTPResponse]:
        connection = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        connection.request("POST", path, body)
        answer = connection.getresponse()
        answer.read()
        connection.close()
        return answer.status, answer


@pytest.fixture
def running(monkeypatch: pytest.MonkeyPatch) -> Iterator[Running]:
    monkeypatch.setattr(guard, "AT_ONCE", 2)
    behind = Behind()
    with closing(socket.create_server(("127.0.0.1", 0))) as listening:
        config = uvicorn.Config(
            guard.Guard(behind), http=protocol.PromptProtocol, lifespan="off", log_level="critical"
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
    for size in (0, 1, guard.LARGEST):
        assert running.ask(b"x" * size)[0] == 200
    with running.connect() as one:
        # Refused by what it says: who goes on sending would find the line cut.
        head = b"POST /api/x HTTP/1.1\r\nHost: x\r\nContent-Length: %d\r\n\r\n"
        one.sendall(head % (guard.LARGEST + 1))
        assert b"413" in read_all(one).split(b"\r\n")[0]
    assert running.ask(b"x" * guard.LARGEST_FILE, "/api/tests/t/norms")[0] == 200
    assert running.behind.sizes == [0, 1, guard.LARGEST, guard.LARGEST_FILE]


def test_a_slow_sender_is_not_waited_for(running: Running, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(guard, "LONGEST_SENDING", 0.3)
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
    monkeypatch.setattr(guard, "LONGEST_WAIT", 0.3)
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

    asyncio.run(ask())
    assert sent[0]["status"] == 200
    assert went.count("get_response") == 1 and len(went) <= 3, went
