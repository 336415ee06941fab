"""A norm table in inches, feet or pounds was read with 25, 304 or 453 for one of its unit."""

from typing import Any

from django.db import migrations, models

#: International yard and pound agreement of 1959.
EXACT = {"in": 25.4, "ft": 304.8, "yd": 914.4, "lb": 453.59237}


def make_exact(apps: Any, _: Any) -> None:
    for unit, size in EXACT.items():
        apps.get_model("catalogue", "NormTable").objects.filter(unit=unit).update(unit_size=size)


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0004_ready_tests_of_our_own")]
    operations = [
        migrations.AlterField("normtable", "unit_size", models.FloatField(default=1)),
        migrations.RunPython(make_exact, migrations.RunPython.noop),
    ]
