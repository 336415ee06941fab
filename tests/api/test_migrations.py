"""A school that has used Lauf for a while is brought up to date: nothing it kept is lost, and its
tables are those that a new one begins with."""

from __future__ import annotations

import re
import uuid
from collections.abc import Callable, Iterator
from datetime import UTC, date, datetime, timedelta
from typing import Any

import psycopg
import pytest
from django.core.management import call_command
from django.db import DatabaseError, connection, migrations
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader
from django.db.models import NOT_PROVIDED
from django.utils import timezone

from lauf.lessons.models import Activity, Conduct, Lesson, Run
from lauf.lessons.queries import entries_of_revision
from lauf.people.models import Staff
from lauf.progress import today
from lauf.progress.pupil.record import pupil_record
from lauf.records.models import Attempt
from ops import schema
from ops.databases import Database
from tests.support import templates
from tests.support.served import as_url, drop

#: As it was when plans had no revisions and only waves were runs.
BEFORE = [
    ("people", "0003_sitting_order"),
    ("catalogue", "0002_every_kind_of_score"),
    ("lessons", "0005_stations_with_loads"),
    ("records", "0006_attempt_counted_by"),
    ("challenges", "0002_ledger_is_append_only"),
]


@pytest.fixture
def databases() -> Iterator[tuple[Database, ...]]:
    """Three of its own: to bring up, as a new one is, and for what a file makes."""
    names = [f"lauf_upgrade_{uuid.uuid4().hex[:8]}" for _ in range(3)]
    yield tuple(Database(name, as_url(name)) for name in names)
    for name in names:
        drop(name)


@pytest.fixture
def old(
    databases: tuple[Database, ...], django_db_setup: None, django_db_blocker: Any
) -> Iterator[Callable[[str, str], Any]]:
    """The models of an earlier Lauf, on tables as they were."""
    templates.copy("template1", databases[0].name)
    with django_db_blocker.unblock(), templates.connected_to(databases[0].name):
        executor = MigrationExecutor(connection)
        executor.migrate(BEFORE)
        yield executor.loader.project_state(BEFORE).apps.get_model


def test_a_used_school_loses_nothing(
    old: Callable[[str, str], Any], databases: tuple[Database, ...],
    tmp_path_factory: pytest.TempPathFactory, worker_id: str,
) -> None:  # fmt: skip
    """Two of them, brought up to date together: the way there takes most of the time."""
    used, odd = _a_used_school(old, "used"), _an_odd_school(old)
    call_command("migrate", verbosity=0)
    keeps_its_scores_plans_and_clocks(used)
    times_of_no_age_and_sittings_begun_twice_are_put_right(odd)
    brought_up, new, copy = databases
    templates.copy(templates.migrated(tmp_path_factory, worker_id), new.name)
    templates.copy("template1", copy.name)
    the_tables_are_those_of_a_new_one(brought_up, new, copy)


def the_tables_are_those_of_a_new_one(brought_up: Database, new: Database, copy: Database) -> None:
    named = re.findall(r"^    \('(\w+)', '(\w+)', now\(\)\)", schema.FILE.read_text(), re.M)
    ran = sorted(brought_up.migrations())
    assert ran == sorted(".".join(pair) for pair in named), "once more: ./lauf schema"
    # PostgreSQL writes some conditions otherwise once it has read them: both were read.
    with psycopg.connect(copy.url) as reader:
        reader.execute(schema.dump(brought_up).encode())
    assert tables(copy) == tables(new)


def tables(database: Database) -> str:
    """Without the migrations, which ran in another order."""
    return schema.dump(database).split("INSERT INTO public.django_migrations")[0]


