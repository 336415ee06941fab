"""Reads of batteries and courses."""

from __future__ import annotations

from uuid import UUID

from django.db.models import F, Max
from typing_extensions import TypedDict

from lauf.catalogue.models import Battery, Course, ProtocolVersion
from lauf.catalogue.queries.tests import tests_of
from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import owns
from lauf.people.shapes import Named


def battery_of(staff: Staff, battery_id: UUID) -> Battery:
    """One battery of the school. Raises NotFound. One query."""
    found = Battery.objects.filter(pk=battery_id, school_id=staff.school_id).first()
    if found is None:
        raise NotFound(say("battery"))
    return found


def course_of(staff: Staff, course_id: UUID) -> Course:
    """One course of the school. Raises NotFound. One query."""
    found = Course.objects.filter(pk=course_id, school_id=staff.school_id).first()
    if found is None:
        raise NotFound(say("course"))
    return found


class CourseRow(TypedDict):
    """A course of the school, its lap in millimetres, or by steps and the length of one."""

    id: UUID
    name: str
    lap_mm: int
    steps: float | None
    step_mm: int | None
    # Whether the asker may take it away.
    mine: bool


def course_list(staff: Staff) -> list[CourseRow]:
    """The school's courses. One query."""
    found = Course.objects.filter(school_id=staff.school_id)
    return [
        {
            "id": one.id,
            "name": one.name,
            "lap_mm": one.lap_mm,
            "steps": one.steps,
            "step_mm": one.step_mm,
            "mine": owns(staff, one.by_id),
        }
        for one in found
    ]


class BatteryRow(TypedDict):
    """A battery with its tests in order; `hidden` are private ones."""

    id: UUID
    name: str
    tests: list[Named]
    hidden: int


def battery_list(staff: Staff) -> list[BatteryRow]:
    """The school's batteries with their tests in order. Two queries."""
    shown = set(tests_of(staff).values_list("id", flat=True))
    batteries: dict[UUID, BatteryRow] = {}
    rows = Battery.objects.filter(school_id=staff.school_id).order_by("name", "places__position")
    for battery_id, name, test_id, test in rows.values_list(
        "id", "name", "places__test_id", "places__test__name"
    ):
        battery = batteries.setdefault(
            battery_id, {"id": battery_id, "name": name, "tests": [], "hidden": 0}
        )
        if test_id in shown:
            battery["tests"].append({"id": test_id, "name": test})
        elif test_id is not None:
            battery["hidden"] += 1
    return list(batteries.values())


def battery_protocols(battery: Battery) -> list[ProtocolVersion]:
    """The newest version of each test of a battery, in its order. One query."""
    versions = (
        ProtocolVersion.objects.filter(test__batterytest__battery=battery)
        .annotate(newest=Max("test__versions__number"), place=F("test__batterytest__position"))
        .filter(number=F("newest"))
    )
    return list(versions.order_by("place"))
