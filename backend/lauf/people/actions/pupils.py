"""Writes of children."""

from __future__ import annotations

from datetime import date
from uuid import UUID

from django.db import transaction

from lauf.people.actions.log import log
from lauf.people.models import Change, Pupil, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import class_of, pupil_of


@transaction.atomic
def leave(staff: Staff, pupil_id: UUID, *, on: date) -> Pupil:
    """A child leaves the school: it is in no list any more, its scores stay. Raises Denied or
    NotFound; a child that has left already stays as it is."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil = pupil_of(staff, pupil_id)
    if pupil.school_class is None:
        return pupil
    pupil.left_from, pupil.left_on, pupil.school_class = pupil.school_class, on, None
    pupil.save(update_fields=["left_from", "left_on", "school_class"])
    log(staff, Change.What.PUPIL, f"{pupil.name} has left {pupil.left_from}", pupil.id)
    return pupil


@transaction.atomic
def move(staff: Staff, pupil_id: UUID, class_id: UUID) -> Pupil:
    """A child goes to a class, or comes back to one. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    pupil, to = pupil_of(staff, pupil_id), class_of(staff, class_id)
    if pupil.school_class_id == to.id:
        return pupil
    words = f"{pupil.name} has come back to {to}" if pupil.school_class is None else (
        f"{pupil.name} has moved from {pupil.school_class} to {to}"
    )  # fmt: skip
    pupil.school_class, pupil.left_from, pupil.left_on, pupil.place = to, None, None, 0
    pupil.save(update_fields=["school_class", "left_from", "left_on", "place"])
    log(staff, Change.What.PUPIL, words, pupil.id)
    return pupil
