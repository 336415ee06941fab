"""What no child of an age lies below or beyond, for the tests that came with the product: it is
asked about from now on and changes no score's meaning, so versions that have scores are told too
(see 0006)."""

from typing import Any

from django.db import migrations, models

BOUNDS = {
    "long-jump": [[4, 250, 1350], [7, 450, 1900], [11, 650, 2500]],
    "vertical-jump": [[5, 40, 380], [8, 60, 480], [11, 80, 620]],
    "height": [[4, 850, 1250], [7, 1000, 1480], [11, 1200, 1780]],
    "weight": [[4, 10000, 34000], [7, 14000, 55000], [11, 20000, 95000]],
}
GUARD = "ALTER TABLE catalogue_protocolversion {} TRIGGER protocol_in_use"


def say_the_bounds(apps: Any, editor: Any) -> None:
    versions = apps.get_model("catalogue", "ProtocolVersion").objects
    editor.execute(GUARD.format("DISABLE"))
    for slug, bounds in BOUNDS.items():
        versions.filter(test__slug=slug, test__ready=True).update(bounds_by_age=bounds)
    # A table that has rows still to be checked cannot be altered.
    editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    editor.execute(GUARD.format("ENABLE"))


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0007_courses_know_their_maker")]
    operations = [
        migrations.AddField(
            model_name="protocolversion",
            name="bounds_by_age",
            field=models.JSONField(blank=True, default=list),
        ),
        migrations.RunPython(say_the_bounds, migrations.RunPython.noop),
    ]
