"""A few ready tests gave way to others of our own making. Where nothing was kept under one it goes;
where something was, or something points to it (a battery, a template, a ladder or norms of the
school's own, a version that somebody edited), it stays as it is, as an own test of the school.
"""

from typing import Any

from django.db import migrations

GONE = ("speed-bounce-20", "frog-jumps-15", "reps-300", "rounds-20-15-10")
#: What the ladders that came with the product say of themselves.
STARTER = "starter values"


def let_go(apps: Any, _: Any) -> None:
    tests = apps.get_model("catalogue", "Test")
    for test in tests.objects.filter(ready=True, slug__in=GONE):
        if is_in_use(apps, test):
            test.ready = False
            test.save(update_fields=["ready"])
            continue
        apps.get_model("catalogue", "LadderRung").objects.filter(ladder__test=test).delete()
        apps.get_model("catalogue", "Ladder").objects.filter(test=test).delete()
        test.versions.all().delete()
        test.delete()


def is_in_use(apps: Any, test: Any) -> bool:
    def rows(part: str, model: str) -> Any:
        return apps.get_model(part, model).objects

    versions = test.versions.all()
    templates = rows("lessons", "PlanTemplate").filter(school=test.school_id)
    return (
        versions.count() > 1
        or rows("lessons", "Activity").filter(protocol__in=versions).exists()
        or rows("challenges", "Challenge").filter(protocol__in=versions).exists()
        or rows("catalogue", "BatteryTest").filter(test=test).exists()
        or rows("catalogue", "NormTable").filter(test=test).exists()
        or rows("catalogue", "Ladder")
        .filter(test=test)
        .exclude(source__startswith=STARTER)
        .exists()
        or any(
            block.get("test") == test.slug for template in templates for block in template.blocks
        )
    )


class Migration(migrations.Migration):
    dependencies = [
        ("catalogue", "0003_day_to_day_variation_by_age"),
        ("lessons", "0006_one_clock_one_plan"),
        ("challenges", "0002_ledger_is_append_only"),
    ]
    operations = [migrations.RunPython(let_go, migrations.RunPython.noop)]
