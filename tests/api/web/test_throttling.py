"""Signing in while others guess, and while many do at once."""

from __future__ import annotations

import json
import os
import threading
from itertools import count
from typing import Any, ClassVar

import pytest
from django.contrib.auth.hashers import MD5PasswordHasher
from django.db import connection
from django.test import Client, override_settings
from limits import RateLimitItemPerMinute

from lauf.people.models import Staff
from lauf.web import hashing, throttling
from tests.api.conftest import PASSWORD, World
from tests.support.served import wait_for
from tests.support.waits import LIMIT_S

WRONG = "not-the-password"
_addresses = count(1)


def sign_in(client: Client, username: str, password: str, **more: Any) -> Any:
    body = json.dumps({"username": username, "password": password})
    return client.post("/api/session", body, content_type="application/json", **more)


def elsewhere() -> dict[str, str]:
    """An address that nobody has come from yet."""
    number = next(_addresses)
    return {"REMOTE_ADDR": f"10.{number // 65536}.{number // 256 % 256}.{number % 256}"}


def test_a_guesser_locks_strangers_out_and_not_the_teacher_on_a_known_device(world: World) -> None:
    known = Client()
    assert sign_in(known, "teacher", PASSWORD).status_code == 200
    known.delete("/api/session")
    for _ in range(throttling.BY_NAME.amount):
        assert sign_in(Client(), "teacher", WRONG, **elsewhere()).status_code == 401
    answer = sign_in(Client(), "teacher", PASSWORD, **elsewhere())
    assert (answer.status_code, answer["Retry-After"]) == (429, "900")
    assert "quarter of an hour" in answer.json()["message"]
    # Whose device it is comes in, from the school's own address too; so does another name.
    assert sign_in(known, "teacher", PASSWORD).status_code == 200
    assert sign_in(Client(), "head", PASSWORD, **elsewhere()).status_code == 200


def test_a_known_device_is_counted_for_itself(world: World) -> None:
    lost, other = Client(), Client()
    for device in (lost, other):
        assert sign_in(device, "teacher", PASSWORD).status_code == 200
        device.delete("/api/session")
    found = [sign_in(lost, "teacher", WRONG).status_code for _ in range(12)]
    assert found == [401] * 10 + [429] * 2
    assert sign_in(lost, "teacher", PASSWORD).status_code == 429
    assert sign_in(other, "teacher", PASSWORD).status_code == 200
    # Known for one name it is not known for another, and a made-up cookie is worth nothing.
    forged = Client()
    forged.cookies[throttling.COOKIE] = lost.cookies[throttling.COOKIE].value[:-3] + "abc"
    found = [sign_in(forged, "teacher", WRONG).status_code for _ in range(6)]
    assert found == [401] * 5 + [429]


