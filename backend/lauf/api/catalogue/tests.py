"""Addresses of tests and their protocols."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from django.http import HttpRequest
from ninja import Field, Router, Status

from lauf.api.asker import asker
from lauf.api.shape import Schema
from lauf.api.shared import KitRow, Made, Named
from lauf.catalogue import actions, queries
from lauf.rules.judging.tries import Merge
from lauf.rules.planning.plan import EffortLevel, KitFor, Load, Place
from lauf.rules.reading.quantities import Better, Kind
from lauf.rules.reading.shuttle import Schedule

router = Router(tags=["catalogue"])


Word = Annotated[str, Field(max_length=240)]


Words = Annotated[list[Word], Field(max_length=20)]


Small = Annotated[int, Field(ge=0, le=32_000)]


Large = Annotated[int, Field(ge=-(2**31), le=2**31)]


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


class VariantEntry(Schema):
    code: str = Field(max_length=20)
    name: str = Field(max_length=40)
    key: str = Field(min_length=1, max_length=1)
    usual: bool = False


class KitItem(Schema):
    item: str = Field(min_length=1, max_length=60)
    each: float = Field(gt=0, le=100)
    of: KitFor


class Protocol(Schema):
    """How a test is done and scored; lengths in millimetres, times in milliseconds."""

    kind: Kind = Kind.COUNT
    better: Better = Better.UP
    unit: str = Field("reps", min_length=1, max_length=12)
    resolution: int = Field(1, ge=1, le=100_000)
    lowest: Large = 0
    highest: Large = 200
    cap: Large | None = None
    of: Annotated[int, Field(ge=1, le=1000)] | None = None
    schedule: Schedule | Literal[""] = ""
    target_mm: Annotated[int, Field(ge=1000, le=50_000_000)] | None = None
    seconds: Annotated[int, Field(ge=1, le=7200)] | None = None
    waves: int = Field(1, ge=1, le=8)
    tries: int = Field(1, ge=1, le=10)
    merge: Merge = Merge.BEST
    conditions: dict[str, int | str] = Field(default_factory=dict, max_length=6)
    most_a_second: Annotated[float, Field(gt=0, le=20)] | None = None
    default_typical_error: float = Field(2.0, gt=0, le=1e7)
    error_share: Annotated[float, Field(gt=0, lt=1)] | None = None
    errors_by_age: list[tuple[int, float]] = Field(default_factory=list, max_length=12)
    bounds_by_age: list[tuple[int, int, int]] = Field(default_factory=list, max_length=12)
    variants: list[VariantEntry] = Field(default_factory=list, max_length=8)
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
    places: list[Place] = Field(default_factory=lambda: [Place.HALL], max_length=3)
    setup_seconds: Small = 60
    trial_seconds: Small = 60
    changeover_seconds: Small = 20
    at_once: Annotated[int, Field(ge=1, le=200)] | None = None
    helpers: Annotated[int, Field(ge=0, le=20)] = 0
    from_age: int = Field(4, ge=3, le=19)
    to_age: int = Field(11, ge=3, le=19)
    loads: list[Load] = Field(default_factory=list, max_length=9)
    effort: EffortLevel = EffortLevel.HIGH


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
    # What may no longer fit beside a new clock.
    questions: list[str]


@router.get("/catalogue", response=CataloguePage)
def get_catalogue(request: HttpRequest) -> dict[str, Any]:
    return queries.catalogue_page(asker(request))


class TestChoice(Named):
    """A test to choose, with what its newest protocol measures."""

    kind: Kind
    # How long its clock runs, where it has one.
    seconds: int | None
    variants: list[VariantEntry]
    # Whether it is run on a course of some length.
    course: bool
    # A count of movements that are called.
    called: bool


@router.get("/tests", response=list[TestChoice])
def list_tests(request: HttpRequest) -> list[dict[str, Any]]:
    return queries.test_list(asker(request))


@router.get("/tests/{test_id}", response=ProtocolCard)
def get_test(request: HttpRequest, test_id: UUID, children: int = 28) -> dict[str, Any]:
    return queries.protocol_card(asker(request), test_id, min(60, max(1, children)))


@router.post("/tests", response={201: Made})
def make_test(request: HttpRequest, new: NewTest) -> Any:
    version = actions.make_test(asker(request), **new.model_dump())
    return Status(201, {"id": version.test_id})


@router.post("/tests/{test_id}/effects", response=Effects)
def preview_edit(request: HttpRequest, test_id: UUID, edit: Edit) -> dict[str, Any]:
    """What an edit would do to comparisons; nothing is kept."""
    return actions.preview_edit(asker(request), test_id, edit.protocol.model_dump())


@router.post("/tests/{test_id}/versions", response={201: ProtocolCard})
def edit_protocol(request: HttpRequest, test_id: UUID, edit: Edit) -> Any:
    staff, given = asker(request), edit.model_dump()
    actions.edit_protocol(staff, test_id, changes=given.pop("protocol"), **given)
    return Status(201, queries.protocol_card(staff, test_id))
