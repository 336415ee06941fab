"""The doors that stand open to everybody: how often and how many at once may knock.

Guesses are counted in this process, for a quarter of an hour: by name, by address and in all.
Devices on which somebody has signed in before are counted for themselves, so that a stranger who
guesses a teacher's name locks strangers out and not the teacher. (After "device cookies", OWASP.)
Sign-ins that go on at once are few: hashing takes all of a processor, on purpose.
"""

from __future__ import annotations

import hashlib
import ipaddress
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any, Final, NoReturn
from uuid import uuid4

from django.contrib.auth.backends import ModelBackend
from django.core import signing
from django.db import connection
from django.http import HttpRequest, HttpResponse
from limits import RateLimitItem, RateLimitItemPerMinute
from limits.storage import MemoryStorage
from limits.strategies import MovingWindowRateLimiter
from ninja.errors import HttpError

from lauf.errors import NotFound, Refused
from lauf.people.models import Staff

MINUTES: Final = 15
COOKIE: Final = "lauf_device"
_YEAR: Final = 365 * 24 * 3600
#: Names a device is known for at most: a tablet that a whole staff room uses.
_MOST_NAMES: Final = 40
#: Passwords that are hashed at once, and how many seconds somebody waits for a turn.
_HASHING: Final = threading.BoundedSemaphore(2)
LONGEST_WAIT: Final = 5.0


class TooMany(Exception):
    """Too many guesses, or too many at once; `seconds` is when to come again."""

    def __init__(self, message: str, seconds: int) -> None:
        super().__init__(message)
        self.seconds = seconds


def _times(number: int) -> RateLimitItem:
    return RateLimitItemPerMinute(number, MINUTES)


#: Wrong guesses in a quarter of an hour.
BY_DEVICE: Final = _times(10)
BY_NAME: Final = _times(30)
BY_ADDRESS: Final = _times(60)
IN_ALL: Final = _times(300)
CODES_BY_ADDRESS: Final = _times(10)
CODES_IN_ALL: Final = _times(30)

COUNTS: Final = MemoryStorage()
_limiter: Final = MovingWindowRateLimiter(COUNTS)


def _address(request: HttpRequest) -> str:
    """Who asks, as the connection says; a whole network of IPv6, which one person has. What a
    request says about itself is not asked."""
    plain = str(request.META.get("REMOTE_ADDR", ""))
    try:
        found = ipaddress.ip_address(plain)
    except ValueError:
        return plain
    if found.version == 6:
        return str(ipaddress.ip_network((found, 64), strict=False))
    return plain


def _named(username: str) -> str:
    return hashlib.sha256(username.encode()).hexdigest()[:16]


def _device(request: HttpRequest) -> dict[str, Any]:
    """What this device is known for; nothing for one that is new, or whose cookie is not ours."""
    try:
        held = signing.loads(request.COOKIES.get(COOKIE, ""), salt=COOKIE, max_age=_YEAR)
    except signing.BadSignature:
        return {}
    return held if isinstance(held, dict) else {}


def is_known(request: HttpRequest | None, credentials: dict[str, Any] | None) -> bool:
    """Whether the person of that name has signed in on this device before."""
    name = _named(str((credentials or {}).get("username", "")))
    return request is not None and name in _device(request).get("names", ())


def make_known(request: HttpRequest, response: HttpResponse, username: str) -> None:
    """Remember that this person has signed in on this device."""
    device = _device(request)
    name = _named(username)
    others = [one for one in device.get("names", ()) if one != name]
    kept = {"id": device.get("id") or uuid4().hex, "names": [name, *others][:_MOST_NAMES]}
    response.set_cookie(
        COOKIE,
        signing.dumps(kept, salt=COOKIE),
        max_age=_YEAR,
        httponly=True,
        samesite="Lax",
        secure=request.is_secure(),
    )


_Counts = list[tuple[RateLimitItem, str, str]]


def _of_sign_in(request: HttpRequest, username: str) -> _Counts:
    if is_known(request, {"username": username}):
        return [(BY_DEVICE, "device", _device(request)["id"] + _named(username))]
    return [
        (BY_NAME, "name", _named(username)),
        (BY_ADDRESS, "address", _address(request)),
        (IN_ALL, "all", ""),
    ]


def _of_code(request: HttpRequest, what: str) -> _Counts:
    return [(CODES_BY_ADDRESS, what, _address(request)), (CODES_IN_ALL, f"{what} in all", "")]


def _may_guess(counts: _Counts, message: str) -> None:
    if not all(_limiter.test(item, *of) for item, *of in counts):
        raise TooMany(message, MINUTES * 60)


def _guessed_wrong(counts: _Counts) -> None:
    for item, *of in counts:
        _limiter.hit(item, *of)


LOCKED_OUT: Final = "Too many wrong passwords. Wait a quarter of an hour and try again."
WRONG_CODES: Final = "Too many wrong {}s. Wait a quarter of an hour and try again."


@contextmanager
def sign_in_door(request: HttpRequest, username: str) -> Iterator[None]:
    """Raises TooMany before anything is asked. Who is sent away inside has guessed wrong."""
    with _door(_of_sign_in(request, username), LOCKED_OUT):
        yield


@contextmanager
def code_door(request: HttpRequest, what: str) -> Iterator[None]:
    """The same for a set-up code or a link."""
    with _door(_of_code(request, what), WRONG_CODES.format(what)):
        yield


@contextmanager
def _door(counts: _Counts, message: str) -> Iterator[None]:
    _may_guess(counts, message)
    try:
        yield
    except (HttpError, NotFound, Refused):
        _guessed_wrong(counts)
        raise


def _busy() -> NoReturn:
    words = "Very many people are signing in at this moment: try again in a few seconds."
    raise TooMany(words, round(LONGEST_WAIT))


@contextmanager
def hashing() -> Iterator[None]:
    """A turn to hash a password, without a connection to the database meanwhile. Raises TooMany."""
    if not connection.in_atomic_block:
        connection.close()  # back to the pool
    if not _HASHING.acquire(timeout=LONGEST_WAIT):
        _busy()
    try:
        yield
    finally:
        _HASHING.release()


class PasswordBackend(ModelBackend):
    """Django's own, with the hashing done in its turn and outside the database's time."""

    def authenticate(
        self,
        request: HttpRequest | None,  # noqa: ARG002
        username: str | None = None,
        password: str | None = None,
        **kwargs: Any,  # noqa: ARG002
    ) -> Staff | None:
        if username is None or password is None:
            return None
        staff = Staff.objects.filter(username=username).first()
        with hashing():
            if staff is None:
                # A name that is not there takes as long as one that is.
                Staff().set_password(password)
            elif staff.check_password(password) and self.user_can_authenticate(staff):
                return staff
        return None
