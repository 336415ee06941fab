"""`./lauf bench service`: what more processes bring, and what a hundred thousand requests leave in
memory."""

from __future__ import annotations

import threading
import time
from collections.abc import Callable

from tests.bench.live import memory
from tests.bench.saying import said
from tests.support.served import Served, drop, make_template, served
from tests.support.writers import Device, Writers

TEMPLATE = "lauf_bench_service"
WORKERS = (1, 2, 4)
SECONDS = 20.0
DEVICES = 16
REQUESTS = 100_000


def a_second(step: Callable[[Device], None], devices: list[Device]) -> float:
    """How often a second these devices can do it, all at once."""
    done = [0] * len(devices)
    until = time.perf_counter() + SECONDS

    def go_on(number: int) -> None:
        while time.perf_counter() < until:
            step(devices[number])
            done[number] += 1

    threads = [threading.Thread(target=go_on, args=(number,)) for number in range(len(devices))]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    return sum(done) / SECONDS


def saves(lauf: Served) -> float:
    writers = Writers(lauf)
    writers.start()
    begun = time.perf_counter()
    writers.go_on(1)
    while time.perf_counter() < begun + SECONDS:
        writers.go_on(8)
    taken = time.perf_counter() - begun
    toll = writers.stop()
    assert (toll.lost, toll.doubled, toll.wrong) == (0, 0, 0), toll
    return toll.acknowledged / taken


def boards(lauf: Served) -> float:
    first = Device(lauf)
    classes = first.surely("GET", "/api/classes")["classes"]
    at = next(one["id"] for one in classes if one["name"] == "4 Heron")
    devices = [first, *(Device(lauf, first) for _ in range(DEVICES - 1))]
    return a_second(lambda one: one.surely("GET", f"/api/classes/{at}/board"), devices)


def main() -> None:
    make_template(TEMPLATE, demo=True)
    try:
        for words, measured in (("saves", saves), ("class boards", boards)):
            found = {}
            for workers in WORKERS:
                with served(TEMPLATE, LAUF_WORKERS=str(workers)) as lauf:
                    found[workers] = measured(lauf)
            told = ", ".join(
                f"{workers} processes {rate / found[1]:.2f}" for workers, rate in found.items()
            )
            said(f"{words} a second, one process is 1 ({found[1]:.0f}): {told}")
        with served(TEMPLATE, LAUF_WORKERS="2") as lauf:
            kept_in_memory(lauf)
    finally:
        drop(TEMPLATE)


def kept_in_memory(lauf: Served) -> None:
    first = Device(lauf)
    devices = [first, *(Device(lauf, first) for _ in range(7))]

    def ask(each: int) -> None:
        def go_on(device: Device) -> None:
            for number in range(each):
                path = "/api/today" if number % 20 == 0 else "/api/session"
                device.surely("GET", path)

        threads = [threading.Thread(target=go_on, args=(one,)) for one in devices]
        for one in threads:
            one.start()
        for one in threads:
            one.join()

    ask(500)
    before = memory(lauf)
    ask(REQUESTS // len(devices))
    after = memory(lauf)
    said(
        f"memory of the largest process: {before / 1024:.0f} MB, after {REQUESTS} requests "
        f"{after / 1024:.0f} MB, ratio {after / before:.2f} (aim: 1.1 or less)"
    )


if __name__ == "__main__":
    main()
