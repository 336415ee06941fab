"""Speed as ratios within one run: `./lauf bench`."""

from __future__ import annotations

import json
import os
import statistics
import time
import uuid
from collections.abc import Callable
from datetime import timedelta

from tests.bench import clock, draws, fuzz, hall, kills
from tests.bench.saying import said
from tests.support.messages import say
from tests.support.served import as_url, drop, make_template

TEMPLATE = "lauf_bench"
ROUNDS = 60
#: The same rows by one plain query: 28 children, one test, four occasions.
PLAIN = """
    SELECT p.id::text, p.given_name, p.family_name, p.medical_note, a.id::text,
           a.activity_id::text, a.on::text, a.typed, a.value, a.reason, a.estimate, a.variant,
           a.wave, a.succeeds_id::text, v.seconds
    FROM people_pupil p
    JOIN records_attempt a ON a.pupil_id = p.id
    JOIN catalogue_protocolversion v ON v.id = a.protocol_id
    LEFT JOIN records_attempt later ON later.succeeds_id = a.id
    WHERE p.school_class_id = %s AND later.id IS NULL
    ORDER BY a.on, a.recorded_at
"""


def compare(
    words: str,
    ours: Callable[[], object],
    baseline: Callable[[], object],
    baseline_is: str,
    aim: float,
    *,
    before: Callable[[], object] = lambda: None,
    rounds: int = ROUNDS,
) -> None:
    """Say the middle times of a step and of its baseline, and their ratio. They take turns, since a
    machine's speed wanders within seconds; `before` each of ours, untimed."""
    times: tuple[list[float], list[float]] = ([], [])
    for number in range(-min(5, rounds), rounds):
        before()
        for kept, step in zip(times, (ours, baseline), strict=True):
            begun = time.perf_counter()
            step()
            if number >= 0:
                kept.append((time.perf_counter() - begun) * 1000)
    taken, base = map(statistics.median, times)
    said(
        f"{words}: {taken:.1f} ms, {base:.1f} ms {baseline_is}, ratio {taken / base:.1f} "
        f"(aim: {aim} or less)"
    )


def main() -> None:
    make_template(TEMPLATE, demo=True)
    cluster = os.environ["LAUF_DATABASE_URL"]
    os.environ["LAUF_DATABASE_URL"] = as_url(TEMPLATE)
    os.environ["DJANGO_SETTINGS_MODULE"] = "lauf.web.settings"
    import django

    django.setup()
    class_lane_read()
    battery_grid_read()
    class_board_read()
    family_reports_made()
    first_read_of_a_day()
    judge_many()
    from django.db import connection

    connection.close()
    connection.close_pool()
    os.environ["LAUF_DATABASE_URL"] = cluster
    drop(TEMPLATE)
    clock.main()
    draws.main()
    hall.main()
    fuzz.main()
    kills.main()


def class_lane_read() -> None:
    from django.db import connection
    from django.utils import timezone

    from lauf.lessons.models import Activity
    from lauf.people.models import Staff
    from lauf.progress.lesson.lanes import class_lanes
    from tests.support.scores import record_attempt

    staff = Staff.objects.get(username="demo")
    activity = Activity.objects.select_related("lesson").get(
        lesson__school_class__name="4 Heron", lesson__starts_at__date=timezone.localdate()
    )
    class_id = activity.lesson.school_class_id

    for number, pupil in enumerate(activity.lesson.school_class.pupils.all()):
        record_attempt(
            staff,
            activity.id,
            attempt_id=uuid.uuid4(),
            pupil_id=pupil.id,
            typed=str(8 + number),
            variant="full",
            wave=1,
            recorded_at=timezone.now(),
        )

    def judged() -> str:
        return json.dumps(class_lanes(staff, activity.id), default=str)

    def plain() -> str:
        with connection.cursor() as cursor:
            cursor.execute(PLAIN, [class_id])
            return json.dumps(cursor.fetchall())

    words = "class lane read, 28 children x 1 test x 4 occasions"
    compare(words, judged, plain, "plain SQL + JSON", 4)


