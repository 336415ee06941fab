"""Scores and pulses were taken between 2000 and 2099."""

from datetime import UTC, datetime

from django.db import migrations, models

FIRST = datetime(2000, 1, 1, tzinfo=UTC)
LAST = datetime(2099, 12, 31, tzinfo=UTC)

#: A time that no clock can have shown gives way to the one at which the row came in; a day, to its
#: lesson's. All else of the row stays: the guard is lifted for these rows' sake alone.
PUT_RIGHT = """
SET CONSTRAINTS ALL IMMEDIATE;
ALTER TABLE records_attempt DISABLE TRIGGER USER;
UPDATE records_attempt SET recorded_at = received_at
    WHERE recorded_at NOT BETWEEN '2000-01-01Z' AND '2099-12-31Z';
UPDATE records_attempt AS a SET "on" = lesson.starts_at::date
    FROM lessons_activity AS activity JOIN lessons_lesson AS lesson ON lesson.id = activity.lesson_id
    WHERE activity.id = a.activity_id AND a."on" NOT BETWEEN '2000-01-01' AND '2099-12-31';
ALTER TABLE records_attempt ENABLE TRIGGER USER;
ALTER TABLE records_pulsereading DISABLE TRIGGER USER;
UPDATE records_pulsereading SET recorded_at = received_at
    WHERE recorded_at NOT BETWEEN '2000-01-01Z' AND '2099-12-31Z';
ALTER TABLE records_pulsereading ENABLE TRIGGER USER;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("lessons", "0007_of_this_age_and_one_sitting"),
        ("records", "0007_attempts_know_their_run"),
    ]

    operations = [
        migrations.RunSQL(PUT_RIGHT, migrations.RunSQL.noop),
        migrations.AddConstraint(
            "attempt",
            models.CheckConstraint(
                condition=models.Q(("recorded_at__range", (FIRST, LAST))),
                name="attempt_is_of_this_age",
            ),
        ),
        migrations.AddConstraint(
            "pulsereading",
            models.CheckConstraint(
                condition=models.Q(("recorded_at__range", (FIRST, LAST))),
                name="pulse_is_of_this_age",
            ),
        ),
    ]
