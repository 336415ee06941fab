"""Lessons lie between 2000 and 2099; a battery is open once in a class."""

from datetime import UTC, datetime
from typing import Any

from django.db import migrations, models
from django.utils import timezone

FIRST = datetime(2000, 1, 1, tzinfo=UTC)
LAST = datetime(2099, 12, 31, tzinfo=UTC)


def put_right(apps: Any, _: Any) -> None:
    """Bring lessons of no possible year to the nearest that is; close all but the newest of several
    open sittings of a battery in a class. Nothing that was kept in them is lost."""
    lessons = apps.get_model("lessons", "Lesson").objects
    lessons.filter(starts_at__lt=FIRST).update(starts_at=FIRST)
    lessons.filter(starts_at__gt=LAST).update(starts_at=LAST)
    newest = set()
    sittings = lessons.filter(battery__isnull=False, closed_at=None).order_by("-starts_at", "-id")
    for lesson in sittings:
        of = (lesson.battery_id, lesson.school_class_id)
        if of in newest:
            lesson.closed_at, lesson.closed_by_id = timezone.now(), lesson.teacher_id
            lesson.save(update_fields=["closed_at", "closed_by"])
        newest.add(of)


class Migration(migrations.Migration):
    dependencies = [("lessons", "0006_one_clock_one_plan")]

    operations = [
        migrations.RunPython(put_right, migrations.RunPython.noop),
        # Constraints that are checked later have to be, before the table can be changed.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AddConstraint(
            "lesson",
            models.CheckConstraint(
                condition=models.Q(("starts_at__range", (FIRST, LAST))),
                name="lesson_is_of_this_age",
            ),
        ),
        migrations.AddConstraint(
            "lesson",
            models.UniqueConstraint(
                condition=models.Q(("battery__isnull", False), ("closed_at", None)),
                fields=("battery", "school_class"),
                name="sitting_open_once",
            ),
        ),
    ]
