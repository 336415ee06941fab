"""Addresses about the school itself: what the head of PE sets, who signs in, the log, moving up."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import Day
from lauf.people import actions, queries
from lauf.people import models as kept

router = Router(tags=["school"])


class StaffRow(Schema):
    id: UUID
    name: str
    username: str
    role: str
    email: str
    may_see_growth: bool
    may_edit_tests: bool
    may_see_school: bool
    is_active: bool
    second_factor: bool
    # Whether a password was set: somebody invited has none yet.
    has_password: bool
    # Until when a link lets in that was not used yet.
    link_until: datetime | None
    class_ids: list[UUID]


class YearGroupEntry(Schema):
    """A year group; `age` in completed years when the school year begins. None: a new one."""

    id: UUID | None = None
    name: str = Field(max_length=100)
    age: int


class HouseEntry(Schema):
    id: UUID | None = None
    name: str = Field(max_length=100)


class TermEntry(Schema):
    """A term or a holiday; both days included."""

    kind: kept.TermKind
    name: str = Field(max_length=100)
    starts: Day
    ends: Day


class YearGroupWay(Schema):
    """A way schools name their year groups."""

    name: str
    rows: list[YearGroupEntry]


class SchemeMark(Schema):
    """A mark or words, and the mean of points a test that it begins at, as a decimal."""

    begins: str = Field(pattern=r"^\d{1,3}(\.\d{1,2})?$")
    words: str = Field(min_length=1, max_length=60)


class SchemeEntry(Schema):
    """How rungs become one statement over several tests."""

    below: int
    points: list[int] = Field(max_length=20)
    marks: list[SchemeMark] = Field(max_length=20)
    fewest: int


class SchemeChoice(Schema):
    """The school's scheme, or that it wants none."""

    scheme: SchemeEntry | None


class SchoolSettings(Schema):
    ways: list[YearGroupWay]
    name: str
    cut_off_month: int
    cut_off_day: int
    imperial: bool
    second_factor_required: bool
    idle_days: int
    tablet_idle_days: int
    keep_years: int | None
    scores_outlive: bool
    scheme: SchemeEntry | None
    year_groups: list[YearGroupEntry]
    houses: list[HouseEntry]
    terms: list[TermEntry]
    staff: list[StaffRow]


class SchoolDetails(Schema):
    name: str = Field(max_length=200)
    cut_off_month: int
    cut_off_day: int


class YearGroupList(Schema):
    rows: list[YearGroupEntry] = Field(max_length=20)


class HouseList(Schema):
    rows: list[HouseEntry] = Field(max_length=20)


class TermList(Schema):
    rows: list[TermEntry] = Field(max_length=60)


class Keeping(Schema):
    """How long a leaver's record is kept, in years; None: nobody has said."""

    keep_years: int | None
    scores_outlive: bool


class FactorRule(Schema):
    required: bool


class IdleDays(Schema):
    """Days without use after which people are signed out."""

    idle_days: int
    tablet_idle_days: int


class Units(Schema):
    imperial: bool


@router.get("/school", response=SchoolSettings)
def get_school(request: HttpRequest) -> dict[str, Any]:
    return queries.school_settings(asker(request))


@router.put("/school/scheme", response=SchoolSettings)
def set_scheme(request: HttpRequest, choice: SchemeChoice) -> dict[str, Any]:
    """How rungs become one statement over several tests; off at first."""
    staff, kept = asker(request), {}
    if choice.scheme is not None:
        kept = choice.scheme.model_dump()
        kept["words"] = [[one["begins"], one["words"]] for one in kept.pop("marks")]
    actions.set_scheme(staff, kept)
    return queries.school_settings(staff)


@router.put("/school/idle", response=SchoolSettings)
def set_idle(request: HttpRequest, idle: IdleDays) -> dict[str, Any]:
    staff = asker(request)
    actions.set_idle(staff, **idle.model_dump())
    return queries.school_settings(staff)


@router.put("/school/units", response=SchoolSettings)
def set_units(request: HttpRequest, units: Units) -> dict[str, Any]:
    staff = asker(request)
    actions.set_units(staff, imperial=units.imperial)
    return queries.school_settings(staff)


@router.put("/school/details", response=SchoolSettings)
def set_details(request: HttpRequest, details: SchoolDetails) -> dict[str, Any]:
    staff = asker(request)
    actions.set_details(staff, **details.model_dump())
    return queries.school_settings(staff)


@router.put("/school/year-groups", response=SchoolSettings)
def set_year_groups(request: HttpRequest, entry: YearGroupList) -> dict[str, Any]:
    """All of them, from the youngest on."""
    staff = asker(request)
    actions.set_year_groups(staff, [(one.id, one.name, one.age) for one in entry.rows])
    return queries.school_settings(staff)


@router.put("/school/houses", response=SchoolSettings)
def set_houses(request: HttpRequest, entry: HouseList) -> dict[str, Any]:
    staff = asker(request)
    actions.set_houses(staff, [(one.id, one.name) for one in entry.rows])
    return queries.school_settings(staff)


@router.put("/school/terms", response=SchoolSettings)
def set_terms(request: HttpRequest, entry: TermList) -> dict[str, Any]:
    staff = asker(request)
    rows = [(one.kind.value, one.name, one.starts, one.ends) for one in entry.rows]
    actions.set_terms(staff, rows)
    return queries.school_settings(staff)


@router.put("/school/keeping", response=SchoolSettings)
def set_keeping(request: HttpRequest, keeping: Keeping) -> dict[str, Any]:
    staff = asker(request)
    actions.set_keeping(staff, **keeping.model_dump())
    return queries.school_settings(staff)


@router.put("/school/second-factor", response=SchoolSettings)
def require_second_factor(request: HttpRequest, rule: FactorRule) -> dict[str, Any]:
    staff = asker(request)
    actions.require_second_factor(staff, required=rule.required)
    return queries.school_settings(staff)
