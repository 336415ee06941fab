"""Who sees a private test and what was scored in it: the one rule that every read passes.

A private test measures a body. What was measured is for staff with the growth permission, on a
screen of their own: whatever others look at (the hall's wall, a projector) and whatever leaves as a
file is asked for as by `for_everybody`, who has no such permission.
"""

from __future__ import annotations

import copy
from typing import TypeVar

from django.db.models import Model, QuerySet

from lauf.catalogue.models import Test
from lauf.people.models import Staff
from lauf.people.permissions import May, may

_Kept = TypeVar("_Kept", bound=Model)


def sees(staff: Staff, test: Test) -> bool:
    """Whether this person may know what was scored in the test."""
    return not test.private or may(staff, May.SEE_GROWTH)


def seen(staff: Staff, rows: QuerySet[_Kept], test: str = "") -> QuerySet[_Kept]:
    """Those of the rows that this person may know; `test` is the way from a row to its test, as
    `protocol__test`."""
    if may(staff, May.SEE_GROWTH):
        return rows
    return rows.filter(**{f"{test}__private" if test else "private": False})


def for_everybody(staff: Staff) -> Staff:
    """The same person's scope for what others will look at: without any body measurement."""
    public = copy.copy(staff)
    public.may_see_growth = False
    return public
