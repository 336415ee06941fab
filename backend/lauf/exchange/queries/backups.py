"""The nightly backups, as the head of PE sees them."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Final

from django.conf import settings
from typing_extensions import TypedDict

from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import May, demand

#: Older than this is said: a night was missed, and the next one too.
_OLD: Final = timedelta(hours=50)


class BackupRow(TypedDict):
    """A nightly backup; what is in it is kept until then."""

    name: str
    at: datetime
    bytes: int
    until: datetime


class Backups(TypedDict):
    """The nightly backups; `last_until` is when the last of what is in them now is gone."""

    files: list[BackupRow]
    # When the last of what is in them now is gone.
    last_until: datetime | None
    warning: str


def backups(staff: Staff, now: datetime) -> Backups:
    """The nightly backups, newest first, until when each is kept, and what is wrong with them.
    Raises Denied."""
    demand(staff, May.MANAGE_SCHOOL)
    kept = settings.BACKUPS_KEPT
    if not settings.BACKUPS:
        return {
            "files": [], "last_until": None,
            "warning": say("There are no automatic backups here. Make sure someone backs up."),
        }  # fmt: skip
    pattern = Path(settings.BACKUPS)
    found = sorted(pattern.parent.glob(pattern.name), reverse=True)
    made = [datetime.fromtimestamp(one.stat().st_mtime, UTC) for one in found]
    warning = ""
    if not made:
        warning = say("There is no backup yet. The first one is made within minutes of the start.")
    elif now - max(made) > _OLD:
        days = (now - max(made)).days
        warning = say(
            "The last backup is {days} days old. Tell the person who looks after the server.",
            days=days,
        )
    return {
        "files": [
            {
                "name": one.name, "at": at, "bytes": one.stat().st_size,
                "until": at + timedelta(days=kept),
            }
            for one, at in zip(found, made, strict=True)
        ],
        # When what is erased today is in none of them any more.
        "last_until": max(made) + timedelta(days=kept) if made else None,
        "warning": warning,
    }  # fmt: skip
