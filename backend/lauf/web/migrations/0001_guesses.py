"""Wrong guesses are counted over all processes and machines that serve."""

from django.db import migrations, models
from django.db.models.functions import Now


class Migration(migrations.Migration):
    initial = True
    dependencies = []

    operations = [
        migrations.CreateModel(
            name="Guess",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("key", models.CharField(max_length=200)),
                ("at", models.DateTimeField(db_default=Now())),
            ],
            options={
                "indexes": [
                    models.Index(fields=["key", "at"], name="guess_by_key"),
                    models.Index(fields=["at"], name="guess_by_time"),
                ],
            },
        ),
        # Nothing of it is worth a place in the log of changes, in a replica or after a crash.
        migrations.RunSQL("ALTER TABLE web_guess SET UNLOGGED", migrations.RunSQL.noop),
    ]
