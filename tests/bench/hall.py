"""A hall of thirty devices: saves alone, beside a storm of wrong sign-ins, and after a kill.

Every figure is of one run: a single device's save is the measure of thirty's, and thirty devices
without the storm are the measure of those with it.
"""

from __future__ import annotations

import http.client
import http.cookiejar
import itertools
import json
import os
import shutil
import signal
import sys
import tempfile
import threading
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from statistics import median
from typing import Any

from tests.bench.saying import said
from tests.ops.installed import Installed
from tests.support.served import wait_for
from tests.support.writers import Device

DEVICES, STORM = 30, 100
#: Seconds between two saves of a device, and of one measurement.
EVERY, LASTS = 2.0, 24.0
KILLS, DATABASE_KILLS = 12, 6
#: As `frontend/src/sync/policy.ts` waits.
FIRST_WAIT, LONGEST_WAIT = 0.5, 6.0


class Hand:
    """A device that saves for one child, over one connection, as its engine does."""

    def __init__(self, lauf: Installed, like: Device, activity: str, pupil: str) -> None:
        self._port, self._activity, self._pupil = lauf.port, activity, pupil
        cookies = {one.name: one.value or "" for one in like.jar}
        self._headers = {
            "Content-Type": "application/json", "X-CSRFToken": cookies["csrftoken"],
            "Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items()),
        }  # fmt: skip
        self._last: str | None = None
        self._connection: http.client.HTTPConnection | None = None

    def ask(self, method: str, path: str, body: Any = None) -> int:
        if self._connection is None:
            self._connection = http.client.HTTPConnection("127.0.0.1", self._port, timeout=30)
        try:
            sent = None if body is None else json.dumps(body)
            self._connection.request(method, path, sent, self._headers)
            answer = self._connection.getresponse()
            answer.read()
        except (OSError, http.client.HTTPException):
            self._connection.close()
            self._connection = None
            return 0
        return answer.status

    def save(self, number: int) -> tuple[float, int]:
        """Seconds until a save is acknowledged, and how often it was sent again."""
        body = {
            "id": str(uuid.uuid4()), "pupil_id": self._pupil, "typed": str(number % 50),
            "variant": "full", "wave": None, "recorded_at": datetime.now(UTC).isoformat(),
            "succeeds": self._last,
        }  # fmt: skip
        begun, wait, again = time.monotonic(), FIRST_WAIT, 0
        while (
            status := self.ask("POST", f"/api/activities/{self._activity}/attempts", body)
        ) != 200:
            assert status in (0, 429, 503), status
            again += 1
            time.sleep(max(wait, 1.5) if status else wait)
            wait = min(LONGEST_WAIT, wait * 2)
        self._last = str(body["id"])
        return time.monotonic() - begun, again

    def look(self) -> None:
        self.ask("GET", f"/api/activities/{self._activity}/lanes")


def quantiles(seconds: list[float]) -> tuple[float, float, float]:
    ordered = sorted(seconds)
    return tuple(ordered[min(len(ordered) - 1, int(q * len(ordered)))] for q in (0.5, 0.95, 0.99))  # type: ignore[return-value]


