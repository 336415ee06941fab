"""What a teacher looks at: every read computes its judgements anew from the attempts."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import Count
from django.utils import timezone

from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.queries import ladders_for, ladders_of, norms_for, norms_of
from lauf.compiled import Compiled
from lauf.lessons.models import Activity
from lauf.lessons.queries import (
    activity_of,
    day_bounds,
    day_of,
    lessons_between,
    lessons_of,
    suggested_wave,
)
from lauf.people.models import Pupil, Staff
from lauf.people.queries import pupil_of
from lauf.progress.lanes import Judge, Placed, Who, by_pupil, put_to_scale, variant_of
from lauf.records.models import WITHDRAWN, Attempt, Settlement
from lauf.records.queries import (
    Row,
    calibrated,
    class_history,
    counting,
    merged,
    reason_words,
    repeat_differences,
    rows,
)
from lauf.rules.ages import decimal_age
from lauf.rules.change import band_steps, smallest_change
from lauf.rules.comparability import CONDITION_WORDS, COURSE, condition_shown
from lauf.rules.entry import REASON_KEYS, REASON_WORDS, NotDone, accepted_words, quick_check
from lauf.rules.groups import Trend, trend
from lauf.rules.laps import plan_laps
from lauf.rules.norms import change_of_standing
from lauf.rules.quantities import Dimension, Kind, format_difference, format_value
from lauf.rules.tries import Merge

_PUPILS = Compiled(
    lambda class_id: Pupil.objects.filter(school_class_id=class_id).values_list(
        "id", "given_name", "family_name", "medical_note", "sex", "born"
    ),
    UUID,
)
_SETTLED = Compiled(
    lambda activity_id: Settlement.objects.filter(attempt__activity=activity_id).values_list(
        "attempt_id", "flag"
    ),
    UUID,
)


def class_lanes(staff: Staff, activity_id: UUID) -> dict[str, Any]:
    """Every child of the class with today's score and its lane, in list order.

    Seven queries, whatever the class size and the number of earlier occasions (and one more where
    lengths were measured in hands or steps). Raises NotFound.
    """
    activity = activity_of(staff, activity_id)
    protocol, lesson = activity.protocol, activity.lesson
    day = day_of(lesson)
    judge = Judge(
        protocol,
        ladders_of(protocol.test_id, lesson.school_class.year_group_id),
        repeat_differences(staff.school_id, [protocol.test_id], day),
        # Centiles of height and weight are in no class view.
        () if protocol.test.private else norms_of(protocol.test_id),
    )
    found = class_history(lesson.school_class_id, activity.id, protocol.test_id, day)
    counted = calibrated([row for row in found if row.reason != WITHDRAWN], staff.school_id)
    history = merged(counted, lambda _: (judge.merge, judge.measure))
    heads = {(r.pupil_id, r.try_number): r.id for r in found if r.activity_id == activity.id}
    settled: dict[UUID, set[str]] = defaultdict(set)
    for attempt_id, flag in _SETTLED.rows(activity.id):
        settled[attempt_id].add(flag)
    z_scores = judge.class_z(row for row in history if row.activity_id == activity.id)
    grouped = by_pupil(history)
    lanes = [
        _child(
            index, pupil, grouped.get(pupil[0], []), activity, day, judge, z_scores, settled, heads
        )
        for index, pupil in enumerate(_PUPILS.rows(lesson.school_class_id))
    ]
    put_to_scale([child["lane"] for child in lanes], judge.measure.kind)
    return {
        "activity_id": activity.id,
        "lesson_id": lesson.id,
        "test": protocol.test.name,
        "kind": protocol.kind,
        "unit": protocol.unit,
        "seconds": protocol.seconds,
        "closed_at": lesson.closed_at,
        "waves": protocol.waves,
        "tries": protocol.tries,
        "merge": protocol.merge,
        "of": protocol.of,
        "better": protocol.better,
        "laps": _laps_to_run(activity),
        "conditions": condition_rows(activity),
        "variants": protocol.variants,
        "accepted": accepted_words(judge.measure),
        "quick_check": asdict(quick_check(judge.measure)),
        "reasons": [
            {"key": key, "code": reason.value, "words": REASON_WORDS[reason]}
            for key, reason in REASON_KEYS.items()
        ],
        "children": lanes,
    }


def _laps_to_run(activity: Activity) -> int | None:
    """Whole laps of the activity's course for the distance of its test, None without a distance."""
    protocol = activity.protocol
    course = {**protocol.conditions, **activity.conditions}.get(COURSE)
    if not protocol.target_mm or not course:
        return None
    return plan_laps(protocol.target_mm, course).whole


