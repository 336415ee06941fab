"""A lesson in which everything goes wrong: `./lauf bench chaos`. One teacher and six helpers record
30 children in 12 tests, while the server is killed fifty times and PostgreSQL ten times, networks
are away, and the clocks of the devices are up to 90 s apart. A second screen of the teacher follows
one test in a browser: at the end it shows what the database has."""

from __future__ import annotations

import json
import os
import random
import shutil
import signal
import tempfile
import threading
import time
import uuid
from collections import defaultdict
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from http.client import HTTPException
from pathlib import Path
from typing import Any, Final

from playwright.sync_api import Page, sync_playwright

from ops import cluster as rooms
from ops.cluster import Cluster
from tests.bench.saying import said
from tests.support.devices import Device
from tests.support.served import CHROMIUM, CHROMIUM_FLAGS, Served, manage

SERVER, DATABASE, HELPERS = 50, 10, 6
NAME: Final = "lauf_chaos"
#: Seconds between two kills, and how long a network is away at most.
BETWEEN_S, AWAY_S = 3.0, 12.0
#: Answers that another attempt can change, as the front end's policy has it.
_PASSING: Final = frozenset({0, 408, 423, 425, 429, 500, 502, 503, 504})
TESTS: Final = (
    "Press-ups in 60 s", "Sit-ups in 60 s, feet held", "Speed bounce in 30 s", "Star jumps in 30 s",
    "Burpees in 30 s", "Squats in 30 s", "High knees in 20 s", "Frog jumps in 30 s",
    "Step-ups in 60 s", "Heel flicks in 20 s", "Calf raises in 30 s", "Arm circles in 30 s",
)  # fmt: skip

Place = tuple[str, str]


