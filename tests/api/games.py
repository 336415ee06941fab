"""Schools far away: what they send as a file, signed with keys of their own."""

from __future__ import annotations

import json
import uuid
from datetime import date, timedelta
from typing import Any

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.utils import timezone

from lauf.challenges.models import GamesResult
from lauf.exchange.games import digest, signed
from lauf.exchange.games.keys import key_from
from tests.api.conftest import World

BANDS = [{"name": "Middle", "from_age": 7, "to_age": 8}, {"name": "Oldest", "from_age": 9,
                                                         "to_age": 11}]  # fmt: skip


def new_games(world: World, **more: Any) -> dict[str, Any]:
    """Games of press-ups from a week ago to a week from now, as the head asks for them."""
    today = timezone.localdate()
    asked = {
        "key": str(uuid.uuid4()), "name": "Autumn Games", "starts_on": today - timedelta(days=7),
        "ends_on": today + timedelta(days=7), "closes_on": today + timedelta(days=9),
        "bands": BANDS, "test_ids": [world.activity.protocol.test_id], "took_part": 1, "a_rung": 1,
        **more,
    }  # fmt: skip
    made = world.head.ask("POST", "/api/games", asked)
    assert made.status_code == 201, made.content
    return {"id": made.json()["id"], **asked}


def file_of(world: World, games_id: str) -> dict[str, Any]:
    """The games file, as it is sent."""
    text = world.head.ask("GET", f"/api/games/{games_id}/file").json()["text"]
    found: dict[str, Any] = json.loads(text)
    return found


class FarSchool:
    """A school that is on no Lauf of ours."""

    def __init__(self, name: str, games: dict[str, Any]) -> None:
        self.name, self.games = name, games
        self.key = key_from(Ed25519PrivateKey.generate())

    def result(self, number: int = 1, took_part: int = 10, **more: Any) -> dict[str, Any]:
        """Its answer of that number: of 20 children so many took part, two of them on each of the
        lower two rungs."""
        (test,) = self.games["body"]["tests"]
        rungs = [2, 2, *[0] * (len(test["ladders"][0]["rungs"]) - 2)]
        cell = {
            "parts": [{"band": 0, "house": "Ash"}], "children": 20, "took_part": took_part,
            "rungs": rungs, "quartiles": [4, 8, 12],
        }  # fmt: skip
        body = {
            "kind": "games result", "format": 1, "key": self.games["body"]["key"],
            "games": digest(self.games["body"]), "school": self.name, "number": number,
            "made_at": f"{date(2026, 1, 1)}T10:00:00+00:00", "children": 20,
            "took_part": took_part,
            "tests": [{"code": test["code"], "cells": [cell]}], **more,
        }  # fmt: skip
        return signed(body, self.key)


def send(world: World, games_id: str, file: dict[str, Any] | str) -> Any:
    """The organiser takes a result file in."""
    text = file if isinstance(file, str) else json.dumps(file)
    return world.head.ask("POST", f"/api/games/{games_id}/results", {"text": text})


def games_ids(world: World) -> dict[str, Any]:
    """Real ids of games that others may join, a school that has sent a result, and that result."""
    games_id = new_games(world, open_here=True)["id"]
    send(world, games_id, FarSchool("Harbour School", file_of(world, games_id)).result())
    result = GamesResult.objects.get(sent_by__games=games_id)
    return {"games_id": games_id, "school_id": result.sent_by_id, "result_id": result.id}