def keeps_its_scores_plans_and_clocks(made: dict[str, Any]) -> None:
    attempt = Attempt.objects.get(pk=made["attempt"])
    assert (attempt.typed, attempt.value, attempt.on) == ("31", 31, made["on"])
    assert (attempt.run_id, attempt.parts) == (None, {})
    run = Run.objects.get(pk=made["run"])
    assert (run.way, run.wave, run.ended, run.worked_seconds) == ("wave", 1, "complete", 20)
    # The plan is its first revision, block by block, with the ids the blocks have.
    lesson = Lesson.objects.get(pk=made["lesson"])
    entries = entries_of_revision(lesson, 3)
    assert [(one["id"], one["kind"], one["label"]) for one in entries] == [
        (made["talk"], "briefing", "Talk"),
        (made["block"], "test", ""),
    ]
    assert entries[0]["seconds"] == 60
    assert str(entries[1]["activity_id"]) == str(attempt.activity_id)
    done = Conduct.objects.get(lesson=lesson).state["done"]
    assert [one["segment"] for one in done] == ["0", "1"]
    # The test that gave way to another is the school's own now, and its page is there.
    test = Activity.objects.get(pk=attempt.activity_id).protocol.test
    assert (test.slug, test.ready) == ("speed-bounce-20", False)
    unused = type(test).objects.filter(slug="frog-jumps-15", school=test.school)
    assert not unused.exists(), "nobody had used it"
    staff = Staff.objects.get(pk=made["staff"])
    page = pupil_record(staff, attempt.pupil_id, timezone.localdate())
    assert [one["score"]["shown"] for one in page["tests"][0]["history"]] == ["31"]


def _an_odd_school(old: Callable[[str, str], Any]) -> dict[str, Any]:
    """From before there were bounds: a lesson in year 1 kept Today from opening for good."""
    made = _a_used_school(old, "odd")
    lessons, attempts = old("lessons", "Lesson").objects, old("records", "Attempt").objects
    first = lessons.get(pk=made["lesson"])
    lessons.filter(pk=first.pk).update(starts_at=datetime(1, 1, 2, tzinfo=UTC))
    score = attempts.get(pk=made["attempt"])
    attempts.create(
        id=uuid.uuid4(), school_id=score.school_id, pupil_id=score.pupil_id, try_number=2,
        activity_id=score.activity_id, protocol_id=score.protocol_id, kind="count",
        on=date(9999, 12, 30), typed="32", value=32, wave=1, recorded_by_id=made["staff"],
        recorded_at=datetime(9999, 12, 30, tzinfo=UTC),
    )  # fmt: skip
    battery = old("catalogue", "Battery").objects.create(school_id=first.school_id, name="Term")
    open_twice = [
        lessons.create(
            school_id=first.school_id, school_class_id=first.school_class_id, battery=battery,
            teacher_id=made["staff"], place="Hall", starts_at=first.starts_at + timedelta(hours=n),
        ).pk
        for n in range(3)
    ]  # fmt: skip
    return made | {"open_twice": open_twice}


def times_of_no_age_and_sittings_begun_twice_are_put_right(made: dict[str, Any]) -> None:
    open_twice = made["open_twice"]
    assert Lesson.objects.get(pk=made["lesson"]).starts_at.year == 2000
    kept = Attempt.objects.filter(recorded_by=made["staff"]).order_by("try_number")
    assert [(one.typed, one.value) for one in kept] == [("31", 31), ("32", 32)]
    assert kept[1].recorded_at == kept[1].received_at and kept[1].on.year <= 2000
    with pytest.raises(DatabaseError, match="append-only"):
        kept[1].save()
    still = Lesson.objects.filter(pk__in=open_twice, closed_at=None)
    assert [one.pk for one in still] == open_twice[-1:], "the newest is gone on with"
    assert today.today_page(Staff.objects.get(pk=made["staff"]), timezone.now())