@dataclass
class Person:
    """Somebody with a device: what was entered waits in it until it is acknowledged."""

    name: str
    device: Device
    chance: random.Random
    ahead: timedelta
    #: What was acknowledged: by id, the place and what was typed.
    acknowledged: dict[str, tuple[Place, str]] = field(default_factory=dict)
    conflicts: int = 0
    refused: int = 0
    away_until: float = 0.0

    def send(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """The status and the answer; 0 where nothing answered."""
        if time.monotonic() < self.away_until:
            return 0, None
        try:
            answer = self.device.send(method, path, body)
            text = answer.read()
        except (OSError, HTTPException):
            return 0, None
        return answer.status, json.loads(text) if text and answer.status < 300 else None

    def insist(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """Until it was taken or refused."""
        while True:
            status, answer = self.send(method, path, body)
            if status not in _PASSING:
                return status, answer
            if self.chance.random() < 0.02:
                self.away_until = time.monotonic() + self.chance.random() * AWAY_S
            time.sleep(0.05 + 0.2 * self.chance.random())


@dataclass
class Lesson:
    id: str
    activities: list[str]
    pupils: list[str]


def a_lesson(teacher: Device) -> Lesson:
    """Today's, of a class of 30 or so, with twelve tests."""
    classes = teacher.ask("GET", "/api/classes")["classes"]
    known = {one["name"]: one["id"] for one in teacher.ask("GET", "/api/tests")}
    found = [known[name] for name in TESTS if name in known]
    found += [one for name, one in known.items() if " in 30 s" in name and one not in found]
    new = {
        "class_id": next(one["id"] for one in classes if one["name"] == "5 Kestrel"),
        "test_ids": found[:12],
        "starts_at": datetime.now(UTC).isoformat(),
        "minutes": 60,
        "place": "Hall",
    }
    lesson = teacher.ask("POST", "/api/lessons", new)["id"]
    page = teacher.ask("GET", f"/api/lessons/{lesson}")
    activities = [one["id"] for one in page["activities"]]
    lanes = teacher.ask("GET", f"/api/activities/{activities[0]}/lanes")
    return Lesson(lesson, activities, [one["pupil_id"] for one in lanes["children"]])


class Chaos:
    """The people of the lesson at work, each on a thread."""

    def __init__(self, served: Served) -> None:
        self.served = served
        teacher = Device(served).sign_in("demo")
        self.lesson = a_lesson(teacher)
        secret = teacher.ask("POST", f"/api/lessons/{self.lesson.id}/helpers")["secret"]
        chance = random.Random("chaos")
        self.teacher = Person("teacher", teacher, random.Random("teacher"), timedelta())
        self.helpers = [
            Person(
                f"Helper {n}",
                Device(served).help(secret, f"Helper {n}"),
                random.Random(n),
                timedelta(seconds=chance.uniform(-90, 90)),
            )
            for n in range(HELPERS)
        ]
        self.over = threading.Event()
        self._threads = [
            threading.Thread(target=self._teach),
            *(threading.Thread(target=self._help, args=(one,)) for one in self.helpers),
        ]
        self.variants = {one: self._variant(one) for one in self.lesson.activities}

    def _variant(self, activity: str) -> str:
        lanes = self.teacher.device.ask("GET", f"/api/activities/{activity}/lanes")
        codes = [one["code"] for one in lanes["variants"]]
        return str(codes[0]) if codes else ""

    def _entry(self, person: Person) -> tuple[Place, dict[str, Any]]:
        place = (
            person.chance.choice(self.lesson.activities), person.chance.choice(self.lesson.pupils)
        )  # fmt: skip
        entry = {
            "id": str(uuid.UUID(int=person.chance.getrandbits(128), version=4)),
            "pupil_id": place[1],
            "typed": str(person.chance.randint(8, 24)),
            "variant": self.variants[place[0]],
            "recorded_at": (datetime.now(UTC) + person.ahead).isoformat(),
        }
        return place, entry

    def _help(self, person: Person) -> None:
        while not self.over.is_set():
            (activity, pupil), entry = self._entry(person)
            path = f"/api/help/activities/{activity}/attempts"
            status, _ = person.insist("POST", path, entry)
            if status == 200:
                person.acknowledged[entry["id"]] = ((activity, pupil), entry["typed"])
            else:
                person.refused += 1

    def _teach(self) -> None:
        """On what the own screen shows, which may be older; where another entry stands by then, it
        is told."""
        person = self.teacher
        shown: dict[str, Any] = {}
        while not self.over.is_set():
            (activity, pupil), entry = self._entry(person)
            if activity not in shown or person.chance.random() < 0.3:
                _, shown[activity] = person.insist("GET", f"/api/activities/{activity}/lanes")
            children = shown[activity]["children"]
            child = next(one for one in children if one["pupil_id"] == pupil)
            head = child["head"]
            body = {**entry, "wave": None, "succeeds": head, "why": "counted again" if head else ""}
            path = f"/api/activities/{activity}/attempts"
            status, _ = person.insist("POST", path, body)
            if status == 200:
                person.acknowledged[entry["id"]] = ((activity, pupil), entry["typed"])
            elif status == 409:
                person.conflicts += 1
            else:
                person.refused += 1
            time.sleep(0.2)

    def begin(self) -> None:
        for one in self._threads:
            one.start()

    def end(self) -> None:
        self.over.set()
        for one in self._threads:
            one.join()


def found_wrong(chaos: Chaos) -> dict[str, int]:
    """Acknowledged entries that are not there, or as something else; tries with two scores;
    and differences that nothing asks about."""
    served = chaos.served
    where = "SELECT id::text, typed, activity_id::text, pupil_id::text FROM"
    attempts = served.sql(f"{where} records_attempt")
    recounts = served.sql(f"{where} records_recount")
    stored = {one[0]: one[1:] for one in (*attempts, *recounts)}
    wrong: dict[str, int] = defaultdict(int, lost=0, otherwise=0, doubled=0, unasked=0)
    for person in (chaos.teacher, *chaos.helpers):
        for key, ((activity, pupil), typed) in person.acknowledged.items():
            if key not in stored:
                wrong["lost"] += 1
            elif stored[key] != (typed, activity, pupil):
                wrong["otherwise"] += 1
    wrong["doubled"] = len({one[0] for one in attempts} & {one[0] for one in recounts})
    heads = served.sql(
        "SELECT activity_id, pupil_id, count(*) FROM records_attempt a WHERE NOT EXISTS"
        " (SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id)"
        " GROUP BY activity_id, pupil_id, try_number HAVING count(*) > 1"
    )
    wrong["doubled"] += len(heads)
    # What a helper said last of a try, against the score that stands there.
    differing = served.sql(
        "SELECT a.id FROM records_attempt a JOIN ("
        "  SELECT DISTINCT ON (activity_id, pupil_id, try_number, helper_id) *"
        "  FROM records_recount ORDER BY activity_id, pupil_id, try_number, helper_id,"
        "  received_at DESC, id DESC) r"
        " ON r.activity_id = a.activity_id AND r.pupil_id = a.pupil_id"
        " AND r.try_number = a.try_number AND r.helper_id IS DISTINCT FROM a.helper_id"
        " AND r.received_at > a.received_at"
        " WHERE r.reason IS NULL AND (r.value, r.variant) <> (a.value, a.variant)"
        " AND NOT EXISTS (SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id)"
    )
    asked = {
        key for (key,) in served.sql(
            "SELECT attempt_id FROM records_question WHERE flag = 'two_counts'"
        )
    }  # fmt: skip
    wrong["unasked"] = len({key for (key,) in differing} - asked)
    return dict(wrong)


SHOWN: Final = """
    SELECT p.given_name || ' ' || p.family_name, a.typed FROM records_attempt a
    JOIN people_pupil p ON p.id = a.pupil_id WHERE a.activity_id = %s
    AND NOT EXISTS (SELECT 1 FROM records_attempt b WHERE b.succeeds_id = a.id)
"""


def screen(page: Page) -> dict[str, str]:
    """What the list says of every child but the one that is typed in, by name."""
    said = page.evaluate(
        "() => [...document.querySelectorAll('[id^=child-]:not(.active)')].map((row) =>"
        " [row.querySelector('.name > :first-child').innerText,"
        "  row.querySelector('.score').innerText])"
    )
    return {name: words.split()[0] for name, words in said if words.strip() not in ("", "–")}


def differing_on(page: Page, served: Served, activity: str) -> int:
    """Children that the screen shows otherwise than the database, once it has come to rest."""
    deadline = time.monotonic() + 30
    while True:
        shown, kept = screen(page), dict(served.sql(SHOWN, activity))
        wrong = sum(kept.get(name) != words for name, words in shown.items())
        wrong += abs(len(kept) - len(shown)) > 1
        if not wrong or time.monotonic() > deadline:
            return wrong
        page.wait_for_timeout(500)


def main() -> None:
    """On a cluster of its own, with all the safety that a real one has."""
    folder = Path(tempfile.mkdtemp(prefix="lauf-chaos-"))
    folder.chmod(0o755)
    rooms.STATE = folder
    try:
        with Cluster("postgres") as cluster:
            cluster.ensure_database(NAME)
            os.environ["LAUF_DATABASE_URL"] = cluster.url(NAME)
            manage(["prepare", "--without-past"], NAME)
            served = Served(NAME)
            served.start()
            try:
                _under_fire(cluster, served)
            finally:
                served.stop()
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _under_fire(cluster: Cluster, served: Served) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 2000})
        page.goto(served.url)
        page.get_by_role("button", name="Robin Ashgrove").click()
        page.locator(".lesson").first.wait_for()
        _in_a_lesson(cluster, served, page)
        browser.close()


