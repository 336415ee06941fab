"""The two files of games between schools, open JSON: what is asked, and what a school answers.

`docs/formats/games.schema.json` is the JSON Schema of both, written from here.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any, Final, Generic, Literal, TypeVar
from uuid import UUID

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    ConfigDict,
    Field,
    ValidationError,
    model_validator,
)

from lauf.errors import Refused
from lauf.exchange.games.signing import is_as_signed
from lauf.messages import say
from lauf.plain_json import JsonObject
from lauf.rules.contests.games import FEWEST, MOST_POINTS
from lauf.rules.reading.clocks import EARLIEST, LATEST, can_be_counted_with
from lauf.sandbox.run import read_apart

#: Grows when a file of before could no longer be read.
FORMAT: Final = 1
#: Longer than any file of games.
LONGEST: Final = 400_000
Word = Annotated[str, Field(min_length=1, max_length=60)]
Age = Annotated[int, Field(ge=3, le=19)]
Count = Annotated[int, Field(ge=0, le=20_000)]
Value = Annotated[int, Field(ge=-(2**40), le=2**40)]
Rungs = Annotated[list[Count], Field(max_length=12)]


def _of_this_age(moment: datetime) -> datetime:
    if not can_be_counted_with(moment):
        raise ValueError(say("a time must be between 2000 and 2099"))
    return moment


class _Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=False)


class Band(_Strict):
    """Children of these completed years on the first day, both included."""

    name: Word
    from_age: Age
    to_age: Age


class RungOf(_Strict):
    """A rung: reached at the threshold, or only beyond it; in the unit of the test's kind."""

    name: Word
    threshold: Value
    beyond: bool = False


class LadderOf(_Strict):
    """The rungs of one age, from the lowest to the highest."""

    age: Age
    rungs: list[RungOf] = Field(max_length=12)


class TestOf(_Strict):
    """A test: `definition` are the fields of a protocol, as the catalogue has them."""

    code: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,80}$")]
    name: Annotated[str, Field(min_length=3, max_length=80)]
    family: Annotated[str, Field(min_length=1, max_length=20)]
    variant: Annotated[str, Field(max_length=20)] = ""
    definition: JsonObject
    ladders: list[LadderOf] = Field(max_length=20)


class PointsOf(_Strict):
    """What taking part in a test gives, and each rung up to the highest that was reached."""

    took_part: Annotated[int, Field(ge=0, le=MOST_POINTS)]
    a_rung: Annotated[int, Field(ge=0, le=MOST_POINTS)]


class GamesBody(_Strict):
    """What the organiser asks of every school."""

    kind: Literal["games"] = "games"
    format: Literal[1] = FORMAT
    key: UUID
    name: Word
    organiser: Annotated[str, Field(min_length=1, max_length=120)]
    starts_on: date
    ends_on: date
    # The last day on which a result is in time.
    closes_on: date
    bands: Annotated[list[Band], Field(min_length=1, max_length=6)]
    tests: Annotated[list[TestOf], Field(min_length=1, max_length=20)]
    points: PointsOf

    @model_validator(mode="after")
    def _fits_together(self) -> GamesBody:
        days = EARLIEST.date(), self.starts_on, self.ends_on, self.closes_on, LATEST.date()
        if list(days) != sorted(days):
            raise ValueError(
                say("the first day, the last day and the closing day must be in this order")
            )
        ages = [age for band in self.bands for age in range(band.from_age, band.to_age + 1)]
        if len(set(ages)) < len(ages) or any(b.from_age > b.to_age for b in self.bands):
            raise ValueError(say("every age must be in exactly one band"))
        if len({test.code for test in self.tests}) < len(self.tests):
            raise ValueError(say("every test must be there exactly once"))
        return self


class PartOf(_Strict):
    """A band by its place from 0, and a house by its name, "" for none."""

    band: Annotated[int, Field(ge=0, le=5)]
    house: Annotated[str, Field(max_length=60)] = ""


class CellOf(_Strict):
    """Sums of a group of children; never of fewer than five who took part."""

    parts: Annotated[list[PartOf], Field(min_length=1, max_length=200)]
    children: Annotated[int, Field(ge=FEWEST, le=20_000)]
    took_part: Annotated[int, Field(ge=FEWEST, le=20_000)]
    # How many have each rung as their highest.
    rungs: Rungs
    quartiles: tuple[Value, Value, Value] | None = None

    @model_validator(mode="after")
    def _adds_up(self) -> CellOf:
        if self.took_part > self.children or sum(self.rungs) > self.took_part:
            raise ValueError(say("a group cannot have more children on a rung than took part"))
        return self


class TestSums(_Strict):
    code: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,80}$")]
    cells: list[CellOf] = Field(max_length=200)


class ResultBody(_Strict):
    """What a school answers: sums alone."""

    kind: Literal["games result"] = "games result"
    format: Literal[1] = FORMAT
    key: UUID
    # SHA-256 of the canonical form of the games it is an answer to.
    games: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    school: Annotated[str, Field(min_length=1, max_length=120)]
    # Which of this school's answers: the highest counts.
    number: Annotated[int, Field(ge=1, le=1_000_000)]
    made_at: Annotated[AwareDatetime, AfterValidator(_of_this_age)]
    children: Count
    # In any test; 0 where they are fewer than five.
    took_part: Count
    tests: list[TestSums] = Field(max_length=20)

    @model_validator(mode="after")
    def _adds_up(self) -> ResultBody:
        for test in self.tests:
            if sum(cell.children for cell in test.cells) > self.children:
                raise ValueError(
                    say("the groups of a test cannot have more children than the school")
                )
            parts = [(p.band, p.house) for cell in test.cells for p in cell.parts]
            if len(set(parts)) < len(parts):
                raise ValueError(say("every group must be counted once"))
        if len({test.code for test in self.tests}) < len(self.tests):
            raise ValueError(say("every test must be there exactly once"))
        return self


