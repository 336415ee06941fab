"""`lauf` as it is installed: what is wrong with a database is said, and several processes serve."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import threading
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path
from typing import Any

import psycopg
import pytest

from ops.network import free_port
from tests.support.devices import Device, a_lesson, score
from tests.support.served import (
    ROOT,
    Served,
    admin,
    as_url,
    drop,
    make_template,
    served,
    wait_for,
)

KEY = "a long one that nobody can guess, 48 letters or so"
#: Each process of the tests has its own.
EMPTY = f"lauf_command_empty_{os.getpid()}"
FILLED = f"lauf_command_{os.getpid()}"


def lauf(*words: str, url: str, **more: str) -> subprocess.CompletedProcess[str]:
    """`lauf`, with no variables but these."""
    plain = {name: held for name, held in os.environ.items() if not name.startswith("LAUF_")}
    given = {**plain, "LAUF_SECRET_KEY": KEY, "LAUF_DATABASE_URL": url, **more}
    command = [sys.executable, "-m", "lauf.command", *words]
    return subprocess.run(
        command, env={**given, "PYTHONPATH": str(ROOT / "backend")}, capture_output=True, text=True
    )


@pytest.fixture(scope="module")
def empty() -> Iterator[str]:
    drop(EMPTY)
    with admin() as connection:
        connection.execute(f'CREATE DATABASE "{EMPTY}"')
    yield as_url(EMPTY)
    drop(EMPTY)


@pytest.fixture(scope="module")
def filled() -> Iterator[str]:
    make_template(FILLED, demo=False)
    yield as_url(FILLED)
    drop(FILLED)


@pytest.mark.parametrize(
    ("change", "wrong", "remedy"),
    [
        ((r":[^:@]+@", ":wrong@"), "password authentication failed", "right password"),
        ((r":\d+/", ":1/"), "refused", "start PostgreSQL"),
        ((r"/[^/]+$", "/nothing_here"), "does not exist", "createdb"),
        ((r"//[^:]+:", "//stranger:"), "password authentication failed", "password"),
        ((r"@[^:]+:", "@no-such-host.invalid:"), "no-such-host.invalid", "correct the host"),
        ((r"$", "?sslmode=require"), "SSL", "switch TLS on"),
        ((r"$", "?sslmode=perhaps"), "sslmode", "correct LAUF_DATABASE_URL"),
    ],
)
def test_a_database_that_lets_nobody_in_is_told_with_the_remedy(
    filled: str, change: tuple[str, str], wrong: str, remedy: str
) -> None:
    done = lauf("check", url=re.sub(*change, filled, count=1))
    assert done.returncode == 1
    (line,) = done.stderr.splitlines()
    assert wrong in line and remedy.lower() in line.lower(), line


def test_a_database_of_another_version_or_for_reading_only_is_told(empty: str, filled: str) -> None:
    done = lauf("check", url=empty)
    assert done.returncode == 1 and "empty" in done.stderr and "lauf migrate" in done.stderr
    assert lauf("migrate", url=empty).returncode == 0
    done = lauf("check", url=empty)
    assert (done.returncode, "Lauf can serve" in done.stderr) == (0, True), done.stderr
    with psycopg.connect(empty, autocommit=True) as connection:
        connection.execute("INSERT INTO django_migrations (app, name, applied)"
                           " VALUES ('records', '9999_of_tomorrow', now())")  # fmt: skip
        newer = lauf("serve", url=empty)
        assert newer.returncode == 1 and "newer Lauf" in newer.stderr
        connection.execute("DELETE FROM django_migrations WHERE name = '9999_of_tomorrow'")
        connection.execute("DELETE FROM django_migrations WHERE app = 'web'")
    older = lauf("check", url=empty)
    assert older.returncode == 1 and "older Lauf" in older.stderr
    options = "?options=-c%20default_transaction_read_only%3Don"
    reading = lauf("check", url=f"{filled}{options}")
    assert reading.returncode == 1 and "read only" in reading.stderr


def test_the_first_head_signs_in(filled: str, tmp_path: Path) -> None:
    password = tmp_path / "password"
    words = ["create-head", "--school", "Larkmere", "--name", "Jo Wintle", "--username", "jo",
             "--password-file", str(password)]  # fmt: skip
    password.write_text("short")
    weak = lauf(*words, url=filled)
    assert weak.returncode == 1 and "10" in weak.stderr
    password.write_text("painted-floor-of-the-hall")
    made = lauf(*words, url=filled)
    assert made.returncode == 0 and "jo signs in" in made.stderr, made.stderr
    again = lauf(*words, url=filled)
    assert again.returncode == 1 and "already has a school" in again.stderr


@pytest.fixture
def several(demo_template: str) -> Iterator[Served]:
    with served(demo_template, LAUF_WORKERS="3") as running:
        yield running


def test_several_processes_serve_as_one(
    several: Served,
) -> None:
    teacher = Device(several).sign_in("demo")
    lesson, activity, pupils = a_lesson(teacher)
    with ExitStack() as open_streams:
        # Each connection comes to whichever process takes it.
        streams = [
            open_streams.enter_context(teacher.events(f"/api/lessons/{lesson}/live"))
            for _ in range(9)
        ]
        assert [next(one) for one in streams] == [{"what": "hello"}] * 9
        new = score(pupils[0], "20")
        teacher.ask("POST", f"/api/activities/{activity}/attempts", {**new, "wave": 1})
        assert {next(one)["entry"] for one in streams} == {new["id"]}
    # What one of them lays out is found by all.
    group = teacher.ask("GET", "/api/classes")["classes"][0]["id"]
    begun = teacher.ask("POST", f"/api/classes/{group}/reports", {})["id"]
    state = wait_for(lambda: teacher.ask("GET", f"/api/handouts/{begun}"), lambda one: one["ready"])
    assert state["done"] == state["of"] and not state["problem"]
    files = {teacher.send("GET", f"/api/handouts/{begun}/file").read() for _ in range(9)}
    assert len(files) == 1 and files.pop().startswith(b"%PDF")
    stranger = Device(several)
    stranger.ask("GET", "/api/session")
    wrong = {"username": "head", "password": "guessed"}
    codes = [stranger.status("POST", "/api/session", wrong) for _ in range(8)]
    assert codes == [401] * 5 + [429] * 3


def asked(url: str, **headers: str) -> tuple[int, Any, dict[str, str]]:
    request = urllib.request.Request(url, headers=headers)
    try:
        with urllib.request.urlopen(request, timeout=30) as answer:
            return answer.status, answer.read().decode(), dict(answer.headers)
    except urllib.error.HTTPError as error:
        return error.code, error.read().decode(), dict(error.headers)


def test_numbers_are_told_together_and_who_ends_is_replaced(
    demo_template: str, tmp_path: Path
) -> None:
    """They tell numbers together, and one that ends is replaced."""
    port = free_port()
    with served(
        demo_template, LAUF_WORKERS="3", LAUF_METRICS=f"127.0.0.1:{port}", LAUF_LOG="json"
    ) as lauf_here:
        status, body, headers = asked(
            f"{lauf_here.url}/api/ready", **{"X-Request-Id": "of-a-proxy-1"}
        )
        assert (status, json.loads(body), headers["x-request-id"]) == (
            200,
            {"ready": True},
            "of-a-proxy-1",
        )

        def numbers() -> dict[str, float]:
            _, text, _ = asked(f"http://127.0.0.1:{port}/metrics")
            lines = (one.rsplit(" ", 1) for one in text.splitlines() if not one.startswith("#"))
            return {name: float(held) for name, held in lines}

        for _ in range(30):
            asked(f"{lauf_here.url}/api/health")
        name = 'lauf_requests_total{method="GET",route="api/health",status="200"}'
        wait_for(lambda: numbers().get(name, 0.0), lambda found: found >= 30)
        assert numbers()['lauf_database_connections{state="open"}'] >= 1
        assert {"lauf_jobs", "lauf_event_streams", "lauf_requests_waiting"} <= set(numbers())
        answering = workers_of(lauf_here)
        assert len(answering) == 3
        os.kill(answering[0], signal.SIGKILL)
        wait_for(lambda: workers_of(lauf_here), lambda now: len(now) == 3 and now != answering)
        assert asked(f"{lauf_here.url}/api/health")[0] == 200


def workers_of(running: Served) -> list[int]:
    """The processes that answer, without the one that keeps them."""
    found = []
    for folder in Path("/proc").glob("[0-9]*"):
        try:
            words = (folder / "cmdline").read_text().split("\0")
            parent = int((folder / "stat").read_text().rsplit(")", 1)[1].split()[1])
        except (OSError, IndexError):
            continue
        if "lauf.serving.serve" in words and str(running.port) in words:
            found.append((int(folder.name), parent))
    own = {one for one, _ in found}
    children = sorted(one for one, parent in found if parent in own)
    # One of them tells the numbers: it listens elsewhere.
    return [one for one in children if is_answering(one)]


def is_answering(process: int) -> bool:
    """Whether its event loop is there: it waits on an epoll."""
    try:
        links = [str(one.readlink()) for one in Path(f"/proc/{process}/fd").iterdir()]
    except OSError:
        return False
    return any("eventpoll" in one for one in links)


def test_a_stop_lets_what_is_being_answered_finish(demo_template: str) -> None:
    with served(demo_template) as running:
        found: list[int] = []
        asking = threading.Thread(
            target=lambda: found.append(asked(f"{running.url}/api/session")[0])
        )
        with psycopg.connect(as_url(running.database)) as held:
            held.execute("LOCK TABLE people_school IN ACCESS EXCLUSIVE MODE")
            asking.start()
            with admin() as looking:
                waiting = "SELECT count(*) FROM pg_locks WHERE NOT granted"
                wait_for(lambda: looking.execute(waiting).fetchone(), lambda one: one != (0,))
            stopping = threading.Thread(target=running.stop)
            stopping.start()
        asking.join()
        stopping.join()
    assert found == [200]
