"""Helpers: a code that opens one lesson, and who came by it."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

BOUNDED = (
    ("lessons_helper", "joined_at"),
    ("lessons_helper", "ended_at"),
    ("lessons_helpercode", "until"),
)


class Migration(migrations.Migration):
    dependencies = [
        ("lessons", "0010_when_it_was_changed"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="activity",
            name="counted_twice",
            field=models.BooleanField(default=False),
        ),
        migrations.CreateModel(
            name="Helper",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("name", models.CharField(max_length=40)),
                ("proof", models.CharField(blank=True, max_length=64, null=True, unique=True)),
                ("joined_at", models.DateTimeField()),
                ("ended_at", models.DateTimeField(blank=True, null=True)),
                (
                    "lesson",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="helpers",
                        to="lessons.lesson",
                    ),
                ),
                (
                    "let_in_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={
                "ordering": ["joined_at", "id"],
            },
        ),
        migrations.CreateModel(
            name="HelperCode",
            fields=[
                (
                    "lesson",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="helper_code",
                        serialize=False,
                        to="lessons.lesson",
                    ),
                ),
                ("code", models.CharField(max_length=12, unique=True)),
                ("secret", models.CharField(max_length=40, unique=True)),
                ("until", models.DateTimeField()),
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
        *(
            migrations.RunSQL(
                f"ALTER TABLE {table} ADD CONSTRAINT {table}_{column}_has_bounds CHECK ("
                f"{column} >= '1999-12-31 00:00:00+00' AND {column} <= '2100-01-01 00:00:00+00')",
                f"ALTER TABLE {table} DROP CONSTRAINT {table}_{column}_has_bounds",
            )
            for table, column in BOUNDED
        ),
    ]
