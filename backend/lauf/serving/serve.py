"""`python -m lauf.serving.serve`: the processes that serve, and one that keeps them.

The first reads all of Lauf and listens; it forks those that answer. Where one of them ends by
itself, the next is forked from what was read already: a few hundredths of a second, in which nobody
is sent away, because connections wait at the listening socket. They share nothing but the database:
what has to be counted over all of them is counted there.
"""

from __future__ import annotations

import argparse
import os
import signal
import socket
import sys
import tempfile
import time
from types import FrameType
from typing import Final, NoReturn
from wsgiref.simple_server import make_server

import uvicorn

from lauf.sandbox.parent import end_with_parent

#: One that ends within so many seconds, this often in a row, does not get better by being forked.
_AT_ONCE_S: Final = 2.0
_MOST_AT_ONCE: Final = 3
#: Connections of one process; beyond them the answer is 503.
MOST_CONNECTIONS: Final = 1000


def main() -> int:
    words = argparse.ArgumentParser(prog="lauf.serving.serve")
    words.add_argument("--host", default="127.0.0.1")
    words.add_argument("--port", type=int, required=True)
    words.add_argument("--fd", type=int, help="a socket that listens already")
    words.add_argument("--connections", type=int, default=MOST_CONNECTIONS)
    words.add_argument("--certificate", help="serve over TLS by this one")
    words.add_argument("--key", help="the key of the certificate")
    asked = words.parse_args()
    return serve(
        asked.host, asked.port, fd=asked.fd, connections=asked.connections,
        certificate=asked.certificate, key=asked.key,
    )  # fmt: skip


def serve(
    host: str,
    port: int,
    *,
    fd: int | None = None,
    connections: int = MOST_CONNECTIONS,
    certificate: str | None = None,
    key: str | None = None,
) -> int:
    """Answer there until told to stop; `fd` is a socket that listens already. The code. Raises
    OSError for a port that cannot be had."""
    from lauf.web.settings import BACKUPS, CONFIGURATION

    told_at: str = CONFIGURATION["LAUF_METRICS"]
    room = tempfile.TemporaryDirectory(prefix="lauf-metrics-") if told_at else None
    if room is not None:
        # Read by the library as it is imported: the processes count together in this folder.
        os.environ["PROMETHEUS_MULTIPROC_DIR"] = room.name
    from lauf.serving.protocol import PromptProtocol
    from lauf.web.asgi import application  # all of Lauf

    listening = socket.socket(fileno=fd) if fd is not None else listen(host, port)
    proxy: str = CONFIGURATION["LAUF_PROXY"]
    config = uvicorn.Config(
        application, host=host, port=port, http=PromptProtocol, log_level="warning",
        server_header=False, limit_concurrency=connections, timeout_graceful_shutdown=10,
        proxy_headers=bool(proxy), forwarded_allow_ips=proxy or None,
        ssl_certfile=certificate, ssl_keyfile=key,
    )  # fmt: skip
    keeper = Keeper(config, listening, CONFIGURATION["LAUF_WORKERS"])
    try:
        if told_at:
            keeper.tell(told_at, BACKUPS)
        return keeper.run()
    finally:
        if room is not None:
            room.cleanup()


def listen(host: str, port: int) -> socket.socket:
    """A socket that listens there. Raises OSError."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    return socket.create_server((host, port), family=family, backlog=2048)


class Keeper:
    """Keeps so many processes answering at a socket."""

    def __init__(self, config: uvicorn.Config, listening: socket.socket, workers: int) -> None:
        self._config, self._listening, self._workers = config, listening, workers
        #: When each was forked.
        self._begun: dict[int, float] = {}
        self._stopping = False

    def tell(self, address: str, backups: str) -> None:
        """Tell the numbers for Prometheus there, by a process of its own."""
        host, _, port = address.rpartition(":")
        child = os.fork()
        if child:
            return
        end_with_parent()
        from prometheus_client import CollectorRegistry, make_wsgi_app
        from prometheus_client.multiprocess import MultiProcessCollector

        from lauf.web.watching import LastBackup

        try:
            registry = CollectorRegistry()
            MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
            if backups:
                registry.register(LastBackup(backups))
            with make_server(host.strip("[]"), int(port), make_wsgi_app(registry)) as server:
                server.serve_forever()
        except BaseException as error:
            _say(f"numbers cannot be told at {address}: {error}")
        os._exit(1)

    def run(self) -> int:
        """Until told to stop, or until what it forks ends at once again and again. The code."""
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, self._stop)
        for _ in range(self._workers):
            self._fork()
        at_once = 0
        while True:
            child, status = os.waitpid(-1, 0)
            begun = self._begun.pop(child, None)
            if begun is None:
                continue  # it told the numbers: Lauf serves without
            if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
                from prometheus_client.multiprocess import mark_process_dead

                mark_process_dead(child)  # type: ignore[no-untyped-call]
            code = os.waitstatus_to_exitcode(status)
            if self._stopping:
                if not self._begun:
                    return 0
                continue
            _say(f"the server has ended (code {code}); starting it again")
            at_once = at_once + 1 if time.monotonic() - begun < _AT_ONCE_S else 0
            if at_once >= _MOST_AT_ONCE:
                self._end_all()
                return code if code > 0 else 1
            self._fork()
            _say("the server runs again")

    def _fork(self) -> None:
        # A signal between the fork and this process knowing its child would find no child.
        signals = {signal.SIGTERM, signal.SIGINT}
        signal.pthread_sigmask(signal.SIG_BLOCK, signals)
        child = os.fork()
        if child == 0:
            self._answer(signals)
        self._begun[child] = time.monotonic()
        signal.pthread_sigmask(signal.SIG_UNBLOCK, signals)

    def _answer(self, signals: set[signal.Signals]) -> NoReturn:
        end_with_parent()
        for number in signals:
            signal.signal(number, signal.SIG_DFL)
        signal.pthread_sigmask(signal.SIG_UNBLOCK, signals)
        try:
            uvicorn.Server(self._config).run(sockets=[self._listening])
        except BaseException:
            sys.excepthook(*sys.exc_info())
            os._exit(1)
        os._exit(0)

    def _stop(self, number: int, _: FrameType | None) -> None:
        self._stopping = True
        for child in self._begun:
            os.kill(child, number)

    def _end_all(self) -> None:
        self._stopping = True
        for child in self._begun:
            os.kill(child, signal.SIGTERM)
        for child in self._begun:
            os.waitpid(child, 0)


def _say(words: str) -> None:
    sys.stderr.write(f"lauf: {words}\n")
    sys.stderr.flush()


if __name__ == "__main__":
    sys.exit(main())
