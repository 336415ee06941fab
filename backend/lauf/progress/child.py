"""One child: a lane a test, and the history of every test."""

from __future__ import annotations

from datetime import date
from typing import Any, Final
from uuid import UUID

from django.utils import timezone

from lauf.catalogue.models import FAMILIES, ProtocolVersion
from lauf.judgement.judge import Judge, Placed
from lauf.judgement.picture import lane_of, put_to_scale
from lauf.judgement.said import shown_of
from lauf.judgement.who import Who
from lauf.judgement.words import sure_words
from lauf.lessons.queries import calendar_of
from lauf.people.models import Pupil, School, Staff
from lauf.people.queries import pupil_of
from lauf.progress.lanes import score_row
from lauf.progress.stories import Stories, stories_of
from lauf.records.models import WITHDRAWN, Attempt, PulseReading
from lauf.records.queries import Row
from lauf.rules.body.ages import decimal_age, school_year
from lauf.rules.body.pulse import Moment, bpm
from lauf.rules.contests.schemes import Standing, overall, read_scheme, scheme_words
from lauf.rules.judging.change import band_steps, smallest_change
from lauf.rules.judging.comparability import conditions_words
from lauf.rules.judging.norms import change_of_standing
from lauf.rules.judging.summaries import amount_words, signed_words
from lauf.rules.judging.trends import Trend, trend
from lauf.rules.planning.school_days import Span, is_due_again
from lauf.rules.reading.kinds import format_difference
from lauf.rules.reading.quantities import Better
from lauf.rules.reading.rounding import fixed, places, whole


def pupil_record(staff: Staff, pupil_id: UUID, today: date) -> dict[str, Any]:
    """One child's lanes and the history of every test in time, its pulses, and the overall
    statement where the school wants one. Ten queries. Raises NotFound."""
    pupil = pupil_of(staff, pupil_id)
    stories = stories_of(staff, [pupil], today)
    corrected = _corrections(pupil)
    calendar = calendar_of(pupil.school)
    tests = [
        _test_record(pupil, protocol, stories, corrected)
        | {"due": is_due_again(stories.of(pupil, test_id)[-1].on, today, calendar.terms)}
        for test_id, protocol in stories.protocols.items()
    ]
    # What was done last comes first.
    tests.sort(key=lambda test: (-max(e["on"].toordinal() for e in test["history"]), test["test"]))
    return {
        "id": pupil.id,
        "name": pupil.name,
        "class_id": pupil.last_class.id,
        "class_name": pupil.last_class.name,
        "year_group": pupil.last_class.year_group.name,
        "house": pupil.house.name if pupil.house else "",
        "age": places(decimal_age(pupil.born, today), 1) if pupil.born else None,
        "medical_note": pupil.medical_note,
        "tests": tests,
        "pulses": pulses_of(pupil),
        "overall": overall_of(pupil, stories, year_so_far(pupil.school, today)),
    }


def own_page(pupil: Pupil, staff: Staff, today: date) -> dict[str, Any]:
    """What a child sees of itself: the given name, own lanes and next aims, nothing else and nobody
    else. Ten queries."""
    stories = stories_of(staff, [pupil], today)
    lanes = []
    for test_id, protocol in stories.protocols.items():
        record = lanes_of(pupil, protocol, stories)
        if stories.latest(pupil, test_id) is not None and record:
            kept = ("variant", "lane", "shown", "best", "target", "rung_name")
            lanes.append({"test": protocol.test.name} | {name: record[0][name] for name in kept})
    return {"name": pupil.given_name, "lanes": lanes}


def year_so_far(school: School, today: date) -> Span:
    """The school year up to today."""
    cut_off = school.cut_off
    return Span(date(school_year(today, cut_off), cut_off.month, cut_off.day), today)


def overall_of(pupil: Pupil, stories: Stories, span: Span) -> dict[str, Any] | None:
    """The school's own statement over a child's latest scores of these days, with its working; None
    where the school wants none. No query."""
    scheme = read_scheme(pupil.school.scheme)
    if scheme is None:
        return None
    standings = []
    for test_id, protocol in stories.protocols.items():
        place = stories.latest(pupil, test_id, span.starts)
        if place is None:
            continue
        said = stories.said(pupil, stories.of(pupil, test_id), place)
        if said.ladder is not None:
            standings.append(Standing(protocol.test.name, said.rung, said.rung_name))
    found = overall(scheme, standings)
    return {
        "words": found.words,
        "why_not": found.why_not,
        "working": list(found.working),
        "scheme": scheme_words(scheme),
    }


