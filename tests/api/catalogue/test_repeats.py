"""What a school's repeat tests add up to: kept by day, and never without a score that counts."""

from __future__ import annotations

import threading
from datetime import timedelta

from django.db import connection, transaction
from django.utils import timezone

from lauf.people.models import Pupil
from lauf.records.models import RepeatSummary
from lauf.records.queries import repeats_of
from lauf.records.queries.repeats import Repeats
from tests.api.conftest import World


def sums_of(world: World) -> Repeats:
    """What the repeat tests of the world's test add up to today, as every page reads it."""
    tomorrow = timezone.localdate() + timedelta(days=1)
    return repeats_of([world.activity.protocol], tomorrow)


def pairs_of(world: World) -> int:
    return sum(one.pairs for one in sums_of(world).values())


def test_a_late_score_of_an_earlier_day_is_weighed_in(world: World) -> None:
    """What repeat tests added up to is kept by day, and forgotten when the past changes."""

    def pairs() -> str:
        page = world.teacher.ask("GET", f"/api/pupils/{world.pupils[0].id}").json()
        return str(page["tests"][0]["lanes"][0]["band_words"])

    one, other = world.lesson_on(30), world.lesson_on(23)
    world.record(world.pupils[0], "20", one)
    assert "a starting value" in pairs()
    world.record(world.pupils[0], "24", other)
    assert "from 1 repeat test in" in pairs()
    world.record(world.pupils[1], "12", other)
    assert "from 1 repeat test in" in pairs()
    late = world.record(world.pupils[1], "14", one)
    assert "from 2 repeat tests in" in pairs()
    world.record(world.pupils[1], "a", one, succeeds=late.id)
    assert "from 1 repeat test in" in pairs()
    # Day by day it comes to the same as all at once.
    RepeatSummary.objects.all().delete()
    assert "from 1 repeat test in" in pairs()


def test_a_score_on_its_way_is_not_missed_for_good(transactional_world: World) -> None:
    """Somebody reads while a score is being written: what was added up without it is not kept."""
    world = transactional_world
    world.record(world.pupils[0], "20", world.lesson_on(7))
    written, read = threading.Event(), threading.Event()

    def write() -> None:
        with transaction.atomic():
            world.record(world.pupils[0], "24", world.activity)
            written.set()
            assert read.wait(30)
        connection.close()

    writing = threading.Thread(target=write)
    writing.start()
    assert written.wait(30)
    assert pairs_of(world) == 0
    read.set()
    writing.join()
    assert pairs_of(world) == 1
    assert RepeatSummary.objects.count() == 1


def test_a_settled_outlier_moves_the_band_by_a_bound_whenever_it_is_added_up(world: World) -> None:
    """All at once, or day by day in between: the same sums."""
    world.more_children(4)
    pupils = Pupil.objects.filter(school_class=world.school_class).order_by("given_name")
    days = [world.lesson_on(day) for day in (12, 11, 10, 9)]
    for place, pupil in enumerate(pupils):
        world.record(pupil, "20", days[place % 2])
        world.record(pupil, "58" if place == 1 else str(21 + place % 3), days[2 + place % 2])
        pairs_of(world)  # what was added up so far is kept
    step_by_step = sums_of(world)
    RepeatSummary.objects.all().delete()
    assert sums_of(world) == step_by_step
    (one,) = step_by_step.values()
    assert one.squares < 38**2 / 2, "a difference of 38 counts for less"


def test_what_two_counters_say_of_a_child_stands_on_the_tests_card(world: World) -> None:
    world.more_children(4)
    pupils = list(Pupil.objects.filter(school_class=world.school_class))
    partner = pupils[-1]
    path = f"/api/tests/{world.activity.protocol.test_id}/reliability"

    def words() -> str:
        rows = world.teacher.ask("GET", path).json()
        return str(next(row["counters"] for row in rows if row["form"] == "full"))

    for place, pupil in enumerate(pupils[:12]):
        said = world.record(pupil, str(20 + place), counted_by=partner.id)
        if place == 9:
            assert words() == "", "too few so far"
        world.record(pupil, str(20 + place + (place % 3 == 0)), succeeds=said.id)
    assert words().startswith("67% of 12 the same, the others mostly within 1, ICC(A,1) 0.99")
