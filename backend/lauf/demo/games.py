"""Games that the demo school organises, and stand-ins for the schools far away that answer."""

from __future__ import annotations

import hashlib
from contextlib import suppress
from datetime import date, timedelta
from typing import Final
from uuid import UUID, uuid5

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.utils import timezone

from lauf.catalogue.models import Test
from lauf.challenges.models import Games, GamesKey, GamesSchool
from lauf.errors import Refused
from lauf.exchange.actions import GamesWish, hand_in, know_school, make_games, take_result
from lauf.exchange.games import digest, signed, written
from lauf.exchange.games.keys import key_from
from lauf.people.models import School, Staff
from lauf.plain_json import JsonObject

NAME: Final = "Larkmere Games"
_TESTS: Final = ("press-ups-60", "speed-bounce-30", "squats-30")
_BANDS: Final = (("Youngest", 5, 6), ("Middle", 7, 8), ("Oldest", 9, 11))
#: School, houses, children of each age band in each house, and of twenty how many took part.
_FAR: Final = (
    ("Fernside Primary (made up)", ("Otter", "Stoat"), 14, 15),
    ("Mossgate School (made up)", ("Hazel", "Maple", "Rowan"), 41, 9),
    ("Tarn Hill School (made up)", ("Ridge", "Shore"), 22, 12),
)


def load_games(school: School, today: date) -> None:
    """Games that began three weeks ago, unless some are open: two schools have answered and are
    known, one is still to be compared, and a file of one was altered on the way."""
    if Games.objects.filter(school=school, closes_on__gte=today).exists():
        return
    head = Staff.objects.get(school=school, username="head")
    tests = dict(Test.objects.filter(school=school).values_list("slug", "id"))
    games = make_games(
        head,
        GamesWish(
            key=uuid5(UUID(int=0), f"{NAME} {today}"),
            name=NAME,
            starts_on=today - timedelta(days=21),
            ends_on=today + timedelta(days=10),
            closes_on=today + timedelta(days=13),
            bands=[{"name": name, "from_age": low, "to_age": high} for name, low, high in _BANDS],
            test_ids=[tests[slug] for slug in _TESTS],
            took_part=1,
            a_rung=1,
            open_here=True,
        ),
    )
    hand_in(head, games.id, today)
    for place, far in enumerate(_FAR):
        body = _answer(games, *far)
        if place == 0:
            altered = signed(body, _key(far[0]))
            altered["body"] = {**body, "took_part": body["took_part"] + 1}
            with suppress(Refused):
                take_result(head, games.id, written(altered))
        take_result(head, games.id, written(signed(body, _key(far[0]))))
    for sender in GamesSchool.objects.filter(games=games, name__in=[one[0] for one in _FAR[:2]]):
        know_school(head, games.id, sender.id, known=True)


def _key(name: str) -> GamesKey:
    """What a school far away signs with: the same everywhere, as all of the demo is."""
    return key_from(Ed25519PrivateKey.from_private_bytes(hashlib.sha256(name.encode()).digest()))


def _answer(
    games: Games, name: str, houses: tuple[str, ...], each: int, of_twenty: int
) -> JsonObject:
    """What such a school has reached: fewer on every higher rung."""
    groups = {
        (band, house): max(5, each * of_twenty // 20 - (2 * band + place) % 4)
        for band in range(len(_BANDS))
        for place, house in enumerate(houses)
    }
    tests = []
    for test in games.body["tests"]:
        rungs = max((len(one["rungs"]) for one in test["ladders"]), default=0)
        cells = [
            {
                "parts": [{"band": band, "house": house}],
                "children": each,
                "took_part": took_part,
                "rungs": [took_part * share // 10 for share in (3, 3, 2, 1, *[0] * 8)][:rungs],
                "quartiles": [8 + 3 * band, 13 + 4 * band, 19 + 5 * band],
            }
            for (band, house), took_part in groups.items()
        ]
        tests.append({"code": test["code"], "cells": cells})
    return {
        "kind": "games result",
        "format": 1,
        "key": str(games.key),
        "games": digest(games.body),
        "school": name,
        "number": 1,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        "children": each * len(groups),
        "took_part": sum(groups.values()),
        "tests": tests,
    }
