"""All that an action or a query can answer instead of a result."""

from __future__ import annotations

from typing import Any

from lauf.messages import say


class NotFound(Exception):
    """There is no such thing within the asker's scope."""

    def __init__(self, what: str) -> None:
        super().__init__(say("This {what} does not exist, or you may not see it.", what=what))


class Denied(Exception):
    """The thing is within scope but this person may not do this to it."""


class Refused(Exception):
    """What was asked cannot be done; the message says what would be accepted."""


class Confirm(Refused):
    """What was asked is done when it is sent again with `sure`; the message is the question."""


class IdTaken(Exception):
    """The same id came before with other content: what was stored first stays as it is."""

    def __init__(self) -> None:
        super().__init__(
            say(
                "This was already sent with different content. The first one is saved "
                "and nothing was changed. Reload the page and enter it again."
            )
        )


class Clash(Exception):
    """Another entry for the same child came in between; `current` is the one that counts now."""

    def __init__(self, current: Any) -> None:
        super().__init__(say("Another device has just entered this child."))
        self.current = current


class Locked(Exception):
    """What was opened for a time is not open now: what was sent is kept where it is, and may be
    sent again."""
