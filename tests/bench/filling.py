"""Schools with many scores, made by SQL: a row of each kind is made by Lauf, and copied."""

from __future__ import annotations

import os
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any, Final
from unittest import mock

import django
from django.db import connection, models
from django.db.models.expressions import DatabaseDefault
from django.utils import timezone

from tests.support.served import as_url

#: Names that a search looks among; the one it looks for is rare.
_NAMES: Final = ("Ada", "Ben", "Cleo", "Dara", "Eli", "Fay", "Gus", "Hana", "Ivo", "Juno")
_CLASSES, _CHILDREN, _LESSONS = 14, 30, 12
#: Days in which the lessons of children on roll lie.
_DAYS: Final = 672
#: What has rows by the million.
_TABLES: Final = ("people_pupil", "lessons_lesson", "lessons_activity", "records_attempt")


@contextmanager
def quickly(cursor: Any) -> Iterator[None]:
    """Rows are made by SQL alone: what triggers would tell nobody listens to; keys of other tables
    are looked through, and indexes of scores made, once all rows are there."""
    cursor.execute("SET statement_timeout = 0")
    cursor.execute("SET idle_in_transaction_session_timeout = 0")
    cursor.execute("SET maintenance_work_mem = '512MB'")
    cursor.execute(
        "SELECT conrelid::regclass::text, conname, pg_get_constraintdef(oid) FROM pg_constraint"
        " WHERE contype = 'f' AND conrelid::regclass::text = ANY(%s)",
        [list(_TABLES)],
    )
    keys = cursor.fetchall()
    cursor.execute(
        "SELECT indexname, indexdef FROM pg_indexes WHERE tablename = 'records_attempt'"
        " AND indexname NOT IN (SELECT conname FROM pg_constraint)"
    )
    indexes = cursor.fetchall()
    for table in _TABLES:
        cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
    for table, name, _ in keys:
        cursor.execute(f'ALTER TABLE {table} DROP CONSTRAINT "{name}"')
    for name, _ in indexes:
        cursor.execute(f'DROP INDEX "{name}"')
    yield
    for _, made in indexes:
        cursor.execute(made)
    for table, name, made in keys:
        cursor.execute(f'ALTER TABLE {table} ADD CONSTRAINT "{name}" {made}')
    for table in _TABLES:
        cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")


def django_on(template: str) -> None:
    """Django in this process, on a database of the throwaway cluster."""
    settings = {
        "LAUF_DATABASE_URL": as_url(template),
        "DJANGO_SETTINGS_MODULE": "lauf.web.settings",
    }
    with mock.patch.dict(os.environ, settings):
        django.setup()


def fill_school(cursor: Any, number: int, *, leavers: int, lessons: int = _LESSONS) -> None:
    """A school of 420 children on roll, each with two scores of each lesson, and so many who have
    left, each with 24 scores."""
    from lauf.catalogue.actions import install_ready
    from lauf.catalogue.models import ProtocolVersion
    from lauf.lessons.models import Activity, Lesson
    from lauf.people.actions import create_school
    from lauf.people.models import Pupil, SchoolClass, Staff

    school = create_school(f"School {number}")
    install_ready(school)
    head = Staff.objects.create(
        school=school, username=f"head-{number}", name="Head", role="head", password="!"
    )
    year = school.year_groups.get(position=4)
    slugs = ("press-ups-60", "speed-bounce-30")
    tests = [
        ProtocolVersion.objects.filter(test__school=school, test__slug=slug).latest("number")
        for slug in slugs
    ]
    today = timezone.now()
    for at in range(_CLASSES):
        group = SchoolClass.objects.create(school=school, name=f"Class {at:02}", year_group=year)
        group.teachers.add(head)
        pupils = [
            Pupil(school=school, school_class=group, given_name=_NAMES[n % 10],
                  family_name=f"Ash {at}-{n}")
            for n in range(_CHILDREN)
        ]  # fmt: skip
        Pupil.objects.bulk_create(pupils)
        for place in range(lessons + 1):
            # The last one is today's, and has no scores yet.
            starts = today - timedelta(days=_DAYS * (lessons - place) / lessons)
            closed = starts if place < lessons else None
            lesson = Lesson.objects.create(
                school=school, school_class=group, teacher=head, place="Hall", starts_at=starts,
                closed_at=closed, closed_by=head if closed else None,
            )  # fmt: skip
            for position, protocol in enumerate(tests):
                activity = Activity.objects.create(
                    lesson=lesson, protocol=protocol, position=position
                )
                if closed:
                    _scores_of(cursor, activity, head, "school_class_id = %s", group.id)
    if leavers:
        _leavers(cursor, school, head, tests, leavers)


