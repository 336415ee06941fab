"""Addresses about the school itself: what the head of PE sets, who signs in, the log, moving up."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

import segno
from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status

from lauf.api.asker import asker
from lauf.api.mail import mailed_link
from lauf.api.shape import Schema
from lauf.api.shared import Day, Named
from lauf.people import actions, queries
from lauf.people import models as kept
from lauf.people.permissions import Rights

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


class StaffEntry(Schema):
    """Somebody who signs in, and what they may."""

    name: str = Field(max_length=200)
    role: kept.Staff.Role
    class_ids: list[UUID] = Field(default_factory=list, max_length=200)
    email: str = Field("", max_length=200)
    may_edit_tests: bool = True
    may_see_growth: bool = False
    may_see_school: bool = False

    def words(self) -> dict[str, Any]:
        """As the actions take it."""
        given = self.model_dump()
        rights = Rights(*(given.pop(name) for name in Rights._fields))
        return {**given, "rights": rights}


class NewStaff(StaffEntry):
    username: str = Field(max_length=200)


class StaffChange(StaffEntry):
    is_active: bool


class StaffLink(Schema):
    """A link that lets somebody set their own password, once; it is shown this one time. `qr` is a
    picture of it (data URI)."""

    name: str
    path: str
    qr: str
    until: datetime
    # Where it was sent to by mail; empty: nowhere.
    mailed_to: str = ""


def _link(request: HttpRequest, person: kept.Staff, token: str) -> dict[str, Any]:
    # Behind the sign "#" it reaches no server's log.
    path = f"/welcome#{token}"
    picture = segno.make(request.build_absolute_uri("/")[:-1] + path, error="m")
    return {
        "name": person.name,
        "path": path,
        "qr": picture.svg_data_uri(scale=6, border=2),
        "until": person.invitation.expires_at,
        "mailed_to": mailed_link(person, request.build_absolute_uri("/")[:-1] + path),
    }


@router.post("/staff", response={201: StaffLink})
def invite(request: HttpRequest, new: NewStaff) -> Any:
    """Let somebody into the school: the answer is the link to hand over."""
    person, token = actions.invite(asker(request), **new.words())
    return Status(201, _link(request, person, token))


@router.post("/staff/{staff_id}/link", response=StaffLink)
def link_anew(request: HttpRequest, staff_id: UUID) -> dict[str, Any]:
    """A new link, for the first or for a lost password; the one before is worth nothing."""
    person, token = actions.link_anew(asker(request), staff_id)
    return _link(request, person, token)


@router.put("/staff/{staff_id}", response=SchoolSettings)
def change_staff(request: HttpRequest, staff_id: UUID, change: StaffChange) -> dict[str, Any]:
    staff = asker(request)
    actions.change_staff(staff, staff_id, **change.words())
    return queries.school_settings(staff)


class ChangeRow(Schema):
    """One line of the school's log: who changed what."""

    id: int
    at: datetime
    by: str
    what: str
    words: str


@router.get("/log", response=list[ChangeRow])
def get_log(
    request: HttpRequest, before: int | None = None, sensitive: bool = False
) -> list[dict[str, Any]]:
    """The newest lines of the log, or those before a line; all, or of sensitive things alone."""
    return queries.change_log(asker(request), before, sensitive=sensitive)


class MovingPupil(Schema):
    id: UUID
    name: str


class MovingClass(Schema):
    """Where a class would go; without a year group after its own, its children leave."""

    id: UUID
    name: str
    year_group: str
    to_name: str
    to_year_group_id: UUID | None
    pupils: list[MovingPupil]


class MoveUpPreview(Schema):
    year_groups: list[Named]
    classes: list[MovingClass]
    # When the school moved up last, and whether that can still be taken back.
    last: datetime | None
    undoable: bool


class ClassMoveEntry(Schema):
    class_id: UUID
    name: str = Field("", max_length=100)
    year_group_id: UUID | None


class NewClassEntry(Schema):
    name: str = Field(max_length=100)
    year_group_id: UUID


class MoveException(Schema):
    """A child that does not go with its class: into another, or (None) it leaves."""

    pupil_id: UUID
    class_id: UUID | None


class MoveUpEntry(Schema):
    moves: list[ClassMoveEntry] = Field(max_length=100)
    exceptions: list[MoveException] = Field(default_factory=list, max_length=500)
    new: list[NewClassEntry] = Field(default_factory=list, max_length=30)
    sure: bool = False


@router.get("/school/move-up", response=MoveUpPreview)
def move_up_preview(request: HttpRequest) -> dict[str, Any]:
    return queries.move_up_preview(asker(request))


@router.post("/school/move-up", response=MoveUpPreview)
def move_up(request: HttpRequest, entry: MoveUpEntry) -> dict[str, Any]:
    """The whole school goes up a year."""
    staff = asker(request)
    actions.move_up(
        staff,
        [actions.ClassMove(one.class_id, one.name, one.year_group_id) for one in entry.moves],
        exceptions={one.pupil_id: one.class_id for one in entry.exceptions},
        new=[actions.NewClass(one.name, one.year_group_id) for one in entry.new],
        now=timezone.now(),
        sure=entry.sure,
    )
    return queries.move_up_preview(staff)


@router.delete("/school/move-up", response=MoveUpPreview)
def undo_move_up(request: HttpRequest) -> dict[str, Any]:
    """Back to where everybody was, until the first score of the new year."""
    staff = asker(request)
    actions.undo_move_up(staff)
    return queries.move_up_preview(staff)
