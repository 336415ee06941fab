"""Writes of scores."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Final, NamedTuple
from uuid import UUID

from django.db import IntegrityError, transaction
from django.db.models import Q

from lauf.catalogue.queries import check_variant
from lauf.errors import Clash, IdTaken, NotFound, Refused
from lauf.lessons.models import Activity, Helper, Run
from lauf.lessons.queries import KeptFrom, ListedChild, OneTest, conditions_of, score_day
from lauf.messages import say
from lauf.people.models import Staff
from lauf.records.locks import while_a_score_is_kept
from lauf.records.models import (
    WITHDRAWN,
    Attempt,
    Question,
    RepeatSummary,
    Settlement,
)
from lauf.records.queries import attempt_of, counts_beside
from lauf.rules.judging.comparability import WEIGHTS, FreeConditions
from lauf.rules.judging.plausibility import FlagCode
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.reading.clocks import shown_at
from lauf.rules.reading.entry import LONGEST_ENTRY, read_entry
from lauf.rules.reading.quantities import Kind


@transaction.atomic
def record_attempt(
    staff: Staff,
    taken: OneTest,
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
    helper: Helper | None = None,
) -> Attempt:
    """Keep one score, reason, correction or withdrawal.

    taken       the test it is of, which the caller has in turn
    succeeds    the entry this one replaces, which must be the one that counts
    conditions  the child's own, where they differ from the class's
    restores    an earlier entry of this child and try that counts again exactly as it was kept,
                whatever was typed
    counted_by  the partner who said it
    run_id      the clock a time was taken by, which it is held against unless the teacher is `sure`
    helper      who entered it for the teacher

    Sending the same id again returns what is stored. Raises EntryError for an unreadable score,
    Clash when another entry counts, IdTaken for an id that came with another score, NotFound
    outside the class, Refused for an unknown variant, wave, try or condition. Five queries, one
    or two more of a time that a clock took, and up to three where a score is taken back.
    """
    activity = taken.activity
    while_a_score_is_kept(activity.protocol.test_id)
    stored, counting = held(attempt_id, activity, pupil_id, try_number)
    if stored:
        entry = None if restores else _Entry(typed, variant, wave, try_number, withdrawn)
        return _sent_again(stored, activity, pupil_id, entry)
    listed = {child.id: child for child in taken.children}
    if not {pupil_id, counted_by or pupil_id} <= listed.keys():
        raise NotFound(say("child in this class"))
    if not 1 <= try_number <= activity.protocol.tries + SPARE_TRIES:
        raise Refused(say("This test has {tries} tries.", tries=activity.protocol.tries))
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
        helper=helper,
        recorded_at=recorded_at,
    )
    if withdrawn:
        attempt.typed, attempt.reason = "", WITHDRAWN
    elif restores:
        _put_back(attempt, restores)
    else:
        fill(attempt, typed, variant, wave, conditions or {}, sure=sure)
        demand_care(attempt, listed[pupil_id], taken.kept_from.get(pupil_id))
    if counting and counting.reason == WITHDRAWN and succeeds is None:
        succeeds = counting.id
    if (counting.id if counting else None) != succeeds:
        if counting is None:
            raise Refused(say("The score to replace does not exist."))
        raise Clash(counting)
    attempt.succeeds_id = succeeds
    _add(attempt)
    if withdrawn and activity.counted_twice:
        _let_another_count(attempt)
    _forget_summaries(attempt)
    return attempt


def _let_another_count(gone: Attempt) -> None:
    """Where somebody took a score back, what a helper has counted of the same try is the score: it
    was kept, and nobody misses the child. One query, and two more where there are such counts."""
    beside = counts_beside(gone.activity.id).get((gone.pupil_id, gone.try_number), [])
    left = [one for one in beside if one.helper_id != gone.helper_id]
    if not left:
        return
    counted = left[-1]
    attempt = Attempt(
        id=uuid.uuid4(),
        school_id=gone.school_id,
        pupil_id=gone.pupil_id,
        activity=gone.activity,
        protocol=gone.protocol,
        kind=gone.kind,
        on=gone.on,
        try_number=gone.try_number,
        why=say("the other count was undone"),
        recorded_by=gone.recorded_by,
        helper_id=counted.helper_id,
        recorded_at=counted.recorded_at,
        succeeds=gone,
    )
    fill(attempt, counted.typed, counted.variant, None, {}, sure=True)
    attempt.save(force_insert=True)


def _add(attempt: Attempt) -> None:
    """Raises IdTaken where another test got an entry of that id at the same moment."""
    try:
        with transaction.atomic():
            attempt.save(force_insert=True)
    except IntegrityError:
        if not Attempt.objects.filter(pk=attempt.id).exists():
            raise
        raise IdTaken from None


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
        raise NotFound(say("score to restore"))
    for field, value in earlier.items():
        setattr(attempt, field, value)


def fill(
    attempt: Attempt,
    typed: str,
    variant: str,
    wave: int | None,
    own: FreeConditions,
    *,
    sure: bool,
) -> None:
    """Read an entry into an attempt. Raises EntryError, or Refused for an unknown variant, wave or
    condition."""
    protocol = attempt.protocol
    check_variant(protocol, variant)
    if wave is not None and not 1 <= wave <= protocol.waves:
        raise Refused(say("This test has {waves} waves.", waves=protocol.waves))
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


def demand_care(attempt: Attempt, child: ListedChild, kept: KeptFrom | None) -> None:
    """A child does nothing it is kept from unless the teacher has said so; a reason why there is no
    score is always taken. Raises Refused."""
    if attempt.reason is None and kept is not None and not kept.allowed:
        if attempt.helper is not None:
            # Why is between the family and the teacher.
            raise Refused(say("Ask the teacher about {name} first.", name=child.given_name))
        raise Refused(
            say(
                "{name} {words}. If the child may take part today, allow it beside the name.",
                name=child.name,
                words=kept.words,
            )
        )


def _ran_ms(attempt: Attempt) -> int | None:
    """How long the run a time was taken by had gone at that moment, in milliseconds; None for a
    score typed without a clock, or whose clock has not been heard of yet. Raises Refused for the
    clock of something else."""
    if attempt.run_id is None:
        return None
    run = Run.objects.filter(pk=attempt.run_id).first()
    if run is not None and run.activity_id != attempt.activity.id:
        raise Refused(say("That clock belongs to another test."))
    if run is None or attempt.kind != Kind.TIME:
        return None
    moment = int(attempt.recorded_at.timestamp() * 1000)
    pauses = [(one["from_ms"], one["to_ms"]) for one in run.pauses]
    return shown_at(moment, run.anchor_ms, pauses, run.paused_ms, run.go_ms)


def _forget_summaries(attempt: Attempt) -> None:
    """What repeat tests added up to after this day is no longer so."""
    test = attempt.protocol.test_id
    RepeatSummary.objects.filter(test=test, before__gt=attempt.on).delete()


class _Entry(NamedTuple):
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


def held(
    attempt_id: UUID, activity: Activity, pupil_id: UUID, try_number: int
) -> tuple[Attempt | None, Attempt | None]:
    """The entry of that id, wherever it is, and the one that counts in a place. One query."""
    place = Q(activity=activity, pupil_id=pupil_id, try_number=try_number, successor=None)
    found = list(
        Attempt.objects.filter(Q(pk=attempt_id) | place).select_related("recorded_by", "helper")
    )
    stored = next((one for one in found if one.id == attempt_id), None)
    counting = next((one for one in found if one.id != attempt_id), None)
    if counting is not None:
        counting.activity = activity
    return stored, counting


def _sent_again(
    stored: Attempt, activity: Activity, pupil_id: UUID, entry: _Entry | None
) -> Attempt:
    """What is stored of an entry that is sent again. Raises IdTaken where it says something
    else."""
    same_place = (stored.activity_id, stored.pupil_id) == (activity.id, pupil_id)
    if not same_place or (entry is not None and not entry.is_of(stored)):
        raise IdTaken
    stored.activity = activity
    return stored


@transaction.atomic
def confirm_flag(staff: Staff, attempt_id: UUID, flag: str) -> Settlement:
    """A teacher looked at a flag and the score stands: from then on it takes part. Twice changes
    nothing. Raises NotFound, or Refused for an unknown flag."""
    attempt = attempt_of(staff, attempt_id)
    if flag not in {code.value for code in FlagCode}:
        raise Refused(say("There is no such question about this score."))
    while_a_score_is_kept(attempt.protocol.test_id)
    Question.objects.filter(attempt=attempt, flag=flag).update(settled=True)
    _forget_summaries(attempt)
    return Settlement.objects.get_or_create(attempt=attempt, flag=flag, defaults={"by": staff})[0]
