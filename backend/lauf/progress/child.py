"""One child: a lane a test, and the history of every test."""

from __future__ import annotations

from datetime import date, timedelta
from fractions import Fraction
from typing import Any, Final
from uuid import UUID

from lauf.catalogue.models import ProtocolVersion
from lauf.judgement.bench import Judges, judges_for
from lauf.judgement.judge import Judge, Placed
from lauf.judgement.picture import lane_of, put_to_scale
from lauf.judgement.rows import scores
from lauf.judgement.who import Who
from lauf.judgement.words import score_words, sure_words
from lauf.lessons.models import Activity
from lauf.people.models import Pupil, Staff
from lauf.people.queries import pupil_of
from lauf.progress.lanes import score_row
from lauf.records.models import WITHDRAWN, Attempt
from lauf.records.queries import Row, counting, rows
from lauf.rules.ages import decimal_age
from lauf.rules.change import band_steps, smallest_change
from lauf.rules.kinds import format_difference, format_value
from lauf.rules.norms import change_of_standing
from lauf.rules.quantities import Better, Kind, to_step
from lauf.rules.trends import Trend, trend


def pupil_record(staff: Staff, pupil_id: UUID, today: date) -> dict[str, Any]:
    """One child's lanes and the history of every test in time. Eight queries. Raises NotFound."""
    pupil = pupil_of(staff, pupil_id)
    # Height and weight have a record of their own: growing is neither better nor worse.
    found = rows(counting().filter(pupil=pupil, protocol__test__private=False))
    test_ids = {row.test_id for row in found}
    protocols: dict[UUID, ProtocolVersion] = {}
    versions = ProtocolVersion.objects.filter(test__in=test_ids).select_related("test__school")
    for version in versions.order_by("number"):
        protocols[version.test_id] = version
    history = scores(found, pupil.school_id)
    year_groups = dict(
        Activity.objects.filter(attempts__pupil=pupil)
        .values_list("id", "lesson__school_class__year_group_id")
        .distinct()
    )
    judges = judges_for(protocols, today + timedelta(days=1))
    corrected = _corrections(pupil)
    tests = []
    for test_id, protocol in sorted(protocols.items(), key=lambda item: item[1].test.name):
        mine = [row for row in history if row.test_id == test_id]
        tests.append(_test_record(pupil, protocol, mine, judges, year_groups, corrected))
    # What was done last comes first.
    tests.sort(key=lambda test: (-max(e["on"].toordinal() for e in test["history"]), test["test"]))
    return {
        "id": pupil.id,
        "name": pupil.name,
        "class_id": pupil.last_class.id,
        "class_name": pupil.last_class.name,
        "year_group": pupil.last_class.year_group.name,
        "house": pupil.house.name if pupil.house else "",
        "age": round(decimal_age(pupil.born, today), 1) if pupil.born else None,
        "medical_note": pupil.medical_note,
        "tests": tests,
    }


def _corrections(pupil: Pupil) -> dict[UUID, dict[str, Any]]:
    """What the entry before a correction said, by the id of the correction. One query."""
    found = (
        Attempt.objects.filter(pupil=pupil, succeeds__isnull=False)
        .exclude(succeeds__reason=WITHDRAWN)
        .values_list("id", "succeeds__typed", "why", "recorded_by__name", "recorded_at")
    )
    return {
        attempt_id: {"was": was, "why": why, "by": by, "at": at}
        for attempt_id, was, why, by, at in found
    }


def _test_record(
    pupil: Pupil,
    protocol: ProtocolVersion,
    mine: list[Row],
    judges: Judges,
    year_groups: dict[UUID, UUID],
    corrected: dict[UUID, dict[str, Any]],
) -> dict[str, Any]:
    test_id = protocol.test_id
    now = judges.of(test_id, pupil.last_class.year_group_id)
    who = Who(pupil.sex, pupil.born)
    valued = [row for row in mine if row.value is not None]
    by_variant = {code: [row for row in valued if row.variant == code]
                  for code in now.variants or [""]}  # fmt: skip
    lanes = [_lane(now, who, mine, same) for same in by_variant.values() if same]
    put_to_scale([entry["lane"] for entry in lanes], now.measure.kind)
    entries = []
    for index, row in enumerate(mine):
        then = judges.of(test_id, year_groups.get(row.activity_id, pupil.last_class.year_group_id))
        entries.append(
            {
                "id": row.id,
                "on": row.on,
                "score": score_row(row, then),
                "variant": then.variants[row.variant].name if row.variant in then.variants else "",
                "words": score_words(then, row, mine[:index], who),
                "correction": corrected.get(row.id),
            }
        )
    return {"test": protocol.test.name, "lanes": lanes, "history": entries[::-1]}


