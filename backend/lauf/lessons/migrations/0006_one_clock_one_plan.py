"""Every clock is a run, plans are kept by revision, and a conductor keeps the timeline it began with.

What conductors had done was named by a segment's place; it is now named by its id, as text.
"""

from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def keep_revisions(apps: Any, _: Any) -> None:
    lessons = apps.get_model("lessons", "Lesson")
    revisions = apps.get_model("lessons", "PlanRevision")
    for lesson in lessons.objects.filter(blocks__isnull=False).distinct():
        entries = [
            {
                **block.settings,
                "id": str(block.id),
                "kind": block.kind,
                "label": block.label,
                "test_id": str(block.activity.protocol.test_id) if block.activity else None,
                "activity_id": str(block.activity_id) if block.activity_id else None,
            }
            for block in lesson.blocks.select_related("activity__protocol").order_by("position")
        ]
        revisions.objects.create(
            lesson=lesson, number=lesson.plan_revision, entries=entries, by_id=lesson.teacher_id
        )


def name_segments(apps: Any, _: Any) -> None:
    _rename(apps, str)


def number_segments(apps: Any, _: Any) -> None:
    _rename(apps, lambda name: int(name) if str(name).isdigit() else 0)


def _rename(apps: Any, to: Any) -> None:
    for conduct in apps.get_model("lessons", "Conduct").objects.all():
        for part in ("done", "edits", "swaps"):
            for one in conduct.state.get(part) or ():
                one["segment"] = to(one["segment"])
        conduct.save(update_fields=["state"])


class Migration(migrations.Migration):
    dependencies = [
        ("lessons", "0005_stations_with_loads"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.RemoveConstraint(model_name="waverun", name="run_ended_is_known"),
        migrations.RemoveConstraint(model_name="waverun", name="run_says_what_was_worked"),
        migrations.RemoveConstraint(model_name="waverun", name="run_that_counts_once"),
        migrations.RenameModel("WaveRun", "Run"),
        migrations.AddField(
            "run",
            "way",
            models.CharField(
                choices=[
                    ("wave", "wave"),
                    ("taps", "taps"),
                    ("tally", "tally"),
                    ("beeps", "beeps"),
                    ("target", "target"),
                ],
                default="wave",
                max_length=10,
            ),
        ),
        migrations.AddField("run", "try_number", models.PositiveSmallIntegerField(default=1)),
        migrations.AddField("run", "go_ms", models.PositiveIntegerField(default=0)),
        migrations.AddField("run", "pauses", models.JSONField(blank=True, default=list)),
        migrations.AlterField(
            "run", "wave", models.PositiveSmallIntegerField(blank=True, null=True)
        ),
        migrations.AddConstraint(
            "run",
            models.CheckConstraint(
                condition=models.Q(("ended__in", ["", "complete", "early", "restarted"])),
                name="run_ended_is_known",
            ),
        ),
        migrations.AddConstraint(
            "run",
            models.CheckConstraint(
                condition=models.Q(("way__in", ["wave", "taps", "tally", "beeps", "target"])),
                name="run_way_is_known",
            ),
        ),
        migrations.AddConstraint(
            "run",
            models.CheckConstraint(
                condition=models.Q(
                    models.Q(("way", "wave"), _negated=True),
                    ("wave__isnull", False),
                    _connector="OR",
                ),
                name="run_of_a_wave_has_one",
            ),
        ),
        migrations.AddConstraint(
            "run",
            models.CheckConstraint(
                condition=models.Q(
                    ("ended__in", ["", "restarted"]),
                    ("worked_seconds__isnull", False),
                    models.Q(("way", "wave"), _negated=True),
                    _connector="OR",
                ),
                name="run_says_what_was_worked",
            ),
        ),
        migrations.AddConstraint(
            "run",
            models.UniqueConstraint(
                condition=models.Q(("ended__in", ["complete", "early"]), ("way", "wave")),
                fields=("activity", "wave"),
                name="run_that_counts_once",
            ),
        ),
        migrations.AddField("conduct", "timeline", models.JSONField(blank=True, null=True)),
        migrations.CreateModel(
            name="PlanRevision",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("number", models.PositiveIntegerField()),
                ("entries", models.JSONField()),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "lesson",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="revisions",
                        to="lessons.lesson",
                    ),
                ),
            ],
            options={"ordering": ["number"]},
        ),
        migrations.AddConstraint(
            "planrevision",
            models.UniqueConstraint(fields=("lesson", "number"), name="plan_revision_once"),
        ),
        migrations.RunPython(keep_revisions, migrations.RunPython.noop),
        migrations.RunPython(name_segments, number_segments),
    ]
