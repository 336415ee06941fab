"""Which devices somebody is signed in on."""

from __future__ import annotations

from typing import Final

from django.http import HttpRequest

from lauf.messages import say
from lauf.people.actions import signed_in
from lauf.people.models import Staff

#: What a browser's name for itself holds, and what a person calls it; the first that fits.
_BROWSERS: Final = (
    ("Edg", "Edge"), ("OPR", "Opera"), ("Firefox", "Firefox"), ("Chrom", "Chromium"),
    ("Safari", "Safari"),
)  # fmt: skip
_SYSTEMS: Final = (
    ("iPad", "iPad"), ("iPhone", "iPhone"), ("Android", "Android"), ("CrOS", "Chromebook"),
    ("Windows", "Windows"), ("Mac OS", "Mac"), ("Linux", "Linux"),
)  # fmt: skip


def device_words(agent: str) -> str:
    """A browser and a system, as far as the browser says so."""
    browser = next((words for mark, words in _BROWSERS if mark in agent), say("A browser"))
    system = next((words for mark, words in _SYSTEMS if mark in agent), "")
    return say("{browser} on {system}", browser=browser, system=system) if system else browser


#: Systems of devices that pass from hand to hand.
_TABLETS: Final = ("iPad", "iPhone", "Android")


def is_tablet(request: HttpRequest) -> bool:
    """Whether a tablet or phone asks, as far as its browser says so."""
    return any(mark in request.META.get("HTTP_USER_AGENT", "") for mark in _TABLETS)


def remember(request: HttpRequest, person: Staff) -> None:
    """Put the device that asks on the person's list, once its session has a key."""
    request.session.save()
    key = request.session.session_key
    assert key is not None
    signed_in(person, key, device_words(request.META.get("HTTP_USER_AGENT", "")))
