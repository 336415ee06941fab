"""Attempts name the clock they were taken by; repeat tests are summed up day by day; the audit
log is never changed."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("catalogue", "0003_day_to_day_variation_by_age"),
        ("lessons", "0006_one_clock_one_plan"),
        ("people", "0004_audit_log"),
        ("records", "0006_attempt_counted_by"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RunSQL(
            "CREATE TRIGGER change_append_only BEFORE UPDATE OR DELETE ON people_change "
            "FOR EACH ROW EXECUTE FUNCTION lauf_append_only()",
            "DROP TRIGGER change_append_only ON people_change",
        ),
        migrations.CreateModel(
            name="RepeatSummary",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("before", models.DateField()),
                ("state", models.JSONField()),
                ("made_at", models.DateTimeField(auto_now_add=True)),
            ],
        ),
        migrations.RemoveConstraint(
            model_name="attempt",
            name="attempt_value_within_its_kind",
        ),
        migrations.AddField(
            model_name="attempt",
            name="run",
            field=models.ForeignKey(
                blank=True,
                db_constraint=False,
                null=True,
                on_delete=django.db.models.deletion.DO_NOTHING,
                related_name="attempts",
                to="lessons.run",
            ),
        ),
        migrations.AddConstraint(
            model_name="attempt",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("value__isnull", True),
                    models.Q(("kind", "count"), ("value__range", (0, 100000))),
                    models.Q(("kind", "time"), ("value__range", (0, 86400000))),
                    models.Q(("kind", "length"), ("value__range", (-10000, 50000000))),
                    models.Q(("kind", "marks"), ("value__range", (-10000, 50000000))),
                    models.Q(("kind", "offset"), ("value__range", (-10000, 50000000))),
                    models.Q(("kind", "sides"), ("value__range", (0, 100000))),
                    models.Q(("kind", "hits"), ("value__range", (0, 100000))),
                    models.Q(("kind", "stage"), ("value__range", (0, 100000))),
                    models.Q(("kind", "laps"), ("value__range", (-10000, 50000000))),
                    models.Q(("kind", "total"), ("value__range", (0, 100000))),
                    models.Q(("kind", "mass"), ("value__range", (0, 300000))),
                    models.Q(("kind", "pulse"), ("value__range", (0, 300))),
                    _connector="OR",
                ),
                name="attempt_value_within_its_kind",
            ),
        ),
        migrations.AddField(
            model_name="repeatsummary",
            name="test",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="+", to="catalogue.test"
            ),
        ),
        migrations.AddConstraint(
            model_name="repeatsummary",
            constraint=models.UniqueConstraint(
                fields=("test", "before"), name="repeats_once_a_day"
            ),
        ),
    ]
