"""Who helped to enter a score, and second counts of a try."""

import datetime
import uuid

import django.db.models.deletion
from django.db import migrations, models

FORWARD = """
CREATE TRIGGER recount_append_only BEFORE UPDATE OR DELETE ON records_recount
    FOR EACH ROW EXECUTE FUNCTION lauf_append_only();
ALTER TABLE records_recount ADD CONSTRAINT recount_in_its_pupils_school
    FOREIGN KEY (pupil_id, school_id) REFERENCES people_pupil (id, school_id);
ALTER TABLE records_recount ADD CONSTRAINT records_recount_received_at_has_bounds CHECK (
    received_at >= '1999-12-31 00:00:00+00' AND received_at <= '2100-01-01 00:00:00+00');
ALTER TABLE records_recount ADD CONSTRAINT records_recount_recorded_at_has_bounds CHECK (
    recorded_at >= '1999-12-31 00:00:00+00' AND recorded_at <= '2100-01-01 00:00:00+00');
"""
BACKWARD = """
ALTER TABLE records_recount DROP CONSTRAINT records_recount_recorded_at_has_bounds;
ALTER TABLE records_recount DROP CONSTRAINT records_recount_received_at_has_bounds;
ALTER TABLE records_recount DROP CONSTRAINT recount_in_its_pupils_school;
DROP TRIGGER recount_append_only ON records_recount;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("lessons", "0011_helpers"),
        ("people", "0012_one_lock_out"),
        ("records", "0015_words_of_reasons"),
    ]

    operations = [
        migrations.AddField(
            model_name="attempt",
            name="helper",
            field=models.ForeignKey(
                blank=True,
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="attempts",
                to="lessons.helper",
            ),
        ),
        migrations.CreateModel(
            name="Recount",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("try_number", models.PositiveSmallIntegerField(default=1)),
                ("variant", models.CharField(blank=True, max_length=20)),
                ("typed", models.CharField(max_length=180)),
                ("kind", models.CharField(max_length=12)),
                ("value", models.BigIntegerField(blank=True, null=True)),
                (
                    "reason",
                    models.CharField(
                        blank=True,
                        choices=[
                            ("absent", "absent"),
                            ("sat_out", "sat out"),
                            ("no_kit", "no kit or helper"),
                            ("did_not_want", "did not want to"),
                            ("void", "void"),
                            ("unfinished", "not finished"),
                            ("withdrawn", "undone"),
                        ],
                        max_length=12,
                        null=True,
                    ),
                ),
                ("recorded_at", models.DateTimeField()),
                ("received_at", models.DateTimeField(auto_now_add=True)),
                (
                    "activity",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="recounts",
                        to="lessons.activity",
                    ),
                ),
                (
                    "beside",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="recounts",
                        to="records.attempt",
                    ),
                ),
                (
                    "helper",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="recounts",
                        to="lessons.helper",
                    ),
                ),
                (
                    "pupil",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="recounts",
                        to="people.pupil",
                    ),
                ),
                (
                    "school",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="recounts",
                        to="people.school",
                    ),
                ),
            ],
            options={
                "ordering": ["received_at", "id"],
                "indexes": [
                    models.Index(
                        fields=["activity", "pupil"], name="records_rec_activit_a55737_idx"
                    )
                ],
                "constraints": [
                    models.CheckConstraint(
                        condition=models.Q(
                            ("reason__isnull", True),
                            (
                                "reason__in",
                                [
                                    "absent",
                                    "sat_out",
                                    "no_kit",
                                    "did_not_want",
                                    "void",
                                    "unfinished",
                                    "withdrawn",
                                ],
                            ),
                            _connector="OR",
                        ),
                        name="recount_reason_is_known",
                    ),
                    models.CheckConstraint(
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
                        name="recount_value_within_its_kind",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            (
                                "recorded_at__range",
                                (
                                    datetime.datetime(2000, 1, 1, 0, 0, tzinfo=datetime.UTC),
                                    datetime.datetime(2099, 12, 31, 0, 0, tzinfo=datetime.UTC),
                                ),
                            )
                        ),
                        name="recount_is_of_this_age",
                    ),
                ],
            },
        ),
        migrations.RunSQL(FORWARD, BACKWARD),
    ]