def _leavers(cursor: Any, school: Any, head: Any, tests: list[Any], leavers: int) -> None:
    """Cohorts of a class of leavers, each with lessons of its own years ago."""
    from lauf.lessons.models import Activity, Lesson
    from lauf.people.models import Pupil, SchoolClass

    groups = list(SchoolClass.objects.filter(school=school).order_by("name"))
    cohorts = -(-leavers // _CHILDREN)
    gone = timezone.localdate() - timedelta(days=900)
    child = Pupil(school=school, given_name="x", left_from=groups[0], left_on=gone)
    names = "ARRAY['" + "','".join(_NAMES) + "']"
    copied(
        cursor, child, f"generate_series(1, {leavers}) n",
        id="gen_random_uuid()", given_name=f"({names})[1 + n %% 10]",
        family_name=(
            "CASE WHEN n %% 5000 = 7 THEN 'Wilder Ash' ELSE 'Beck ' || n END"
        ),
        # Which cohort it was of: those who are of no class have no place in its order.
        place=f"n %% {min(cohorts, 30_000)}",
    )  # fmt: skip
    then = timezone.now() - timedelta(days=1200)
    lesson = Lesson(
        school=school, school_class=groups[0], year_group=groups[0].year_group, teacher=head,
        place="Hall", starts_at=then, closed_at=then, closed_by=head,
    )  # fmt: skip
    cohorts = min(cohorts, 30_000)
    copied(
        cursor, lesson,
        f"generate_series(0, {cohorts - 1}) c, generate_series(0, {_LESSONS - 1}) l",
        id="gen_random_uuid()", minutes="40",
        starts_at="now() - (900 + 30 * l) * interval '1 day' - c * interval '1 second'",
        place="'Hall ' || c || '/' || l",
    )  # fmt: skip
    for position, protocol in enumerate(tests):
        activity = Activity(lesson=lesson, protocol=protocol, position=position)
        copied(
            cursor, activity,
            "lessons_lesson o WHERE o.school_id = %s AND o.place LIKE 'Hall %%/%%'",
            values=[school.pk], id="gen_random_uuid()", lesson_id="o.id",
        )  # fmt: skip
        for table in _TABLES[:3]:
            cursor.execute(f"ANALYZE {table}")
        one = Activity.objects.filter(lesson__school=school, protocol=protocol).first()
        attempt = _a_score(one, head)
        copied(
            cursor, attempt,
            "people_pupil p JOIN lessons_lesson o ON o.school_id = p.school_id"
            " AND split_part(o.place, '/', 1) = 'Hall ' || p.place"
            " JOIN lessons_activity a ON a.lesson_id = o.id"
            " WHERE p.school_id = %s AND p.left_on IS NOT NULL AND a.protocol_id = %s",
            values=[school.pk, protocol.pk], id="gen_random_uuid()", pupil_id="p.id",
            activity_id="a.id", value="10 + floor(random() * 20)::int",
            **{"on": "o.starts_at::date"}, recorded_at="o.starts_at",
        )  # fmt: skip


def _a_score(activity: Any, head: Any) -> Any:
    from lauf.lessons.queries import conditions_of
    from lauf.records.models import Attempt

    now = timezone.now()
    return Attempt(
        school_id=head.school_id, pupil_id=uuid.uuid4(), activity=activity,
        protocol=activity.protocol, kind=activity.protocol.kind, on=now.date(), typed="20",
        value=20, variant="full" if activity.protocol.variants else "", wave=1,
        conditions=conditions_of(activity, {}), recorded_by=head, recorded_at=now,
        received_at=now,
    )  # fmt: skip


def _scores_of(cursor: Any, activity: Any, head: Any, which: str, value: Any) -> None:
    copied(
        cursor, _a_score(activity, head), f"people_pupil p WHERE p.{which}", values=[value],
        id="gen_random_uuid()", pupil_id="p.id", value="10 + floor(random() * 20)::int",
        **{"on": f"'{activity.lesson.starts_at:%Y-%m-%d}'"},
        recorded_at=f"'{activity.lesson.starts_at.isoformat()}'",
    )  # fmt: skip


def copied(
    cursor: Any, row: models.Model, source: str, *, values: list[Any] | None = None, **cells: str
) -> None:
    """As many rows like one as the source has, but for these columns, in SQL."""
    columns, selected, given = [], [], []
    for field in row._meta.concrete_fields:
        if isinstance(getattr(row, field.attname), DatabaseDefault):
            continue
        columns.append(f'"{field.column}"')
        own = cells.get(field.column)
        if own is not None:
            selected.append(f"{own}")
            continue
        held = getattr(row, field.attname)
        held = field.get_db_prep_save(held, connection)
        selected.append(f"%s::{field.db_type(connection)}")
        given.append(held)
    cursor.execute(
        f'INSERT INTO "{row._meta.db_table}" ({", ".join(columns)}) '
        f"SELECT {', '.join(selected)} FROM {source}",
        [*given, *(values or [])],
    )


def settle() -> None:
    """Statistics as they are after a night."""
    with connection.cursor() as cursor:
        cursor.execute("SET statement_timeout = 0")
        cursor.execute("VACUUM ANALYZE")


def sum_up(username: str) -> None:
    """What a school's repeat tests add up to, as it is kept on every day that they are given."""
    from lauf.catalogue.models import ProtocolVersion
    from lauf.people.models import Staff
    from lauf.records.queries.repeats import repeats_of

    school = Staff.objects.get(username=username).school_id
    given = ProtocolVersion.objects.filter(test__school=school, attempts__isnull=False).distinct()
    repeats_of(list(given), timezone.localdate())
