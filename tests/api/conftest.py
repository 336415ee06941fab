"""Two small schools, their people, and one lesson to test with."""

from __future__ import annotations

import json
import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth.hashers import make_password
from django.core.cache import cache
from django.db import connection
from django.test import Client
from django.test.client import ClientHandler
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from hypothesis import HealthCheck
from hypothesis import settings as tries

from lauf.catalogue.actions import install_ready
from lauf.catalogue.models import ProtocolVersion
from lauf.exchange.paper import jobs
from lauf.lessons.models import Activity, Lesson
from lauf.people.actions import create_school
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.records.models import Attempt
from tests.support.scores import record_attempt

PASSWORD = "a-long-test-password"
#: Many tries of one property within one test, and so within one transaction.
MANY = tries(
    max_examples=12,
    deadline=None,
    database=None,
    derandomize=True,
    suppress_health_check=list(HealthCheck),
)


@dataclass
class Person:
    """Somebody signed in, who asks in JSON."""

    staff: Staff | None
    client: Client

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        data = None if body is None else json.dumps(body, default=str)
        return self.client.generic(method, path, data or "", content_type="application/json")


@dataclass
class World:
    """One school with a class and a lesson, the people around it, and a stranger's school."""

    school: School
    school_class: SchoolClass
    pupils: list[Pupil]
    activity: Activity
    head: Person
    teacher: Person
    co_teacher: Person
    colleague: Person
    stranger: Person
    stranger_head: Person
    nobody: Person

    def lesson_on(self, days_ago: int, slug: str = "press-ups-60") -> Activity:
        """Another lesson of the class, with the same test if no other is named."""
        return _lesson(self.school_class, self.teacher.staff, timezone.now(), days_ago, slug)

    def record(
        self, pupil: Pupil, typed: str, activity: Activity | None = None, **more: Any
    ) -> Attempt:
        assert self.teacher.staff is not None
        asked = {"variant": "full", "wave": 1, "recorded_at": timezone.now(), **more}
        return record_attempt(
            self.teacher.staff,
            (activity or self.activity).id,
            attempt_id=uuid.uuid4(),
            pupil_id=pupil.id,
            typed=typed,
            **asked,
        )

    def body(self, pupil: Pupil, typed: str, **more: Any) -> dict[str, Any]:
        """What a device sends for one score."""
        return {
            "id": str(uuid.uuid4()),
            "pupil_id": str(pupil.id),
            "typed": typed,
            "variant": "full",
            "wave": 1,
            "recorded_at": timezone.now().isoformat(),
            **more,
        }

    def post(self, pupil: Pupil, typed: str, activity: Activity | None = None, **more: Any) -> Any:
        """A score as a device sends it: kept, and asked about."""
        path = f"/api/activities/{(activity or self.activity).id}/attempts"
        return self.teacher.ask("POST", path, self.body(pupil, typed, **more))

    def permit(self, staff: Staff | None, **change: Any) -> Any:
        """The head changes one thing about somebody who signs in."""
        people = self.head.ask("GET", "/api/school").json()["staff"]
        assert staff is not None
        row = next(one for one in people if one["id"] == str(staff.id))
        kept = (
            "name",
            "role",
            "class_ids",
            "may_edit_tests",
            "may_see_growth",
            "may_see_school",
            "is_active",
            "email",
        )
        body = {name: row[name] for name in kept} | change
        return self.head.ask("PUT", f"/api/staff/{staff.id}", body)

    def queries(self, path: str) -> int:
        """How many queries the teacher's reading of an address takes."""
        with CaptureQueriesContext(connection) as asked:
            answer = self.teacher.ask("GET", path)
        assert answer.status_code == 200, answer.content
        return len(asked)

    def more_children(self, number: int = 15) -> None:
        """The class grows: reads may not take more queries for it."""
        Pupil.objects.bulk_create(
            Pupil(school=self.school, school_class=self.school_class, given_name=f"More {n}")
            for n in range(number)
        )

    def child(self, pupil: Pupil, activity: Activity | None = None) -> dict[str, Any]:
        """The child's row of the class's lanes."""
        answer = self.teacher.ask("GET", f"/api/activities/{(activity or self.activity).id}/lanes")
        rows = answer.json()["children"]
        return next(row for row in rows if row["pupil_id"] == str(pupil.id))


