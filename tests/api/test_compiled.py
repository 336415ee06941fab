"""Reads whose SQL is worked out once say what the ORM says, whatever they are asked in turn."""

from __future__ import annotations

from typing import Any

from django.db.models import Model
from django.utils import timezone

from lauf.catalogue.models import Ladder, ProtocolVersion
from lauf.catalogue.queries import ladders_for, norms_for
from lauf.lessons.models import Activity, Lesson
from lauf.lessons.queries import activities_of, lesson_of
from tests.api.conftest import World

WITH = ("school", "school_class", "year_group", "teacher", "closed_by", "battery")


def columns(one: Model | None) -> dict[str, Any] | None:
    return one and {field.attname: getattr(one, field.attname) for field in one._meta.fields}


def test_lists_of_any_length_are_asked_for_in_turn(
    world: World, django_assert_num_queries: Any
) -> None:
    tests = list(Ladder.objects.values_list("test", flat=True).distinct().order_by("test")[:3])
    assert len(tests) == 3
    for asked in (tests, tests[1:], tests[:1], [tests[2], tests[0]], [tests[1], tests[1]]):
        kept = Ladder.objects.filter(test__in=asked, rungs__isnull=False).distinct()
        with django_assert_num_queries(1):
            found = {one.id for one in ladders_for(asked)}
        assert found == set(kept.values_list("id", flat=True))
        year = world.school_class.year_group_id
        by_age = kept.filter(year_group=None)
        assert {one.id for one in ladders_for(asked, [year])} == set(
            (kept.filter(year_group=year) | by_age).values_list("id", flat=True)
        )
        assert {one.id for one in ladders_for(asked, [])} == set(
            by_age.values_list("id", flat=True)
        )
    with django_assert_num_queries(0):
        assert ladders_for([]) == [] and norms_for([]) == []


def test_models_come_with_their_related_ones_and_with_none_where_there_is_none(
    world: World, django_assert_num_queries: Any
) -> None:
    staff = world.teacher.staff
    assert staff
    battery = world.school.batteries.create(name="Autumn")
    for change in ({}, {"closed_by": staff, "closed_at": timezone.now()}, {"battery": battery}):
        Lesson.objects.filter(pk=world.activity.lesson_id).update(**change)
        kept = Lesson.objects.select_related(*WITH).get(pk=world.activity.lesson_id)
        with django_assert_num_queries(2):
            lesson = lesson_of(staff, kept.id)
            activities = activities_of(lesson)
            assert columns(lesson) == columns(kept)
            for name in WITH:
                assert columns(getattr(lesson, name)) == columns(getattr(kept, name)), name
        plain = Activity.objects.filter(lesson=kept).select_related("protocol__test__school")
        for found, one in zip(activities, plain, strict=True):
            assert columns(found) == columns(one)
            assert columns(found.protocol) == columns(one.protocol)
            assert isinstance(found.protocol, ProtocolVersion)
            assert columns(found.protocol.test.school) == columns(one.protocol.test.school)
