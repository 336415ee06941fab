"""A browser without a screen: asks a served Lauf, and follows the events of a lesson."""

from __future__ import annotations

import json
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from http.client import HTTPConnection, HTTPResponse
from typing import Any

from tests.support.served import Served
from tests.support.waits import LIMIT_S


class Device:
    """One device with its cookies."""

    def __init__(self, lauf: Served) -> None:
        self.lauf = lauf
        self.cookies: dict[str, str] = {}

    def headers(self) -> dict[str, str]:
        """What it sends with every request."""
        held = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        token = self.cookies.get("csrftoken", "")
        return {"Content-Type": "application/json", "Cookie": held, "X-CSRFToken": token}

    def connection(self) -> HTTPConnection:
        """The one that the next request goes by."""
        return HTTPConnection("127.0.0.1", self.lauf.port, timeout=LIMIT_S)

    def answered(self, method: str, path: str, text: str | None) -> HTTPResponse:
        connection = self.connection()
        connection.request(method, path, text, self.headers())
        return connection.getresponse()

    def send(self, method: str, path: str, body: Any = None) -> HTTPResponse:
        answer = self.answered(method, path, None if body is None else json.dumps(body))
        for line in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = line.partition(";")[0].partition("=")
            self.cookies[name] = value
        return answer

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        answer = self.send(method, path, body)
        text = answer.read()
        assert answer.status < 300, text
        return json.loads(text) if text else None

    def status(self, method: str, path: str, body: Any = None) -> int:
        answer = self.send(method, path, body)
        answer.read()
        return answer.status

    def sign_in(self, name: str) -> Device:
        self.ask("GET", "/api/session")
        self.ask("POST", "/api/session", {"username": name, "password": "painted-floor-7"})
        return self

    def help(self, secret: str, name: str) -> Device:
        """Come into a lesson as a helper."""
        self.ask("GET", "/api/session")
        self.ask("POST", "/api/help", {"code": secret, "name": name})
        return self

    @contextmanager
    def events(self, path: str) -> Iterator[Iterator[dict[str, Any]]]:
        answer = self.send("GET", path)
        assert answer.headers["Content-Type"].startswith("text/event-stream")
        assert answer.headers["Cache-Control"] == "no-store"

        def heard() -> Iterator[dict[str, Any]]:
            since = time.monotonic()
            while line := answer.readline():
                if line.startswith(b"data: "):
                    yield json.loads(line[6:])
                    since = time.monotonic()
                # Signs of life keep a stream open on which nothing is told any more.
                elif time.monotonic() - since > LIMIT_S:
                    raise AssertionError(f"nothing was told on {path}")

        try:
            yield heard()
        finally:
            answer.close()


def a_lesson(teacher: Device) -> tuple[str, str, list[str]]:
    """A lesson of today with one test: its id, its activity's, and its children's."""
    classes = teacher.ask("GET", "/api/classes")["classes"]
    tests = {one["name"]: one["id"] for one in teacher.ask("GET", "/api/tests")}
    new = {
        "class_id": next(one["id"] for one in classes if one["name"] == "4 Heron"),
        "test_ids": [tests["Press-ups in 60 s"]],
        "starts_at": datetime.now(UTC).isoformat(),
        "minutes": 40,
        "place": "Hall",
    }
    lesson = teacher.ask("POST", "/api/lessons", new)["id"]
    (activity,) = teacher.ask("GET", f"/api/lessons/{lesson}")["activities"]
    lanes = teacher.ask("GET", f"/api/activities/{activity['id']}/lanes")
    return lesson, activity["id"], [one["pupil_id"] for one in lanes["children"]]


def score(pupil: str, typed: str) -> dict[str, Any]:
    """What a helper's device sends for a score."""
    return {
        "id": str(uuid.uuid4()), "pupil_id": pupil, "typed": typed, "variant": "full",
        "recorded_at": datetime.now(UTC).isoformat(),
    }  # fmt: skip
