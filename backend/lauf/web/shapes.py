"""What passes between the layers of an ASGI application, and how large a request may be."""

from __future__ import annotations

from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any, Final

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
