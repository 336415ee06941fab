"""What a school's repeat tests add up to: kept by day, and never without a score that counts."""

from __future__ import annotations

import threading
from datetime import timedelta

from django.db import connection, transaction
from django.utils import timezone

from lauf.records.models import RepeatSummary
from lauf.records.queries import repeats_of
from tests.api.conftest import World


def pairs_of(world: World) -> int:
    """How many repeat tests of the world's test are known up to today, as every page reads it."""
    tomorrow = timezone.localdate() + timedelta(days=1)
    found = repeats_of([world.activity.protocol], tomorrow)
    return sum(one.pairs for one in found.values())


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
