"""Children leave and keep their scores; a school's own number finds a child again."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0004_audit_log")]

    operations = [
        migrations.AlterField(
            "pupil",
            "school_class",
            models.ForeignKey(
                blank=True,
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="pupils",
                to="people.schoolclass",
            ),
        ),
        migrations.AddField("pupil", "left_on", models.DateField(blank=True, null=True)),
        migrations.AddField(
            "pupil",
            "left_from",
            models.ForeignKey(
                blank=True,
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="leavers",
                to="people.schoolclass",
            ),
        ),
        migrations.AddField(
            "pupil", "number", models.CharField(blank=True, default="", max_length=40), False
        ),
        migrations.AlterField(
            "change",
            "what",
            models.CharField(
                choices=[
                    ("permission", "Permission"),
                    ("units", "Units"),
                    ("class", "Class"),
                    ("pupil", "Child"),
                    ("test", "Test"),
                    ("protocol", "Protocol"),
                    ("ladder", "Ladder"),
                    ("norm", "Norm table"),
                    ("battery", "Battery"),
                    ("course", "Course"),
                    ("plan", "Plan"),
                    ("lesson", "Lesson"),
                    ("challenge", "Challenge"),
                    ("points", "Points"),
                ],
                max_length=12,
            ),
        ),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AddConstraint(
            "pupil",
            models.CheckConstraint(
                condition=models.Q(
                    models.Q(
                        ("left_from", None), ("left_on", None), ("school_class__isnull", False)
                    ),
                    models.Q(
                        ("left_from__isnull", False),
                        ("left_on__isnull", False),
                        ("school_class", None),
                    ),
                    _connector="OR",
                ),
                name="pupil_is_in_a_class_or_has_left_one",
            ),
        ),
        migrations.AddConstraint(
            "pupil",
            models.UniqueConstraint(
                condition=models.Q(("number", ""), _negated=True),
                fields=("school", "number"),
                name="pupil_number_once",
            ),
        ),
    ]
