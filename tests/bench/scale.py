"""`./lauf bench scale`: does a school with many scores feel like one with few? The same seven
things are done in turn in databases of 10^4, 10^6 and 10^7 scores, in one school and spread over a
hundred.

What grows is what grows in life: children who have left and their lessons. The 420 children on roll
have the same scores everywhere, 24 each in the last two years, and the classes are the same 14.
"""

from __future__ import annotations

import statistics
import time
import uuid
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from typing import Any, Final

from tests.bench.filling import django_on, fill_school, quickly, settle, sum_up
from tests.bench.saying import said
from tests.support.served import drop, make_template
from tests.support.templates import connected_to, copy

TEMPLATE: Final = "lauf_scale"
ROUNDS: Final = 15
#: Scores of a child, in so many lessons of two tests each.
EACH, LESSONS = 24, 12
ON_ROLL: Final = 420
#: Name of the database, scores of the measured school, other schools beside it of as many, lessons
#: of each class on roll.
SIZES: Final = (
    ("small", 10_000, 0, LESSONS),
    ("million", 1_000_000, 0, LESSONS),
    ("ten_million", 10_000_000, 0, LESSONS),
    ("spread_million", 10_000, 99, LESSONS),
    ("spread_ten_million", 100_000, 99, LESSONS),
    # No school measures a class every week: what ten times the scores of the same children cost.
    ("ten_times_on_roll", 10_000, 0, 10 * LESSONS),
)
AIMS: Final = {"million": 1.3, "spread_million": 1.3, "ten_million": 2, "spread_ten_million": 2}


def main() -> None:
    make_template(TEMPLATE, demo=False)
    names = [f"{TEMPLATE}_{name}" for name, *_ in SIZES]
    try:
        for name in names:
            copy(TEMPLATE, name)
        # Two at a time, the largest first.
        largest_first = sorted(SIZES, key=lambda size: -size[1] * (size[2] + 1))
        fresh = get_context("spawn")
        with ProcessPoolExecutor(2, mp_context=fresh, max_tasks_per_child=1) as pool:
            for told in pool.map(filled, *zip(*largest_first, strict=True)):
                said(told)
        django_on(TEMPLATE)
        measure()
    finally:
        for name in (*names, TEMPLATE):
            drop(name)


def filled(name: str, scores: int, others: int, lessons: int) -> str:
    """Fill a database, in a process of its own."""
    django_on(f"{TEMPLATE}_{name}")
    from django.db import connection

    begun = time.monotonic()
    with connection.cursor() as cursor:
        with quickly(cursor):
            for number in range(others + 1):
                leavers = max(0, scores // EACH - ON_ROLL)
                fill_school(cursor, number, leavers=leavers, lessons=lessons)
        settle()
        sum_up("head-0")
        cursor.execute("SELECT pg_database_size(current_database()) / 1000000")
        ((megabytes,),) = cursor.fetchall()
    return f"{name}: made in {time.monotonic() - begun:.0f} s, {megabytes} MB"


def measure() -> None:
    """Each thing in each database in turn, since a machine's speed wanders."""
    times: dict[str, dict[str, list[float]]] = {}
    for number in range(-2, ROUNDS):
        for size, *_ in SIZES:
            with connected_to(f"{TEMPLATE}_{size}"):
                for name, step in things().items():
                    step()  # what is read once is read
                    begun = time.perf_counter()
                    step()
                    taken = 1000 * (time.perf_counter() - begun)
                    if number >= 0:
                        times.setdefault(name, {}).setdefault(size, []).append(taken)
    for name, found in times.items():
        small = statistics.median(found["small"])
        told = ", ".join(
            f"{size} {statistics.median(taken) / small:.2f}"
            + (f" (aim {AIMS[size]})" if size in AIMS else "")
            for size, taken in found.items()
            if size != "small"
        )
        said(f"{name}: {small:.1f} ms at 10^4 in one school is 1; {told}")


def things() -> dict[str, Callable[[], Any]]:
    """What is measured, for the head of the first school and the teacher of its first class."""
    from django.utils import timezone

    from lauf.lessons.models import Activity
    from lauf.people.models import SchoolClass, Staff
    from lauf.people.queries import search
    from lauf.progress.board import class_board
    from lauf.progress.lesson.lanes import class_lanes
    from lauf.progress.pupil.record import pupil_record
    from lauf.progress.school.school_picture import school_picture
    from lauf.progress.today import today_page
    from lauf.rules.planning.school_days import Span
    from tests.support.scores import record_attempt

    now, today = timezone.now(), timezone.localdate()
    head = Staff.objects.select_related("school").get(username="head-0")
    group = SchoolClass.objects.filter(school=head.school_id).earliest("name")
    activity = (
        Activity.objects.filter(lesson__school_class=group, lesson__starts_at__date=today)
        .select_related("lesson")
        .earliest("position")
    )
    children = list(group.pupils.all())
    year = Span(today.replace(year=today.year - 1), today)

    def save() -> None:
        record_attempt(
            head, activity.id, attempt_id=uuid.uuid4(), pupil_id=children[0].id, typed="20",
            variant="full", wave=1, recorded_at=timezone.now(),
            succeeds=_head_of(activity.id, children[0].id),
        )  # fmt: skip

    return {
        "lanes": lambda: class_lanes(head, activity.id),
        "board": lambda: class_board(head, group.id, today, year),
        "child": lambda: pupil_record(head, children[1].id, today),
        "Today": lambda: today_page(head, now),
        "search": lambda: search(head, "wilder ash"),
        "picture": lambda: school_picture(head, today),
        "save": save,
    }


def _head_of(activity_id: uuid.UUID, pupil_id: uuid.UUID) -> uuid.UUID | None:
    from lauf.records.models import Attempt

    found = Attempt.objects.filter(activity=activity_id, pupil=pupil_id, successor=None)
    return found.values_list("id", flat=True).first()


if __name__ == "__main__":
    main()
