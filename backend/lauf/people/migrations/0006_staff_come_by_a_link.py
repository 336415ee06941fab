"""Staff are let in by a link, may change tests unless the head says no, and end their sessions."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0005_leavers_and_numbers")]

    operations = [
        migrations.AddField("staff", "may_edit_tests", models.BooleanField(default=True)),
        migrations.AddField("staff", "sessions_from", models.PositiveIntegerField(default=0)),
        migrations.AlterField(
            "change",
            "what",
            models.CharField(
                choices=[
                    ("permission", "Permission"),
                    ("staff", "Staff"),
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
        migrations.CreateModel(
            name="Invitation",
            fields=[
                (
                    "staff",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="invitation",
                        serialize=False,
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                ("proof", models.CharField(max_length=64, unique=True)),
                ("expires_at", models.DateTimeField()),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
        ),
    ]
