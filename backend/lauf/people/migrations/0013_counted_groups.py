"""Which groups were counted is remembered for all processes that serve."""

import django.contrib.postgres.fields
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0012_one_lock_out")]

    operations = [
        migrations.CreateModel(
            name="CountedGroup",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("of", models.CharField(max_length=64)),
                ("asked", models.CharField(max_length=64)),
                (
                    "children",
                    django.contrib.postgres.fields.ArrayField(
                        base_field=models.UUIDField(), size=None
                    ),
                ),
                ("at", models.DateTimeField()),
            ],
            options={
                "ordering": ["id"],
                "indexes": [models.Index(fields=["of", "at"], name="counted_of")],
            },
        ),
    ]