def test_many_names_from_one_address_and_many_addresses_in_all(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(throttling, "IN_ALL", RateLimitItemPerMinute(80, throttling.MINUTES))
    here = elsewhere()
    found = [
        sign_in(Client(), f"name{n}", WRONG, **here).status_code
        for n in range(throttling.BY_ADDRESS.amount + 1)
    ]
    assert found == [401] * throttling.BY_ADDRESS.amount + [429]
    assert sign_in(Client(), "teacher", PASSWORD, **elsewhere()).status_code == 200
    left = throttling.IN_ALL.amount - throttling.BY_ADDRESS.amount
    for n in range(left):
        assert sign_in(Client(), f"other{n}", WRONG, **elsewhere()).status_code == 401
    assert sign_in(Client(), "teacher", PASSWORD, **elsewhere()).status_code == 429


def test_what_a_request_says_of_itself_dodges_nothing(world: World) -> None:
    """Neither a forwarded address nor another address of the same network of IPv6."""
    spoofed = {"HTTP_FORWARDED": "for=1.2.3.4", "HTTP_X_REAL_IP": "1.2.3.4"}
    for n in range(throttling.BY_ADDRESS.amount):
        said = {**spoofed, "HTTP_X_FORWARDED_FOR": f"8.8.{n}.1", "REMOTE_ADDR": f"2001:db8::{n:x}"}
        assert sign_in(Client(), f"v6-{n}", WRONG, **said).status_code == 401
    more = {"HTTP_X_FORWARDED_FOR": "9.9.9.9", "REMOTE_ADDR": "2001:db8::ffff"}
    assert sign_in(Client(), "head", PASSWORD, **more).status_code == 429


@pytest.mark.usefixtures("no_school")
def test_set_up_codes_are_not_guessed_either() -> None:
    body = {"school_name": "S", "name": "N", "username": "u", "password": "swinging-ropes-12"}

    def tried(code: str, **where: str) -> int:
        sent = json.dumps({**body, "setup_code": code})
        kind = "application/json"
        return int(Client().post("/api/setup", sent, content_type=kind, **where).status_code)

    here = elsewhere()
    limit = throttling.CODES_BY_ADDRESS.amount
    assert [tried(str(n), **here) for n in range(limit + 1)] == [422] * limit + [429]
    assert tried("test-code", **here) == 429
    left = throttling.CODES_IN_ALL.amount - limit
    assert [tried(str(n), **elsewhere()) for n in range(left + 1)] == [422] * left + [429]


@pytest.mark.usefixtures("no_school")
def test_a_password_does_not_hold_a_name() -> None:
    asked = {
        "setup_code": "test-code", "school_name": "Larkfield Primary", "name": "Ash Headley",
        "username": "ash.h",
    }  # fmt: skip
    for password in ("my-headley-2026", "LARKFIELD-ropes", "xxprimaryxx99"):
        answer = Client().post(
            "/api/setup", json.dumps({**asked, "password": password}),
            content_type="application/json",
        )  # fmt: skip
        assert answer.status_code == 422, password
        assert "must not contain your name" in answer.json()["message"]
    assert not Staff.objects.exists()


def test_signing_in_begins_a_new_session_every_time(world: World) -> None:
    """One that was known before, the same person's too, is worth nothing after."""
    client = Client()
    keys = []
    for _ in range(3):
        assert sign_in(client, "teacher", PASSWORD).status_code == 200
        keys.append(client.session.session_key)
    assert len(set(keys)) == 3
    old = Client()
    old.cookies["sessionid"] = keys[0]
    assert old.get("/api/today").status_code == 401


class Slow(MD5PasswordHasher):
    """A hash that takes until it is told to end, and says what it saw."""

    algorithm = "slow"
    may_end = threading.Event()
    at_work = threading.Semaphore(0)
    niceness: ClassVar[list[int]] = []

    def encode(self, password: str, salt: str, *_: Any) -> str:
        Slow.niceness.append(os.getpriority(os.PRIO_PROCESS, threading.get_native_id()))
        Slow.at_work.release()
        assert Slow.may_end.wait(60)
        return super().encode(password, salt)


def test_hashing_holds_no_connection_and_strangers_wait_for_themselves_alone(
    transactional_world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    """24 at once stopped everybody's scores: each held one of twelve connections all the while."""
    world = transactional_world
    monkeypatch.setattr(hashing, "LONGEST_WAIT", 0.2)
    known = Client()
    assert sign_in(known, "teacher", PASSWORD).status_code == 200
    found: list[int] = []
    connected: list[bool] = []
    in_turn = hashing._THREADS.submit

    def submitted(*work: Any) -> Any:
        connected.append(connection.connection is not None)
        return in_turn(*work)

    monkeypatch.setattr(hashing._THREADS, "submit", submitted)

    def one(client: Client, name: str) -> None:
        found.append(sign_in(client, name, WRONG, REMOTE_ADDR="10.9.9.9").status_code)
        connection.close()

    Slow.may_end.clear()
    Slow.niceness.clear()
    with override_settings(PASSWORD_HASHERS=[f"{__name__}.Slow"]):
        people = [threading.Thread(target=one, args=(Client(), f"nobody{n}")) for n in range(24)]
        for person in people:
            person.start()
        assert Slow.at_work.acquire(timeout=LIMIT_S)
        # Meanwhile scores are taken, and whoever waits too long for a turn is told so.
        assert world.post(world.pupils[0], "21").status_code == 200
        wait_for(lambda: len(found), lambda number: number == 23)
        assert found == [429] * 23
        # A device that is known has a turn of its own.
        teacher = threading.Thread(target=one, args=(known, "teacher"))
        teacher.start()
        assert Slow.at_work.acquire(timeout=LIMIT_S)
        Slow.may_end.set()
        for person in (teacher, *people):
            person.join(60)
    assert sorted(found) == [401] * 2 + [429] * 23
    assert connected == [False, False]
    assert min(Slow.niceness) > os.getpriority(os.PRIO_PROCESS, threading.get_native_id())


def test_wrong_links_from_the_schools_address_do_not_lock_its_real_ones(world: World) -> None:
    here = elsewhere()

    def opened(token: str, kind: str = "welcome") -> int:
        if kind == "welcome":
            sent, ask = json.dumps({"token": token}), Client().post
            return int(
                ask("/api/welcome", sent, content_type="application/json", **here).status_code
            )
        return int(Client().get(f"/api/{kind.format(token)}", **here).status_code)

    invited = world.head.ask("POST", "/api/staff", {
        "name": "Ash Novak", "username": "ash", "role": "teacher", "class_ids": []
    }).json()  # fmt: skip
    token = invited["path"].rpartition("#")[2]
    code = world.head.ask("POST", f"/api/pupils/{world.pupils[0].id}/own-code").json()["code"]
    calendar = world.head.ask("POST", "/api/session/calendar").json()["url"]
    secrets = {
        "welcome": (token, 422),
        "own/{}": (code, 404),
        "calendar/{}.ics": (calendar.rpartition("/")[2].removesuffix(".ics"), 404),
    }
    limit = throttling.CODES_BY_ADDRESS.amount
    for kind, (right, refused) in secrets.items():
        assert [opened(f"wrong{n}", kind) for n in range(limit + 2)] == [refused] * limit + [
            429
        ] * 2
        assert opened(right, kind) == 200, kind
        assert opened("x" * 101, kind) == 422, "longer than any secret"
