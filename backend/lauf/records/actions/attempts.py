"""Writes of scores."""

from __future__ import annotations

from datetime import datetime
from typing import Final, NamedTuple
from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.queries import check_variant
from lauf.errors import Clash, IdTaken, NotFound, Refused
from lauf.lessons.models import Activity, Run
from lauf.lessons.queries import LessonCare, activity_of, conditions_of, score_day
from lauf.people.models import Pupil, Staff
from lauf.records.locks import while_a_score_is_kept
from lauf.records.models import WITHDRAWN, Attempt, Question, RepeatSummary, Settlement
from lauf.records.queries import attempt_of
from lauf.rules.judging.comparability import WEIGHTS, FreeConditions
from lauf.rules.judging.plausibility import FlagCode
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.reading.clocks import shown_at
from lauf.rules.reading.entry import LONGEST_ENTRY, read_entry
from lauf.rules.reading.quantities import Kind


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
    conditions: FreeConditions | None = None,
    succeeds: UUID | None = None,
    why: str = "",
    withdrawn: bool = False,
    restores: UUID | None = None,
    counted_by: UUID | None = None,
    run_id: UUID | None = None,
    sure: bool = False,
) -> Attempt:
    """Keep one score, reason, correction or withdrawal.

    succeeds    the entry this one replaces, which must be the one that counts
    conditions  the child's own, where they differ from the class's
    restores    an earlier entry of this child and try that counts again exactly as it was kept,
                whatever was typed
    counted_by  the partner who said it
    run_id      the clock a time was taken by, which it is held against unless the teacher is `sure`

    The entry comes with its activity. Sending the same id again returns what is stored. Raises
    EntryError for an unreadable score, Clash when another entry counts, IdTaken for an id that came
    with another score, NotFound outside the scope, Refused for an unknown variant, wave, try or
    condition.
    """
    activity = activity_of(staff, activity_id)
    said = None if restores else _Said(typed, variant, wave, try_number, withdrawn)
    stored = _stored(attempt_id, activity, pupil_id, said)
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
        run_id=run_id,
        recorded_by=staff,
        recorded_at=recorded_at,
    )
    if withdrawn:
        attempt.typed, attempt.reason = "", WITHDRAWN
    elif restores:
        _put_back(attempt, restores)
    else:
        _fill(attempt, typed, variant, wave, conditions or {}, sure=sure)
        _demand_care(attempt)
    try:
        with transaction.atomic():
            while_a_score_is_kept(attempt.protocol.test_id)
            counting = _counting(activity, pupil_id, try_number)
            if counting and counting.reason == WITHDRAWN and succeeds is None:
                succeeds = counting.id
            if counting is not None and counting.id == attempt_id:
                return counting  # this very entry, sent twice in the same moment
            if (counting.id if counting else None) != succeeds:
                if counting is None:
                    raise Refused("The entry to be replaced is not there.")
                raise Clash(counting)
            attempt.succeeds_id = succeeds
            attempt.save(force_insert=True)
            _forget_summaries(attempt)
    except IntegrityError:
        # The same moment on two connections: either this very entry, or another device's.
        stored = _stored(attempt_id, activity, pupil_id, said)
        if stored:
            return stored
        current = _counting(activity, pupil_id, try_number)
        if current is None:
            raise
        raise Clash(current) from None
    return attempt


#: What makes an entry what it is; when, by whom and why it was made are the new row's own.
_KEPT: Final = (
    "typed", "value", "reason", "estimate", "parts", "conditions", "variant", "wave",
    "counted_by_id", "run_id", "protocol_id", "kind",
)  # fmt: skip


def _put_back(attempt: Attempt, restores: UUID) -> None:
    """Fill an entry with what an earlier one of the same place holds. Raises NotFound."""
    place = ("activity_id", "pupil_id", "try_number")
    held = {field: getattr(attempt, field) for field in place}
    earlier = Attempt.objects.filter(pk=restores, **held).values(*_KEPT).first()
    if earlier is None:
        raise NotFound("entry to be put back")
    for field, value in earlier.items():
        setattr(attempt, field, value)


