"""The judge of a ready test, and scores for it, without a database."""

from __future__ import annotations

import uuid
from datetime import date, timedelta
from fractions import Fraction
from typing import Any, Final

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.models import Test as Known
from lauf.catalogue.queries import benchmark_key
from lauf.catalogue.ready import READY, RUNG_NAMES, Ready
from lauf.judgement.judge import Judge
from lauf.judgement.subject import Subject
from lauf.people.models import School
from lauf.records.queries import Row
from lauf.rules.judging.ladders import Benchmark, Rung
from lauf.rules.reading.quantities import to_step, unit_size

DAY: Final = date(2026, 9, 7)
#: A child of eight.
WHO: Final = Subject("female", date(2018, 2, 3))


def ready(slug: str) -> Ready:
    """A ready test by its slug."""
    return next(one for one in READY if one.slug == slug)


def judge_of(ready: Ready, imperial: bool = False) -> Judge:
    """The judge of a ready test with its starting ladders for the oldest, nothing kept anywhere."""
    test = Known(slug=ready.slug, name=ready.name, private=ready.private,
                school=School(name="S", imperial=imperial))  # fmt: skip
    version = ProtocolVersion(test=test, **ready.protocol)
    unit = unit_size(version.unit)
    ladders = []
    for given_rungs in ready.rungs:
        variant = given_rungs.variant or (version.variants[0]["code"] if version.variants else "")
        rungs = tuple(
            Rung(name, to_step(Fraction(str(edge)) * unit, version.resolution or 1))
            for name, edge in zip(RUNG_NAMES, given_rungs.old, strict=True)
        )
        ladders.append(Benchmark(rungs, benchmark_key(version, variant)))
    return Judge(version, ladders, {})


def row(judge: Judge, value: int, day: int, **more: Any) -> Row:
    protocol = judge.protocol
    given_row = {
        "id": uuid.uuid4(), "pupil_id": uuid.UUID(int=1), "activity_id": uuid.uuid4(),
        "test_id": uuid.UUID(int=2), "on": DAY + timedelta(days=day), "typed": str(value),
        "value": value, "reason": None, "estimate": False,
        "variant": next(iter(judge.variants), ""), "wave": None, "succeeds_id": None,
        "seconds": protocol.seconds, "try_number": 1, "meaning": protocol.meaning,
        "how": protocol.merge, "better": protocol.better, "step": protocol.resolution,
        "parts": {}, "conditions": dict(protocol.conditions), **more,
    }  # fmt: skip
    return Row(**given_row)
