"""The demo school: made up, the same everywhere, with the cases a teacher meets."""

from __future__ import annotations

import io
import itertools
import json
from datetime import date, timedelta
from typing import Any

import pytest
from django.core.management import call_command
from django.db import transaction
from django.db.models import F
from django.test import Client
from django.utils import timezone

from lauf.catalogue.models import Test as Protocol
from lauf.demo.school import begin_lesson, keep_up, load
from lauf.lessons.models import Activity, Lesson
from lauf.people.models import Pupil, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.body.ages import age_on_cut_off

pytestmark = pytest.mark.usefixtures("no_school")


def scores() -> list[tuple[object, ...]]:
    fields = ("pupil__given_name", "pupil__family_name", "on", "typed", "variant")
    return sorted(Attempt.objects.values_list(*fields), key=str)


def test_the_same_seed_gives_the_same_school() -> None:
    day = date(2026, 11, 24)
    found = []
    for _ in range(2):
        with transaction.atomic():
            load(day)
            found.append((scores(), sorted(Pupil.objects.values_list("given_name", "born"))))
            transaction.set_rollback(True)
    assert found[0] == found[1]
    assert len(found[0][0]) > 160


def test_it_has_every_year_group_and_the_cases_a_teacher_meets() -> None:
    today = timezone.localdate()
    load(today, past=False)
    classes = SchoolClass.objects.select_related("year_group").prefetch_related("pupils")
    assert {c.year_group.name for c in classes} >= {"Reception", "Year 1", "Year 6"}
    for school_class in classes:
        pupils = school_class.pupils.all()
        if school_class.closed_on is not None:
            assert not pupils
            continue
        assert 24 <= len(pupils) <= 30
        ages = {age_on_cut_off(pupil.born, today) for pupil in pupils if pupil.born}
        assert ages == {school_class.year_group.age}
    attempts = Attempt.objects.filter(successor=None)
    assert attempts.filter(estimate=True).count() == 1
    assert attempts.filter(succeeds__isnull=False).count() == 1
    assert attempts.filter(reason="absent").exists()
    assert attempts.filter(value=60).count() == 2, "one child at the cap, and still there"
    for name in ("4 Heron", "5 Kestrel"):
        mine = attempts.filter(pupil__school_class__name=name, protocol__test__slug="press-ups-60")
        days = mine.values_list("on", flat=True)
        assert len(set(days)) == 3


def test_every_class_was_tested_each_term_since_reception() -> None:
    """Seven years: children who joined late, were away for a year, left, grow and do not."""
    today = date(2026, 11, 24)
    load(today)
    # The schools beside it in the trust have only begun.
    classes = SchoolClass.objects.filter(closed_on=None, school__is_demo=True)
    classes = classes.select_related("year_group")
    late = back = 0
    for one in classes:
        mine = Attempt.objects.filter(pupil__school_class=one, on__lt=today - timedelta(days=4))
        terms = set(mine.values_list("on__year", "on__month"))
        assert len({(year, month) for year, month in terms if month in (2, 6, 10)}) >= (
            3 * one.year_group.position
        ), one.name
        days: dict[object, list[date]] = {}
        for pupil, on in mine.order_by("on").values_list("pupil", "on"):
            days.setdefault(pupil, []).append(on)
        first = min(when[0] for when in days.values())
        late += sum(when[0] > first + timedelta(days=90) for when in days.values())
        back += any(
            (b - a).days > 330 for when in days.values() for a, b in itertools.pairwise(when)
        )
    assert late >= 5
    assert back >= 3
    assert Pupil.objects.filter(left_from__name="6 Plover").count() == 26
    # A test that no longer fits: most of the oldest reach the most there is.
    hits = Attempt.objects.filter(
        pupil__school_class__name="6 Osprey", protocol__test__slug="underarm-10", on__year=2026,
        reason=None,
    )  # fmt: skip
    assert hits.filter(value=10).count() > hits.count() / 2


