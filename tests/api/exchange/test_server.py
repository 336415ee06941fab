"""What a head must know of the server, in words: red where somebody has to do something."""

from __future__ import annotations

import os
import shutil
from collections import namedtuple
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from lauf.keeping.drills import Drill, note_drill
from lauf.serving.authority import ensure
from tests.api.conftest import World

NOW = datetime.now(UTC)
DISK = namedtuple("DISK", "total used free")


@pytest.fixture
def folder(tmp_path: Path, settings: Any, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A server on which all is well."""
    settings.BACKUPS = str(tmp_path / "lauf-*.zip*")
    settings.BACKUP_COPIES = ["/mnt/office"]
    made(tmp_path, 0.2)
    note_drill(tmp_path, Drill(NOW - timedelta(days=3), "lauf-1.zip", 12_345, ""))
    disk(monkeypatch, 61)
    settings.CERTIFICATE = str(ensure(tmp_path, ["lauf.local"], NOW).certificate)
    return tmp_path


def made(folder: Path, days_ago: float) -> None:
    file = folder / "lauf-2026-03-05_020000.zip.age"
    file.touch()
    at = (NOW - timedelta(days=days_ago)).timestamp()
    os.utime(file, (at, at))


def disk(monkeypatch: pytest.MonkeyPatch, free: int) -> None:
    held = DISK(100 * 10**9, 0, free * 10**9)
    monkeypatch.setattr(shutil, "disk_usage", lambda _: held)


def lines(client: Client) -> dict[str, tuple[str, bool]]:
    answer = client.get("/api/school/server")
    assert answer.status_code == 200
    return {one["about"]: (one["words"], one["wrong"]) for one in answer.json()["lines"]}


def test_all_is_well(world: World, folder: Path) -> None:
    found = lines(world.head.client)
    assert [about for about, (_, wrong) in found.items() if wrong] == []
    assert list(found) == ["Last backup", "Backup tried out", "Version", "Disk", "Certificate"]
    assert "with a copy elsewhere" in found["Last backup"][0]
    assert "all 12,345 scores" in found["Backup tried out"][0]
    assert found["Disk"][0] == "61 GB of 100 GB are free."


def test_what_is_wrong_is_said_and_is_red(
    world: World, folder: Path, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    head = world.head.client

    def said(about: str, words: str) -> None:
        found = lines(head)
        assert words in found[about][0], found[about]
        assert [one for one, (_, wrong) in found.items() if wrong] == [about]

    made(folder, 4)
    said("Last backup", "4 days old")
    made(folder, 0.1)
    # A drill that failed is there with the next look at the page, one that was missed in a day.
    well = Drill(NOW - timedelta(days=3), "lauf-1.zip", 12_345, "")
    note_drill(folder, Drill(NOW, "lauf-1.zip", 0, "lauf-1.zip is damaged."))
    said("Backup tried out", "lauf-1.zip is damaged.")
    note_drill(folder, Drill(NOW - timedelta(days=9), "lauf-1.zip", 1, ""))
    said("Backup tried out", "due every week")
    (folder / "drill.json").write_text("{")
    said("Backup tried out", "Not yet")
    note_drill(folder, well)
    disk(monkeypatch, 9)
    said("Disk", "no score can be saved")
    disk(monkeypatch, 61)
    old = ensure(folder / "old", ["lauf.local"], NOW - timedelta(days=80)).certificate
    settings.CERTIFICATE = str(old)
    said("Certificate", "no tablet opens Lauf")
    settings.CERTIFICATE = str(folder / "drill.json")
    said("Certificate", "cannot be read")


def test_without_backups_and_certificate_that_is_said(
    world: World, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    disk(monkeypatch, 61)
    settings.BACKUPS = settings.CERTIFICATE = ""
    found = lines(world.head.client)
    assert found["Last backup"][1] and list(found) == ["Last backup", "Version", "Disk"]
