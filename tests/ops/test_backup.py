"""`./lauf backup` and `./lauf restore`, on a Lauf that serves and is killed."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import zipfile
from datetime import datetime, timedelta
from pathlib import Path

import psycopg
import pytest
from psycopg import sql

from lauf.keeping.drills import last_drill
from ops import backup
from tests.ops.installed import Installed, own_environment
from tests.support.served import wait_for

#: What a backup leaves out on purpose: who is signed in. And what a restore itself does.
_NOT_COMPARED = {"django_session", "django_migrations"}


def command(lauf: Installed, *words: str) -> tuple[int, str]:
    done = subprocess.run(
        [str(lauf.folder / "lauf"), *words], env=own_environment(), cwd=lauf.folder.parent,
        stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip
    return done.returncode, done.stdout


def connect(lauf: Installed) -> psycopg.Connection:
    """To the demo's database as it is served now, as the application."""
    kept = json.loads((lauf.state / "postgres.json").read_text())
    port = int((lauf.home / "data" / "postmaster.pid").read_text().splitlines()[3])
    return psycopg.connect(
        host="127.0.0.1", port=port, dbname="lauf_demo", user="lauf_app",
        password=kept["application"], autocommit=True,
    )  # fmt: skip


def everything(lauf: Installed) -> dict[str, tuple[int, str]]:
    """Of each table, how many rows it has and a digest of all of them."""
    found = {}
    with connect(lauf) as database:
        tables = database.execute(
            "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1"
        ).fetchall()
        for (name,) in tables:
            if name in _NOT_COMPARED:
                continue
            asked = sql.SQL(
                "SELECT count(*), coalesce(md5(string_agg(t::text, '|' ORDER BY t::text)), '')"
                " FROM {} t"
            ).format(sql.Identifier(name))
            row = database.execute(asked).fetchone()
            assert row is not None
            found[name] = (int(row[0]), str(row[1]))
    return found


def write(lauf: Installed, rows: int) -> None:
    with connect(lauf) as database:
        database.execute(
            "INSERT INTO people_house (id, school_id, name)"
            " SELECT gen_random_uuid(), (SELECT id FROM people_school WHERE is_demo), 'House ' || n"
            " FROM generate_series(1, %s) n",
            [rows],
        )


def test_what_was_backed_up_comes_back_equal_after_a_kill(lauf: Installed, place: Path) -> None:
    """And nothing else comes in its place."""
    lauf.start()
    lauf.is_well()
    foreign_broken_and_newer_files_are_refused_in_words(lauf, place)
    at_the_time = everything(lauf)
    assert at_the_time["records_attempt"][0] > 500
    file = place / "school.zip"
    code, said = command(lauf, "backup", str(file), "--demo")
    assert code == 0 and "keep it as you keep the school's papers" in said, said
    assert file.stat().st_mode & 0o077 == 0, "readable by its owner only"
    write(lauf, 1000)
    os.kill(lauf.database(), signal.SIGKILL)
    lauf.heard("the database runs again")
    lauf.is_well()
    assert everything(lauf)["people_house"][0] == at_the_time["people_house"][0] + 1000
    # Without a word of agreement nothing happens; with it all is as it was, while it serves.
    code, said = command(lauf, "restore", str(file), "--demo")
    assert code == 1 and "add --yes" in said
    code, said = command(lauf, "restore", str(file), "--demo", "--yes")
    assert code == 0 and re.search(r"stays in the database lauf_demo_before_\d+", said), said
    lauf.is_well()
    assert everything(lauf) == at_the_time
    # A backup is not put in the place of another kind of school.
    code, said = command(lauf, "restore", str(file), "--yes")
    assert code == 1 and "holds the demo school: add --demo" in said
    # On another machine, which has nothing yet.
    other = Installed(place / "other")
    try:
        code, said = command(other, "restore", str(file), "--demo", "--yes")
        assert code == 0 and "nothing yet" in said and "_before_" not in said, said
        other.start()
        other.is_well()
        here, there = everything(other), at_the_time
        # The demo is brought to today as it starts; what was kept is as it was.
        assert here["people_pupil"] == there["people_pupil"]
        assert here["records_attempt"][0] >= there["records_attempt"][0]
    finally:
        other.remove()


def foreign_broken_and_newer_files_are_refused_in_words(lauf: Installed, place: Path) -> None:
    nightly = wait_for(
        lambda: list((lauf.state / "backups").glob("lauf_demo-*.zip")), bool, seconds=60
    )
    assert len(nightly) == 1, "the first night's backup is made at once"
    good = nightly[0]
    tried = wait_for(lambda: last_drill(good.parent), bool)
    assert (tried.backup, tried.wrong) == (good.name, "") and tried.scores > 500
    before = everything(lauf)

    def refused(file: Path, words: str) -> None:
        code, said = command(lauf, "restore", str(file), "--demo", "--yes")
        assert code == 1 and words in said and "Traceback" not in said, said

    refused(place / "nowhere.zip", "There is no file")
    text = place / "list.csv"
    text.write_text("name,born\n")
    refused(text, "is no backup of Lauf")
    foreign = place / "foreign.zip"
    with zipfile.ZipFile(foreign, "w") as archive:
        archive.writestr("photo.jpg", b"\xff")
    refused(foreign, "is no backup of Lauf")
    whole = good.read_bytes()
    cut = place / "cut.zip"
    cut.write_bytes(whole[: len(whole) // 2])
    refused(cut, "is no backup of Lauf")  # a zip's index is at its end
    bad = bytearray(whole)
    bad[len(bad) // 2] ^= 0xFF
    spoilt = place / "spoilt.zip"
    spoilt.write_bytes(bad)
    refused(spoilt, "is damaged")
    with connect(lauf) as database:
        database.execute(
            "INSERT INTO django_migrations (app, name, applied) VALUES ('people', '9_x', now())"
        )
    newer = place / "newer.zip"
    assert command(lauf, "backup", str(newer), "--demo")[0] == 0
    with connect(lauf) as database:
        database.execute("DELETE FROM django_migrations WHERE name = '9_x'")
    refused(newer, "last used by a newer Lauf")
    assert everything(lauf) == before and lauf.ask("/api/health")[0] == 200
    # A place that cannot be written to, and a file there that stays as it is.
    code, said = command(lauf, "backup", str(place / "no" / "where.zip"), "--demo")
    assert code == 1 and "There is no folder" in said


def test_one_is_made_each_night_and_tried_out_each_week(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(backup, "FOLDER", tmp_path)
    now = datetime(2026, 3, 5, 1, 30)

    def made(days_ago: int, name: str = "") -> None:
        day = now - timedelta(days=days_ago)
        file = tmp_path / (name or f"lauf-{day:%Y-%m-%d_%H%M%S}.zip")
        file.touch()
        os.utime(file, (day.timestamp(), day.timestamp()))

    assert backup.is_due("lauf", now), "there is none"
    made(1)
    assert not backup.is_due("lauf", now), "of yesterday at half past one, and it is not two yet"
    assert backup.is_due("lauf", now.replace(hour=2))
    assert backup.is_due("lauf", now + timedelta(hours=3))
    made(0)
    assert not backup.is_due("lauf", now.replace(hour=23))
    assert backup.is_due("lauf_demo", now), "that is of another school"
    assert backup.is_drill_due(now), "there was none"
    made(6, "drill.json")
    assert not backup.is_drill_due(now)
    made(8, "drill.json")
    assert backup.is_drill_due(now)