def pulses_of(pupil: Pupil) -> list[dict[str, Any]]:
    """A child's pulses, a row a lesson, newest first: at rest, the highest after work, recovery.
    One query."""
    kept = (
        PulseReading.objects.filter(pupil=pupil, successor=None, beats__isnull=False)
        .order_by("lesson__starts_at", "position", "recorded_at")
        .values_list("lesson_id", "lesson__starts_at", "moment", "label", "beats", "seconds")
    )
    lessons: dict[UUID, dict[str, Any]] = {}
    for lesson, starts_at, moment, label, beats, seconds in kept:
        row = lessons.setdefault(
            lesson,
            {"lesson_id": lesson, "on": timezone.localdate(starts_at), "rest": None, "most": None,
             "after": "", "recovery": None},
        )  # fmt: skip
        rate = whole(bpm(beats or 0, seconds or 60))
        if moment == Moment.REST:
            row["rest"] = rate
        elif moment == Moment.RECOVERY:
            row["recovery"] = rate
        elif row["most"] is None or rate > row["most"]:
            row["most"] = rate
            row["after"] = label or ("the warm-up" if moment == Moment.WARM_UP else "")
    return list(lessons.values())[::-1]


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
    stories: Stories,
    corrected: dict[UUID, dict[str, Any]],
) -> dict[str, Any]:
    mine = stories.of(pupil, protocol.test_id)
    entries = []
    for place, row in enumerate(mine):
        said = stories.said(pupil, mine, place)
        entries.append(
            {
                "id": row.id,
                "on": row.on,
                "score": score_row(row, said.judge),
                "variant": said.form,
                "conditions": conditions_words(row.conditions),
                "goes": [shown_of(one, said.judge) for one in row.tries],
                "words": said.words,
                "correction": corrected.get(row.id),
            }
        )
    return {
        "test_id": protocol.test_id,
        "test": protocol.test.name,
        "family_words": dict(FAMILIES)[protocol.test.family],
        "lanes": lanes_of(pupil, protocol, stories),
        "history": entries[::-1],
    }


def lanes_of(pupil: Pupil, protocol: ProtocolVersion, stories: Stories) -> list[dict[str, Any]]:
    """A child's lanes in a test, one a form of it, the one done last first."""
    mine = stories.of(pupil, protocol.test_id)
    by_form: dict[str, list[int]] = {}
    for place, row in enumerate(mine):
        if row.value is not None:
            by_form.setdefault(row.variant, []).append(place)
    lanes = [
        _lane(stories, pupil, mine, places)
        for places in sorted(by_form.values(), key=lambda places: -places[-1])
    ]
    put_to_scale([entry["lane"] for entry in lanes], protocol.measure.kind)
    return lanes


def _lane(stories: Stories, pupil: Pupil, mine: list[Row], places: list[int]) -> dict[str, Any]:
    """The lane of one form of a test: its scores stand at `places`, the last of them is what it
    shows, judged as it is everywhere else."""
    said = stories.said(pupil, mine, places[-1])
    last, now, who = said.row, said.judge, said.who
    same = [mine[place] for place in places]
    key = now.key(last)
    over_time = trend([
        ((r.on - same[0].on).days, float(r.value or 0))
        for r in same if now.key(r) == key and not r.estimate
    ])  # fmt: skip
    return {
        "attempt_id": last.id,
        "variant": said.form,
        "lane": lane_of(now, last, same[:-1], last.variant, who, last.on),
        "latest_on": last.on,
        "shown": said.shown,
        "best": said.best_shown or None,
        "target": said.target or None,
        "then": "" if said.before is None else shown_of(said.before, now),
        "rung_name": said.rung_words,
        "verdict": said.change.verdict.value,
        "change": said.change_words,
        "words": said.words,
        "band_words": _band_words(now, last, who),
        "sure": sure_words(now, last, said.earlier, who),
        "trend": _trend_words(over_time, now),
        "trend_statistics": _trend_statistics(over_time, now),
        "norms": [_norm_row(p, now, same, who) for p in now.placed(last, who)],
        "ladder_source": now.ladder_source(last.variant, who, last.on),
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
    amount = amount_words(a_month, measure)
    if measure.better is Better.DOWN:
        words = "faster" if found.slope < 0 else "slower"
    else:
        words = "more" if found.slope > 0 else "less"
    return f"about {amount} {words} a month"


def _trend_statistics(found: Trend | None, judge: Judge) -> str | None:
    if found is None or judge.measures_only:
        return None
    ends = sorted((found.low * _MONTH, found.high * _MONTH))
    slope, low, high = signed_words([found.slope * _MONTH, *ends], judge.measure)
    return (
        f"Theil–Sen slope {slope} a month (90 %: {low} to {high}); Kendall's "
        f"tau {fixed(found.tau, 2)}".replace("-", "−")
    )


def _gain_words(
    placed: Placed, first: Placed | None, judge: Judge, same: list[Row], who: Who
) -> str | None:
    """What a change is worth for the age: what children of the first standing gain in that time,
    and what is beyond it; None where the norm does not say."""
    then, now = same[0], same[-1]
    if first is None or first.standing.z is None or then.value is None or now.value is None:
        return None
    usual = placed.norm.score_of(first.standing.z, who.decimal_age(now.on), who.sex)
    band = judge.band(judge.key(now), now.value, who.age(now.on))
    if usual is None or now.on == then.on:
        return None
    sign, measure = judge.measure.better.sign, judge.measure
    expected, beyond = (usual - then.value) * sign, (now.value - usual) * sign
    gain = f"{amount_words(abs(expected), measure)} {'better' if expected >= 0 else 'less'}"
    known = f"±{amount_words(band, measure)}"
    if abs(beyond) < band:
        return f"{gain} is usual for the age since then; no more and no less than that, {known}"
    more = f"{amount_words(abs(beyond), measure)} {'more' if beyond > 0 else 'less'} than that"
    return f"{gain} is usual for the age since then; {more}, {known}"


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
        "gain": _gain_words(placed, first, judge, same, who),
        "source": norm.source,
        "population": norm.population,
        "year": norm.year,
        "standing": norm.standing,
    }
