"""Writes about helpers: a lesson is opened to them by a code, and they come and go."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta
from typing import Final, NamedTuple
from uuid import UUID

from django.db import transaction
from django.db.models import Q

from lauf.errors import Locked, NotFound, Refused
from lauf.lessons.models import Helper, HelperCode, Lesson
from lauf.lessons.queries.lessons import lesson_of
from lauf.messages import say
from lauf.people.actions import create_with_code, log
from lauf.people.models import Change, Staff
from lauf.people.tokens import token_hash

#: Hours that a lesson stays open to helpers if nobody ends it: a school day.
HOURS: Final = 8
#: Signs of the code that is read out: about 700 million codes, of which wrong ones are counted.
_LENGTH: Final = 6
_LONGEST_NAME: Final = 40
#: Helpers of one lesson at once.
MOST_HELPERS: Final = 30
ENDED: Final = say("This lesson is not open to helpers now. Ask the teacher.")


class Joined(NamedTuple):
    """A helper, and the key of their device, which is shown to nobody again."""

    helper: Helper
    key: str


@transaction.atomic
def open_to_helpers(staff: Staff, lesson_id: UUID, now: datetime) -> HelperCode:
    """The code by which helpers come to a lesson: the one there is while it opens anything, else a
    new one. Raises NotFound, or Refused for a lesson that is closed."""
    lesson_of(staff, lesson_id)
    lesson = Lesson.objects.select_for_update().get(pk=lesson_id)
    if lesson.closed_at is not None:
        raise Refused(say("This lesson is closed. Open it again first."))
    there = HelperCode.objects.filter(lesson=lesson).first()
    if there is not None and there.until > now:
        return there
    if there is not None:
        there.delete()
    made = create_with_code(
        HelperCode,
        _LENGTH,
        lesson=lesson,
        secret=secrets.token_urlsafe(18),
        until=now + timedelta(hours=HOURS),
        by=staff,
    )
    words = say("{lesson}: opened to helpers", lesson=str(lesson))
    log(staff, Change.What.LESSON, words, lesson.id)
    return made


@transaction.atomic
def close_to_helpers(staff: Staff, lesson_id: UUID) -> None:
    """Nobody helps in a lesson any more until it is opened again; what waits on a helper's device
    stays there. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    if HelperCode.objects.filter(lesson=lesson).delete()[0]:
        words = say("{lesson}: closed to helpers", lesson=str(lesson))
        log(staff, Change.What.LESSON, words, lesson.id)


@transaction.atomic
def end_helper(staff: Staff, lesson_id: UUID, helper_id: UUID, now: datetime) -> None:
    """One helper is let in no more; what they entered stays. Raises NotFound."""
    lesson = lesson_of(staff, lesson_id)
    helper = Helper.objects.select_for_update().filter(pk=helper_id, lesson=lesson).first()
    if helper is None:
        raise NotFound(say("helper"))
    _end(helper, now)


@transaction.atomic
def leave(helper: Helper, now: datetime) -> None:
    """A helper goes."""
    _end(Helper.objects.select_for_update().get(pk=helper.pk), now)


def _end(helper: Helper, now: datetime) -> None:
    if helper.ended_at is None:
        helper.ended_at, helper.proof = now, None
        helper.save()


def called(name: str) -> str:
    """What a helper is called. Raises Refused for nothing."""
    name = " ".join(name.split())[:_LONGEST_NAME]
    if not name:
        raise Refused(say("Type your name, so that the teacher knows who counts."))
    return name


@transaction.atomic
def join(code: str, name: str, now: datetime) -> Joined:
    """Let somebody in who has the code that is read out, or the secret of the square. Raises
    NotFound for a code that opens nothing, Refused where too many are in."""
    given = code.strip()
    opened = HelperCode.objects.filter(
        Q(secret=given) | Q(code=given.upper()),
        lesson__closed_at=None,
        until__gt=now,
        by__is_active=True,
        by__school__paused_at=None,
    ).first()
    if opened is None:
        raise NotFound(say("code"))
    # In turn, so that no more come in at once than there is room for.
    Lesson.objects.select_for_update().get(pk=opened.lesson_id)
    if Helper.objects.filter(lesson=opened.lesson_id, ended_at=None).count() >= MOST_HELPERS:
        raise Refused(
            say("A lesson can have {most} helpers. Ask the teacher to end one.", most=MOST_HELPERS)
        )
    key = secrets.token_urlsafe(24)
    helper = Helper.objects.create(
        lesson_id=opened.lesson_id,
        name=name,
        proof=token_hash(key),
        let_in_by=opened.by,
        joined_at=now,
    )
    return Joined(helper, key)


def helper_by(key: str, now: datetime) -> Helper | None:
    """Whose key it is, with the lesson; None for one that opens nothing. One query. Raises Locked
    where the lesson is closed or not open to helpers now."""
    helper = (
        Helper.objects.filter(proof=token_hash(key))
        .select_related("lesson__school_class", "lesson__helper_code", "let_in_by__school")
        .first()
    )
    if helper is None:
        return None
    code = getattr(helper.lesson, "helper_code", None)
    teacher = helper.let_in_by
    is_open = code is not None and code.until > now and teacher.is_active
    is_open = is_open and teacher.school.paused_at is None
    if helper.lesson.closed_at is not None or not is_open:
        raise Locked(ENDED)
    return helper
