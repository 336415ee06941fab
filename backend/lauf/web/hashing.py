"""Hashing passwords: slow on purpose, and never in the way of those who take scores.

It is done by threads of the lowest claim on the processor, one for strangers and one for who is
known (a device somebody has signed in on, a link that is right). Nobody waits for the other's turn.
"""

from __future__ import annotations

import os
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, Final, TypeVar

from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.hashers import make_password, verify_password
from django.db import connection
from django.db.models import F
from django.http import HttpRequest

from lauf.messages import say
from lauf.people.actions import demand_password, keep_hashed_anew
from lauf.people.models import Staff
from lauf.people.queries import staff_named
from lauf.web.throttling import TooMany, is_known

#: Seconds that somebody waits for a turn.
LONGEST_WAIT: Final = 10.0
_TURNS: Final = {True: threading.BoundedSemaphore(1), False: threading.BoundedSemaphore(1)}
#: On Linux niceness is a thread's own (nice(2), "C library/kernel differences").
_THREADS: Final = ThreadPoolExecutor(len(_TURNS), "hashing", initializer=lambda: os.nice(10))
Found = TypeVar("Found")


def in_turn(work: Callable[..., Found], *given: Any, known: bool) -> Found:
    """What some work with a password gives, without a connection to the database in the time.
    Raises TooMany, or what the work raises."""
    if not connection.in_atomic_block:
        connection.close()  # back to the pool
    turn = _TURNS[known]
    if not turn.acquire(timeout=LONGEST_WAIT):
        words = say("Many people are signing in at the moment. Try again in a few seconds.")
        raise TooMany(words, round(LONGEST_WAIT / 2))
    try:
        return _THREADS.submit(work, *given).result()
    finally:
        turn.release()


def hashed(password: str, person: Staff) -> str:
    """A new password as it is kept. What is known of its person is looked up here: the thread that
    hashes has no business with the database. Raises Refused for a weak one, TooMany."""
    demand_password(password, person)
    return in_turn(make_password, password, known=True)


def _checked(password: str, kept: str) -> tuple[bool, str]:
    """Whether a password is the one that is kept; and, hashed as new ones are, one that is kept in
    an older way, else ""."""
    good, older = verify_password(password, kept)
    return good, make_password(password) if good and older else ""


class PasswordBackend(ModelBackend):
    """Django's own, with the hashing done in its turn and outside the database's time."""

    def authenticate(
        self,
        request: HttpRequest | None,
        username: str | None = None,
        password: str | None = None,
        **kwargs: Any,  # noqa: ARG002
    ) -> Staff | None:
        if username is None or password is None:
            return None
        staff = staff_named(username)
        known = request is not None and is_known(request, username)
        if staff is None:
            # A name that is not there takes as long as one that is.
            in_turn(make_password, password, known=known)
            return None
        good, anew = in_turn(_checked, password, staff.password, known=known)
        if anew:
            keep_hashed_anew(staff, anew)
        return staff if good and self.user_can_authenticate(staff) else None

    def get_user(self, user_id: Any) -> Staff | None:
        """Who is signed in, and since when their school is closed. One query."""
        found = Staff.objects.annotate(school_paused_at=F("school__paused_at"))
        staff = found.filter(pk=user_id).first()
        return staff if self.user_can_authenticate(staff) else None
