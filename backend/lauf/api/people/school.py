"""Routes for the school itself: what the head of PE sets, who signs in, the log, moving up."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Field, Router

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.people import actions, queries
from lauf.people.queries.school import (
    HouseEntry,
    SchemeEntry,
    SchoolSettings,
    TermEntry,
    YearGroupEntry,
)

router = Router(tags=["school"])


class SchemeChoice(Schema):
    """The school's scheme, or that it wants none."""

    scheme: SchemeEntry | None


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
def get_school(request: HttpRequest) -> SchoolSettings:
    return queries.school_settings(signed_in_staff(request))


@router.put("/school/scheme", response=SchoolSettings)
def set_scheme(request: HttpRequest, choice: SchemeChoice) -> SchoolSettings:
    """How rungs become one statement over several tests; off at first."""
    staff = signed_in_staff(request)
    actions.set_scheme(staff, choice.scheme)
    return queries.school_settings(staff)


@router.put("/school/idle", response=SchoolSettings)
def set_idle(request: HttpRequest, idle: IdleDays) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.set_idle(staff, **idle.model_dump())
    return queries.school_settings(staff)


@router.put("/school/units", response=SchoolSettings)
def set_units(request: HttpRequest, units: Units) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.set_units(staff, imperial=units.imperial)
    return queries.school_settings(staff)


@router.put("/school/details", response=SchoolSettings)
def set_details(request: HttpRequest, details: SchoolDetails) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.set_details(staff, **details.model_dump())
    return queries.school_settings(staff)


@router.put("/school/year-groups", response=SchoolSettings)
def set_year_groups(request: HttpRequest, entry: YearGroupList) -> SchoolSettings:
    """All of them, from the youngest on."""
    staff = signed_in_staff(request)
    actions.set_year_groups(staff, [(one.get("id"), one["name"], one["age"]) for one in entry.rows])
    return queries.school_settings(staff)


@router.put("/school/houses", response=SchoolSettings)
def set_houses(request: HttpRequest, entry: HouseList) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.set_houses(staff, [(one.get("id"), one["name"]) for one in entry.rows])
    return queries.school_settings(staff)


@router.put("/school/terms", response=SchoolSettings)
def set_terms(request: HttpRequest, entry: TermList) -> SchoolSettings:
    staff = signed_in_staff(request)
    rows = [(one["kind"].value, one["name"], one["starts"], one["ends"]) for one in entry.rows]
    actions.set_terms(staff, rows)
    return queries.school_settings(staff)


@router.put("/school/keeping", response=SchoolSettings)
def set_keeping(request: HttpRequest, keeping: Keeping) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.set_keeping(staff, **keeping.model_dump())
    return queries.school_settings(staff)


@router.put("/school/second-factor", response=SchoolSettings)
def require_second_factor(request: HttpRequest, rule: FactorRule) -> SchoolSettings:
    staff = signed_in_staff(request)
    actions.require_second_factor(staff, required=rule.required)
    return queries.school_settings(staff)
