"""Writes of helpers: what they count, beside what others have counted."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from lauf.errors import IdTaken, NotFound, Refused
from lauf.lessons.models import Helper
from lauf.lessons.queries import OneTest, score_day, suggested_wave
from lauf.messages import say
from lauf.records.actions.attempts import demand_care, fill, held, record_attempt
from lauf.records.locks import while_a_score_is_kept
from lauf.records.models import WITHDRAWN, Attempt, Recount
from lauf.rules.judging.tries import SPARE_TRIES
from lauf.rules.reading.entry import LONGEST_ENTRY


def record_for_helper(
    helper: Helper,
    taken: OneTest,
    *,
    attempt_id: UUID,
    pupil_id: UUID,
    typed: str,
    variant: str,
    recorded_at: datetime,
    try_number: int = 1,
    withdrawn: bool = False,
    counted_by: UUID | None = None,
) -> Attempt | Recount:
    """Keep what a helper counted: as the score of an empty try, or in place of the helper's own;
    beside it where somebody else's stands there. The caller has the test in turn, in a transaction.

    counted_by  the helper of this lesson who counted it, where this one only sends it: two have
                used the same device

    Sending the same id again returns what is stored. Raises as `record_attempt` does, without
    Clash. Six queries, one more beside another's score, and one more where another sends it.
    """
    if counted_by is not None and counted_by != helper.id:
        helpers = Helper.objects.select_related("let_in_by")
        helper = helpers.filter(pk=counted_by, lesson=helper.lesson_id).first() or helper
    activity = taken.activity
    while_a_score_is_kept(activity.protocol.test_id)
    if again := Recount.objects.filter(pk=attempt_id).first():
        return _sent_again(again, helper, taken, pupil_id, typed)
    stored, counting = held(attempt_id, activity, pupil_id, try_number)
    if counting is not None and stored is None and _is_anothers(counting, helper):
        return _beside(
            counting, helper, taken, recount_id=attempt_id, typed=typed, variant=variant,
            recorded_at=recorded_at, withdrawn=withdrawn,
        )  # fmt: skip
    return record_attempt(
        helper.let_in_by,
        taken,
        attempt_id=attempt_id,
        pupil_id=pupil_id,
        typed=typed,
        variant=variant,
        wave=_wave(taken, pupil_id),
        recorded_at=recorded_at,
        try_number=try_number,
        succeeds=counting.id if counting else None,
        why=say("typed again") if counting and counting.reason != WITHDRAWN else "",
        withdrawn=withdrawn,
        helper=helper,
    )


def _wave(taken: OneTest, pupil_id: UUID) -> int | None:
    """The wave in which the list has the child; a helper is asked for none."""
    waves = taken.activity.protocol.waves
    places = (at for at, child in enumerate(taken.children) if child.id == pupil_id)
    return next((suggested_wave(at, waves) for at in places), None)


def _is_anothers(counting: Attempt, helper: Helper) -> bool:
    """Whether a score is somebody else's; one that was taken back is nobody's."""
    return counting.reason != WITHDRAWN and counting.helper_id != helper.id


def _beside(
    counting: Attempt,
    helper: Helper,
    taken: OneTest,
    *,
    recount_id: UUID,
    typed: str,
    variant: str,
    recorded_at: datetime,
    withdrawn: bool,
) -> Recount:
    activity = taken.activity
    listed = {child.id: child for child in taken.children}
    child = listed.get(counting.pupil_id)
    if child is None:
        raise NotFound(say("child in this class"))
    if not 1 <= counting.try_number <= activity.protocol.tries + SPARE_TRIES:
        raise Refused(say("This test has {tries} tries.", tries=activity.protocol.tries))
    # Read as a score is; only what was counted is kept of it.
    read = Attempt(
        pupil_id=child.id,
        activity=activity,
        protocol=activity.protocol,
        kind=activity.protocol.kind,
        on=score_day(activity.lesson, recorded_at),
        helper=helper,
        recorded_at=recorded_at,
    )
    if withdrawn:
        read.typed, read.reason = "", WITHDRAWN
    else:
        fill(read, typed, variant, None, {}, sure=False)
        demand_care(read, child, taken.kept_from.get(child.id))
    if not activity.counted_twice:
        activity.counted_twice = True
        activity.save(update_fields=["counted_twice"])
    return Recount.objects.create(
        id=recount_id,
        school_id=helper.let_in_by.school_id,
        activity=activity,
        pupil_id=child.id,
        try_number=counting.try_number,
        beside=counting,
        variant=read.variant,
        typed=read.typed,
        kind=read.kind,
        value=read.value,
        reason=read.reason,
        helper=helper,
        recorded_at=recorded_at,
    )


def _sent_again(
    stored: Recount, helper: Helper, taken: OneTest, pupil_id: UUID, typed: str
) -> Recount:
    """What is stored of a count that is sent again. Raises IdTaken where it says something else."""
    place = (stored.helper_id, stored.activity_id, stored.pupil_id)
    is_same = stored.reason == WITHDRAWN or stored.typed == typed.strip()[:LONGEST_ENTRY]
    if place != (helper.id, taken.activity.id, pupil_id) or not is_same:
        raise IdTaken
    return stored
