"""What became of a child's goes: also of one whose score was corrected or undone later."""

from __future__ import annotations

from collections.abc import Iterable

from django.db.models import OuterRef, Subquery

from lauf.challenges.models import Challenge, Go, GoState
from lauf.people.models import Pupil
from lauf.records.queries import counting


def goes_by(pupil: Pupil, challenges: Iterable[Challenge]) -> list[Go]:
    """A child's goes in challenges, oldest first, without those it undid; each as it stands today:
    an accepted one as its teacher has corrected it, and declined where that score was undone. They
    are to be shown and not saved. One query."""
    now = counting().filter(
        activity=OuterRef("attempt__activity"),
        pupil=OuterRef("pupil"),
        try_number=OuterRef("attempt__try_number"),
        value__isnull=False,
    )
    goes = (
        Go.objects.filter(challenge__in=challenges, pupil=pupil)
        .exclude(state=GoState.UNDONE)
        .annotate(stands=Subquery(now.values("typed")[:1]))
    )
    found: list[Go] = []
    for go in goes:
        if go.state == GoState.ACCEPTED:
            go.state = GoState.DECLINED if go.stands is None else go.state
            go.typed = go.stands or go.typed
        found.append(go)
    return found
