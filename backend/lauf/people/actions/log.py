"""The record of who changed what."""

from __future__ import annotations

from uuid import UUID

from lauf.people.models import Change, Staff


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
