"""Several challenges a day, in their order; rivals of several kinds. Every rival there is is a
person's mark."""

from django.db import migrations, models

NAME_THE_KIND = "UPDATE challenges_challenge SET rival_kind = 'person' WHERE rival <> ''"


class Migration(migrations.Migration):
    dependencies = [("challenges", "0004_of_this_age")]

    operations = [
        migrations.AlterModelOptions(
            name="challenge", options={"ordering": ["on", "position", "id"]}
        ),
        migrations.RemoveConstraint(model_name="challenge", name="challenge_a_day"),
        migrations.RemoveConstraint(model_name="challenge", name="rival_has_a_mark"),
        migrations.AddField(
            model_name="challenge",
            name="position",
            field=models.PositiveSmallIntegerField(default=0),
        ),
        migrations.AddField(
            model_name="challenge",
            name="rival_kind",
            field=models.CharField(
                blank=True,
                choices=[
                    ("person", "person"),
                    ("group", "group"),
                    ("rung", "rung"),
                    ("self", "self"),
                ],
                max_length=8,
                default="",
            ),
            preserve_default=False,
        ),
        migrations.AddField(
            model_name="challenge",
            name="rival_rung",
            field=models.PositiveSmallIntegerField(blank=True, null=True),
        ),
        migrations.AddField(
            model_name="challengeweek",
            name="pause",
            field=models.PositiveSmallIntegerField(default=30),
        ),
        migrations.RunSQL(NAME_THE_KIND, migrations.RunSQL.noop),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AddConstraint(
            model_name="challenge",
            constraint=models.UniqueConstraint(
                fields=("week", "on", "protocol"), name="challenge_once_a_day"
            ),
        ),
        migrations.AddConstraint(
            model_name="challenge",
            constraint=models.CheckConstraint(
                condition=models.Q(("rival_kind__in", ["", "person", "group", "rung", "self"])),
                name="rival_kind_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="challenge",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("rival_kind__in", ["", "self"]), ("rival_rung", None), ("rival_value", None)
                )
                | models.Q(("rival_kind", "person"), ("rival_rung", None))
                | models.Q(
                    ("rival_kind", "group"),
                    ("rival_rung", None),
                    ("rival_value__isnull", False),
                )
                | models.Q(
                    ("rival_kind", "rung"),
                    ("rival_rung__isnull", False),
                    ("rival_value", None),
                ),
                name="rival_has_a_mark",
            ),
        ),
        migrations.AddConstraint(
            model_name="challenge",
            constraint=models.CheckConstraint(
                condition=models.Q(("rival", ""), ("rival_kind", ""))
                | models.Q(
                    models.Q(("rival", ""), _negated=True),
                    models.Q(("rival_kind", ""), _negated=True),
                ),
                name="rival_is_named",
            ),
        ),
    ]
