"""What a teacher writes about a child beside its scores."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction

from lauf.errors import Refused
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.queries import pupil_of
from lauf.records.models import FamilyLine, SetAside
from lauf.rules.judging.attention import Need


@transaction.atomic
def set_aside(staff: Staff, pupil_id: UUID, need: Need, words: str, why: str) -> SetAside:
    """Somebody has looked at what the board notes of a child, and says why it is all right: the
    note is quiet as long as it says these words. Raises NotFound, or Refused without a reason."""
    pupil = pupil_of(staff, pupil_id)
    if not why.strip():
        raise Refused(say("Give a reason in a few words."))
    kept, _ = SetAside.objects.update_or_create(
        pupil=pupil, need=need.value, defaults={"words": words, "why": why.strip(), "by": staff}
    )
    return kept


def look_again(staff: Staff, pupil_id: UUID, need: Need) -> None:
    """The note counts again. Raises NotFound."""
    SetAside.objects.filter(pupil=pupil_of(staff, pupil_id), need=need.value).delete()


def write_family_line(staff: Staff, pupil_id: UUID, text: str) -> str:
    """The teacher's line in a child's report; an empty one takes it away. Raises NotFound."""
    pupil, text = pupil_of(staff, pupil_id), " ".join(text.split())
    if not text:
        FamilyLine.objects.filter(pupil=pupil).delete()
    else:
        FamilyLine.objects.update_or_create(pupil=pupil, defaults={"text": text, "by": staff})
    return text