def battery_grid_read() -> None:
    """30 children × 12 tests × 6 sittings: the grid of the last one beside the one before, with
    every typical error from all six."""
    from django.db import connection

    from lauf.people.models import Staff
    from lauf.progress.lesson.grid import battery_grid
    from tests.bench.many import battery_of_six

    staff = Staff.objects.get(username="head")
    lesson = battery_of_six(staff)

    def judged() -> str:
        return json.dumps(battery_grid(staff, lesson.id), default=str)

    def plain() -> str:
        with connection.cursor() as cursor:
            cursor.execute(PLAIN, [lesson.school_class_id])
            return json.dumps(cursor.fetchall())

    words = "battery grid, 30 children x 12 tests x 6 occasions"
    compare(words, judged, plain, "plain SQL + JSON", 3)


def class_board_read() -> None:
    """30 children × 12 tests × 6 occasions: the board of the year."""
    from django.db import connection
    from django.utils import timezone

    from lauf.people.models import SchoolClass, Staff
    from lauf.progress.board import class_board
    from lauf.rules.planning.school_days import Span
    from tests.bench.many import BATTERY_CLASS

    staff = Staff.objects.get(username="head")
    group = SchoolClass.objects.get(name=BATTERY_CLASS)
    today = timezone.localdate()
    year = Span(today - timedelta(days=700), today)

    def judged() -> str:
        return json.dumps(class_board(staff, group.id, today, year), default=str)

    def plain() -> str:
        with connection.cursor() as cursor:
            cursor.execute(PLAIN, [group.id])
            return json.dumps(cursor.fetchall())

    words = "class board, 30 children x 12 tests x 6 occasions"
    compare(words, judged, plain, "plain SQL + JSON", 4)


def family_reports_made() -> None:
    """A page a child of a class of thirty, beside WeasyPrint with the same HTML already there."""
    from django.utils import timezone

    from lauf.exchange.paper.apart import pdf_of
    from lauf.exchange.paper.render import Layout
    from lauf.exchange.queries import family_reports
    from lauf.people.models import SchoolClass, Staff

    staff = Staff.objects.get(username="head")
    group = SchoolClass.objects.get(name="4 Heron")
    today = timezone.localdate()

    def laid_out(pages: list[str]) -> bytes:
        layout = Layout(say("progress.familyReports"))
        for page in pages:
            layout.add(page)
        return layout.write()

    ready = family_reports(staff, group.id, today).pages
    assert len(ready) >= 28
    words = f"{len(ready)} family reports"
    compare(
        words,
        lambda: laid_out(family_reports(staff, group.id, today).pages),
        lambda: laid_out(ready),
        "WeasyPrint alone",
        1.3,
        rounds=3,
    )
    compare(
        f"{words} by two processes",
        lambda: pdf_of(say("progress.familyReports"), ready, lambda: None),
        lambda: laid_out(ready),
        "by one",
        0.8,
        rounds=3,
    )


def first_read_of_a_day() -> None:
    """A school with 80,000 scores of one test: the class's lanes on the first read of a day, when
    the sums of repeat tests are a day old, beside the next read."""
    from django.core.cache import cache

    from lauf.people.models import Staff
    from lauf.progress.lesson.lanes import class_lanes
    from lauf.records.models import RepeatSummary
    from tests.bench.many import many_scores

    staff = Staff.objects.get(username="head")
    activity = many_scores(staff, 80_000)
    newest = RepeatSummary.objects.filter(test=activity.protocol.test_id)
    class_lanes(staff, activity.id)
    today = newest.latest("before")
    newest.filter(pk=today.pk).update(before=today.before - timedelta(days=1))

    def read() -> None:
        class_lanes(staff, activity.id)

    def next_day() -> None:
        newest.filter(before=today.before).delete()
        cache.clear()

    words = "class lane read, 80,000 scores of the test in the school, first of a day"
    compare(words, read, read, "the next", 1.5, before=next_day)


def judge_many() -> None:
    """100,000 attempts on arrays, rung, percentile and verdict, beside a plain NumPy computation
    of the same thresholds."""
    from tests.bench.many import judged_attempts, plain_thresholds, seeded_attempts

    attempts = seeded_attempts(100_000)
    words = "100,000 attempts judged (rung, percentile, verdict)"
    compare(
        words,
        lambda: judged_attempts(attempts),
        lambda: plain_thresholds(attempts),
        "plain NumPy thresholds",
        10,
    )


if __name__ == "__main__":
    main()
