"""Every write about tests and benchmarks."""

from __future__ import annotations

from django.db import transaction

from lauf.catalogue import starter
from lauf.catalogue.models import Ladder, LadderRung, ProtocolVersion, Test
from lauf.people.models import School


@transaction.atomic
def install_starter(school: School) -> None:
    """Give a new school the ready tests and starting ladders."""
    test = Test.objects.create(school=school, name="Press-ups in 60 s", slug="press-ups-60")
    ProtocolVersion.objects.create(test=test, **starter.PRESS_UPS)
    tables = {"full": starter.FULL_PRESS_UPS, "knees": starter.KNEE_PRESS_UPS}
    ladders, rungs = [], []
    for year_group in school.year_groups.all():
        for variant, table in tables.items():
            if year_group.age not in table:
                continue
            ladder = Ladder(
                test=test,
                year_group=year_group,
                variant=variant,
                seconds=60,
                source=starter.STARTER_SOURCE,
            )
            ladders.append(ladder)
            rungs += [
                LadderRung(ladder=ladder, position=position, name=name, threshold=threshold)
                for position, (name, threshold) in enumerate(
                    zip(starter.RUNG_NAMES, table[year_group.age], strict=True)
                )
            ]
    Ladder.objects.bulk_create(ladders)
    LadderRung.objects.bulk_create(rungs)