def _lane(now: Judge, who: Who, mine: list[Row], same: list[Row]) -> dict[str, Any]:
    """The lane of one variant: its scores are `same`, the last of them is what it shows."""
    last = same[-1]
    before, variant = mine[: mine.index(last)], last.variant
    key = now.key(last)
    lane = lane_of(now, last, same[:-1], variant, who, last.on)
    best, target = lane["best"], now.target(last, before, who)
    days = [((r.on - same[0].on).days, float(r.value or 0)) for r in same
            if now.key(r) == key and not r.estimate]  # fmt: skip
    over_time = trend(days)
    return {
        "variant": now.variants[variant].name if variant in now.variants else "",
        "lane": lane,
        "latest_on": last.on,
        "best": None if best is None else format_value(best, now.measure),
        "target": None if target is None else format_value(target, now.measure),
        "words": score_words(now, last, before, who),
        "band_words": _band_words(now, last, who),
        "sure": sure_words(now, last, before, who),
        "trend": _trend_words(over_time, now),
        "trend_statistics": _trend_statistics(over_time, now),
        "norms": [_norm_row(p, now, same, who) for p in now.placed(last, who)],
        "ladder_source": now.ladder_source(variant, who, last.on),
    }


def _band_words(judge: Judge, row: Row, who: Who) -> str | None:
    """Day-to-day variation of a test at a child's level, with what it is known from."""
    if judge.measures_only or row.value is None:
        return None
    measure = judge.measure
    error = judge.error(judge.key(row), who.age(row.on))
    steps = band_steps(smallest_change(error.at(row.value)), measure.resolution)
    if not steps:
        step = format_difference(measure.resolution, measure)
        return f"Day-to-day variation is under {step}, {error.source}."
    return f"Day-to-day variation ±{format_difference(steps, measure)}, {error.source}."


_MONTH: Final = 30.4375 / 7


def _trend_words(found: Trend | None, judge: Judge) -> str | None:
    """ "about 12 s faster a month"; "no clear trend yet"; None without enough attempts."""
    if found is None or judge.measures_only:
        return None
    if not found.clear:
        return "no clear trend yet"
    a_month = abs(found.slope * _MONTH)
    measure = judge.measure
    step = measure.resolution
    if measure.kind in (Kind.COUNT, Kind.STAGE, Kind.TOTAL) and a_month < 10:
        amount = f"{a_month:.1f}".removesuffix(".0")
    else:
        amount = format_difference(max(step, to_step(Fraction(a_month), step)), measure)
    if measure.better is Better.DOWN:
        words = "faster" if found.slope < 0 else "slower"
    else:
        words = "more" if found.slope > 0 else "less"
    return f"about {amount} {words} a month"


def _trend_statistics(found: Trend | None, judge: Judge) -> str | None:
    if found is None or judge.measures_only:
        return None
    return (
        f"Theil–Sen slope over all attempts with its 90 % interval; Kendall's tau {found.tau:.2f}"
    )


def _norm_row(placed: Placed, judge: Judge, same: list[Row], who: Who) -> dict[str, Any]:
    norm, standing = placed
    moved = None
    first = next((p for p in judge.placed(same[0], who) if p.norm.id == norm.id), None)
    if first and len(same) > 1:
        moved = change_of_standing(first.standing, standing)
    return {
        "name": norm.name,
        "words": standing.words,
        "why_not": standing.why_not,
        "moved": moved,
        "source": norm.source,
        "population": norm.population,
        "year": norm.year,
        "standing": norm.standing,
    }
