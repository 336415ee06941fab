"""A school that was used under any earlier Lauf is brought to this one: every row it kept is there
and says the same, and so does every page, but for what `meant` lists."""

from __future__ import annotations

import io
import json
import logging
import lzma
import re
import subprocess
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

import psycopg
import pytest
from django.core.management import call_command
from django.utils import timezone
from psycopg.rows import tuple_row

from lauf.catalogue import models as catalogue
from lauf.challenges.models import ChallengeWeek
from lauf.lessons.models import Lesson, PlanTemplate
from lauf.records.models import Question, RepeatSummary
from ops.machine import postgres_programs
from tests.support import templates
from tests.support.served import as_url, drop
from tests.upgrades.differences import MISSING, differences, plain
from tests.upgrades.make_stage import NOW, ZONE, look
from tests.upgrades.meant import MEANT, as_said_now

STAGES = Path(__file__).parent / "stages"
NAMES = sorted(
    (file.name.removesuffix(".sql.xz") for file in STAGES.glob("*.sql.xz")),
    key=lambda name: int(name.partition("-")[0]),
)
#: Tables that an upgrade may change or drop: nothing in them was written by anybody.
#: The first stage that kept what is asked about a score.
ASKS_FROM = 9
NOT_KEPT = re.compile(r"django_|auth_|axes_")
RENAMED = {"lessons_waverun": "lessons_run"}
GONE = "frog-jumps-15"
#: Columns whose values an upgrade changes on purpose, and the last stage that has the old ones.
CHANGED = {"catalogue_test.ready": 2}


def restored(stage: str, name: str) -> None:
    """A database as the stage left it."""
    templates.copy("template1", name)
    programs = postgres_programs()
    assert programs is not None
    subprocess.run(
        [str(programs / "psql"), "-X", "-q", "-v", "ON_ERROR_STOP=1", "-1", "-d", as_url(name)],
        input=lzma.decompress((STAGES / f"{stage}.sql.xz").read_bytes()),
        stdout=subprocess.DEVNULL, check=True,
    )  # fmt: skip


@pytest.fixture
def database(django_db_setup: None, django_db_blocker: Any) -> Iterator[str]:
    name = f"lauf_stage_{uuid.uuid4().hex[:8]}"
    with django_db_blocker.unblock():
        yield name
    drop(name)


@contextmanager
def at_that_time() -> Iterator[None]:
    with patch("django.utils.timezone.now", lambda: NOW), timezone.override(ZONE):
        yield


@pytest.mark.parametrize("stage", NAMES)
def test_a_used_school_is_the_same_after_an_upgrade(stage: str, database: str) -> None:
    number = int(stage.partition("-")[0])
    restored(stage, database)
    before = rows(database)
    with templates.connected_to(database), at_that_time():
        call_command("prepare", schema_only=True)
        after = rows(database)
        assert [*lost_or_changed(before, after, number)] == []
        the_tests_that_went_away(number)
        if number < ASKS_FROM:
            what_is_asked_is_settled()
        pages = json.loads(lzma.decompress((STAGES / f"{stage}.pages.json.xz").read_bytes()))
        logging.disable(logging.WARNING)
        try:
            now = look(list(pages))
        finally:
            logging.disable(logging.NOTSET)
    assert len(pages) > 25
    found = {
        path: (address, one, other)
        for address, page in pages.items()
        for path, one, other in differences(
            as_said_now(address, page),
            json.loads(json.dumps(now.get(address, MISSING), default=str)),
            plain(address),
        )
    }
    listed = [one for one in MEANT if one.until >= number]
    not_meant = {p: what for p, what in found.items() if not any(m.covers(p) for m in listed)}
    assert not_meant == {}
    stale = [one.why for one in listed
             if one.until == number and not any(map(one.covers, found))]  # fmt: skip
    assert not stale, f"no longer found, take them out of the list: {stale}"


@pytest.mark.parametrize("stage", NAMES[:2])
def test_the_demo_of_an_earlier_lauf_is_kept_up(stage: str, database: str) -> None:
    """Weeks later, when its week is over: with the tests that came since."""
    restored(stage, database)
    words = io.StringIO()
    later = NOW + timedelta(days=11)
    with templates.connected_to(database), patch("django.utils.timezone.now", lambda: later):
        call_command("prepare", without_past=True, stdout=words)
        ahead = Lesson.objects.filter(starts_at__date__gte=later.date())
        assert ahead.filter(battery=None).count() >= 3
        assert ChallengeWeek.objects.filter(ends_on__gte=later.date()).exists()
    assert "no new lessons" not in words.getvalue()


def what_is_asked_is_settled() -> None:
    """What nobody has settled in the old scores takes no part in anything now; once it is, all is
    said as it was."""
    assert Question.objects.filter(settled=False).exists()
    Question.objects.update(settled=True)
    RepeatSummary.objects.all().delete()


Rows = dict[str, dict[str, dict[str, Any]]]


def rows(name: str) -> Rows:
    """All that is kept: table, primary key, columns."""
    with psycopg.connect(as_url(name), row_factory=tuple_row) as reader:
        tables = [
            table
            for (table,) in reader.execute(
                "SELECT tablename FROM pg_tables WHERE schemaname = 'public'"
            )
            if not NOT_KEPT.match(table)
        ]
        kept: Rows = {}
        for table in tables:
            found = [row for (row,) in reader.execute(f'SELECT to_jsonb(t) FROM "{table}" AS t')]
            kept[table] = {_key(row): row for row in found}
    return kept


def _key(row: dict[str, Any]) -> str:
    """Its id, or, for a table beside another one, what it stands beside."""
    return str(next(row[one] for one in ("id", "lesson_id", "staff_id", "school_id") if one in row))


def lost_or_changed(before: Rows, after: Rows, number: int) -> Iterator[str]:
    for table, kept in before.items():
        there = after[RENAMED.get(table, table)]
        for key, row in kept.items():
            if key not in there:
                if not _went_away(table, row, before):
                    yield f"{table} {row} is not there any more"
                continue
            for column, value in row.items():
                now = there[key].get(column, MISSING)
                if number > CHANGED.get(f"{table}.{column}", 0):
                    for path, one, other in differences(value, now, f"{table}.{column}"):
                        yield f"{path}: {one!r} is {other!r}"


def _went_away(table: str, row: dict[str, Any], before: Rows) -> bool:
    """Whether it belongs to the one test of those of others that nothing pointed to."""
    if table == "catalogue_ladderrung":
        row = before["catalogue_ladder"][row["ladder_id"]]
    test = row["id"] if table == "catalogue_test" else row.get("test_id")
    return bool(test) and before["catalogue_test"][test]["slug"] == GONE


def the_tests_that_went_away(number: int) -> None:
    """What somebody used or pointed to is the school's own now; what nobody did is gone."""
    slugs = dict(catalogue.Test.objects.filter(ready=False).values_list("slug", "id"))
    assert not catalogue.Test.objects.filter(slug=GONE).exists()
    if number == 2:
        assert set(slugs) == {"speed-bounce-20", "reps-300", "rounds-20-15-10"}
        assert (
            catalogue.Ladder.objects.filter(test=slugs["rounds-20-15-10"], source="our own").count()
            == 1
        )
        template = PlanTemplate.objects.get(name="Our Monday")
        assert catalogue.Test.objects.filter(slug=template.blocks[1]["test"]).exists()
