"""Backups of a served Lauf: what is in them, who can read them, and whether they work."""

from __future__ import annotations

import os
import subprocess
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path

import psycopg
import pytest
from pyrage.x25519 import Identity

from lauf.keeping.archive import Unusable, look_at
from lauf.keeping.copying import rows
from lauf.keeping.drills import last_drill
from lauf.keeping.work import Place, back_up, drill, nightly, restore
from tests.support.served import Served, admin, as_url, drop, served
from tests.support.writers import Writers

#: Each process of the tests has its own.
SPARE = f"lauf_keeping_spare_{os.getpid()}"
NIGHT = datetime(2026, 3, 5, 2, 0)


@pytest.fixture(scope="module")
def lauf(demo_template: str) -> Iterator[Served]:
    with served(demo_template) as running:
        yield running


@pytest.fixture
def spare() -> Iterator[str]:
    """An empty database."""
    drop(SPARE)
    with admin() as connection:
        connection.execute(f'CREATE DATABASE "{SPARE}"')
    yield as_url(SPARE)
    drop(SPARE)


@pytest.fixture
def place(tmp_path: Path) -> Place:
    folder = tmp_path / "backups"
    folder.mkdir()
    office = tmp_path / "office"
    office.mkdir()
    key = str(Identity.generate())
    return Place(folder / "lauf-*.zip*", [office], key, kept=3)


def tables(address: str) -> dict[str, int]:
    with psycopg.connect(address) as connection:
        return rows(connection)


def test_one_made_under_load_has_every_score_that_was_acknowledged_before_it(
    lauf: Served, spare: str, tmp_path: Path
) -> None:
    writers = Writers(lauf)
    writers.start()
    writers.go_on(40)
    before = writers.acknowledged_ids
    file = tmp_path / "under-load.zip"
    backup = back_up(as_url(lauf.database), file)
    writers.go_on(40)
    toll = writers.stop()
    assert (toll.lost, toll.doubled, toll.wrong) == (0, 0, 0)
    assert restore(spare, file) == backup
    with psycopg.connect(spare) as connection:
        there = {str(one) for (one,) in connection.execute("SELECT id FROM records_attempt")}
        assert rows(connection) == backup.contents.rows
    assert before <= there and len(before) >= 40
    assert len(there) < lauf.sql("SELECT count(*) FROM records_attempt")[0][0]
    assert backup.contents.rows["records_attempt"] == len(there)


def test_who_has_no_key_reads_nothing_and_a_spoilt_one_is_said_to_be(
    lauf: Served, spare: str, tmp_path: Path
) -> None:
    key = str(Identity.generate())
    file = tmp_path / "sealed.zip.age"
    back_up(as_url(lauf.database), file, key)
    assert look_at(file, key).contents.school == "Larkmere Primary School (made up)"
    assert b"backup.json" not in file.read_bytes() and file.stat().st_mode & 0o077 == 0
    for wrong, words in (("", "is encrypted"), (str(Identity.generate()), "another key")):
        with pytest.raises(Unusable, match=words):
            restore(spare, file, wrong)
    spoilt = bytearray(file.read_bytes())
    spoilt[len(spoilt) // 2] ^= 1
    file.write_bytes(spoilt)
    with pytest.raises(Unusable, match="damaged"):
        restore(spare, file, key)
    assert tables(spare) == {}


def test_the_open_format_is_read_by_another_program(lauf: Served, tmp_path: Path) -> None:
    """age, of Debian: whoever has the key needs no Lauf."""
    key = str(Identity.generate())
    file, secret, plain = (tmp_path / name for name in ("a.zip.age", "key", "a.zip"))
    back_up(as_url(lauf.database), file, key)
    secret.write_text(key)
    command = ["age", "--decrypt", "-i", str(secret), "-o", str(plain), str(file)]
    subprocess.run(command, check=True)
    assert look_at(plain) == look_at(file, key)


def test_so_many_nights_are_kept_here_and_elsewhere(
    lauf: Served, place: Place, tmp_path: Path
) -> None:
    by_hand = place.folder / "lauf-before-the-move.zip"
    by_hand.touch()
    made = [nightly(as_url(lauf.database), place, NIGHT + timedelta(days=day)) for day in range(5)]
    assert [wrong for _, wrong in made] == [[]] * 5
    assert place.found() == [file for file, _ in reversed(made)][:3]
    (office,) = place.copies
    assert [one.name for one in place.found(office)] == [one.name for one in place.found()]
    assert by_hand.exists(), "what was not made at night stays"
    # Where the copy cannot be made, there is a backup all the same, and that is said.
    gone = Place(place.pattern, [tmp_path / "not-connected"], place.key)
    file, (words,) = nightly(as_url(lauf.database), gone, NIGHT + timedelta(days=9))
    assert file.exists() and "not-connected" in words


def test_a_drill_finds_what_is_wrong_and_leaves_nothing_behind(
    lauf: Served, place: Place, spare: str
) -> None:
    def tried() -> str:
        done = drill(place, spare)
        assert last_drill(place.folder) == done
        if tables(spare):
            raise AssertionError("children's names are left in the database for drills")
        return done.wrong

    assert tried() == "There is no backup."
    file, _ = nightly(as_url(lauf.database), place, NIGHT)
    assert tried() == ""
    done = last_drill(place.folder)
    assert done is not None and done.backup == file.name
    assert (done.scores,) == lauf.sql("SELECT count(*) FROM records_attempt")[0]
    assert datetime.now(UTC) - done.at < timedelta(hours=1)
    (office,) = place.copies
    copy = office / file.name
    whole = copy.read_bytes()
    copy.write_bytes(whole[:-100])
    assert str(office) in tried()
    copy.unlink()
    assert "There is no file" in tried()
    copy.write_bytes(whole)
    file.write_bytes(whole[:-100])
    assert "is damaged" in tried()


def test_rows_that_are_missing_after_a_restore_are_said(
    lauf: Served, place: Place, spare: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    nightly(as_url(lauf.database), place, NIGHT)
    counted = rows

    def one_short(connection: psycopg.Connection) -> dict[str, int]:
        found = counted(connection)
        return {**found, "records_attempt": found["records_attempt"] - 1}

    monkeypatch.setattr("lauf.keeping.work.rows", one_short)
    assert "{'records_attempt': 1}" in drill(place, spare).wrong


def test_no_database_that_holds_something_is_emptied_for_a_drill(
    lauf: Served, place: Place, spare: str
) -> None:
    nightly(as_url(lauf.database), place, NIGHT)
    before = tables(as_url(lauf.database))
    assert "holds something" in drill(place, as_url(lauf.database)).wrong
    assert tables(as_url(lauf.database)) == before
    with pytest.raises(Unusable, match="not empty"):
        restore(as_url(lauf.database), place.found()[0], place.key)
    # Nor one for drills, once a school was begun in it, or a backup was put into it to stay.
    assert drill(place, spare).wrong == ""
    with psycopg.connect(spare) as connection:
        connection.execute("CREATE TABLE begun ()")
    assert "holds something" in drill(place, spare).wrong
    with psycopg.connect(spare) as connection:
        connection.execute("DROP TABLE begun")
    assert "is not set" in drill(place, "").wrong
    restore(spare, place.found()[0], place.key)
    assert "holds something" in drill(place, spare).wrong
    assert tables(spare) == before
