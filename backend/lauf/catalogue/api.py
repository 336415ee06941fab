"""Addresses about tests, benchmarks, batteries and courses."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from lauf.catalogue import actions, courses, queries
from lauf.people.asker import asker
from lauf.people.queries import Refused

router = Router(tags=["catalogue"])

Word = Annotated[str, Field(max_length=240)]
Words = Annotated[list[Word], Field(max_length=20)]
Small = Annotated[int, Field(ge=0, le=32_000)]
Large = Annotated[int, Field(ge=-(2**31), le=2**31)]


class Named(Schema):
    id: UUID
    name: str


class Family(Schema):
    code: str
    words: str


class TestCard(Schema):
    id: UUID
    name: str
    family: str
    ready: bool
    kind: str
    seconds: int | None
    from_age: int
    to_age: int
    minutes: int
    places: list[str]
    loads: list[str]
    effort: str
    kit: list[str]
    version: int


class CataloguePage(Schema):
    families: list[Family]
    may_edit: bool
    tests: list[TestCard]


class Variant(Schema):
    code: str = Field(max_length=20)
    name: str = Field(max_length=40)
    key: str = Field(min_length=1, max_length=1)


class KitItem(Schema):
    item: str = Field(min_length=1, max_length=60)
    each: float = Field(gt=0, le=100)
    of: Literal["child", "pair", "group", "class"]


Kind = Literal[
    "count", "time", "length", "marks", "offset", "sides", "hits", "stage", "laps", "total",
    "mass", "pulse",
]  # fmt: skip


Place = Literal["hall", "playground", "grass"]
HALL: Place = "hall"


class Protocol(Schema):
    """How a test is done and scored; lengths in millimetres, times in milliseconds."""

    kind: Kind = "count"
    better: Literal["up", "down"] = "up"
    unit: str = Field("reps", min_length=1, max_length=12)
    resolution: int = Field(1, ge=1, le=100_000)
    lowest: Large = 0
    highest: Large = 200
    cap: Large | None = None
    of: Annotated[int, Field(ge=1, le=1000)] | None = None
    schedule: Literal["", "even", "jump"] = ""
    target_mm: Annotated[int, Field(ge=1000, le=50_000_000)] | None = None
    seconds: Annotated[int, Field(ge=1, le=7200)] | None = None
    waves: int = Field(1, ge=1, le=8)
    tries: int = Field(1, ge=1, le=10)
    merge: Literal["best", "last", "mean", "sum"] = "best"
    conditions: dict[str, int | str] = Field(default_factory=dict, max_length=6)
    most_a_second: Annotated[float, Field(gt=0, le=20)] | None = None
    default_typical_error: float = Field(2.0, gt=0, le=1e7)
    variants: list[Variant] = Field(default_factory=list, max_length=8)
    say: Words = Field(default_factory=list)
    counts: Words = Field(default_factory=list)
    does_not_count: Words = Field(default_factory=list)
    cautions: Words = Field(default_factory=list)
    easier: Word = ""
    harder: Word = ""
    ends: Word = ""
    counted_by: str = Field("", max_length=60)
    kit: list[KitItem] = Field(default_factory=list, max_length=12)
    space: str = Field("", max_length=120)
    places: list[Place] = Field(default_factory=lambda: [HALL], max_length=3)
    setup_seconds: Small = 60
    trial_seconds: Small = 60
    changeover_seconds: Small = 20
    at_once: Annotated[int, Field(ge=1, le=200)] | None = None
    helpers: Annotated[int, Field(ge=0, le=20)] = 0
    from_age: int = Field(4, ge=3, le=19)
    to_age: int = Field(11, ge=3, le=19)
    loads: list[Annotated[str, Field(max_length=20)]] = Field(default_factory=list, max_length=9)
    effort: Literal["rest", "low", "high", "maximal"] = "high"


class KitRow(Schema):
    item: str
    number: int


class VersionRow(Schema):
    number: int
    changed: str
    meaning: int


class ProtocolCard(Schema):
    id: UUID
    name: str
    family: str
    family_words: str
    ready: bool
    private: bool
    may_edit: bool
    version: int
    used: bool
    protocol: Protocol
    cap_shown: str | None
    accepted: str
    kit_for_class: list[KitRow]
    children: int
    minutes: int
    versions: list[VersionRow]


class NewTest(Schema):
    name: str = Field(max_length=200)
    family: str = Field("", max_length=20)
    copy_of: UUID | None = None
    protocol: Protocol


class Edit(Schema):
    """The whole protocol as it should be; what differs from version `based_on` is the change."""

    based_on: int
    why: str = Field("", max_length=240)
    protocol: Protocol


class Effects(Schema):
    changed: list[str]
    effects: list[str]


class Made(Schema):
    id: UUID


@router.get("/catalogue", response=CataloguePage)
def get_catalogue(request: HttpRequest) -> dict[str, Any]:
    return queries.catalogue_page(asker(request))


class TestChoice(Named):
    """A test to choose, with what its newest protocol measures."""

    kind: str
    variants: list[Variant]


@router.get("/tests", response=list[TestChoice])
def list_tests(request: HttpRequest) -> list[dict[str, Any]]:
    return queries.test_list(asker(request))


@router.get("/tests/{test_id}", response=ProtocolCard)
def get_test(request: HttpRequest, test_id: UUID, children: int = 28) -> dict[str, Any]:
    return queries.protocol_card(asker(request), test_id, min(60, max(1, children)))


@router.post("/tests", response={201: Made})
def make_test(request: HttpRequest, new: NewTest) -> Any:
    version = actions.make_test(asker(request), **new.dict())
    return Status(201, {"id": version.test_id})


@router.post("/tests/{test_id}/effects", response=Effects)
def preview_edit(request: HttpRequest, test_id: UUID, edit: Edit) -> dict[str, Any]:
    """What an edit would do to comparisons; nothing is kept."""
    return actions.preview_edit(asker(request), test_id, edit.protocol.dict())


@router.post("/tests/{test_id}/versions", response={201: ProtocolCard})
def edit_protocol(request: HttpRequest, test_id: UUID, edit: Edit) -> Any:
    staff, given = asker(request), edit.dict()
    actions.edit_protocol(staff, test_id, changes=given.pop("protocol"), **given)
    return Status(201, queries.protocol_card(staff, test_id))


# Ladders


class RungEntry(Schema):
    name: str = Field("", max_length=80)
    at: str = Field(max_length=60)
    beyond: bool = False


class LadderEntry(Schema):
    """A ladder as typed: for a year group or for ages, perhaps one sex."""

    year_group_id: UUID | None = None
    ages: tuple[int, int] | None = None
    sex: Literal["", "female", "male"] = ""
    variant: str = Field("", max_length=20)
    source: str = Field("", max_length=120)
    rungs: list[RungEntry] = Field(max_length=20)


class Copies(Schema):
    year_group_ids: list[UUID] = Field(max_length=30)


@router.post("/tests/{test_id}/ladders", response={201: Made})
def make_ladder(request: HttpRequest, test_id: UUID, entry: LadderEntry) -> Any:
    made = actions.save_ladder(asker(request), test_id, ladder_id=None, **entry.dict())
    return Status(201, made)


@router.put("/tests/{test_id}/ladders/{ladder_id}", response=Made)
def change_ladder(request: HttpRequest, test_id: UUID, ladder_id: UUID, entry: LadderEntry) -> Any:
    return actions.save_ladder(asker(request), test_id, ladder_id=ladder_id, **entry.dict())


@router.delete("/ladders/{ladder_id}", response={204: None})
def delete_ladder(request: HttpRequest, ladder_id: UUID) -> Any:
    actions.delete_ladder(asker(request), ladder_id)
    return Status(204, None)


@router.post("/ladders/{ladder_id}/copy", response=list[Made])
def copy_ladder(request: HttpRequest, ladder_id: UUID, copies: Copies) -> Any:
    return actions.copy_ladder(asker(request), ladder_id, copies.year_group_ids)


# Norm tables


class NormFile(Schema):
    """A table from a file, and where it comes from."""

    text: str = Field(max_length=500_000)
    unit: str = Field("", max_length=12)
    at_points: bool = False
    name: str = Field("", max_length=120)
    source: str = Field("", max_length=240)
    population: str = Field("", max_length=120)
    year: int = Field(2000, ge=1850, le=2100)
    standing: str = Field("", max_length=240)
    variant: str = Field("", max_length=20)


class FaultRow(Schema):
    row: int
    column: str
    words: str


class PreviewRow(Schema):
    sex: str
    age: float
    cells: list[float]


class NormPreview(Schema):
    form: str
    columns: list[str]
    rows: list[PreviewRow]
    faults: list[FaultRow]


@router.post("/tests/{test_id}/norms/preview", response=NormPreview)
def preview_norm(request: HttpRequest, test_id: UUID, file: NormFile) -> dict[str, Any]:
    """What a file holds and every fault by row and column; nothing is kept."""
    return queries.norm_preview(asker(request), test_id, file.text, at_points=file.at_points)


@router.post("/tests/{test_id}/norms", response={201: Made})
def import_norm(request: HttpRequest, test_id: UUID, file: NormFile) -> Any:
    return Status(201, actions.import_norm(asker(request), test_id, **file.dict()))


@router.delete("/norms/{norm_id}", response={204: None})
def delete_norm(request: HttpRequest, norm_id: UUID) -> Any:
    actions.delete_norm(asker(request), norm_id)
    return Status(204, None)


# Batteries


class BatteryRow(Schema):
    id: UUID
    name: str
    tests: list[Named]
    hidden: int


class NewBattery(Schema):
    name: str = Field(max_length=200)
    test_ids: list[UUID] = Field(max_length=40)


@router.get("/batteries", response=list[BatteryRow])
def list_batteries(request: HttpRequest) -> Any:
    return queries.battery_list(asker(request))


@router.post("/batteries", response={201: Made})
def make_battery(request: HttpRequest, new: NewBattery) -> Any:
    return Status(201, actions.make_battery(asker(request), new.name, new.test_ids))


# Courses and laps


class CourseRow(Schema):
    id: UUID
    name: str
    lap_mm: int
    steps: float | None
    step_mm: int | None


class CourseEntry(Schema):
    """A course by its lap as typed ("42m", "46 yd"), or by steps and the length of one."""

    name: str = Field(max_length=200)
    lap: str = Field("", max_length=40)
    steps: Annotated[float, Field(gt=0, le=20_000)] | None = None
    step_mm: Annotated[int, Field(ge=1, le=5000)] | None = None


class LapSum(Schema):
    """What to work out: a distance in laps; perhaps a time, or a try that was not finished."""

    distance: str = Field("1 mile", max_length=40)
    lap: str = Field("", max_length=40)
    steps: Annotated[float, Field(gt=0, le=20_000)] | None = None
    step_mm: Annotated[int, Field(ge=1, le=5000)] | None = None
    time: str = Field("", max_length=200)
    done: str = Field("", max_length=40)


class LapAnswer(Schema):
    lap_mm: int
    lap_shown: str
    distance_mm: int
    exact: str
    whole: int
    beyond: str
    finish_mm: int
    finish: str
    lap_words: str
    pace_km: str | None
    pace_mile: str | None
    halves: str | None
    splits: list[str]
    projected: str | None
    run: str | None


class StepSum(Schema):
    """Steps that were counted over a known distance."""

    known: str = Field(max_length=40)
    steps: float = Field(gt=0, le=20_000)


class StepAnswer(Schema):
    step_mm: int
    words: str


@router.get("/courses", response=list[CourseRow])
def list_courses(request: HttpRequest) -> Any:
    return queries.course_list(asker(request))


@router.post("/courses", response={201: Made})
def make_course(request: HttpRequest, entry: CourseEntry) -> Any:
    lap_mm = 0 if entry.steps else courses.read_metres(entry.lap, "lap")
    made = actions.save_course(
        asker(request), course_id=None, name=entry.name, lap_mm=lap_mm,
        steps=entry.steps, step_mm=entry.step_mm,
    )  # fmt: skip
    return Status(201, made)


@router.delete("/courses/{course_id}", response={204: None})
def delete_course(request: HttpRequest, course_id: UUID) -> Any:
    actions.delete_course(asker(request), course_id)
    return Status(204, None)


@router.post("/laps", response=LapAnswer)
def work_out_laps(request: HttpRequest, asked: LapSum) -> dict[str, Any]:
    """Laps for a distance on a course; nothing is kept."""
    return asdict(courses.lap_sum(**asked.dict()))


@router.post("/laps/step", response=StepAnswer)
def work_out_step(request: HttpRequest, asked: StepSum) -> dict[str, Any]:
    """How long a step is, from counting steps over a known distance; nothing is kept."""
    try:
        step = courses.step_from(asked.known, asked.steps)
    except ValueError as problem:
        raise Refused(str(problem)) from problem
    return {"step_mm": round(step), "words": f"{float(step) / 10:.1f} cm a step"}
