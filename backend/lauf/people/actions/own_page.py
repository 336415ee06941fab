"""A child's own page: opened for some days by a code."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Final, NamedTuple
from uuid import UUID

from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import OwnPage, Pupil, Staff
from lauf.people.queries import pupil_of
from lauf.people.tokens import new_code, token_hash

#: How long a code opens the page.
_DAYS: Final = 14
_LENGTH: Final = 10


class Opened(NamedTuple):
    """A code, shown once, and until when it opens the page."""

    code: str
    until: datetime


def open_own_page(staff: Staff, pupil_id: UUID, now: datetime) -> Opened:
    """A new code for a child's own page; the one before opens nothing any more. Raises
    NotFound."""
    pupil = pupil_of(staff, pupil_id)
    code = new_code(_LENGTH)
    until = now + timedelta(days=_DAYS)
    OwnPage.objects.update_or_create(
        pupil=pupil, defaults={"proof": token_hash(code), "until": until, "by": staff}
    )
    return Opened(code, until)


def close_own_page(staff: Staff, pupil_id: UUID) -> None:
    """No code opens the page any more. Raises NotFound."""
    OwnPage.objects.filter(pupil=pupil_of(staff, pupil_id)).delete()


def opened_by(code: str, now: datetime) -> tuple[Pupil, Staff]:
    """The child whose page a code opens, and who gave it. Raises NotFound: too late, closed, gone
    with whoever gave it, or never a code. One query."""
    proof = token_hash(code.strip().upper())
    found = (
        OwnPage.objects.filter(
            proof=proof,
            until__gt=now,
            by__is_active=True,
            pupil__school_class__isnull=False,
            pupil__school__paused_at=None,
        )
        .select_related("pupil__school", "pupil__school_class__year_group", "by")
        .first()
    )
    if found is None:
        raise NotFound(say("page"))
    return found.pupil, found.by
