"""Of the forms of a movement one is the usual: it used to be taken for the hardest."""

from typing import Any

from django.db import migrations

#: The usual forms of the tests that came with the product, by code; elsewhere the middle one.
USUAL = {"standing", "full", "plain", "straight", "squats-step-ups"}


def say_the_usual(apps: Any, _: Any) -> None:
    versions = apps.get_model("catalogue", "ProtocolVersion").objects
    for version in versions.exclude(variants=[]):
        codes = [variant["code"] for variant in version.variants]
        usual = next((code for code in codes if code in USUAL), codes[len(codes) // 2])
        variants = [{**variant, "usual": variant["code"] == usual} for variant in version.variants]
        versions.filter(pk=version.pk).update(variants=variants)


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0005_norm_units_are_exact")]
    operations = [migrations.RunPython(say_the_usual, migrations.RunPython.noop)]