def _fill(
    attempt: Attempt,
    typed: str,
    variant: str,
    wave: int | None,
    own: FreeConditions,
    *,
    sure: bool,
) -> None:
    protocol = attempt.protocol
    check_variant(protocol, variant)
    if wave is not None and not 1 <= wave <= protocol.waves:
        raise Refused(f"This test has {protocol.waves} waves.")
    conditions = conditions_of(attempt.activity, own)
    measure = protocol.measure_with(conditions)
    entry = read_entry(typed, measure, ran_ms=_ran_ms(attempt), sure=sure)
    attempt.typed = entry.typed[:LONGEST_ENTRY]
    attempt.value = entry.value
    attempt.reason = entry.reason.value if entry.reason else None
    attempt.estimate = entry.estimate
    attempt.parts = {**entry.parts, "sure": True} if sure else entry.parts
    if weights := entry.parts.get("weights"):
        conditions[WEIGHTS] = weights
    attempt.conditions = conditions
    attempt.variant = variant
    attempt.wave = wave


def _demand_care(attempt: Attempt) -> None:
    """A child does nothing it is kept from unless the teacher has said so; a reason why there is no
    score is always taken. Raises Refused."""
    if attempt.reason is not None:
        return
    lesson, protocol = attempt.activity.lesson, attempt.protocol
    kept = LessonCare(lesson, [protocol], {attempt.pupil_id}).of(attempt.pupil_id, protocol)
    if kept is not None and not kept.allowed:
        raise Refused(
            f"{attempt.pupil.name} {kept.words}. If it is all right today, say so beside the name."
        )


def _ran_ms(attempt: Attempt) -> int | None:
    """How long the run a time was taken by had gone at that moment, in milliseconds; None for a
    score typed without a clock, or whose clock has not been heard of yet. Raises Refused for the
    clock of something else."""
    if attempt.run_id is None:
        return None
    run = Run.objects.filter(pk=attempt.run_id).first()
    if run is not None and run.activity_id != attempt.activity.id:
        raise Refused("That clock belongs to something else.")
    if run is None or attempt.kind != Kind.TIME:
        return None
    moment = int(attempt.recorded_at.timestamp() * 1000)
    pauses = [(one["from_ms"], one["to_ms"]) for one in run.pauses]
    return shown_at(moment, run.anchor_ms, pauses, run.paused_ms, run.go_ms)


def _forget_summaries(attempt: Attempt) -> None:
    """What repeat tests added up to after this day is no longer so."""
    test = attempt.protocol.test_id
    RepeatSummary.objects.filter(test=test, before__gt=attempt.on).delete()


class _Said(NamedTuple):
    """What makes an entry that is sent again the same entry."""

    typed: str
    variant: str
    wave: int | None
    try_number: int
    withdrawn: bool

    def is_of(self, stored: Attempt) -> bool:
        if self.try_number != stored.try_number:
            return False
        if self.withdrawn:
            return stored.reason == WITHDRAWN
        held = (stored.typed, stored.variant, stored.wave)
        return held == (self.typed.strip()[:LONGEST_ENTRY], self.variant, self.wave)


def _stored(
    attempt_id: UUID, activity: Activity, pupil_id: UUID, said: _Said | None
) -> Attempt | None:
    """The entry of that id. Raises IdTaken where it says something else."""
    stored = Attempt.objects.filter(pk=attempt_id).first()
    if stored is None:
        return None
    same_place = (stored.activity_id, stored.pupil_id) == (activity.id, pupil_id)
    if not same_place or (said is not None and not said.is_of(stored)):
        raise IdTaken
    stored.activity = activity
    return stored


def _counting(activity: Activity, pupil_id: UUID, try_number: int) -> Attempt | None:
    attempts = Attempt.objects.filter(
        activity=activity, pupil_id=pupil_id, try_number=try_number, successor=None
    )
    found = attempts.select_related("recorded_by").first()
    if found is not None:
        found.activity = activity
    return found


@transaction.atomic
def confirm_flag(staff: Staff, attempt_id: UUID, flag: str) -> Settlement:
    """A teacher looked at a flag and the score stands: from then on it takes part. Twice changes
    nothing. Raises NotFound, or Refused for an unknown flag."""
    attempt = attempt_of(staff, attempt_id)
    if flag not in {code.value for code in FlagCode}:
        raise Refused("There is no such flag.")
    while_a_score_is_kept(attempt.protocol.test_id)
    Question.objects.filter(attempt=attempt, flag=flag).update(settled=True)
    _forget_summaries(attempt)
    return Settlement.objects.get_or_create(attempt=attempt, flag=flag, defaults={"by": staff})[0]