class GamesFile(_Strict):
    """A file of games as it is sent."""

    body: GamesBody | ResultBody = Field(discriminator="kind")
    # Ed25519 public key and signature over the body in canonical form (RFC 8785), base64.
    signed_by: Annotated[str, Field(max_length=60)]
    signature: Annotated[str, Field(max_length=100)]


Body = TypeVar("Body", GamesBody, ResultBody)


@dataclass(frozen=True, slots=True)
class Opened(Generic[Body]):
    """A file that is as it was signed: the body, as it was signed, and by whom."""

    body: Body
    raw: JsonObject
    signed_by: str
    signature: str


class Altered(Refused):
    """The file is not as its sender signed it; `school` is whose it says it is, if it says so."""

    def __init__(self, words: str, school: str) -> None:
        super().__init__(words)
        self.school = school


def open_games(text: str) -> Opened[GamesBody]:
    """The organiser's file. Raises Altered, Exceeded, or Refused for what is no such file."""
    return _opened(text, GamesBody)


def open_result(text: str) -> Opened[ResultBody]:
    """A school's answer. Raises Altered, Exceeded, or Refused for what is no such file."""
    return _opened(text, ResultBody)


def _opened(text: str, body: type[Body]) -> Opened[Body]:
    """A file from outside is read in a process of its own; what that has found fit is as small and
    as plain as it says."""
    kind = body.model_fields["kind"].default
    if len(text) > LONGEST:
        raise Refused(
            say("This file is too large to be a games file. Choose {wanted}.", wanted=_WANTED[kind])
        )
    found = read_apart(looked_through, text.encode("utf-8", "surrogatepass"), kind=kind)
    if "altered" in found:
        raise Altered(found["altered"], found["school"])
    raw = found["body"]
    return Opened(body.model_validate(raw), raw, found["signed_by"], found["signature"])


_WANTED: Final = {
    "games": say("the games file that the organiser sent"),
    "games result": say("the result file that the school sent"),
}
_BODIES: Final[dict[str, type[GamesBody] | type[ResultBody]]] = {
    "games": GamesBody,
    "games result": ResultBody,
}


def looked_through(data: bytes, *, kind: str) -> JsonObject:
    """What runs in the process: a file that is as it was signed and fits its model, or `altered`
    with whose it says it is. Raises Refused."""
    wanted = _WANTED[kind]
    try:
        found = json.loads(data)
        # What the database can hold: no half of a sign, and no NUL.
        if "\\u0000" in json.dumps(found) or not json.dumps(found, ensure_ascii=False).encode():
            raise ValueError(say("holds a NUL"))
        raw, signed_by, signature = (found[name] for name in ("body", "signed_by", "signature"))
        stated_kind = raw["kind"]
    except (ValueError, KeyError, TypeError, RecursionError):
        raise Refused(say("This is not a games file. Choose {wanted}.", wanted=wanted)) from None
    if stated_kind != kind:
        raise Refused(
            say("This is a different kind of games file. Choose {wanted}.", wanted=wanted)
        )
    if not isinstance(signed_by, str) or not isinstance(signature, str):
        raise Refused(say("This is not a games file. Choose {wanted}.", wanted=wanted))
    if not is_as_signed(raw, signed_by, signature):
        words = say("This file was changed after it was signed. Ask for it again.")
        return {
            "altered": words,
            "school": str(raw.get("organiser") or raw.get("school") or "")[:120],
        }
    if raw.get("format") != FORMAT:
        raise Refused(say("This file was made by a newer version of Lauf. Update this Lauf first."))
    try:
        _BODIES[kind].model_validate(raw)
    except ValidationError as error:
        raise Refused(
            say("This file has a mistake: {fault_of}.", fault_of=fault_of(error))
        ) from None
    return {"body": raw, "signed_by": signed_by, "signature": signature}


def fault_of(error: ValidationError) -> str:
    """Where a file cannot be read first, and why."""
    first = error.errors()[0]
    return f"{'.'.join(str(part) for part in first['loc'])}: {first['msg']}"


def fits(body: ResultBody, games: Mapping[str, Any]) -> bool:
    """Whether a result has the tests, rungs and ages that the body of some games asks for."""
    rungs = {
        test["code"]: max((len(one["rungs"]) for one in test["ladders"]), default=0)
        for test in games["tests"]
    }
    return all(
        test.code in rungs
        and all(
            len(cell.rungs) == rungs[test.code]
            and all(part.band < len(games["bands"]) for part in cell.parts)
            for cell in test.cells
        )
        for test in body.tests
    )


def written(file: Mapping[str, Any]) -> str:
    """A file as it is sent."""
    return json.dumps(file, indent=1, ensure_ascii=False) + "\n"


def schema() -> str:
    """The JSON Schema of both files, as it is published."""
    made = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": say("Games between schools"),
        **GamesFile.model_json_schema(),
    }
    return json.dumps(made, indent=1, ensure_ascii=False) + "\n"
