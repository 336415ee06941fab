"""`python -m lauf.web.serve`: the process that serves, and one that keeps another ready.

The first reads all of Lauf and listens; it forks the one that answers. Where that one ends by
itself, the next is forked from what was read already: a few hundredths of a second, in which nobody
is sent away, because connections wait at the listening socket.
"""

from __future__ import annotations

import argparse
import os
import signal
import socket
import sys
import time
from types import FrameType
from typing import Final, NoReturn

import uvicorn

from lauf.sandbox.parent import end_with_parent

#: One that ends within so many seconds, this often in a row, does not get better by being forked.
_AT_ONCE_S: Final = 2.0
_MOST_AT_ONCE: Final = 3


def main() -> int:
    words = argparse.ArgumentParser(prog="lauf.web.serve")
    words.add_argument("--host", default="127.0.0.1")
    words.add_argument("--port", type=int, required=True)
    words.add_argument("--fd", type=int, help="a socket that listens already")
    words.add_argument("--proxy", default="", help="addresses that are believed as proxies")
    words.add_argument("--connections", type=int, default=1000)
    asked = words.parse_args()

    from lauf.web.asgi import application  # all of Lauf
    from lauf.web.protocol import PromptProtocol

    listening = (
        socket.socket(fileno=asked.fd) if asked.fd is not None else listen(asked.host, asked.port)
    )
    config = uvicorn.Config(
        application, host=asked.host, port=asked.port, http=PromptProtocol, log_level="warning",
        server_header=False, limit_concurrency=asked.connections, timeout_graceful_shutdown=10,
        proxy_headers=bool(asked.proxy), forwarded_allow_ips=asked.proxy or None,
    )  # fmt: skip
    return Keeper(config, listening).run()


def listen(host: str, port: int) -> socket.socket:
    """A socket that listens there. Raises OSError."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    return socket.create_server((host, port), family=family, backlog=2048)


class Keeper:
    """Keeps one process answering at a socket."""

    def __init__(self, config: uvicorn.Config, listening: socket.socket) -> None:
        self._config, self._listening = config, listening
        self._child = 0
        self._stopping = False

    def run(self) -> int:
        """Until told to stop, or until what it forks ends at once again and again. The code."""
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, self._stop)
        at_once = 0
        while True:
            begun = time.monotonic()
            self._fork()
            _, status = os.waitpid(self._child, 0)
            code = os.waitstatus_to_exitcode(status)
            if self._stopping:
                return 0
            _say(f"the server has ended (code {code}); starting it again")
            at_once = at_once + 1 if time.monotonic() - begun < _AT_ONCE_S else 0
            if at_once >= _MOST_AT_ONCE:
                return code if code > 0 else 1
            _say("the server runs again")

    def _fork(self) -> None:
        # A signal between the fork and this process knowing its child would find no child.
        signals = {signal.SIGTERM, signal.SIGINT}
        signal.pthread_sigmask(signal.SIG_BLOCK, signals)
        self._child = os.fork()
        if self._child == 0:
            self._answer(signals)
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
        if self._child:
            os.kill(self._child, number)


def _say(words: str) -> None:
    sys.stderr.write(f"lauf: {words}\n")
    sys.stderr.flush()


if __name__ == "__main__":
    sys.exit(main())
