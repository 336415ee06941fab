"""The record of who changed what."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone

from lauf.messages import say
from lauf.people.models import Change, Pupil, Staff


def look_at(staff: Staff, pupil_id: UUID, what: str) -> None:
    """Put on record that somebody looked at something sensitive of a child: once a day."""
    _seen(
        staff,
        say("{name}: {what} viewed", name=Pupil.objects.get(pk=pupil_id).name, what=what),
        pupil_id,
    )


def look_at_class(staff: Staff, class_id: UUID, class_name: str, what: str) -> None:
    """The same for what a whole class was measured in."""
    _seen(staff, say("{class_name}: {what} viewed", class_name=class_name, what=what), class_id)


def _seen(staff: Staff, words: str, about: UUID) -> None:
    today = Change.objects.filter(
        by=staff, what=Change.What.SEEN, about=str(about), at__date=timezone.localdate()
    )
    if not today.filter(words=words).exists():
        log(staff, Change.What.SEEN, words, about)


def log(staff: Staff, what: Change.What, words: str, about: UUID | None = None) -> Change:
    """Put on record who changed what. Called by the action that makes the change, in its
    transaction."""
    return Change.objects.create(
        school_id=staff.school_id,
        by=staff,
        what=what,
        words=words[:240],
        about=str(about) if about else "",
    )
