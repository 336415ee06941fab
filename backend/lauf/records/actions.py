"""Every write of scores."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any, Final
from uuid import UUID

from django.db import IntegrityError, transaction
from django.utils import timezone

from lauf.catalogue.courses import read_metres
from lauf.lessons.models import Activity, WaveRun
from lauf.lessons.queries import activity_of, conditions_of, lesson_of, score_day
from lauf.people.models import Pupil, Staff
from lauf.people.queries import NotFound, Refused, class_of, pupil_of
from lauf.records.models import WITHDRAWN, Attempt, Calibration, PulseReading, Settlement
from lauf.records.queries import attempt_of
from lauf.rules.entry import LONGEST_ENTRY, REASON_KEYS, EntryError, read_entry
from lauf.rules.plausibility import FlagCode
from lauf.rules.pulse import Moment, hard_problem
from lauf.rules.quantities import Kind
from lauf.rules.readers import INFORMAL_UNITS

#: A fall is jumped again: tries beyond the protocol's own, for the void ones.
SPARE_TRIES: Final = 6
EARLY_START: Final = timedelta(minutes=15)


class Clash(Exception):
    """Another entry for this child came in between; `current` is the one that counts now."""

    def __init__(self, current: Attempt) -> None:
        super().__init__("Another device has entered this child meanwhile.")
        self.current = current


def record_attempt(
    staff: Staff,
    activity_id: UUID,
    *,
    attempt_id: UUID,
    pupil_id: UUID,
    typed: str,
    variant: str,
    wave: int | None,
    recorded_at: datetime,
    try_number: int = 1,
    conditions: dict[str, Any] | None = None,
    succeeds: UUID | None = None,
    why: str = "",
    withdrawn: bool = False,
    counted_by: UUID | None = None,
) -> Attempt:
    """Keep one score, reason, correction or withdrawal.

    Sending the same id again returns what is stored. `succeeds` names the entry this one replaces
    and must be the one that counts. `conditions` are the child's own, where they differ from the
    class's; `counted_by` is the partner who said it. Raises EntryError for an unreadable score,
    Clash when another entry counts, NotFound outside the scope, Refused for an unknown variant,
    wave, try or condition.
    """
    activity = activity_of(staff, activity_id)
    stored = _stored(attempt_id, activity, pupil_id)
    if stored:
        return stored
    asked = {pupil_id, counted_by or pupil_id}
    in_class = Pupil.objects.filter(school_class_id=activity.lesson.school_class_id)
    if in_class.filter(pk__in=asked).count() < len(asked):
        raise NotFound("child in this class")
    if not 1 <= try_number <= activity.protocol.tries + SPARE_TRIES:
        raise Refused(f"This test has {activity.protocol.tries} tries.")
    attempt = Attempt(
        id=attempt_id,
        school_id=staff.school_id,
        pupil_id=pupil_id,
        activity=activity,
        protocol=activity.protocol,
        kind=activity.protocol.kind,
        on=score_day(activity.lesson, recorded_at),
        try_number=try_number,
        why=why.strip()[:240],
        counted_by_id=counted_by,
        recorded_by=staff,
        recorded_at=recorded_at,
    )
    if withdrawn:
        attempt.typed, attempt.reason = "", WITHDRAWN
    else:
        _fill(attempt, typed, variant, wave, conditions or {})
    try:
        with transaction.atomic():
            counting = _counting(activity, pupil_id, try_number)
            if counting and counting.reason == WITHDRAWN and succeeds is None:
                succeeds = counting.id
            if (counting.id if counting else None) != succeeds:
                if counting is None:
                    raise Refused("The entry to be replaced is not there.")
                raise Clash(counting)
            attempt.succeeds_id = succeeds
            attempt.save(force_insert=True)
    except IntegrityError:
        # The same moment on two connections: either this very entry, or another device's.
        stored = _stored(attempt_id, activity, pupil_id)
        if stored:
            return stored
        current = _counting(activity, pupil_id, try_number)
        if current is None:
            raise
        raise Clash(current) from None
    return attempt


def _fill(
    attempt: Attempt, typed: str, variant: str, wave: int | None, own: dict[str, Any]
) -> None:
    protocol = attempt.protocol
    codes = [known["code"] for known in protocol.variants] or [""]
    if variant not in codes:
        raise Refused(f"This test has the variants {', '.join(codes)}.")
    if wave is not None and not 1 <= wave <= protocol.waves:
        raise Refused(f"This test has {protocol.waves} waves.")
    conditions = conditions_of(attempt.activity, own)
    measure = protocol.measure_with(conditions)
    entry = read_entry(typed, measure, ran_ms=_ran_ms(attempt))
    attempt.typed = entry.typed[:LONGEST_ENTRY]
    attempt.value = entry.value
    attempt.reason = entry.reason.value if entry.reason else None
    attempt.estimate = entry.estimate
    attempt.parts = entry.parts
    attempt.conditions = conditions
    attempt.variant = variant
    attempt.wave = wave


def _ran_ms(attempt: Attempt) -> int | None:
    """How long a time can be at most when it was taken: since the clock of the activity was
    started, or else since the lesson began (with a quarter of an hour for an early start)."""
    if attempt.kind != Kind.TIME or attempt.activity.lesson.battery_id:
        return None
    taken = attempt.recorded_at
    runs = attempt.activity.runs.exclude(ended=WaveRun.Ended.RESTARTED)
    anchor = runs.order_by("anchor_ms").values_list("anchor_ms", flat=True).first()
    if anchor is not None:
        since = int(taken.timestamp() * 1000) - anchor
    else:
        begun = attempt.activity.lesson.starts_at - EARLY_START
        since = int((taken - begun).total_seconds() * 1000)
    # A score typed in before the lesson or on another day says nothing about its clock.
    return since if 0 < since < 6 * 3_600_000 else None


def _stored(attempt_id: UUID, activity: Activity, pupil_id: UUID) -> Attempt | None:
    stored = Attempt.objects.filter(pk=attempt_id).first()
    if stored and (stored.activity_id != activity.id or stored.pupil_id != pupil_id):
        raise Refused("That entry's id is taken; every entry needs an id of its own.")
    return stored


def _counting(activity: Activity, pupil_id: UUID, try_number: int) -> Attempt | None:
    attempts = Attempt.objects.filter(
        activity=activity, pupil_id=pupil_id, try_number=try_number, successor=None
    )
    return attempts.select_related("recorded_by").first()


def record_pulse(
    staff: Staff,
    lesson_id: UUID,
    *,
    reading_id: UUID,
    pupil_id: UUID,
    position: int,
    moment: str,
    label: str,
    waited: int | None,
    typed: str,
    seconds: int,
    recorded_at: datetime,
    succeeds: UUID | None = None,
    confirmed: bool = False,
    withdrawn: bool = False,
) -> PulseReading:
    """Keep one pulse: beats counted in `seconds` (60 for a rate that was read), or a reason. The
    same id again returns what is stored. Raises EntryError with what is accepted, PulseClash when
    another reading counts, NotFound outside the scope, Refused for an unknown moment."""
    lesson = lesson_of(staff, lesson_id)
    stored = PulseReading.objects.filter(pk=reading_id).first()
    if stored:
        if (stored.lesson_id, stored.pupil_id) != (lesson.id, pupil_id):
            raise Refused("That entry's id is taken; every entry needs an id of its own.")
        return stored
    if not Pupil.objects.filter(pk=pupil_id, school_class_id=lesson.school_class_id).exists():
        raise NotFound("child in this class")
    if moment not in list(Moment):
        raise Refused(f"A pulse is taken at one of {', '.join(Moment)}.")
    reading = PulseReading(
        id=reading_id,
        school_id=staff.school_id,
        lesson=lesson,
        pupil_id=pupil_id,
        position=position,
        moment=moment,
        label=label.strip()[:80],
        waited=waited if moment == Moment.RECOVERY else None,
        typed=typed.strip()[:20],
        confirmed=confirmed,
        recorded_by=staff,
        recorded_at=recorded_at,
    )
    plain = typed.strip().lower()
    accepted = f"Type beats counted in {seconds} s, or a absent, x sat out, r did not want to."
    if withdrawn:
        reading.typed, reading.reason = "", WITHDRAWN
    elif plain in REASON_KEYS:
        reading.reason = REASON_KEYS[plain]
    elif not (plain.isascii() and plain.isdigit() and len(plain) <= 4):
        raise EntryError(f"“{typed.strip()[:20]}” is not a number of beats.", accepted)
    else:
        if problem := hard_problem(int(plain), seconds):
            raise EntryError(problem, accepted)
        reading.beats, reading.seconds = int(plain), seconds
    places = PulseReading.objects.filter(lesson=lesson, pupil_id=pupil_id, position=position)
    try:
        with transaction.atomic():
            counting = places.filter(successor=None).first()
            if counting and counting.reason == WITHDRAWN and succeeds is None:
                succeeds = counting.id
            if (counting.id if counting else None) != succeeds:
                raise Refused("Another device has entered this pulse meanwhile: look again.")
            reading.succeeds_id = succeeds
            reading.save(force_insert=True)
    except IntegrityError as error:
        stored = PulseReading.objects.filter(pk=reading_id).first()
        if stored:
            return stored
        raise Refused("Another device has entered this pulse meanwhile: look again.") from error
    return reading


def calibrate(
    staff: Staff,
    *,
    class_id: UUID | None,
    pupil_id: UUID | None,
    unit: str,
    known: str,
    counted: float,
) -> Calibration:
    """How long a child's hand or a class's step is, from so many over a known distance. Earlier
    scores in that unit are judged by it. Raises NotFound or Refused."""
    if (class_id is None) == (pupil_id is None):
        raise Refused("A calibration is a child's or a class's.")
    if unit not in INFORMAL_UNITS:
        raise Refused(f"An informal unit is one of {', '.join(INFORMAL_UNITS)}.")
    known_mm = read_metres(known, "known distance")
    if counted <= 0 or not 20 < known_mm / counted < 3000:
        raise Refused("One of them would be under 2 cm or over 3 m: count and measure again.")
    return Calibration.objects.create(
        school_id=staff.school_id,
        school_class=class_of(staff, class_id) if class_id else None,
        pupil=pupil_of(staff, pupil_id) if pupil_id else None,
        unit=unit,
        millimetres=known_mm / counted,
        on=timezone.localdate(),
        by=staff,
    )


def confirm_flag(staff: Staff, attempt_id: UUID, flag: str) -> Settlement:
    """A teacher looked at a flag and the score stands. Twice changes nothing. Raises NotFound, or
    Refused for an unknown flag."""
    attempt = attempt_of(staff, attempt_id)
    if flag not in {code.value for code in FlagCode}:
        raise Refused("There is no such flag.")
    return Settlement.objects.get_or_create(attempt=attempt, flag=flag, defaults={"by": staff})[0]
