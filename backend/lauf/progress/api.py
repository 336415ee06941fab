"""Addresses of what progress reads, and of the scores whose answer is a judged lane."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Query, Router, Schema, Status
from pydantic import AwareDatetime

from lauf.catalogue.api import RungEntry
from lauf.people.asker import asker
from lauf.progress import batteries, benchmarks, groups, growth, pulses, queries, targets
from lauf.progress.schemas import (
    BatteryGrid,
    BenchmarksPage,
    CheckList,
    Child,
    ClassLanes,
    GroupProposal,
    GrowthRecord,
    LadderPreview,
    PulseChild,
    PulsePage,
    PupilRecord,
    SittingRow,
    TargetPage,
    Today,
)
from lauf.records import actions
from lauf.rules.pulse import Formula

router = Router(tags=["progress"])


class NewAttempt(Schema):
    """One entry as typed. The id is the device's own; the same id twice is stored once."""

    id: UUID
    pupil_id: UUID
    typed: str = Field("", max_length=200)
    variant: str = ""
    wave: int | None = None
    try_number: int = Field(1, ge=1, le=16)
    conditions: dict[str, int | str] = Field(default_factory=dict)
    recorded_at: AwareDatetime
    succeeds: UUID | None = None
    why: str = Field("", max_length=240)
    withdrawn: bool = False
    counted_by: UUID | None = None


class Confirmation(Schema):
    flag: str


@router.get("/today", response=Today)
def get_today(request: HttpRequest) -> dict[str, Any]:
    return queries.today_page(asker(request), timezone.now())


@router.get("/activities/{activity_id}/lanes", response=ClassLanes)
def get_lanes(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return queries.class_lanes(asker(request), activity_id)


@router.post("/activities/{activity_id}/attempts", response=Child)
def record_attempt(request: HttpRequest, activity_id: UUID, new: NewAttempt) -> dict[str, Any]:
    fields = new.dict()
    staff = asker(request)
    actions.record_attempt(staff, activity_id, attempt_id=fields.pop("id"), **fields)
    return queries.child_after(staff, activity_id, new.pupil_id)


@router.get("/activities/{activity_id}/check", response=CheckList)
def get_check(request: HttpRequest, activity_id: UUID) -> dict[str, Any]:
    return queries.check_list(asker(request), activity_id)


@router.post("/attempts/{attempt_id}/confirm", response=Child)
def confirm_flag(request: HttpRequest, attempt_id: UUID, body: Confirmation) -> dict[str, Any]:
    staff = asker(request)
    attempt = actions.confirm_flag(staff, attempt_id, body.flag).attempt
    return queries.child_after(staff, attempt.activity_id, attempt.pupil_id)


@router.get("/pupils/{pupil_id}", response=PupilRecord)
def get_pupil(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    return queries.pupil_record(asker(request), pupil_id, timezone.localdate())


# Benchmarks beside the school's own scores


class LadderDraft(Schema):
    """A ladder being made: ranges as printed, or rungs one by one."""

    year_group_id: UUID | None = None
    ages: tuple[int, int] | None = None
    sex: Literal["", "female", "male"] = ""
    variant: str = Field("", max_length=20)
    printed: str = Field("", max_length=400)
    rungs: list[RungEntry] = Field(default_factory=list, max_length=20)


@router.get("/tests/{test_id}/benchmarks", response=BenchmarksPage)
def get_benchmarks(request: HttpRequest, test_id: UUID) -> dict[str, Any]:
    return benchmarks.benchmarks_page(asker(request), test_id)


@router.post("/tests/{test_id}/ladder-preview", response=LadderPreview)
def preview_ladder(request: HttpRequest, test_id: UUID, draft: LadderDraft) -> dict[str, Any]:
    """What a ladder would say of last year's scores; nothing is kept."""
    today = timezone.localdate()
    return benchmarks.ladder_preview(asker(request), test_id, today=today, **draft.dict())


# Pulses


class NewPulse(Schema):
    """One pulse as counted: beats in `seconds` (60 for a rate that was read), or a reason."""

    id: UUID
    pupil_id: UUID
    position: int = Field(ge=0, le=60)
    moment: Literal["rest", "warm_up", "activity", "recovery"]
    label: str = Field("", max_length=80)
    waited: Annotated[int, Field(ge=0, le=3600)] | None = None
    typed: str = Field("", max_length=40)
    seconds: int
    recorded_at: AwareDatetime
    succeeds: UUID | None = None
    confirmed: bool = False
    withdrawn: bool = False


@router.get("/lessons/{lesson_id}/pulse", response=PulsePage)
def get_pulse(
    request: HttpRequest, lesson_id: UUID, formula: Formula = Formula.TANAKA
) -> dict[str, Any]:
    return pulses.pulse_page(asker(request), lesson_id, formula)


@router.post("/lessons/{lesson_id}/pulses", response=PulseChild)
def record_pulse(
    request: HttpRequest, lesson_id: UUID, new: NewPulse, formula: Formula = Formula.TANAKA
) -> dict[str, Any]:
    staff, fields = asker(request), new.dict()
    actions.record_pulse(staff, lesson_id, reading_id=fields.pop("id"), **fields)
    return pulses.pulse_child_after(staff, lesson_id, new.pupil_id, formula)


# Informal units


class NewCalibration(Schema):
    """So many hands or steps over a known distance, of a child or a class."""

    class_id: UUID | None = None
    pupil_id: UUID | None = None
    unit: str = Field(max_length=12)
    known: str = Field(max_length=40)
    counted: float = Field(gt=0, le=10_000)


class CalibrationRow(Schema):
    unit: str
    millimetres: float


@router.post("/calibrations", response={201: CalibrationRow})
def calibrate(request: HttpRequest, new: NewCalibration) -> Any:
    return Status(201, actions.calibrate(asker(request), **new.dict()))


# Growth


@router.get("/pupils/{pupil_id}/growth", response=GrowthRecord)
def get_growth(request: HttpRequest, pupil_id: UUID) -> dict[str, Any]:
    return growth.growth_record(asker(request), pupil_id)


# Batteries


@router.get("/sittings", response=list[SittingRow])
def list_sittings(request: HttpRequest) -> Any:
    return batteries.sittings(asker(request))


@router.get("/lessons/{lesson_id}/grid", response=BatteryGrid)
def get_grid(
    request: HttpRequest, lesson_id: UUID, compared_with: UUID | None = None
) -> dict[str, Any]:
    return batteries.battery_grid(asker(request), lesson_id, compared_with)


class GroupWish(Schema):
    how: groups.How
    number: int = 4
    seed: int = Field(1, ge=0, le=2**31)
    test_id: UUID | None = None


@router.post("/lessons/{lesson_id}/plan/groups", response=GroupProposal)
def propose_groups(request: HttpRequest, lesson_id: UUID, wish: GroupWish) -> dict[str, Any]:
    """Groups of the class for stations; nothing is kept."""
    return groups.propose_groups(asker(request), lesson_id, **wish.dict())


@router.get("/activities/{activity_id}/target", response=TargetPage)
def get_target(
    request: HttpRequest, activity_id: UUID, elapsed: Annotated[int, Query(ge=0, le=86_400)] = 0
) -> dict[str, Any]:
    """A rep target after so many seconds."""
    return targets.target_page(asker(request), activity_id, elapsed)
