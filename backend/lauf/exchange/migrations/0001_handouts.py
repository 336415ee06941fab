"""PDFs on their way are found by every process that serves."""

import uuid

from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = []

    operations = [
        migrations.CreateModel(
            name="HandoutJob",
            fields=[
                (
                    "id",
                    models.UUIDField(
                        default=uuid.uuid4, editable=False, primary_key=True, serialize=False
                    ),
                ),
                ("owner", models.UUIDField()),
                ("name", models.CharField(max_length=240)),
                ("of", models.PositiveIntegerField()),
                ("done", models.PositiveIntegerField(default=0)),
                ("problem", models.CharField(blank=True, default="", max_length=240)),
                ("file", models.BinaryField(null=True)),
                ("touched_at", models.DateTimeField()),
            ],
            options={
                "indexes": [models.Index(fields=["touched_at"], name="handout_by_time")],
            },
        ),
        # Nothing of it is worth a place in the log of changes, in a replica or after a crash.
        migrations.RunSQL("ALTER TABLE exchange_handoutjob SET UNLOGGED", migrations.RunSQL.noop),
    ]
