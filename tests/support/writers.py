"""Eight devices that take scores without a pause, sending each until it is acknowledged, while what
they write to is killed under them; and what is left of it all afterwards."""

from __future__ import annotations

import http.client
import http.cookiejar
import json
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Final, LiteralString, Protocol

from tests.support.served import wait_for
from tests.support.waits import LIMIT_S

WRITERS = 8
#: Answers that another attempt can change, as the front end's policy has it.
PASSING: Final = frozenset({408, 423, 425, 429, 500, 502, 503, 504})


class Place(Protocol):
    """Where devices write, and where what was kept is looked up with plain SQL."""

    @property
    def url(self) -> str: ...

    @property
    def headers(self) -> Mapping[str, str]: ...

    def sql(self, query: LiteralString, *values: Any) -> list[tuple[Any, ...]]: ...


@dataclass(frozen=True, slots=True)
class Toll:
    """What a series of kills has cost."""

    acknowledged: int
    lost: int
    doubled: int
    wrong: int
    sent_again: int

    def __str__(self) -> str:
        return (
            f"{self.acknowledged} acknowledged, {self.lost} lost, {self.doubled} doubled, "
            f"{self.wrong} kept otherwise than sent, {self.sent_again} sent more than once"
        )


class Device:
    """A plain HTTP client that sends again as the device's engine does."""

    def __init__(self, lauf: Place, like: Device | None = None) -> None:
        """Signed in as the demo's teacher, or by the session of another device."""
        self.lauf = lauf
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.again = 0
        for cookie in like.jar if like else ():
            self.jar.set_cookie(cookie)
        if like is None:
            self.surely("GET", "/api/session")
            who = {"username": "demo", "password": "painted-floor-7"}
            self.surely("POST", "/api/session", who)

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            self.lauf.url + path,
            method=method,
            data=None if body is None else json.dumps(body).encode(),
            headers={
                "Content-Type": "application/json",
                "X-CSRFToken": token,
                **self.lauf.headers,
            },
        )
        with self.opener.open(request, timeout=LIMIT_S) as answer:
            return json.load(answer)

    def surely(self, method: str, path: str, body: Any = None) -> Any:
        """Until it is answered, as long as anything is waited for. What the server refuses is an
        error."""
        deadline = time.monotonic() + LIMIT_S
        while True:
            try:
                return self.ask(method, path, body)
            except urllib.error.HTTPError as error:
                if error.code not in PASSING or time.monotonic() > deadline:
                    words = f"{method} {path}: {error.code} {error.read().decode()[:300]}"
                    raise AssertionError(words) from error
            except (OSError, http.client.HTTPException):
                if time.monotonic() > deadline:
                    raise
            self.again += 1
            time.sleep(0.05)  # as a device waits before it sends again


@dataclass
class _Series:
    """The scores of one child that one device has sent, in their order."""

    pupil: str
    sent: list[tuple[str, str]] = field(default_factory=list)


class Writers:
    """Start them, do harm, and stop them: `toll` then says what is left."""

    def __init__(self, lauf: Place) -> None:
        self._lauf = lauf
        first = Device(lauf)
        lesson = next(
            card
            for card in first.surely("GET", "/api/today")["lessons"]
            if card["class_name"] == "4 Heron"
        )
        page = first.surely("GET", f"/api/lessons/{lesson['id']}")
        self.activity = page["activities"][0]["id"]
        self._path = f"/api/activities/{self.activity}/attempts"
        lanes = first.surely("GET", f"/api/activities/{self.activity}/lanes")
        free = [one["pupil_id"] for one in lanes["children"] if one["head"] is None]
        self._series = [_Series(pupil) for pupil in free[:WRITERS]]
        assert len(self._series) == WRITERS
        self._devices: list[Device] = [first]
        self._stop = threading.Event()
        self._failed: list[BaseException] = []
        self._refused: list[_Series] = []
        self._threads = [
            threading.Thread(target=self._write, args=(one,), daemon=True) for one in self._series
        ]

    def start(self) -> None:
        for thread in self._threads:
            thread.start()

    @property
    def acknowledged(self) -> int:
        return sum(len(one.sent) for one in self._series)

    @property
    def acknowledged_ids(self) -> set[str]:
        return {name for one in self._series for name, _ in one.sent}

    def go_on(self, more: int) -> None:
        """Until so many more are acknowledged."""
        wanted = self.acknowledged + more
        wait_for(lambda: self.acknowledged >= wanted or self._failed, bool)
        assert self._failed == [] and self.acknowledged >= wanted

    def seconds_until_all_go_on(self, limit: float = LIMIT_S) -> float:
        """From now until each of them was acknowledged two more: the first may be of before."""
        begun, before = time.monotonic(), [len(one.sent) for one in self._series]

        def behind() -> int:
            assert self._failed == []
            return sum(
                len(one.sent) < had + 2 for one, had in zip(self._series, before, strict=True)
            )

        wait_for(behind, lambda waiting: waiting == 0, seconds=limit)
        return time.monotonic() - begun

    def refused(self) -> list[tuple[str, list[tuple[str, str]]]]:
        """The children whose device was told something else, and what was acknowledged last."""
        return [(one.pupil, one.sent[-3:]) for one in self._refused]

    def _write(self, series: _Series) -> None:
        try:
            device = Device(self._lauf, self._devices[0])
            self._devices.append(device)
            while not self._stop.is_set():
                number = len(series.sent)
                body = {
                    "id": str(uuid.uuid4()), "pupil_id": series.pupil, "wave": 1,
                    "typed": str(number % 60), "variant": "full",
                    "succeeds": series.sent[-1][0] if series.sent else None,
                    "recorded_at": "2026-01-05T10:00:00Z",
                }  # fmt: skip
                device.surely("POST", self._path, body)
                series.sent.append((str(body["id"]), str(body["typed"])))
        except BaseException as error:
            self._failed.append(error)
            self._refused.append(series)
            raise

    def stop(self) -> Toll:
        """Let each finish what it is sending, and look past everything Lauf thinks."""
        self._stop.set()
        for thread in self._threads:
            thread.join()
        assert self._failed == []
        rows = self._lauf.sql(
            "SELECT id::text, typed, pupil_id::text, succeeds_id::text FROM records_attempt "
            "WHERE activity_id = %s", self.activity,
        )  # fmt: skip
        kept = {row[0]: row for row in rows}
        lost = wrong = doubled = 0
        for series in self._series:
            mine = [row for row in rows if row[2] == series.pupil]
            doubled += len(mine) - len(series.sent)
            heads = Counter(row[3] for row in mine)
            doubled += sum(times - 1 for times in heads.values())
            before = None
            for name, typed in series.sent:
                found = kept.get(name)
                lost += found is None
                wrong += found is not None and found[1:] != (typed, series.pupil, before)
                before = name
        again = sum(device.again for device in self._devices)
        return Toll(self.acknowledged, lost, doubled, wrong, again)