def test_whatever_was_done_in_it_it_starts() -> None:
    """After the head had edited a test it did not start again (`MultipleObjectsReturned`)."""
    today = timezone.localdate()
    school = load(today - timedelta(days=1), past=False)
    head = Client()
    head.force_login(Staff.objects.get(username="head"), backend="lauf.web.hashing.PasswordBackend")

    def ask(method: str, path: str, body: Any = None) -> Any:
        sent = json.dumps(body)
        answer = head.generic(method, path, sent, content_type="application/json")
        assert answer.status_code < 300, answer.content
        return answer.json() if answer.content else None

    test = Protocol.objects.get(school=school, slug="press-ups-60")
    shown = ask("GET", f"/api/tests/{test.id}")
    changed = {**shown["protocol"], "easier": "From a wall."}
    ask("POST", f"/api/tests/{test.id}/versions", {"based_on": 1, "why": "kinder",
                                                    "protocol": changed})  # fmt: skip
    for lesson in Lesson.objects.filter(starts_at__date__gte=today):
        ask("POST", f"/api/lessons/{lesson.id}/close")
    for course in ask("GET", "/api/courses"):
        ask("DELETE", f"/api/courses/{course['id']}")
    said = io.StringIO()
    call_command("prepare", without_past=True, stdout=said)
    assert "demo sign-in: demo" in said.getvalue() and "no new lessons" not in said.getvalue()
    newest = Activity.objects.filter(
        lesson__school_class__name="4 Heron", lesson__starts_at__date=today, lesson__battery=None
    ).latest("lesson__starts_at")
    assert newest.protocol.number == 2
    # What it cannot bring up to date it leaves as it is, and says so.
    SchoolClass.objects.filter(name="4 Heron").update(name="4 Kingfisher")
    kept = scores()
    said = io.StringIO()
    call_command("prepare", without_past=True, stdout=said)
    assert "because of what was changed in it" in said.getvalue()
    assert "demo sign-in: demo" in said.getvalue() and scores() == kept


def test_it_keeps_up_with_the_calendar() -> None:
    today = timezone.localdate()
    school = load(today, past=False)
    lessons = Lesson.objects.count()
    keep_up(school, today)
    assert Lesson.objects.count() == lessons
    keep_up(school, today.replace(year=today.year + 1, day=1))
    # Three lessons and tomorrow's run; a week of challenges, tried on two days, and a set held.
    assert Lesson.objects.count() == lessons + 4 + 3


def test_it_has_a_lesson_whichever_day_it_is() -> None:
    """On a Saturday a newcomer found nothing to open."""
    school = load(date(2026, 11, 20), past=False)
    for day in (date(2026, 11, 21), date(2026, 12, 21), date(2027, 2, 16)):
        keep_up(school, day)
        assert Lesson.objects.filter(starts_at__date=day, battery=None).count() >= 2, day


def test_a_lesson_is_going_on() -> None:
    school = load(timezone.localdate(), past=False)
    for _ in range(2):  # the second time it is there
        begin_lesson(school, timezone.now())
    lesson = Lesson.objects.get(
        school_class__name="3 Swift", place="Hall", starts_at__date=timezone.localdate()
    )
    assert lesson.closed_at is None and lesson.starts_at < timezone.now()
    scored = Attempt.objects.filter(activity__lesson=lesson).count()
    assert 0 < scored < lesson.school_class.pupils.count()


def test_it_has_all_of_a_living_school() -> None:
    """Timetable, terms, leavers, consents, a past year moved up, staff of each kind."""
    school = load(timezone.localdate(), past=False)
    assert school.terms.count() == 12 and school.keep_years == 2
    assert school.classes.filter(slots__isnull=False).distinct().count() == 5
    leavers = Pupil.objects.filter(school=school, left_on__isnull=False)
    assert leavers.count() == 3
    said = set(Pupil.objects.filter(school=school).values_list("measuring", flat=True))
    assert said == {"", "given", "refused"}
    staff = Staff.objects.filter(school=school)
    assert {one.role for one in staff} == {"head", "teacher"}
    assert staff.filter(may_see_school=True).exists() and staff.filter(is_active=False).exists()
    # What 5 Kestrel did as 4 Kestrel stands in Year 4.
    old = Lesson.objects.exclude(year_group=F("school_class__year_group"))
    assert [one.year_group.name for one in old] == ["Year 4"]
    assert school.moves_up.count() == 1
