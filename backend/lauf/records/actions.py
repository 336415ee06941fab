"""Every write of scores."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.lessons.models import Activity
from lauf.lessons.queries import activity_of, day_of
from lauf.people.models import Pupil, Staff
from lauf.people.queries import NotFound, Refused
from lauf.records.models import WITHDRAWN, Attempt, Settlement
from lauf.records.queries import attempt_of
from lauf.rules.entry import LONGEST_ENTRY, read_entry
from lauf.rules.plausibility import FlagCode


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
    succeeds: UUID | None = None,
    why: str = "",
    withdrawn: bool = False,
) -> Attempt:
    """Keep one score, reason, correction or withdrawal.

    Sending the same id again returns what is stored. `succeeds` names the entry this one replaces
    and must be the one that counts. Raises EntryError for an unreadable score, Clash when another
    entry counts, NotFound outside the scope, Refused for an unknown variant or wave.
    """
    activity = activity_of(staff, activity_id)
    stored = _stored(attempt_id, activity, pupil_id)
    if stored:
        return stored
    in_class = Pupil.objects.filter(pk=pupil_id, school_class_id=activity.lesson.school_class_id)
    if not in_class.exists():
        raise NotFound("child in this class")
    attempt = Attempt(
        id=attempt_id,
        school_id=staff.school_id,
        pupil_id=pupil_id,
        activity=activity,
        protocol=activity.protocol,
        kind=activity.protocol.kind,
        on=day_of(activity.lesson),
        why=why.strip()[:240],
        recorded_by=staff,
        recorded_at=recorded_at,
    )
    if withdrawn:
        attempt.typed, attempt.reason = "", WITHDRAWN
    else:
        _fill(attempt, typed, variant, wave)
    try:
        with transaction.atomic():
            counting = _counting(activity, pupil_id)
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
        current = _counting(activity, pupil_id)
        if current is None:
            raise
        raise Clash(current) from None
    return attempt


def _fill(attempt: Attempt, typed: str, variant: str, wave: int | None) -> None:
    protocol = attempt.protocol
    codes = [known["code"] for known in protocol.variants] or [""]
    if variant not in codes:
        raise Refused(f"This test has the variants {', '.join(codes)}.")
    if wave is not None and not 1 <= wave <= protocol.waves:
        raise Refused(f"This test has {protocol.waves} waves.")
    entry = read_entry(typed, protocol.measure)
    attempt.typed = entry.typed[:LONGEST_ENTRY]
    attempt.value = entry.value
    attempt.reason = entry.reason.value if entry.reason else None
    attempt.estimate = entry.estimate
    attempt.variant = variant
    attempt.wave = wave


def _stored(attempt_id: UUID, activity: Activity, pupil_id: UUID) -> Attempt | None:
    stored = Attempt.objects.filter(pk=attempt_id).first()
    if stored and (stored.activity_id != activity.id or stored.pupil_id != pupil_id):
        raise Refused("That entry's id is taken; every entry needs an id of its own.")
    return stored


def _counting(activity: Activity, pupil_id: UUID) -> Attempt | None:
    attempts = Attempt.objects.filter(activity=activity, pupil_id=pupil_id, successor=None)
    return attempts.select_related("recorded_by").first()


def confirm_flag(staff: Staff, attempt_id: UUID, flag: str) -> Settlement:
    """A teacher looked at a flag and the score stands. Twice changes nothing. Raises NotFound, or
    Refused for an unknown flag."""
    attempt = attempt_of(staff, attempt_id)
    if flag not in {code.value for code in FlagCode}:
        raise Refused("There is no such flag.")
    return Settlement.objects.get_or_create(attempt=attempt, flag=flag, defaults={"by": staff})[0]
