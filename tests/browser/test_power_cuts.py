"""SIGKILL between an acknowledgement and the next score: none is lost, none doubled."""

from __future__ import annotations

import http.cookiejar
import json
import urllib.request
import uuid
from typing import Any

from tests.support.served import Served


class Device:
    """A plain HTTP client that retries as the outbox does."""

    def __init__(self, lauf: Served) -> None:
        self.lauf = lauf
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.ask("GET", "/api/session")
        self.ask("POST", "/api/session", {"username": "demo", "password": "painted-floor-7"})

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            self.lauf.url + path,
            method=method,
            data=None if body is None else json.dumps(body).encode(),
            headers={"Content-Type": "application/json", "X-CSRFToken": token},
        )
        with self.opener.open(request, timeout=20) as answer:
            return json.load(answer)


def test_twenty_power_cuts_lose_and_double_nothing(lauf: Served) -> None:
    device = Device(lauf)
    lesson = next(
        card
        for card in device.ask("GET", "/api/today")["lessons"]
        if card["class_name"] == "4 Heron"
    )
    activity = device.ask("GET", f"/api/lessons/{lesson['id']}")["activities"][0]["id"]
    children = device.ask("GET", f"/api/activities/{activity}/lanes")["children"]
    path = f"/api/activities/{activity}/attempts"
    acknowledged: dict[str, int] = {}
    for number, child in enumerate(children[:20]):
        body = {
            "id": str(uuid.uuid4()),
            "pupil_id": child["pupil_id"],
            "typed": str(10 + number),
            "variant": "full",
            "wave": 1,
            "recorded_at": "2026-01-05T10:00:00Z",
        }
        device.ask("POST", path, body)
        acknowledged[body["id"]] = 10 + number
        lauf.kill()
        lauf.start()
        if number % 2:
            # The device did not hear the answer before the cut and sends again.
            device.ask("POST", path, body)
    kept = lauf.sql("SELECT id::text, value FROM records_attempt WHERE activity_id = %s", activity)
    assert dict(kept) == acknowledged
    assert len(kept) == 20
