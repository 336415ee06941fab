"""A protocol as it is edited, copied, sent in a games file and read again: one shape."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from lauf.catalogue.models import ProtocolVersion
from lauf.rules.contests.sets import most_in_seconds, names_a_time, words_in_seconds
from lauf.rules.judging.tries import Merge
from lauf.rules.planning.demands import EffortLevel, Load, Place
from lauf.rules.planning.plan import KitFor
from lauf.rules.reading.quantities import Better, Kind
from lauf.rules.reading.shuttle import Schedule

Word = Annotated[str, Field(max_length=240)]
Words = Annotated[list[Word], Field(max_length=20)]
Small = Annotated[int, Field(ge=0, le=32_000)]
Large = Annotated[int, Field(ge=-(2**31), le=2**31)]


class VariantEntry(BaseModel):
    """A form of a test; `key` is typed for it, `usual` is what a child does who has not been
    tested yet."""

    model_config = ConfigDict(from_attributes=True)

    code: str = Field(max_length=20)
    name: str = Field(max_length=40)
    key: str = Field(min_length=1, max_length=1)
    usual: bool = False


class KitItem(BaseModel):
    """An item of kit: so many each child, pair, group or class."""

    model_config = ConfigDict(from_attributes=True)

    item: str = Field(min_length=1, max_length=60)
    each: float = Field(gt=0, le=100)
    of: KitFor


class Protocol(BaseModel):
    """How a test is done and scored; lengths in millimetres, times in milliseconds."""

    model_config = ConfigDict(from_attributes=True)

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

    def kept(self) -> dict[str, object]:
        """The values of the version's fields, as they are kept."""
        return self.model_dump(mode="json")

    def differs(self, version: ProtocolVersion) -> list[str]:
        """The names of the fields in which a version is otherwise."""
        before = Protocol.model_validate(version).kept()
        return [name for name, value in self.kept().items() if value != before[name]]

    def in_seconds(self, seconds: int) -> Protocol:
        """A count against a clock as it is against so many seconds: its words say the new clock,
        its most and the time a go takes follow. What is offered as easier or harder stays only
        where it names no time."""
        before = self.seconds or seconds

        def in_new_duration(text: str) -> str:
            return words_in_seconds(text, before, seconds)

        return self.model_copy(
            update={
                "seconds": seconds,
                "say": [in_new_duration(line) for line in self.say],
                "counts": [in_new_duration(line) for line in self.counts],
                "does_not_count": [in_new_duration(line) for line in self.does_not_count],
                "ends": in_new_duration(self.ends),
                "easier": "" if names_a_time(self.easier) else self.easier,
                "harder": "" if names_a_time(self.harder) else self.harder,
                # A test's own maximum is its own whatever the clock.
                "highest": max(most_in_seconds(self.highest, before, seconds), self.cap or 0),
                "trial_seconds": max(seconds, self.trial_seconds + seconds - before),
            }
        )
