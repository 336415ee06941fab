"""Stations were names; they are now entries with the parts they load and their room."""

from typing import Any

from django.db import migrations


def with_loads(apps: Any, _: Any) -> None:
    blocks = apps.get_model("lessons", "PlanBlock")
    for block in blocks.objects.filter(kind="stations"):
        block.settings["stations"] = [
            one if isinstance(one, dict) else {"name": one, "loads": [], "room": 1}
            for one in block.settings.get("stations", [])
        ]
        block.save(update_fields=["settings"])


def names_only(apps: Any, _: Any) -> None:
    blocks = apps.get_model("lessons", "PlanBlock")
    for block in blocks.objects.filter(kind="stations"):
        block.settings["stations"] = [one["name"] for one in block.settings.get("stations", [])]
        block.save(update_fields=["settings"])


class Migration(migrations.Migration):
    dependencies = [("lessons", "0004_templates_and_targets")]
    operations = [migrations.RunPython(with_loads, names_only)]
