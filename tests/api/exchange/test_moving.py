"""A school moves: written whole, read beside others, and erased only where the file has it all."""

from __future__ import annotations

import zipfile
from pathlib import Path

import pytest
from django.contrib.auth.hashers import check_password
from django.db import connection
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.exchange.package import move
from lauf.exchange.package.move import erase_school, export_moving
from lauf.exchange.package.read import read_moved, read_package
from lauf.people.actions import found_trust, set_paused
from lauf.people.models import School, SecondPost, Staff
from tests.api.conftest import PASSWORD, World
from tests.api.every_route.test_sent_again import HOW_MANY
from tests.api.exchange.test_package import lived_in
from tests.support.rows import sums

__all__ = ["lived_in"]


@pytest.fixture(autouse=True)
def _at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Within a test's transaction nobody else writes: nothing is waited for."""
    monkeypatch.setattr(move, "_LET_IN_BEFORE", 0)
    monkeypatch.setattr(move, "_wait_for_writers", lambda: None)


def rows() -> dict[str, int]:
    with connection.cursor() as cursor:
        cursor.execute(HOW_MANY)
        return dict(cursor.fetchall())


def test_a_school_goes_and_comes_back_row_by_row(lived_in: World, tmp_path: Path) -> None:
    file, school = tmp_path / "school.zip", lived_in.school
    other = found_trust(trust_name="T", name="N", username="o", password="x").office
    School.objects.filter(pk=school.pk).update(trust=None)
    export_moving(school.id, file)
    assert file.stat().st_mode & 0o077 == 0, "for its owner alone"
    assert lived_in.teacher.ask("GET", "/api/today").status_code == 423
    before = sums(str(school.id))
    erase_school(school.id, file)
    left = {name: n for name, n in rows().items() if n}
    assert set(left) <= {
        "people.School", "people.Staff", "people.Trust", "auth.Permission", "people.YearGroup",
        "contenttypes.ContentType", "sessions.Session",
    }, left  # fmt: skip
    with pytest.raises(NotFound):
        erase_school(school.id, None)
    again = read_moved(file.read_bytes())
    assert sums(str(again.id)) == before
    # It is open, in the trust that is here, and everybody signs in as before.
    assert again.paused_at is None and again.trust is not None and again.trust.office == other
    assert check_password(PASSWORD, Staff.objects.get(username="teacher").password)
    assert lived_in.teacher.ask("GET", "/api/today").status_code == 200, "the same session"
    written = lived_in.post(lived_in.pupils[0], "30")
    assert written.status_code in (200, 409), written.content
    told = lived_in.head.ask("PUT", "/api/school/units", {"imperial": True})
    assert told.status_code == 200, "the log goes on"


def test_what_came_after_the_file_is_not_erased(lived_in: World, tmp_path: Path) -> None:
    file, school = tmp_path / "school.zip", lived_in.school
    export_moving(school.id, file)
    set_paused(school.id, None)
    late = lived_in.post(lived_in.pupils[3], "17", lived_in.lesson_on(0))
    assert late.status_code == 200, late.content
    with pytest.raises(Refused, match="records_attempt"):
        erase_school(school.id, file)
    assert School.objects.filter(pk=school.pk).exists()
    with pytest.raises(FileExistsError):
        export_moving(school.id, file)
    second = tmp_path / "second.zip"
    export_moving(school.id, second)
    erase_school(school.id, second)
    assert not School.objects.exists()


def test_a_school_is_read_beside_others_or_refused_whole(lived_in: World, tmp_path: Path) -> None:
    file, school = tmp_path / "school.zip", lived_in.school
    export_moving(school.id, file)
    packed = file.read_bytes()
    with pytest.raises(Refused, match="on this Lauf already"):
        read_moved(packed)
    erase_school(school.id, file)
    here = School.objects.create(name="Here")
    taken = Staff.objects.create(school=here, username="TEACHER", name="T", password="x")
    SecondPost.objects.create(post=taken, account=taken)
    with pytest.raises(Refused, match="taken on this Lauf: teacher"):
        read_moved(packed)
    assert School.objects.get() == here
    again = read_moved(packed, ending=".hill")
    names = set(Staff.objects.filter(school=again).values_list("username", flat=True))
    assert {"teacher.hill", "head"} <= names and Staff.objects.get(
        pk=taken.pk
    ).username == "TEACHER"
    # A head's own file is no file to move by, and the other way round.
    with pytest.raises(Refused, match="already has a school"):
        read_package(packed, username="head", password="x")
    School.objects.filter(pk=again.pk).update(paused_at=timezone.now())
    (tmp_path / "none.zip").write_bytes(b"PK")
    with pytest.raises(Refused, match="not a school"):
        erase_school(again.pk, tmp_path / "none.zip")
    with zipfile.ZipFile(tmp_path / "x.zip", "w") as empty:
        empty.writestr("datapackage.json", "{}")
    with pytest.raises(Refused, match="not a school"):
        read_moved((tmp_path / "x.zip").read_bytes())


def test_a_trusts_office_stays(world: World) -> None:
    trust = found_trust(trust_name="T", name="N", username="o", password="x")
    with pytest.raises(Refused, match="office"):
        erase_school(trust.office_id, None)
