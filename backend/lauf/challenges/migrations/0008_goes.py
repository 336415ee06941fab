"""Children enter goes of a challenge themselves: the code of a class, the slip of a child, the goes
that wait; and devices of a lesson of that day are told of them."""

import datetime
import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

TOLD = """
CREATE FUNCTION lauf_tell_challenges_go() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM pg_notify('lauf_live', json_build_object('lesson', f.lesson, 'what', 'goes')::text)
    FROM (
        SELECT DISTINCT l.id
        FROM changed n
        JOIN people_pupil p ON p.id = n.pupil_id
        JOIN lessons_lesson l ON l.school_class_id = p.school_class_id
            AND l.starts_at BETWEEN n.made_at - interval '1 day' AND n.made_at + interval '1 day'
        LIMIT 100
    ) AS f (lesson);
    RETURN NULL;
END $$;
CREATE TRIGGER told_of_insert AFTER INSERT ON challenges_go
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION lauf_tell_challenges_go();
CREATE TRIGGER told_of_update AFTER UPDATE ON challenges_go
    REFERENCING NEW TABLE AS changed FOR EACH STATEMENT EXECUTE FUNCTION lauf_tell_challenges_go();
"""
#: Moments lie between 2000 and 2099, as 0007 has it.
BOUNDS = "".join(
    f'ALTER TABLE "{table}" ADD CONSTRAINT "{table}_{column}_has_bounds" '
    f"CHECK (\"{column}\" BETWEEN '1999-12-31' AND '2100-01-01');"
    for table, column in (("challenges_slip", "made_at"), ("challenges_go", "received_at"))
)


class Migration(migrations.Migration):
    dependencies = [
        ("challenges", "0007_times_have_bounds"),
        ("people", "0012_one_lock_out"),
        ("records", "0017_told_at_once"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="ChallengeCode",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("code", models.CharField(max_length=8, unique=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "school_class",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="challenge_codes",
                        to="people.schoolclass",
                    ),
                ),
                (
                    "week",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="codes",
                        to="challenges.challengeweek",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(
                        fields=("week", "school_class"), name="code_once_a_class"
                    )
                ],
            },
        ),
        migrations.CreateModel(
            name="Go",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("by_slip", models.BooleanField()),
                ("typed", models.CharField(max_length=180)),
                ("variant", models.CharField(blank=True, max_length=20)),
                ("made_at", models.DateTimeField()),
                ("received_at", models.DateTimeField(auto_now_add=True)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("waiting", "Waiting"),
                            ("accepted", "Accepted"),
                            ("declined", "Declined"),
                            ("undone", "Undone"),
                        ],
                        default="waiting",
                        max_length=8,
                    ),
                ),
                ("decided_at", models.DateTimeField(blank=True, null=True)),
                (
                    "attempt",
                    models.OneToOneField(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="go",
                        to="records.attempt",
                    ),
                ),
                (
                    "challenge",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="goes",
                        to="challenges.challenge",
                    ),
                ),
                (
                    "counted_by",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="people.pupil",
                    ),
                ),
                (
                    "decided_by",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "pupil",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="goes",
                        to="people.pupil",
                    ),
                ),
                (
                    "school",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="goes",
                        to="people.school",
                    ),
                ),
            ],
            options={
                "ordering": ["made_at", "id"],
                "indexes": [
                    models.Index(
                        condition=models.Q(("state", "waiting")),
                        fields=["challenge"],
                        name="go_waiting",
                    )
                ],
                "constraints": [
                    models.CheckConstraint(
                        condition=models.Q(
                            ("state__in", ["waiting", "accepted", "declined", "undone"])
                        ),
                        name="go_state_is_known",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("attempt__isnull", False), ("state", "accepted")),
                            models.Q(
                                models.Q(("state", "accepted"), _negated=True), ("attempt", None)
                            ),
                            _connector="OR",
                        ),
                        name="go_is_accepted_as_a_score",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            (
                                "made_at__range",
                                (
                                    datetime.datetime(2000, 1, 1, 0, 0, tzinfo=datetime.UTC),
                                    datetime.datetime(2099, 12, 31, 0, 0, tzinfo=datetime.UTC),
                                ),
                            ),
                            models.Q(
                                ("decided_at", None),
                                (
                                    "decided_at__range",
                                    (
                                        datetime.datetime(2000, 1, 1, 0, 0, tzinfo=datetime.UTC),
                                        datetime.datetime(2099, 12, 31, 0, 0, tzinfo=datetime.UTC),
                                    ),
                                ),
                                _connector="OR",
                            ),
                        ),
                        name="go_is_of_this_age",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Slip",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("picture", models.PositiveSmallIntegerField()),
                ("code", models.CharField(blank=True, max_length=12, null=True, unique=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("withdrawn_at", models.DateTimeField(blank=True, null=True)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "pupil",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="slips",
                        to="people.pupil",
                    ),
                ),
                (
                    "week",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="slips",
                        to="challenges.challengeweek",
                    ),
                ),
            ],
            options={
                "ordering": ["picture", "made_at"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("withdrawn_at", None)),
                        fields=("week", "pupil"),
                        name="slip_once_a_child",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            ("withdrawn_at", None),
                            (
                                "withdrawn_at__range",
                                (
                                    datetime.datetime(2000, 1, 1, 0, 0, tzinfo=datetime.UTC),
                                    datetime.datetime(2099, 12, 31, 0, 0, tzinfo=datetime.UTC),
                                ),
                            ),
                            _connector="OR",
                        ),
                        name="slip_is_withdrawn_in_our_age",
                    ),
                ],
            },
        ),
        migrations.RunSQL(BOUNDS, migrations.RunSQL.noop),
        migrations.RunSQL(TOLD, "DROP FUNCTION lauf_tell_challenges_go() CASCADE;"),
    ]
