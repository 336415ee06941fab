"""Scores kept past the address: what a test needs but does not show."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction

from lauf.lessons.queries import one_test_in_turn
from lauf.people.models import Staff
from lauf.records import actions
from lauf.records.models import Attempt


def record_attempt(staff: Staff, activity_id: UUID, **entry: Any) -> Attempt:
    """An entry of somebody in a test, as the address keeps it."""
    with transaction.atomic():
        taken = one_test_in_turn(staff, activity_id)
        return actions.record_attempt(staff, taken, **entry)