def condition_rows(activity: Activity) -> list[dict[str, Any]]:
    """The free conditions of an activity as they stand for the class."""
    held = {**activity.protocol.conditions, **activity.conditions}
    return [
        {
            "code": code,
            "words": CONDITION_WORDS.get(code, code),
            "value": value,
            "shown": condition_shown(code, value),
            "usual": condition_shown(code, activity.protocol.conditions[code]),
        }
        for code, value in held.items()
        if code in activity.protocol.conditions
    ]


def _child(
    index: int,
    pupil: tuple[Any, ...],
    history: list[Row],
    activity: Activity,
    day: date,
    judge: Judge,
    z_scores: dict[UUID, float],
    settled: dict[UUID, set[str]],
    heads: dict[tuple[UUID, int], UUID],
) -> dict[str, Any]:
    pupil_id, given, family, note, sex, born = pupil
    who = Who(sex, born)
    earlier = [row for row in history if row.activity_id != activity.id]
    today = next((row for row in history if row.activity_id == activity.id), None)
    waves = activity.protocol.waves
    flags = judge.flags(today, earlier, z_scores.get(today.id)) if today else ()
    done = settled.get(today.id, set()) if today else set()
    variant = today.variant if today else variant_of(None, earlier, judge)
    made = (today.tries or (today,)) if today else ()
    target = judge.target(today, earlier, who) if today else None
    return {
        "pupil_id": pupil_id,
        "number": index + 1,
        "name": f"{given} {family}".strip(),
        "medical_note": note,
        "wave": today.wave if today and today.wave else suggested_wave(index, waves),
        "variant": variant,
        "head": heads.get((pupil_id, 1)),
        "score": score_row(today, judge) if today else None,
        "tries": [
            {
                "number": number,
                "head": heads.get((pupil_id, number)),
                "score": next((score_row(r, judge) for r in made if r.try_number == number), None),
            }
            for number in _try_numbers(activity.protocol.tries, made)
        ],
        "words": judge.words(today, earlier, who) if today else [],
        "target": None if target is None else format_value(target, judge.measure),
        "flags": [
            {"code": flag.code.value, "words": flag.words, "settled": flag.code.value in done}
            for flag in flags
        ],
        "lane": judge.lane(today, earlier, variant, who, day),
    }


def _try_numbers(tries: int, made: Sequence[Row]) -> range:
    """All tries there are, and one more while void ones leave room to jump again."""
    void = sum(1 for row in made if row.reason == NotDone.VOID)
    most = max((row.try_number for row in made), default=0)
    wanted = tries + void if len(made) - void < tries else most
    return range(1, max(tries, most, wanted if tries > 1 else 1) + 1)


def score_row(row: Row, judge: Judge) -> dict[str, Any]:
    """A score as it is shown, beside what was typed."""
    if row.reason:
        shown = reason_words(row.reason)
    elif row.value is None or row.informal:
        shown = row.typed.rstrip("~")
    elif row.parts and judge.measure.kind is Kind.SIDES:
        sides = [word for word in ("left", "right") if row.parts.get(word)]
        shown = "both" if len(sides) == 2 else "".join(sides) or "neither"
    else:
        shown = format_value(row.value, judge.measure)
    return {
        "id": row.id,
        "typed": row.typed,
        "shown": shown,
        "value": row.value,
        "reason": row.reason,
        "estimate": row.estimate,
        "variant": row.variant,
        "wave": row.wave,
        "conditions": row.conditions,
        "corrected": row.succeeds_id is not None,
    }


def check_list(staff: Staff, activity_id: UUID) -> dict[str, Any]:
    """Who is missing, what wants a look, and what was corrected by whom.

    Seven queries. Raises NotFound.
    """
    board = class_lanes(staff, activity_id)
    children = board["children"]
    open_flags = [c for c in children if any(not flag["settled"] for flag in c["flags"])]
    chain = Attempt.objects.filter(activity=activity_id, successor__isnull=False)
    corrections = [
        {
            "pupil_id": old.pupil_id,
            "name": old.pupil.name,
            "was": old.typed or "taken back",
            "now": old.successor.typed or "taken back",
            "by": old.successor.recorded_by.name,
            "at": old.successor.recorded_at,
            "why": old.successor.why,
        }
        for old in chain.select_related("pupil", "successor__recorded_by").order_by(
            "successor__recorded_at"
        )
    ]
    return {
        **{name: board[name] for name in ("activity_id", "lesson_id", "test", "closed_at")},
        "recorded": sum(1 for child in children if child["score"]),
        "children": children,
        "missing": [c["pupil_id"] for c in children if c["score"] is None],
        "odd": [c["pupil_id"] for c in open_flags],
        "corrections": corrections,
    }


