"""Writes of what a child is kept from."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from uuid import UUID

from django.db import transaction

from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions.audit_log import log
from lauf.people.models import Change, Exclusion, Pupil, Staff
from lauf.people.queries import pupil_of
from lauf.rules.planning.care import CARE_WORDS, EXCLUSIONS, Care


@transaction.atomic
def set_care(
    staff: Staff, pupil_id: UUID, *, measuring: str, exclusions: Mapping[Care, date | None]
) -> Pupil:
    """What the family has said to body measurements, and what a child is not to do, each until a
    day or without an end. They replace what was there. Raises NotFound or Refused."""
    pupil = pupil_of(staff, pupil_id)
    if any(care not in EXCLUSIONS for care in exclusions):
        raise Refused(say("Measure only if the family agrees."))
    before = _in_words(pupil)
    pupil.measuring = Pupil.Consent(measuring)
    pupil.save(update_fields=["measuring"])
    pupil.exclusions.all().delete()
    Exclusion.objects.bulk_create(
        Exclusion(pupil=pupil, what=care.value, until=until, by=staff)
        for care, until in exclusions.items()
    )
    now = _in_words(pupil)
    if now != before:
        log(staff, Change.What.CARE, f"{pupil.name}: {now}", pupil.id)
    return pupil


def _in_words(pupil: Pupil) -> str:
    lines = [say("measuring {label}", label=Pupil.Consent(pupil.measuring).label)]
    for one in pupil.exclusions.all():
        what = CARE_WORDS[Care(one.what)]
        if one.until:
            until = f"{one.until:%d %b %Y}"
            lines.append(say("is not to {what} until {until}", what=what, until=until))
        else:
            lines.append(say("is not to {what}", what=what))
    return ", ".join(lines)
