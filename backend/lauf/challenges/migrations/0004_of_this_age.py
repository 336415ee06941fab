"""Challenge weeks lie between 2000 and 2099."""

from datetime import date

from django.db import migrations, models

PUT_RIGHT = """
UPDATE challenges_challengeweek
    SET starts_on = GREATEST(LEAST(starts_on, '2099-12-31'), '2000-01-01'),
        ends_on = GREATEST(LEAST(ends_on, '2099-12-31'), '2000-01-01')
    WHERE starts_on < '2000-01-01' OR ends_on > '2099-12-31';
"""


class Migration(migrations.Migration):
    dependencies = [("challenges", "0003_rival_conditions")]

    operations = [
        migrations.RunSQL(PUT_RIGHT, migrations.RunSQL.noop),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AddConstraint(
            "challengeweek",
            models.CheckConstraint(
                condition=models.Q(
                    ("ends_on__lte", date(2099, 12, 31)), ("starts_on__gte", date(2000, 1, 1))
                ),
                name="week_is_of_this_age",
            ),
        ),
    ]
