"""The teacher's word over what a child is kept from, for one lesson."""

from __future__ import annotations

from collections.abc import Collection
from uuid import UUID

from django.db import transaction

from lauf.errors import NotFound
from lauf.lessons.models import Allowed
from lauf.lessons.queries.lessons import lesson_of
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.queries import pupil_of
from lauf.rules.planning.care import CARE_WORDS, Care


@transaction.atomic
def allow(
    staff: Staff, lesson_id: UUID, pupil_id: UUID, what: Collection[Care], *, allowed: bool
) -> None:
    """Say that a child does in this lesson what it is otherwise kept from, or take that back. Twice
    changes nothing. Raises NotFound."""
    lesson, pupil = lesson_of(staff, lesson_id), pupil_of(staff, pupil_id)
    if pupil.school_class_id != lesson.school_class_id:
        raise NotFound(say("child in this class"))
    for care in what:
        held = Allowed.objects.filter(lesson=lesson, pupil=pupil, what=care.value)
        if not allowed:
            changed = bool(held.delete()[0])
        else:
            _, changed = Allowed.objects.get_or_create(
                lesson=lesson, pupil=pupil, what=care.value, defaults={"by": staff}
            )
        if changed:
            decision = say("allowed for this lesson") if allowed else say("not allowed any more")
            words = f"{pupil.name} {decision}: {CARE_WORDS[care]} ({lesson})"
            log(staff, Change.What.CARE, words, pupil.id)