def _a_used_school(old: Callable[[str, str], Any], username: str) -> dict[str, Any]:
    """A class, two ready tests that later gave way, a lesson with a plan, a run and a score."""
    school = old("people", "School").objects.create(name="Old School")
    staff = old("people", "Staff").objects.create(
        school=school, username=username, name="Old Head", role="head", password="!"
    )
    year = old("people", "YearGroup").objects.create(
        school=school, name="Year 4", age=8, position=0
    )
    school_class = old("people", "SchoolClass").objects.create(
        school=school, name="4 Old", year_group=year
    )
    pupil = old("people", "Pupil").objects.create(
        school=school, school_class=school_class, given_name="Wren"
    )
    versions = [_a_test(old, school, slug) for slug in ("speed-bounce-20", "frog-jumps-15")]
    at = timezone.now() - timedelta(days=3)
    lesson = old("lessons", "Lesson").objects.create(
        school=school, school_class=school_class, teacher=staff, place="Hall", starts_at=at,
        plan_revision=3,
    )  # fmt: skip
    activity = old("lessons", "Activity").objects.create(lesson=lesson, protocol=versions[0])
    blocks = old("lessons", "PlanBlock").objects
    talk = blocks.create(
        lesson=lesson, position=0, kind="briefing", label="Talk", settings={"seconds": 60}
    )
    block = blocks.create(
        lesson=lesson, position=1, kind="test", label="", settings={}, activity=activity
    )
    run = old("lessons", "WaveRun").objects.create(
        id=uuid.uuid4(), activity=activity, wave=1, revision=2, anchor_ms=1_000,
        ended="complete", worked_seconds=20, by=staff,
    )  # fmt: skip
    state = {"anchor_ms": 1_000, "edits": [], "swaps": [],
             "done": [{"segment": 0, "seconds": 60}, {"segment": 1, "seconds": 40}]}  # fmt: skip
    old("lessons", "Conduct").objects.create(
        lesson=lesson, run_id=uuid.uuid4(), revision=4, plan_revision=3, state=state, by=staff
    )
    attempt = old("records", "Attempt").objects.create(
        id=uuid.uuid4(), school=school, pupil=pupil, activity=activity, protocol=versions[0],
        kind="count", on=at.date(), typed="31", value=31, wave=1, recorded_by=staff,
        recorded_at=at,
    )  # fmt: skip
    return {
        "staff": staff.id, "lesson": lesson.id, "attempt": attempt.id, "run": run.id,
        "talk": str(talk.id), "block": str(block.id), "on": _day(attempt.on),
    }  # fmt: skip


def _a_test(old: Callable[[str, str], Any], school: Any, slug: str) -> Any:
    test = old("catalogue", "Test").objects.create(
        school=school, name=slug, slug=slug, family="timed_reps", ready=True
    )
    ladders, rungs = old("catalogue", "Ladder").objects, old("catalogue", "LadderRung").objects
    starter = "starter values, no source: make them yours"
    ladder = ladders.create(test=test, source=starter, from_age=8, to_age=9)
    rungs.create(ladder=ladder, position=0, name="A", threshold=9)
    return old("catalogue", "ProtocolVersion").objects.create(
        test=test,
        kind="count",
        better="up",
        unit="reps",
        highest=90,
        seconds=20,
        waves=2,
        say=["Go."],
        counts=["Both feet over."],
        default_typical_error=2.0,
    )


def _day(on: Any) -> date:
    return on if isinstance(on, date) else date.fromisoformat(str(on))


#: The last migrations from before two versions were served at the same time.
TOGETHER_SINCE = {
    "people": "0012", "catalogue": "0008", "lessons": "0011", "records": "0017",
    "challenges": "0008", "web": "0000", "exchange": "0000",
}  # fmt: skip
#: What the version before would miss.
_TAKEN_AWAY = (
    migrations.RemoveField, migrations.DeleteModel, migrations.RenameField, migrations.RenameModel,
    migrations.AlterModelTable, migrations.RunSQL,
)  # fmt: skip
#: Migrations with SQL of their own that takes nothing away.
_SQL_THAT_ADDS = {("web", "0001_guesses"), ("exchange", "0001_handouts")}


def test_the_version_before_can_serve_what_this_one_has_brought_up() -> None:
    """In an upgrade both serve one database. What is not needed any more goes a version later."""
    known = MigrationLoader(None).disk_migrations
    assert set(TOGETHER_SINCE) == {app for app, _ in known if app in TOGETHER_SINCE}
    for (app, name), migration in sorted(known.items()):
        if name[:4] <= TOGETHER_SINCE.get(app, "9999") or (app, name) in _SQL_THAT_ADDS:
            continue
        for one in migration.operations:
            assert not isinstance(one, _TAKEN_AWAY), f"{app}.{name}: {one.describe()}"
            if isinstance(one, migrations.AddField):
                # A default of Django's is not one of the table's: the version before has none.
                field = one.field
                given = field.null or field.db_default is not NOT_PROVIDED
                assert given or field.many_to_many, f"{app}.{name}: {one.name}"