def child_after(staff: Staff, activity_id: UUID, pupil_id: UUID) -> dict[str, Any]:
    """One child of `class_lanes`, for the answer to a write. Same queries."""
    children = class_lanes(staff, activity_id)["children"]
    return next(child for child in children if child["pupil_id"] == pupil_id)


def today_page(staff: Staff, now: datetime) -> dict[str, Any]:
    """Today's lessons, the coming ones and those that wait for a check. Five queries at most."""
    start, end = day_bounds(timezone.localdate(now))
    lessons = lessons_between(staff, start, end + timedelta(days=7))
    waiting = (
        lessons_of(staff)
        .filter(starts_at__lt=start, closed_at=None)
        .select_related("school_class")
        .order_by("-starts_at")[:20]
    )
    ids = [lesson.id for lesson in lessons]
    scored = dict(
        counting()
        .filter(activity__lesson__in=ids)
        .values_list("activity__lesson")
        .annotate(n=Count("pupil", distinct=True))
    )
    tests: dict[UUID, list[str]] = defaultdict(list)
    for lesson_id, name in (
        Activity.objects.filter(lesson__in=ids)
        .order_by("position")
        .values_list("lesson_id", "protocol__test__name")
    ):
        tests[lesson_id].append(name)

    def card(lesson: Any) -> dict[str, Any]:
        return {
            "id": lesson.id,
            "class_name": lesson.school_class.name,
            "year_group": lesson.school_class.year_group.name,
            "teacher": lesson.teacher.name,
            "place": lesson.place,
            "starts_at": lesson.starts_at,
            "minutes": lesson.minutes,
            "closed": lesson.closed_at is not None,
            "children": lesson.children,
            "medical_notes": lesson.notes,
            "scored": scored.get(lesson.id, 0),
            "battery": lesson.battery_id is not None,
            "tests": [lesson.battery.name] if lesson.battery else tests[lesson.id],
        }

    return {
        "date": timezone.localdate(now),
        "lessons": [card(lesson) for lesson in lessons if lesson.starts_at < end],
        "coming": [card(lesson) for lesson in lessons if lesson.starts_at >= end],
        "waiting": [
            {
                "id": row.id,
                "class_name": row.school_class.name,
                "starts_at": row.starts_at,
                "battery": row.battery_id is not None,
            }
            for row in waiting
        ],
    }


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
    history = merged(
        calibrated(found, pupil.school_id),
        lambda test: (Merge(protocols[test].merge), protocols[test].measure),
    )
    year_groups = dict(
        Activity.objects.filter(attempts__pupil=pupil)
        .values_list("id", "lesson__school_class__year_group_id")
        .distinct()
    )
    ladders = ladders_for(test_ids)
    norms = norms_for(test_ids)
    differences = repeat_differences(pupil.school_id, test_ids, today + timedelta(days=1))
    corrected = _corrections(pupil)
    tests = []
    for test_id, protocol in sorted(protocols.items(), key=lambda item: item[1].test.name):
        mine = [row for row in history if row.test_id == test_id]

        def judge_for(
            year_group: UUID, protocol: ProtocolVersion = protocol, test_id: UUID = test_id
        ) -> Judge:
            fitting = [
                kept.ladder
                for kept in ladders
                if kept.test_id == test_id and kept.year_group_id in (None, year_group)
            ]
            mine = [norm for norm in norms if norm.test_id == test_id]
            return Judge(protocol, fitting, differences, mine)

        tests.append(_test_record(pupil, protocol, mine, judge_for, year_groups, corrected))
    # What was done last comes first.
    tests.sort(key=lambda test: (-max(e["on"].toordinal() for e in test["history"]), test["test"]))
    return {
        "id": pupil.id,
        "name": pupil.name,
        "class_id": pupil.school_class_id,
        "class_name": pupil.school_class.name,
        "year_group": pupil.school_class.year_group.name,
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
    judge_for: Any,
    year_groups: dict[UUID, UUID],
    corrected: dict[UUID, dict[str, Any]],
) -> dict[str, Any]:
    now = judge_for(pupil.school_class.year_group_id)
    variants = [
        code
        for code in now.variants
        if any(r.variant == code and r.value is not None for r in mine)
    ]
    who = Who(pupil.sex, pupil.born)
    lanes = []
    for variant in variants or ([""] if not now.variants else []):
        same = [r for r in mine if r.variant == variant and r.value is not None]
        if not same:
            continue
        last, before = same[-1], mine[: mine.index(same[-1])]
        lane = now.lane(last, same[:-1], variant, who, last.on)
        key = now.key(last)
        error = now.error(key)
        steps = band_steps(smallest_change(error.value), now.measure.resolution)
        best = lane["best"]
        target = now.target(last, before, who)
        days = [((r.on - same[0].on).days, float(r.value or 0)) for r in same
                if now.key(r) == key and not r.estimate]  # fmt: skip
        lanes.append(
            {
                "variant": now.variants[variant].name if variant in now.variants else "",
                "lane": lane,
                "latest_on": last.on,
                "best": None if best is None else format_value(best, now.measure),
                "target": None if target is None else format_value(target, now.measure),
                "words": now.words(last, before, who),
                "band_words": f"Day-to-day variation ±{format_difference(steps, now.measure)}, "
                f"{error.source}.",
                "trend": _trend_words(trend(days), now),
                "norms": [_norm_row(p, now, same, who) for p in now.placed(last, who)],
                "ladder_source": now.ladder_source(variant, who, last.on),
            }
        )
    put_to_scale([entry["lane"] for entry in lanes], now.measure.kind)
    entries = []
    for index, row in enumerate(mine):
        then = judge_for(year_groups.get(row.activity_id, pupil.school_class.year_group_id))
        entries.append(
            {
                "id": row.id,
                "on": row.on,
                "score": score_row(row, then),
                "variant": then.variants[row.variant].name if row.variant in then.variants else "",
                "words": then.words(row, mine[:index], who),
                "correction": corrected.get(row.id),
            }
        )
    return {"test": protocol.test.name, "lanes": lanes, "history": entries[::-1]}


