"""Sign-ins end after days without use: the head of PE says how many, tablets sooner."""

from __future__ import annotations

import time
from typing import Any
from unittest.mock import patch

from django.test import Client

from lauf.people.models import Change
from tests.api.conftest import PASSWORD, World
from tests.api.web.doors.test_account import send

DAY = 24 * 3600
TABLET = {"user-agent": "Mozilla/5.0 (iPad; CPU OS 18_0 like Mac OS X) Safari/604.1"}


def signed_in(headers: dict[str, str] | None = None) -> Client:
    client = Client(headers=headers)
    given = {"username": "teacher", "password": PASSWORD}
    assert send(client, "POST", "/api/session", given).status_code == 200
    return client


def after(days: float) -> Any:
    now = time.time() + days * DAY
    return patch("lauf.web.doors.session.time.time", return_value=now)


def opens(client: Client) -> bool:
    return client.get("/api/today").status_code == 200


def test_two_weeks_and_on_a_tablet_one_where_nobody_says(world: World) -> None:
    desk, tablet = signed_in(), signed_in(TABLET)
    with after(6.9):
        assert opens(tablet), "used again: it counts from here"
    with after(13.5):
        assert opens(desk) and opens(tablet)
    with after(20.6):
        assert opens(desk)
        assert not opens(tablet)
        assert tablet.get("/api/session").json()["person"] is None
    with after(34.7):
        assert not opens(desk)


def test_the_head_chooses_and_it_is_on_record(world: World) -> None:
    answer = world.head.ask("PUT", "/api/school/idle", {"idle_days": 2, "tablet_idle_days": 1})
    assert (answer.json()["idle_days"], answer.json()["tablet_idle_days"]) == (2, 1)
    assert Change.objects.filter(
        words__contains="2 days without use, on tablets after 1 day"
    ).exists()
    for wrong in (0, 61, -1):
        given = {"idle_days": wrong, "tablet_idle_days": 1}
        refused = world.head.ask("PUT", "/api/school/idle", given)
        assert refused.status_code == 422 and "1 to 60 days" in refused.json()["message"]
    desk, tablet = signed_in(), signed_in(TABLET)
    with after(1.5):
        assert opens(desk) and not opens(tablet)


def test_a_shorter_time_counts_for_who_is_signed_in_already(world: World) -> None:
    """From the next hour on in which they use it."""
    desk = signed_in()
    world.head.ask("PUT", "/api/school/idle", {"idle_days": 1, "tablet_idle_days": 1})
    with after(0.5):
        assert opens(desk)
    with after(1.6):
        assert not opens(desk)


def test_use_is_written_down_once_an_hour_not_at_every_request(world: World) -> None:
    desk = signed_in()
    opens(desk)
    kept = desk.session["seen"]
    with after(0.02):
        assert opens(desk)
        assert desk.session["seen"] == kept
    with after(0.05):
        assert opens(desk)
        assert desk.session["seen"] > kept