def saves(hands: list[Hand]) -> tuple[list[float], int]:
    """What the saves of some devices took in a while, each looking at its page at every fifth."""
    took: list[float] = []
    again = 0
    end = time.monotonic() + LASTS

    def work(place: int, hand: Hand) -> None:
        nonlocal again
        time.sleep(EVERY * place / len(hands))
        for number in itertools.count():
            if time.monotonic() > end:
                return
            begun = time.monotonic()
            seconds, tries = hand.save(number)
            took.append(seconds)
            again += tries
            if number % 5 == 0:
                hand.look()
            time.sleep(max(0.0, EVERY - (time.monotonic() - begun)))

    threads = [threading.Thread(target=work, args=one) for one in enumerate(hands)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    return took, again


def storm(lauf: Installed, over: threading.Event, told: dict[int, int]) -> None:
    """A hundred who guess at once, again and again, each with a name of its own."""

    def guess(number: int) -> None:
        jar: http.cookiejar.CookieJar | None = None
        while not over.is_set():
            connection = http.client.HTTPConnection("127.0.0.1", lauf.port, timeout=60)
            try:
                if jar is None:
                    connection.request("GET", "/api/session")
                    found = connection.getresponse()
                    found.read()
                    cookie = (found.headers["Set-Cookie"] or "").split(";")[0]
                    jar = http.cookiejar.CookieJar()
                    token = cookie.partition("=")[2]
                given = json.dumps(
                    {"username": f"guess{number}-{uuid.uuid4().hex}", "password": "x"}
                )
                headers = {
                    "Content-Type": "application/json",
                    "Cookie": cookie,
                    "X-CSRFToken": token,
                }
                connection.request("POST", "/api/session", given, headers)
                status = connection.getresponse().status
                told[status] = told.get(status, 0) + 1
            except (OSError, http.client.HTTPException):
                told[0] = told.get(0, 0) + 1
            finally:
                connection.close()
            time.sleep(0.25)

    for number in range(STORM):
        threading.Thread(target=guess, args=(number,), daemon=True).start()


def after_kills(lauf: Installed, hand: Hand, kill: Callable[[], None], times: int) -> list[float]:
    """Seconds from a kill to the next save that is acknowledged."""
    found = []
    for number in range(times):
        hand.save(number)
        kill()
        took, _ = hand.save(number)
        found.append(took)
        wait_for(lambda: lauf.ask("/api/health")[0], lambda status: status == 200, seconds=60)
        time.sleep(3)
    return found


def main() -> None:
    folder = Path(tempfile.mkdtemp(prefix="lauf-hall-"))
    folder.chmod(0o755)
    lauf = Installed(folder / "lauf")
    try:
        lauf.start()
        _measure(lauf)
    finally:
        lauf.remove()
        shutil.rmtree(folder, ignore_errors=True)


def _measure(lauf: Installed) -> None:
    first = Device(lauf)  # type: ignore[arg-type]
    classes = first.surely("GET", "/api/classes")["classes"]
    heron = next(one for one in classes if one["name"] == "4 Heron")
    test = next(
        one
        for one in first.surely("GET", "/api/tests")
        if one["name"].startswith("Press-ups in 60")
    )
    made = first.surely("POST", "/api/lessons", {
        "class_id": heron["id"], "starts_at": datetime.now(UTC).isoformat(), "minutes": 40,
        "place": "Hall", "test_ids": [test["id"]],
    })  # fmt: skip
    activity = first.surely("GET", f"/api/lessons/{made['id']}")["activities"][0]["id"]
    lanes = first.surely("GET", f"/api/activities/{activity}/lanes")["children"]
    pupils = [one["pupil_id"] for one in lanes]
    hands = [Hand(lauf, first, activity, pupil) for pupil in pupils[:DEVICES]]
    if "kills" not in sys.argv:
        _devices(lauf, hands)
    _kills(lauf, hands[0])


def _devices(lauf: Installed, hands: list[Hand]) -> None:
    one, _ = saves(hands[:1])
    alone, _ = saves(hands)
    over, told = threading.Event(), dict[int, int]()
    storm(lauf, over, told)
    time.sleep(1)
    beside, again = saves(hands)
    over.set()
    single = median(one)
    for words, took in (("one device", one), (f"{len(hands)} devices", alone),
                        (f"{len(hands)} devices beside {STORM} who guess", beside)):  # fmt: skip
        found = quantiles(took)
        ratios = ", ".join(f"{seconds / single:.1f}" for seconds in found)
        ms = ", ".join(f"{1000 * seconds:.0f}" for seconds in found)
        said(f"saves of {words}: {ratios} times one device's median (p50, p95, p99; {ms} ms)")
    worse = quantiles(beside)[2] / quantiles(alone)[2]
    said(f"the storm: p99 of saves {worse:.2f} times (aim 1.5); saves sent again: {again}; "
        f"guesses answered {dict(sorted(told.items()))}")  # fmt: skip


def _kills(lauf: Installed, hand: Hand) -> None:
    def server() -> None:
        os.kill(lauf.server() or 0, signal.SIGKILL)

    def keeper() -> None:
        os.kill(lauf.keeper() or 0, signal.SIGKILL)

    def database() -> None:
        os.kill(lauf.database(), signal.SIGKILL)

    for words, kill, times, aim in (
        ("the server that answers", server, KILLS, 3),
        ("the one that keeps it too", keeper, DATABASE_KILLS, 3),
        ("PostgreSQL", database, DATABASE_KILLS, 6),
    ):
        took = after_kills(lauf, hand, kill, times)
        said(f"from a kill of {words} to the next acknowledged save: {median(took):.2f} s in the "
            f"middle, {max(took):.2f} s at most, of {times} (aim {aim})")  # fmt: skip


if __name__ == "__main__":
    main()