def _trend_words(found: Trend | None, judge: Judge) -> str | None:
    """ "about 1.2 more a month (tau 0.67)"; None without a trend."""
    if found is None:
        return None
    a_month = found.slope * 30.4375 / 7
    amount = format_difference(max(0, round(abs(a_month))), judge.measure)
    if judge.measure.kind in (Kind.COUNT, Kind.STAGE):
        amount = f"{abs(a_month):.1f}"
    words = "more" if a_month > 0 else "less"
    return f"about {amount} {words} a month (Theil–Sen; Kendall's tau {found.tau:.2f})"


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


def score_sheet(staff: Staff, activity_id: UUID) -> tuple[Activity, list[dict[str, Any]]]:
    """The class's scores as flat rows for a file: three queries. Raises NotFound."""
    activity = activity_of(staff, activity_id)
    measure = activity.protocol.measure
    merge = Merge(activity.protocol.merge)
    counted = calibrated(rows(counting().filter(activity=activity)), staff.school_id)
    found = {row.pupil_id: row for row in merged(counted, lambda _: (merge, measure))}
    sheet = []
    pupils = activity.lesson.school_class.pupils.select_related("house")
    for number, pupil in enumerate(pupils, 1):
        attempt = found.get(pupil.id)
        if attempt is None:
            status = "not recorded"
        elif attempt.value is None:
            status = reason_words(attempt.reason) or "not comparable"
        else:
            status = "estimate" if attempt.estimate else "measured"
        sheet.append(
            {
                "number": number,
                "given_name": pupil.given_name,
                "family_name": pupil.family_name,
                "house": pupil.house.name if pupil.house else "",
                "variant": attempt.variant if attempt else "",
                "wave": attempt.wave if attempt else None,
                "raw": " ".join(one.typed for one in attempt.tries or (attempt,))
                if attempt
                else "",
                "value": attempt.value if attempt else None,
                "unit": measure.unit
                if measure.dimension is Dimension.NUMBER
                else measure.dimension.value,
                "status": status,
                "corrected": "yes" if attempt and attempt.succeeds_id else "no",
            }
        )
    return activity, sheet