def _lesson(
    school_class: SchoolClass,
    staff: Staff | None,
    now: datetime,
    days: int,
    slug: str = "press-ups-60",
) -> Activity:
    # At this time of that day: between them the clocks may have been changed.
    local = timezone.localtime(now)
    day = datetime.combine(local.date() - timedelta(days=days), local.time())
    lesson = Lesson.objects.create(
        school=school_class.school,
        school_class=school_class,
        teacher=staff,
        place="Hall",
        starts_at=timezone.make_aware(day),
    )
    versions = ProtocolVersion.objects.filter(test__school=school_class.school, test__slug=slug)
    protocol = versions.latest("number")
    return Activity.objects.create(lesson=lesson, protocol=protocol)


def _person(school: School, username: str, role: str) -> Person:
    # The tables of who may do what are of teachers to whom the head has said no.
    staff = Staff.objects.create(
        school=school, username=username, name=username.title(), role=role,
        password=make_password(PASSWORD),
        may_edit_tests=role == "head",
    )  # fmt: skip
    client = a_client()
    client.force_login(staff, backend="lauf.web.hashing.PasswordBackend")
    # As a sign-in does: its use is written down, and not again with the first request.
    session = client.session
    session.update({"seen": int(time.time()), "idle": 14 * 24 * 3600})
    session.save()
    _SESSIONS[username] = client.cookies[settings.SESSION_COOKIE_NAME].value
    return Person(staff, client)


def a_client() -> Client:
    """A browser. Setting up all that stands before a view takes longer than most requests: that is
    done once."""
    client = Client()
    client.handler = _HANDLER
    return client


#: What all clients of these tests ask; the sessions that began with the shared schools, by name.
_HANDLER = ClientHandler(enforce_csrf_checks=False)
_SESSIONS: dict[str, str] = {}


def _signed_in(staff: Staff) -> Person:
    client = a_client()
    client.cookies[settings.SESSION_COOKIE_NAME] = _SESSIONS[staff.username]
    return Person(staff, client)


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup: None, django_db_blocker: Any) -> None:
    """The two schools are made once; every test works on them in a transaction of its own."""
    with django_db_blocker.unblock():
        make_world()


@pytest.fixture
def world(db: None) -> World:
    return the_world()


@pytest.fixture(scope="module")
def unprinted() -> Iterator[None]:
    """Hand-outs are begun and ready at once: laying out a class's pages takes seconds, and is in
    tests of its own."""

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(jobs, "pdf_of", lambda *_: b"%PDF-1.7")
        yield


@pytest.fixture
def no_school(db: None) -> None:
    """A Lauf that was never set up: for the length of one test."""
    empty()


@pytest.fixture
def transactional_world(transactional_db: None) -> World:
    """The same, committed, for tests with several connections; they run last and empty the
    database after them."""
    empty()
    return make_world()


def empty() -> None:
    """No school at all."""
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("TRUNCATE people_school CASCADE")
        cursor.execute("SET CONSTRAINTS ALL DEFERRED")


def the_world() -> World:
    """The shared schools; a test with several connections may have emptied the database before."""
    return find_world() if School.objects.exists() else make_world()


def find_world() -> World:
    """The shared schools as they stand in the database, and people who are signed in."""
    people = {one.username: _signed_in(one) for one in Staff.objects.select_related("school")}
    school_class = SchoolClass.objects.select_related("school", "year_group").get(name="4 T")
    activities = Activity.objects.select_related("lesson", "protocol__test")
    return World(
        school=school_class.school,
        school_class=school_class,
        pupils=list(school_class.pupils.all()),
        activity=activities.get(),
        **{name.replace("-", "_"): one for name, one in people.items()},
        nobody=Person(None, a_client()),
    )


def make_world() -> World:
    school = create_school("Test School")
    install_ready(school)
    head = _person(school, "head", "head")
    teacher = _person(school, "teacher", "teacher")
    year = school.year_groups.get(name="Year 4")
    school_class = SchoolClass.objects.create(school=school, name="4 T", year_group=year)
    co_teacher = _person(school, "co-teacher", "teacher")
    school_class.teachers.add(teacher.staff, co_teacher.staff)
    pupils = Pupil.objects.bulk_create(
        Pupil(school=school, school_class=school_class, given_name=f"Child {n:02d}")
        for n in range(12)
    )
    other = create_school("Stranger School")
    return World(
        school=school,
        school_class=school_class,
        pupils=pupils,
        activity=_lesson(school_class, teacher.staff, timezone.now(), 0),
        head=head,
        teacher=teacher,
        co_teacher=co_teacher,
        colleague=_person(school, "colleague", "teacher"),
        stranger=_person(other, "stranger", "teacher"),
        stranger_head=_person(other, "stranger-head", "head"),
        nobody=Person(None, a_client()),
    )


@pytest.fixture(autouse=True)
def _fresh_cache() -> Iterator[None]:
    cache.clear()
    yield
