"""Routes for games between schools, and their files."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Router, Status
from pydantic import ValidationError

from lauf.api.authentication import signed_in_staff
from lauf.api.shape import Schema
from lauf.api.shared import Made
from lauf.catalogue.protocol import Protocol
from lauf.errors import Refused
from lauf.exchange import actions, queries
from lauf.exchange.games import GamesBody, Opened, open_games
from lauf.exchange.games.files import LONGEST, fault_of
from lauf.exchange.queries.games import GamesList, GamesPage, GamesSeen, GamesText
from lauf.messages import say
from lauf.people.shapes import Day
from lauf.rules.contests.games import MOST_POINTS

router = Router(tags=["challenges"])

Points = Annotated[int, Field(ge=0, le=MOST_POINTS)]


class BandEntry(Schema):
    """Children of these completed years on the first day, both included."""

    name: str = Field(min_length=1, max_length=60)
    from_age: int = Field(ge=3, le=19)
    to_age: int = Field(ge=3, le=19)


class NewGames(Schema):
    """The key is the device's own; the same key twice is made once."""

    key: UUID
    name: str = Field(min_length=1, max_length=60)
    starts_on: Day
    ends_on: Day
    closes_on: Day
    bands: list[BandEntry] = Field(min_length=1, max_length=6)
    test_ids: list[UUID] = Field(min_length=1, max_length=20)
    took_part: Points = 1
    a_rung: Points = 1
    open_here: bool = False


class SentFile(Schema):
    """A file as it was read, word for word."""

    text: str = Field(max_length=LONGEST)


class Taken(Schema):
    words: str
    page: GamesPage


class HandedIn(Schema):
    """A result as a file for the organiser, and the games as they stand then."""

    name: str
    text: str
    # The organiser is on this Lauf and has it.
    delivered: bool
    page: GamesPage


class Yes(Schema):
    yes: bool


@router.get("/games", response=GamesList)
def list_games(request: HttpRequest) -> GamesList:
    return queries.games_list(signed_in_staff(request))


@router.post("/games", response={201: Made})
def make_games(request: HttpRequest, given: NewGames) -> Any:
    return Status(
        201, actions.make_games(signed_in_staff(request), actions.GamesWish(**given.model_dump()))
    )


@router.post("/games/look", response=GamesSeen)
def look_at_games(request: HttpRequest, file: SentFile) -> GamesSeen:
    """What a games file asks, before it is joined; nothing is kept."""
    return queries.games_seen(signed_in_staff(request), open_games(file.text))


@router.post("/games/join", response={201: Made})
def join_games(request: HttpRequest, file: SentFile) -> Any:
    opened = open_games(file.text)
    return Status(201, actions.join_games(signed_in_staff(request), opened, _protocols(opened)))


def _protocols(opened: Opened[GamesBody]) -> list[Protocol]:
    """The tests of a file as the catalogue keeps them. Raises Refused."""
    try:
        return [Protocol.model_validate(one.definition) for one in opened.body.tests]
    except ValidationError as error:
        raise Refused(
            say("A test in this file has a mistake: {fault_of}.", fault_of=fault_of(error))
        ) from None


@router.get("/games/{games_id}", response=GamesPage)
def get_games(request: HttpRequest, games_id: UUID) -> GamesPage:
    return queries.games_page(signed_in_staff(request), games_id)


@router.post("/games/{games_id}/join", response={201: Made})
def join_games_here(request: HttpRequest, games_id: UUID) -> Any:
    """Join games that another school on this Lauf opens to all on it."""
    staff = signed_in_staff(request)
    opened = open_games(queries.open_file(staff, games_id))
    return Status(201, actions.join_games(staff, opened, _protocols(opened)))


@router.get("/games/{games_id}/file", response=GamesText)
def get_games_file(request: HttpRequest, games_id: UUID) -> GamesText:
    """The games as a file for other schools, as the organiser signed them."""
    return queries.games_text(signed_in_staff(request), games_id)


@router.post("/games/{games_id}/result", response=HandedIn)
def hand_in(request: HttpRequest, games_id: UUID) -> Any:
    """This school's result as it stands now, as a file for the organiser."""
    staff = signed_in_staff(request)
    games, text, delivered = actions.hand_in(staff, games_id, timezone.localdate())
    name = queries.file_name(
        games, say("result {handed_in} {name}", handed_in=games.handed_in, name=games.school.name)
    )
    page = queries.games_page(staff, games_id)
    return {"name": name, "text": text, "delivered": delivered, "page": page}


@router.post("/games/{games_id}/results", response=Taken)
def take_result(request: HttpRequest, games_id: UUID, file: SentFile) -> Any:
    staff = signed_in_staff(request)
    words = actions.take_result(staff, games_id, file.text)
    return {"words": words, "page": queries.games_page(staff, games_id)}


@router.put("/games/{games_id}/schools/{school_id}", response=GamesPage)
def know_school(request: HttpRequest, games_id: UUID, school_id: UUID, known: Yes) -> GamesPage:
    """Its check digits were compared: the school is the one it says."""
    staff = signed_in_staff(request)
    actions.know_school(staff, games_id, school_id, known=known.yes)
    return queries.games_page(staff, games_id)


@router.put("/games/{games_id}/results/{result_id}", response=GamesPage)
def let_in(request: HttpRequest, games_id: UUID, result_id: UUID, late: Yes) -> GamesPage:
    """Count a result although it came late."""
    staff = signed_in_staff(request)
    actions.let_in(staff, games_id, result_id, count=late.yes)
    return queries.games_page(staff, games_id)


@router.delete("/games/{games_id}/results/{result_id}", response=GamesPage)
def remove_result(request: HttpRequest, games_id: UUID, result_id: UUID) -> GamesPage:
    """Remove a result file, such as one that was sent by mistake."""
    staff = signed_in_staff(request)
    actions.remove_result(staff, games_id, result_id)
    return queries.games_page(staff, games_id)
