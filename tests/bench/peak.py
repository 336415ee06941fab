"""`./lauf bench peak`: Monday at nine in a hundred schools on one Lauf. How long devices wait while
all of them arrive, open their lessons, and enter scores.

Each school has two lessons at once, in the hall and in the playground; each lesson has its
teacher's device and a helper's. Who teaches signs in with a password somewhere in the first three
minutes, opens Today, the lesson and its lanes, and lets the helper in. From then on both are in the
busiest ten minutes of a lesson: each enters the thirty children of a class in a test of its own, a
score every twenty seconds on average. Both follow the lesson, and the teacher's device asks for
every child that the helper has entered. All of it, the devices too, shares this machine.
"""

from __future__ import annotations

import asyncio
import os
import random
import time
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from datetime import UTC, datetime
from http.client import HTTPConnection, HTTPException, HTTPResponse
from typing import Any, Final

from tests.bench.filling import django_on, fill_school, quickly, settle
from tests.bench.live import follow, processes, serves
from tests.bench.saying import said, spread
from tests.support.devices import Device, score
from tests.support.served import Served, drop, make_template, served

TEMPLATE: Final = "lauf_bench_peak"
SCHOOLS, LESSONS = 100, 2
ARRIVALS_S, THINKS_S, LASTS_S = 180.0, 20.0, 420.0
AGAIN: Final = 3
PASSWORD: Final = "painted-floor-7"


class Browser(Device):
    """Keeps its connection, as browsers do, and asks again while Lauf is too busy, as its pages
    do; `busy` has a line of each time."""

    def __init__(self, lauf: Served, busy: list[str]) -> None:
        super().__init__(lauf)
        self._connection = super().connection()
        self._busy = busy

    def connection(self) -> HTTPConnection:
        return self._connection

    def answered(self, method: str, path: str, text: str | None) -> HTTPResponse:
        for _ in range(AGAIN):
            answer = self._surely(method, path, text)
            if answer.status != 503:
                return answer
            answer.read()
            self._busy.append(f"{method} {path}")
            time.sleep(float(answer.headers["Retry-After"]) * (1 + random.random()))
        return self._surely(method, path, text)

    def _surely(self, method: str, path: str, text: str | None) -> HTTPResponse:
        try:
            return super().answered(method, path, text)
        except (HTTPException, OSError):
            # It was closed meanwhile: once more.
            self._connection.close()
            return super().answered(method, path, text)


class Refused(Exception):
    """A device was not answered as it should be; it is counted already."""


class Peak:
    """What was done and how long it took."""

    def __init__(self, lauf: Served) -> None:
        self.lauf = lauf
        self.taken: dict[str, list[float]] = {}
        self.failed: list[str] = []
        self.busy: list[str] = []
        self.sent: dict[str, float] = {}
        self.seen: dict[str, float] = {}
        self.acknowledged: list[uuid.UUID] = []

    async def timed(self, name: str, step: Callable[[], Any]) -> Any:
        begun = time.monotonic()
        try:
            return await asyncio.to_thread(step)
        except (AssertionError, OSError, HTTPException) as error:
            self.failed.append(f"{name}: {str(error)[:200]}")
            raise Refused from error
        finally:
            self.taken.setdefault(name, []).append(time.monotonic() - begun)

    async def lesson(self, school: int, place: int, ends: float) -> None:
        with suppress(Refused):
            await self._lesson(school, place, ends)

    async def _lesson(self, school: int, place: int, ends: float) -> None:
        chance = random.Random(f"{school} {place}")
        await asyncio.sleep(chance.random() * ARRIVALS_S)
        teacher, helper = Browser(self.lauf, self.busy), Browser(self.lauf, self.busy)
        who = {"username": f"head-{school}", "password": PASSWORD}
        await self.timed("open the sign-in", lambda: teacher.ask("GET", "/api/session"))
        await self.timed("sign in", lambda: teacher.ask("POST", "/api/session", who))
        today = await self.timed("Today", lambda: teacher.ask("GET", "/api/today"))
        group = f"Class {place:02}"
        card = next(one for one in today["lessons"] if one["class_name"] == group)
        path = f"/api/lessons/{card['id']}"
        page = await self.timed("open the lesson", lambda: teacher.ask("GET", path))
        own, other = (one["id"] for one in page["activities"])
        lanes = await self.timed(
            "lanes", lambda: teacher.ask("GET", f"/api/activities/{own}/lanes")
        )
        pupils = [one["pupil_id"] for one in lanes["children"]]
        secret = await self.timed(
            "a code for helpers", lambda: teacher.ask("POST", f"{path}/helpers")
        )
        await self.timed("a helper comes", lambda: helper.help(secret["secret"], "Helper"))
        watching = asyncio.gather(
            self._watch(teacher, card["id"], other), follow(helper, "/api/help/live", None)
        )
        await asyncio.gather(
            self._enter(teacher, f"/api/activities/{own}/attempts", pupils, chance, ends),
            self._enter(helper, f"/api/help/activities/{other}/attempts", pupils, chance, ends),
        )
        await asyncio.sleep(2)
        watching.cancel()
        with suppress(asyncio.CancelledError):
            await watching

    async def _watch(self, teacher: Browser, lesson: str, activity: str) -> None:
        """The teacher's device is told of each score, and asks for that child."""
        told: asyncio.Queue[dict[str, str]] = asyncio.Queue()
        stream = asyncio.create_task(follow(teacher, f"/api/lessons/{lesson}/live", told))
        # Streams and requests of one device go over connections of their own.
        asking = Browser(self.lauf, self.busy)
        asking.cookies = teacher.cookies
        try:
            while True:
                event = await told.get()
                entry = event.get("entry")
                if event["what"] != "score" or entry not in self.sent:
                    continue
                path = f"/api/activities/{activity}/lanes/{event['pupil']}"
                with suppress(Refused):
                    await self.timed("ask for the child", lambda path=path: asking.ask("GET", path))
                    self.seen[str(entry)] = time.monotonic()
        finally:
            stream.cancel()

    async def _enter(
        self, device: Browser, path: str, pupils: list[str], chance: random.Random, ends: float
    ) -> None:
        helps = path.startswith("/api/help")
        for pupil in pupils:
            await asyncio.sleep(THINKS_S * (0.5 + chance.random()))
            if time.monotonic() > ends:
                return
            new = score(pupil, str(chance.randint(5, 40)))
            if helps:
                new["variant"] = ""
                self.sent[new["id"]] = time.monotonic()
            else:
                new |= {"wave": 1, "succeeds": None}
            with suppress(Refused):
                await self.timed("save a score", lambda new=new: device.ask("POST", path, new))
                self.acknowledged.append(uuid.UUID(new["id"]))