def _in_a_lesson(cluster: Cluster, served: Served, page: Page) -> None:
    chaos = Chaos(served)
    watched = chaos.lesson.activities[0]
    page.goto(f"{served.url}/lessons/{chaos.lesson.id}/list?activity={watched}")
    page.locator("#child-0").wait_for()
    chaos.begin()
    kills = ["server"] * SERVER + ["database"] * DATABASE
    random.Random("kills").shuffle(kills)
    for what in kills:
        page.wait_for_timeout(1000 * BETWEEN_S)
        if what == "server":
            served.kill()
            served.start()
        else:
            file = cluster.data / "postmaster.pid"
            os.kill(int(file.read_text().split("\n", 1)[0]), signal.SIGKILL)
            assert cluster.revive(), "it came back at another address"
    page.wait_for_timeout(1000 * BETWEEN_S)
    chaos.end()
    wrong = found_wrong(chaos) | {"otherwise on the screen": differing_on(page, served, watched)}
    kept = sum(len(one.acknowledged) for one in (chaos.teacher, *chaos.helpers))
    refused = sum(one.refused for one in (chaos.teacher, *chaos.helpers))
    twice = served.sql("SELECT count(*) FROM records_recount")[0][0]
    said(
        f"{SERVER} kills of the server and {DATABASE} of PostgreSQL under a teacher and {HELPERS} "
        f"helpers: {kept} entries acknowledged, {twice} of them second counts, "
        f"{chaos.teacher.conflicts} conflicts told to the teacher, {refused} refused; "
        f"{', '.join(f'{number} {name}' for name, number in wrong.items())} (aim: 0 of each)"
    )


if __name__ == "__main__":
    main()
