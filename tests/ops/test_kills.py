"""SIGKILL while eight devices write: nothing acknowledged is lost, nothing is doubled, and what
cannot be taken now is told to come again. The long series is in `./lauf bench`."""

from __future__ import annotations

import http.client
import json
import threading
from collections import Counter
from collections.abc import Iterator

import psycopg
import pytest

from tests.support.served import Served, admin, database_url, served
from tests.support.waits import LIMIT_S
from tests.support.writers import Device, Toll, Writers


@pytest.fixture
def lauf(demo_template: str) -> Iterator[Served]:
    with served(demo_template) as running:
        yield running


def cost(toll: Toll) -> tuple[int, int, int]:
    return toll.lost, toll.doubled, toll.wrong


def test_a_server_killed_under_eight_writers_loses_and_doubles_nothing(lauf: Served) -> None:
    writers = Writers(lauf)
    writers.start()
    for _ in range(3):
        writers.go_on(20)
        lauf.kill()
        lauf.start()
    toll = writers.stop()
    assert cost(toll) == (0, 0, 0), toll
    assert toll.acknowledged > 60 and toll.sent_again > 0


def test_connections_cut_under_eight_writers_lose_and_double_nothing(lauf: Served) -> None:
    """As when the database is started again: every connection of the pool is broken at once, and
    who asks next is served at once."""
    writers = Writers(lauf)
    writers.start()
    for _ in range(5):
        writers.go_on(20)
        cut(lauf)
    toll = writers.stop()
    assert cost(toll) == (0, 0, 0), toll
    assert toll.acknowledged > 100


def cut(lauf: Served) -> int:
    with admin() as connection:
        ended = connection.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = %s",
            [lauf.database],
        ).fetchall()
    return len(ended)


def test_a_pool_of_broken_connections_is_well_with_the_first_who_asks(lauf: Served) -> None:
    """They were found one by one, with ever longer waits: who asked first waited ten seconds and
    got a 500."""
    first = Device(lauf)
    devices = [Device(lauf, first) for _ in range(12)]
    everybody = [threading.Thread(target=one.surely, args=("GET", "/api/today")) for one in devices]
    for one in everybody:
        one.start()
    for one in everybody:
        one.join()
    assert cut(lauf) >= 4
    assert first.ask("GET", "/api/today")["date"]


def test_who_cannot_be_served_now_is_told_to_come_again_and_is_served_then(
    demo_template: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Sixty saves while the table is locked: 503 with a time, never 500; then each is kept once."""
    monkeypatch.setenv("LAUF_DATABASE_OPTIONS", "-c lock_timeout=300ms")
    with served(demo_template) as lauf:
        device = Device(lauf)
        writers = Writers(lauf)
        found: Counter[tuple[int, bool]] = Counter()

        def save() -> None:
            connection = http.client.HTTPConnection("127.0.0.1", lauf.port, timeout=LIMIT_S)
            cookies = {one.name: one.value or "" for one in device.jar}
            connection.request(
                "PUT", f"/api/activities/{writers.activity}/conditions",
                json.dumps({"conditions": {}}),
                {"Content-Type": "application/json", "X-CSRFToken": cookies["csrftoken"],
                 "Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items())},
            )  # fmt: skip
            answer = connection.getresponse()
            found[answer.status, answer.headers["Retry-After"] is not None] += 1
            connection.close()

        with psycopg.connect(database_url(lauf.database)) as holding:
            holding.execute("LOCK TABLE lessons_activity IN EXCLUSIVE MODE")
            many = [threading.Thread(target=save) for _ in range(60)]
            for one in many:
                one.start()
            for one in many:
                one.join()
        assert found == {(503, True): 60}
        found.clear()
        save()
        assert found == {(200, False): 1}
