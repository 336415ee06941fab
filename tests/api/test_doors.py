"""Signing in while others guess, and while many do at once."""

from __future__ import annotations

import json
import threading
from itertools import count
from typing import Any, ClassVar

import pytest
from django.contrib.auth.hashers import MD5PasswordHasher
from django.db import connection
from django.test import Client, override_settings
from limits import RateLimitItemPerMinute

from lauf.people.models import Staff
from lauf.web import doors
from tests.api.conftest import PASSWORD, World
from tests.support.served import wait_for

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
    for _ in range(doors.BY_NAME.amount):
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
    forged.cookies[doors.COOKIE] = lost.cookies[doors.COOKIE].value[:-3] + "abc"
    found = [sign_in(forged, "teacher", WRONG).status_code for _ in range(5)]
    assert found == [401] * 4 + [429]


def test_many_names_from_one_address_and_many_addresses_in_all(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(doors, "IN_ALL", RateLimitItemPerMinute(80, doors.MINUTES))
    here = elsewhere()
    found = [
        sign_in(Client(), f"name{n}", WRONG, **here).status_code
        for n in range(doors.BY_ADDRESS.amount + 1)
    ]
    assert found == [401] * doors.BY_ADDRESS.amount + [429]
    assert sign_in(Client(), "teacher", PASSWORD, **elsewhere()).status_code == 200
    left = doors.IN_ALL.amount - doors.BY_ADDRESS.amount
    for n in range(left):
        assert sign_in(Client(), f"other{n}", WRONG, **elsewhere()).status_code == 401
    assert sign_in(Client(), "teacher", PASSWORD, **elsewhere()).status_code == 429


def test_what_a_request_says_of_itself_dodges_nothing(world: World) -> None:
    """Neither a forwarded address nor another address of the same network of IPv6."""
    spoofed = {"HTTP_FORWARDED": "for=1.2.3.4", "HTTP_X_REAL_IP": "1.2.3.4"}
    for n in range(doors.BY_ADDRESS.amount):
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
    limit = doors.CODES_BY_ADDRESS.amount
    assert [tried(str(n), **here) for n in range(limit + 1)] == [422] * limit + [429]
    assert tried("test-code", **here) == 429
    left = doors.CODES_IN_ALL.amount - limit
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
        assert "does not hold your name" in answer.json()["message"]
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
    connected: ClassVar[list[bool]] = []

    def encode(self, password: str, salt: str, *_: Any) -> str:
        Slow.connected.append(connection.connection is not None)
        Slow.at_work.release()
        assert Slow.may_end.wait(60)
        return super().encode(password, salt)


def test_hashing_holds_no_connection_and_is_done_for_few_at_once(
    transactional_world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    """24 at once stopped everybody's scores: each held one of twelve connections all the while."""
    world = transactional_world
    monkeypatch.setattr(doors, "LONGEST_WAIT", 0.2)
    found: list[int] = []

    def one(number: int) -> None:
        answer = sign_in(Client(), f"nobody{number}", WRONG, REMOTE_ADDR="10.9.9.9")
        found.append(answer.status_code)
        connection.close()

    Slow.may_end.clear()
    Slow.connected.clear()
    with override_settings(PASSWORD_HASHERS=[f"{__name__}.Slow"]):
        people = [threading.Thread(target=one, args=(n,)) for n in range(24)]
        for person in people:
            person.start()
        for _ in range(2):
            assert Slow.at_work.acquire(timeout=60)
        # Meanwhile scores are taken, and whoever waits too long for a turn is told so.
        assert world.post(world.pupils[0], "21").status_code == 200
        wait_for(lambda: len(found), lambda number: number == 22)
        Slow.may_end.set()
        for person in people:
            person.join(60)
    assert sorted(found) == [401] * 2 + [429] * 22
    assert Slow.connected == [False, False]
