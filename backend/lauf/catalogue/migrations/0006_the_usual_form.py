"""Of the forms of a movement one is the usual: it used to be taken for the hardest.

Which form is offered first changes no score's meaning, so versions that have scores are told too:
the trigger that keeps them as they are is off for this one statement, in the migration's
transaction."""

from typing import Any

from django.db import migrations

#: The usual forms of the tests that came with the product, by code; elsewhere the middle one.
USUAL = {"standing", "full", "plain", "straight", "squats-step-ups"}
GUARD = "ALTER TABLE catalogue_protocolversion {} TRIGGER protocol_in_use"


def say_the_usual(apps: Any, editor: Any) -> None:
    versions = apps.get_model("catalogue", "ProtocolVersion").objects
    editor.execute(GUARD.format("DISABLE"))
    for version in versions.exclude(variants=[]):
        codes = [variant["code"] for variant in version.variants]
        usual = next((code for code in codes if code in USUAL), codes[len(codes) // 2])
        variants = [{**variant, "usual": variant["code"] == usual} for variant in version.variants]
        versions.filter(pk=version.pk).update(variants=variants)
    # A table that has rows still to be checked cannot be altered.
    editor.execute("SET CONSTRAINTS ALL IMMEDIATE")
    editor.execute(GUARD.format("ENABLE"))


class Migration(migrations.Migration):
    dependencies = [
        ("catalogue", "0005_norm_units_are_exact"),
        # Where the trigger was made.
        ("records", "0002_what_must_never_be_false"),
    ]
    operations = [migrations.RunPython(say_the_usual, migrations.RunPython.noop)]
