"""Writes of pulses."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.errors import Clash, IdTaken, NotFound, Refused
from lauf.lessons.queries import lesson_of
from lauf.messages import say
from lauf.people.models import Pupil, Staff
from lauf.records.models import WITHDRAWN, PulseReading
from lauf.rules.body.pulse import Moment, hard_problem
from lauf.rules.reading.entry import EntryError
from lauf.rules.reading.reasons import REASON_KEYS


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
    restores: UUID | None = None,
) -> PulseReading:
    """Keep one pulse: beats counted in `seconds` (60 for a rate that was read), a reason, or an
    earlier reading that counts again (`restores`). The same id again returns what is stored. Raises
    EntryError with what is accepted, Clash when another reading counts, IdTaken for an id that came
    with another, NotFound outside the scope, Refused for an unknown moment."""
    lesson = lesson_of(staff, lesson_id)
    entry = None if withdrawn or restores else typed.strip()[:20]
    stored = _stored(reading_id, (lesson.id, pupil_id, position), entry)
    if stored:
        return stored
    if not Pupil.objects.filter(pk=pupil_id, school_class_id=lesson.school_class_id).exists():
        raise NotFound(say("child in this class"))
    if moment not in list(Moment):
        raise Refused(say("A pulse must be taken at one of {moment}.", moment=", ".join(Moment)))
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
    if withdrawn:
        reading.typed, reading.reason = "", WITHDRAWN
    elif restores:
        _put_back(reading, restores)
    else:
        _read(reading, typed, seconds)
    places = PulseReading.objects.filter(lesson=lesson, pupil_id=pupil_id, position=position)
    try:
        with transaction.atomic():
            counting = places.filter(successor=None).select_related("recorded_by").first()
            if counting and counting.reason == WITHDRAWN and succeeds is None:
                succeeds = counting.id
            if counting is not None and counting.id == reading_id:
                return counting  # this very entry, sent twice in the same moment
            if (counting.id if counting else None) != succeeds:
                if counting is None:
                    raise Refused(say("The pulse to replace does not exist."))
                raise Clash(counting)
            reading.succeeds_id = succeeds
            reading.save(force_insert=True)
    except IntegrityError:
        stored = _stored(reading_id, (lesson.id, pupil_id, position), entry)
        if stored:
            return stored
        current = places.filter(successor=None).select_related("recorded_by").first()
        if current is None:
            raise
        raise Clash(current) from None
    return reading


def _stored(
    reading_id: UUID, place: tuple[UUID, UUID, int], entry: str | None
) -> PulseReading | None:
    """The reading of that id. Raises IdTaken where it is of another place or says otherwise."""
    stored = PulseReading.objects.filter(pk=reading_id).first()
    if stored is None:
        return None
    held = (stored.lesson_id, stored.pupil_id, stored.position)
    if held != place or (entry is not None and stored.typed != entry):
        raise IdTaken
    return stored


def _read(reading: PulseReading, typed: str, seconds: int) -> None:
    plain = typed.strip().lower()
    accepted = say(
        "Type the beats counted in {seconds} s. Or type a reason: a absent, x sat out, r "
        "did not want to.",
        seconds=seconds,
    )
    if plain in REASON_KEYS:
        reading.reason = REASON_KEYS[plain]
    elif not (plain.isascii() and plain.isdigit() and len(plain) <= 4):
        raise EntryError(
            say("“{typed}” is not a number of beats.", typed=typed.strip()[:20]), accepted
        )
    else:
        if problem := hard_problem(int(plain), seconds):
            raise EntryError(problem, accepted)
        reading.beats, reading.seconds = int(plain), seconds


def _put_back(reading: PulseReading, restores: UUID) -> None:
    """Fill a reading with what an earlier one of the same child and moment holds. Raises
    NotFound."""
    kept = ("typed", "beats", "seconds", "reason", "confirmed", "waited", "moment", "label")
    place = {"lesson": reading.lesson, "pupil_id": reading.pupil_id, "position": reading.position}
    earlier = PulseReading.objects.filter(pk=restores, **place).values(*kept).first()
    if earlier is None:
        raise NotFound(say("pulse to restore"))
    for field, value in earlier.items():
        setattr(reading, field, value)
