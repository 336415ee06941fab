"""Throttling of what is open to everybody: how often a password, a code or a link may be wrong.

Guesses are counted in the database, over all processes that serve, for a quarter of an hour: by
name and address, by each of the two, and in all. It is the one lock-out there is.
Devices on which somebody has signed in before are counted for themselves, so that a stranger who
guesses a teacher's name locks strangers out and not the teacher. (After "device cookies", OWASP.)
What nobody can guess (a link, a child's code, a calendar's address) always opens, however many
wrong ones came from the same address: only these are counted and sent away.
"""

from __future__ import annotations

import hashlib
import ipaddress
from collections.abc import Iterator
from contextlib import contextmanager
from http.cookies import CookieError, SimpleCookie
from typing import Final, TypedDict, cast
from uuid import uuid4

from django.core import signing
from django.http import HttpRequest, HttpResponse
from limits import RateLimitItem, RateLimitItemPerMinute
from limits.strategies import MovingWindowRateLimiter
from ninja.errors import HttpError

from lauf.errors import NotFound, Refused
from lauf.messages import say
from lauf.people.usernames import folded
from lauf.web.guesses import DatabaseGuesses

MINUTES: Final = 15
COOKIE: Final = "lauf_device"
_YEAR: Final = 365 * 24 * 3600
#: Names a device is known for at most: a tablet that a whole staff room uses.
_MOST_NAMES: Final = 40


class TooMany(Exception):
    """Too many guesses, or too many at once; `seconds` is when to come again."""

    def __init__(self, message: str, seconds: int) -> None:
        super().__init__(message)
        self.seconds = seconds


def _times(number: int) -> RateLimitItem:
    return RateLimitItemPerMinute(number, MINUTES)


#: Wrong guesses in a quarter of an hour; the first by a name from one address.
BY_NAME_THERE: Final = _times(5)
BY_DEVICE: Final = _times(10)
BY_NAME: Final = _times(30)
BY_ADDRESS: Final = _times(60)
IN_ALL: Final = _times(300)
CODES_BY_ADDRESS: Final = _times(10)
CODES_IN_ALL: Final = _times(30)

COUNTS: Final = DatabaseGuesses()
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
    return hashlib.sha256(folded(username).encode()).hexdigest()[:16]


class Device(TypedDict, total=False):
    """What the cookie of a device says: its own id, and whose names have signed in on it. Empty for
    one that is new."""

    id: str
    names: list[str]


def _device(request: HttpRequest) -> Device:
    """What this device is known for; nothing for one that is new, or whose cookie is not ours."""
    return _held(request.COOKIES.get(COOKIE, ""))


def _held(cookie: str) -> Device:
    try:
        held = signing.loads(cookie, salt=COOKIE, max_age=_YEAR)
    except signing.BadSignature:
        return Device()
    return cast("Device", held) if isinstance(held, dict) else Device()


def is_known_device(header: bytes) -> bool:
    """Whether a cookie header is of a device on which anybody has signed in before."""
    try:
        cookies = SimpleCookie(header.decode("latin-1"))
    except CookieError:
        return False
    return COOKIE in cookies and bool(_held(cookies[COOKIE].value))


def is_known(request: HttpRequest, username: str) -> bool:
    """Whether the person of that name has signed in on this device before."""
    return _named(username) in _device(request).get("names", ())


def make_known(request: HttpRequest, response: HttpResponse, username: str) -> None:
    """Remember that this person has signed in on this device."""
    device = _device(request)
    name = _named(username)
    others = [one for one in device.get("names", ()) if one != name]
    kept: Device = {"id": device.get("id") or uuid4().hex, "names": [name, *others][:_MOST_NAMES]}
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
    if is_known(request, username):
        return [(BY_DEVICE, "device", _device(request)["id"] + _named(username))]
    return [
        (BY_NAME_THERE, say("name there"), _named(username) + _address(request)),
        (BY_NAME, "name", _named(username)),
        (BY_ADDRESS, "address", _address(request)),
        (IN_ALL, "all", ""),
    ]


def _of_code(request: HttpRequest, what: str, username: str = "") -> _Counts:
    if username and is_known(request, username):
        return [(BY_DEVICE, what, _device(request)["id"])]
    return [
        (CODES_BY_ADDRESS, what, _address(request)),
        (CODES_IN_ALL, say("{what} in all", what=what), ""),
    ]


def _may_guess(counts: _Counts, message: str) -> None:
    if not all(_limiter.test(item, *of) for item, *of in counts):
        raise TooMany(message, MINUTES * 60)


def _guessed_wrong(counts: _Counts) -> None:
    for item, *of in counts:
        _limiter.hit(item, *of)


LOCKED_OUT: Final = say("Too many wrong passwords. Wait a quarter of an hour and try again.")
WRONG_CODES: Final = say("Too many wrong {}s. Wait a quarter of an hour and try again.")


@contextmanager
def sign_in_door(request: HttpRequest, username: str) -> Iterator[None]:
    """Raises TooMany before anything is asked. Who is sent away inside has guessed wrong."""
    with _door(_of_sign_in(request, username), LOCKED_OUT):
        yield


@contextmanager
def code_door(request: HttpRequest, what: str, username: str = "") -> Iterator[None]:
    """The same for a code that can be guessed: the one of the set-up, or of a person's second
    factor."""
    with _door(_of_code(request, what, username), WRONG_CODES.format(what)):
        yield


@contextmanager
def secret_door(request: HttpRequest, what: str) -> Iterator[None]:
    """For a secret that nobody can guess, such as a link: a right one always opens. Raises TooMany
    instead once too many wrong ones came."""
    counts = _of_code(request, what)
    try:
        yield
    except (NotFound, Refused):
        _may_guess(counts, WRONG_CODES.format(what))
        _guessed_wrong(counts)
        raise


@contextmanager
def _door(counts: _Counts, message: str) -> Iterator[None]:
    _may_guess(counts, message)
    try:
        yield
    except (HttpError, NotFound, Refused):
        _guessed_wrong(counts)
        raise
