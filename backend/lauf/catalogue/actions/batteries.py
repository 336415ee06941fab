"""Writes of batteries and courses."""

from __future__ import annotations

from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.models import Battery, BatteryTest
from lauf.catalogue.queries import test_of
from lauf.errors import Refused
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import May, demand


@transaction.atomic
def make_battery(staff: Staff, name: str, test_ids: list[UUID]) -> Battery:
    """A named set of tests in order. Raises Denied, NotFound or Refused."""
    demand(staff, May.EDIT_TESTS)
    if not 3 <= len(name.strip()) <= 80:
        raise Refused(say("Give the battery a name of 3 to 80 letters."))
    if not 1 <= len(set(test_ids)) <= 16 or len(set(test_ids)) != len(test_ids):
        raise Refused(say("A battery has 1 to 16 different tests."))
    tests = [test_of(staff, test_id) for test_id in test_ids]
    try:
        with transaction.atomic():
            battery = Battery.objects.create(school_id=staff.school_id, name=name.strip())
    except IntegrityError as error:
        raise Refused(say("A battery already has that name.")) from error
    BatteryTest.objects.bulk_create(
        BatteryTest(battery=battery, test=test, position=place) for place, test in enumerate(tests)
    )
    log(staff, Change.What.BATTERY, say("Battery {name} created", name=battery.name), battery.id)
    return battery
