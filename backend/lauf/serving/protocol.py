"""HTTP as uvicorn speaks it, with an end to waiting: whoever opens a connection and does not finish
the head of a request is not waited for."""

from __future__ import annotations

import asyncio
from typing import Final

from uvicorn.protocols.http.h11_impl import H11Protocol

#: Seconds in which the head of a request has to be here.
LONGEST_HEAD: Final = 15.0


class PromptProtocol(H11Protocol):
    """Named on uvicorn's command line as `lauf.serving.protocol:PromptProtocol`."""

    _head: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._wait_for_head()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.cycle is not None and not self.cycle.response_complete:
            self._stop_waiting()
        elif self._head is None:
            self._wait_for_head()

    def on_response_complete(self) -> None:
        # Between two requests uvicorn has a time-out of its own; a next one may be here in part.
        self._stop_waiting()
        super().on_response_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        self._stop_waiting()
        super().connection_lost(exc)

    def _wait_for_head(self) -> None:
        self._head = self.loop.call_later(LONGEST_HEAD, self.transport.close)

    def _stop_waiting(self) -> None:
        if self._head is not None:
            self._head.cancel()
            self._head = None
