"""A school goes: what is left of it is checked against the file it went by."""

from __future__ import annotations

import json
import time
import zipfile
from pathlib import Path
from typing import Final
from uuid import UUID

from django.db import connection, transaction
from django.db.models import Q
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.exchange.models import HandoutJob
from lauf.exchange.package.tables import Table, sessions, tables
from lauf.exchange.package.unpack import NONE
from lauf.exchange.package.write import digest_of, write_moving
from lauf.messages import say
from lauf.people.actions import set_paused
from lauf.people.models import School, SecondPost, SignIn, Staff
from lauf.records.models import RepeatSummary
from lauf.records.rewriting import leaving

#: Seconds in which what was begun before a school was closed is through or has failed: a request
#: may go on for so long after it was let in.
_LET_IN_BEFORE: Final = 3.0
#: Tables that go on by themselves while nobody writes: signing out.
_GO_ON: Final = (SignIn,)


def school_of(school_id: UUID) -> School:
    """A school by its id. Raises NotFound."""
    found = School.objects.filter(pk=school_id).first()
    if found is None:
        raise NotFound(say("school"))
    return found


def export_moving(school_id: UUID, file: Path) -> None:
    """Close a school and write all of it into a file. Raises NotFound, or OSError for a file that
    is there or cannot be written."""
    school = school_of(school_id)
    if school.paused_at is None:
        set_paused(school_id, timezone.now())
        time.sleep(_LET_IN_BEFORE)
    _wait_for_writers()
    write_moving(school, file)


def _wait_for_writers() -> None:
    """Until every transaction of this moment is through: one of them may be a score on its way."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_snapshot_xmax(pg_current_snapshot())::text::bigint")
        (before,) = cursor.fetchone()
        while True:
            cursor.execute("SELECT pg_snapshot_xmin(pg_current_snapshot())::text::bigint")
            (oldest,) = cursor.fetchone()
            if oldest >= before:
                return
            time.sleep(0.1)


def changed_since(school: School, file: Path) -> list[str]:
    """Names of the tables that hold other rows now than the file. Raises Refused for another
    school's file. One query a table."""
    try:
        with zipfile.ZipFile(file) as archive:
            about = json.loads(archive.read("datapackage.json"))
            with archive.open(Table(School).file) as rows:
                is_its = str(school.pk).encode() in rows.read()
            sums = {str(one["path"]): str(one["hash"]) for one in about["resources"]}
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, OSError) as error:
        raise Refused(NONE) from error
    if not is_its:
        raise Refused(say("This file holds another school. Nothing was erased."))
    return [
        table.name
        for table in tables(moving=True)
        if table.model not in _GO_ON and sums.get(table.file) != digest_of(table, school)
    ]


@transaction.atomic
def erase_school(school_id: UUID, moved_by: Path | None) -> None:
    """A school and all that was kept of it goes for good; after a move only where the file that it
    went by holds every row it has now. Raises NotFound, or Refused where it does not, or where it
    is a trust's office."""
    school = School.objects.select_for_update().filter(pk=school_id).first()
    if school is None:
        raise NotFound(say("school"))
    if hasattr(school, "office_of"):
        raise Refused(say("This is the office of a trust. It stays."))
    if moved_by is not None and (other := changed_since(school, moved_by)):
        raise Refused(
            say(
                "The school changed after the file was written ({other}). Nothing was erased: "
                "export it again, import that, then erase.",
                other=", ".join(other),
            )
        )
    people = Staff.objects.filter(school=school)
    with leaving():
        SecondPost.objects.filter(Q(post__in=people) | Q(account__in=people)).delete()
        HandoutJob.objects.filter(owner__in=people.values("pk")).delete()
        RepeatSummary.objects.filter(test__school=school).delete()
        # Each before what it points to, so that the way to its school is still there: a table that
        # Django makes for a list stands before the one the list is of.
        held = [sessions(), *reversed(tables(moving=True))]
        for table in sorted(held, key=lambda one: not one.is_of_a_list):
            rows = table.rows(school).order_by()
            rows._raw_delete(rows.db)