def filled() -> None:
    """A hundred schools with two years of scores, whose heads can sign in."""
    make_template(TEMPLATE, demo=False)
    django_on(TEMPLATE)
    from django.contrib.auth.hashers import make_password
    from django.db import connection

    from lauf.people.models import Staff

    with connection.cursor() as cursor, quickly(cursor):
        for number in range(SCHOOLS):
            fill_school(cursor, number, leavers=0)
    Staff.objects.update(password=make_password(PASSWORD))
    settle()
    connection.close()
    connection.close_pool()


async def monday(lauf: Served) -> Peak:
    asyncio.get_running_loop().set_default_executor(ThreadPoolExecutor(600))
    peak = Peak(lauf)
    ends = time.monotonic() + LASTS_S
    lessons = asyncio.gather(
        *(peak.lesson(n, place, ends) for n in range(SCHOOLS) for place in range(LESSONS))
    )
    at = []
    for seconds in (ARRIVALS_S, LASTS_S - ARRIVALS_S):
        at.append(worked(lauf))
        await asyncio.sleep(seconds)
    at.append(worked(lauf))
    for words, seconds, one, other in (
        ("while they come", ARRIVALS_S, *at[:2]), ("then", LASTS_S - ARRIVALS_S, *at[1:]),
    ):  # fmt: skip
        cores = ", ".join(f"{who} {(other[who] - one[who]) / seconds:.2f}" for who in one)
        said(f"cores at work {words}: {cores}, of {os.cpu_count()}")
    await lessons
    return peak


def worked(lauf: Served) -> dict[str, float]:
    """Seconds of a core so far: of the Laufs, of PostgreSQL, and of the devices (this process)."""
    told = processes("cputimes")
    return {
        "Lauf": sum(seconds for seconds, line in told if serves(lauf, line)),
        "PostgreSQL": sum(seconds for seconds, line in told if " postgres: " in line),
        "the devices": time.process_time(),
    }


def tell(peak: Peak) -> None:
    steady = LASTS_S - ARRIVALS_S
    said(
        f"{SCHOOLS} schools, {SCHOOLS * LESSONS} lessons, {2 * SCHOOLS * LESSONS} devices, all "
        f"there after {ARRIVALS_S:.0f} s, then {steady:.0f} s; a score every {THINKS_S:.0f} s each;"
        f" {sum(map(len, peak.taken.values()))} requests, {len(peak.busy)} sent again because Lauf "
        f"was too busy, {len(peak.failed)} failed; p50, p95, p99:"
    )
    for name, times in peak.taken.items():
        said(f"  {name} ({len(times)}): {spread(times)}")
    on_screen = [peak.seen[one] - at for one, at in peak.sent.items() if one in peak.seen]
    said(
        f"  a helper's score on the teacher's screen ({len(on_screen)} of {len(peak.sent)}): "
        f"{spread(on_screen)}"
    )
    for words in sorted(set(peak.failed))[:5]:
        said(f"  failed: {words}")


def main() -> None:
    try:
        begun = time.monotonic()
        filled()
        said(f"made in {time.monotonic() - begun:.0f} s, {datetime.now(UTC):%H:%M:%S}")
        with served(TEMPLATE, demo=False, LAUF_WORKERS="2") as lauf:
            peak = asyncio.run(monday(lauf))
            tell(peak)
            rows = lauf.sql("SELECT id FROM records_attempt WHERE id = ANY(%s)", peak.acknowledged)
            lost = len(peak.acknowledged) - len(rows)
            said(f"  {len(peak.acknowledged)} scores acknowledged, {lost} of them lost")
            assert lost == 0
    finally:
        drop(TEMPLATE)


if __name__ == "__main__":
    main()
