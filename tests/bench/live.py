"""A lesson followed by many devices: `./lauf bench live`. How long a helper's score takes to the
teacher's screen, and what streams that come and go leave in memory."""

from __future__ import annotations

import asyncio
import json
import random
import subprocess
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field

from tests.bench.saying import said, spread
from tests.support.devices import Device, a_lesson, score
from tests.support.served import Served, make_template, served

TEMPLATE = "lauf_bench_live"
#: Helpers of one lesson, and the milliseconds in which the teacher sees a score (aim).
HELPERS = 30
AIM_MS = 250
#: Seconds of a run, and how often one helper enters a score in it.
SECONDS, EVERY_S = 120.0, 8.0
REQUESTS, STREAMS = 20_000, 300


@dataclass
class Hall:
    """A lesson of its teacher with its helpers, and when which entry was sent and seen."""

    teacher: Device
    lesson: str
    activity: str
    pupils: list[str]
    helpers: list[Device]
    sent: dict[str, float] = field(default_factory=dict)
    heard: dict[str, float] = field(default_factory=dict)
    seen: dict[str, float] = field(default_factory=dict)
    saved: list[float] = field(default_factory=list)
    errors: int = 0


def hall(lauf: Served, helpers: int) -> Hall:
    teacher = Device(lauf).sign_in("demo")
    lesson, activity, pupils = a_lesson(teacher)
    secret = teacher.ask("POST", f"/api/lessons/{lesson}/helpers")["secret"]
    came = [Device(lauf).help(secret, f"Helper {n}") for n in range(helpers)]
    return Hall(teacher, lesson, activity, pupils, came)


async def follow(device: Device, path: str, told: asyncio.Queue[dict[str, str]] | None) -> None:
    """Read a stream to the end."""
    reader, writer = await asyncio.open_connection("127.0.0.1", device.lauf.port)
    lines = [f"GET {path} HTTP/1.1", "Host: 127.0.0.1"]
    lines += [f"{name}: {held}" for name, held in device.headers().items()]
    writer.write(("\r\n".join(lines) + "\r\n\r\n").encode())
    try:
        while line := await reader.readline():
            if told is not None and line.startswith(b"data: "):
                await told.put(json.loads(line[6:]))
    finally:
        writer.close()


async def run(halls: list[Hall], seconds: float, every: float) -> None:
    """Helpers enter scores at random moments; each teacher's device asks for what it is told of."""
    loop = asyncio.get_running_loop()
    loop.set_default_executor(ThreadPoolExecutor(400))
    following = []
    end = time.monotonic() + seconds

    async def watch(one: Hall) -> None:
        told: asyncio.Queue[dict[str, str]] = asyncio.Queue()
        address = f"/api/lessons/{one.lesson}/live"
        following.append(asyncio.create_task(follow(one.teacher, address, told)))
        while True:
            event = await told.get()
            entry, pupil = event.get("entry"), event.get("pupil")
            if event["what"] != "score" or not entry:
                continue
            one.heard[entry] = time.monotonic()
            path = f"/api/activities/{one.activity}/lanes/{pupil}"
            await asyncio.to_thread(one.teacher.ask, "GET", path)
            one.seen[entry] = time.monotonic()

    async def help_in(one: Hall, helper: Device, place: int) -> None:
        following.append(asyncio.create_task(follow(helper, "/api/help/live", None)))
        # Nobody enters a score at the same moment in every hall.
        chance = random.Random(f"{one.lesson} {place}")
        await asyncio.sleep(chance.random() * every)
        while time.monotonic() < end:
            new = score(one.pupils[place % len(one.pupils)], str(chance.randint(5, 40)))
            one.sent[new["id"]] = begun = time.monotonic()
            path = f"/api/help/activities/{one.activity}/attempts"
            status = await asyncio.to_thread(helper.status, "POST", path, new)
            one.saved.append(time.monotonic() - begun)
            one.errors += status != 200
            await asyncio.sleep(every * (0.5 + chance.random()))

    watching = [asyncio.create_task(watch(one)) for one in halls]
    await asyncio.sleep(1)
    await asyncio.gather(
        *(help_in(one, each, place) for one in halls for place, each in enumerate(one.helpers))
    )
    await asyncio.sleep(3)
    for task in (*watching, *following):
        task.cancel()
    await asyncio.gather(*watching, *following, return_exceptions=True)


def tell(words: str, halls: list[Hall]) -> None:
    saved = [one for each in halls for one in each.saved]
    heard = [each.heard[n] - at for each in halls for n, at in each.sent.items() if n in each.heard]
    seen = [each.seen[n] - at for each in halls for n, at in each.sent.items() if n in each.seen]
    sent = sum(len(one.sent) for one in halls)
    late = sum(one > AIM_MS / 1000 for one in seen)
    said(
        f"{words}: {sent} scores, {sum(one.errors for one in halls)} errors, "
        f"{sent - len(seen)} not seen; p50, p95, p99: saved {spread(saved)}; told {spread(heard)}; "
        f"on the teacher's screen {spread(seen)} (aim: p99 {AIM_MS}), {late} later than that"
    )


def processes(column: str) -> list[tuple[int, str]]:
    """Of every process what ps(1) says in a column of whole numbers, and its command line."""
    told = subprocess.run(
        ["ps", "-eo", f"{column}=,args="], capture_output=True, text=True, check=True
    ).stdout
    return [(int(line.split()[0]), line) for line in told.splitlines()]


def serves(lauf: Served, line: str) -> bool:
    """Whether a process with this command line answers for a Lauf."""
    return f"--port {lauf.port} " in line


def memory(lauf: Served) -> int:
    """Resident kilobytes of the process that answers."""
    return max(size for size, line in processes("rss") if serves(lauf, line))


async def come_and_go(device: Device, path: str, number: int) -> None:
    for _ in range(number // 30):
        tasks = [asyncio.create_task(follow(device, path, None)) for _ in range(30)]
        await asyncio.sleep(0.5)
        for one in tasks:
            one.cancel()
        await asyncio.gather(*tasks, return_exceptions=True)


def main() -> None:
    make_template(TEMPLATE, demo=True)
    with served(TEMPLATE) as lauf:
        one = [hall(lauf, HELPERS)]
        asyncio.run(run(one, SECONDS, EVERY_S))
        tell(f"{HELPERS} devices in one lesson, {SECONDS:.0f} s", one)
        ten = [hall(lauf, HELPERS) for _ in range(10)]
        asyncio.run(run(ten, SECONDS, 10 * EVERY_S))
        tell(f"300 devices in ten lessons, {SECONDS:.0f} s", ten)
        before = memory(lauf)
        with ThreadPoolExecutor(8) as pool:
            asked = [pool.submit(one[0].teacher.status, "GET", "/api/session")
                     for _ in range(REQUESTS)]  # fmt: skip
            assert {each.result() for each in asked} == {200}
        between = memory(lauf)
        asyncio.run(come_and_go(one[0].teacher, f"/api/lessons/{one[0].lesson}/live", STREAMS))
        after = memory(lauf)
        said(
            f"memory of the server: {before / 1024:.0f} MB, after {REQUESTS} requests "
            f"{between / before:.2f} times, after {STREAMS} streams that came and went "
            f"{after / between:.2f} times that"
        )


if __name__ == "__main__":
    main()
