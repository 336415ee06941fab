"""The route for the warm-up game."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Field, Query, Router

from lauf.api.shape import Schema
from lauf.rules.contests.board_game import ACROSS, LARGEST_NUMBER, MINUTES, Space, make_board
from lauf.rules.planning.demands import Load
from lauf.rules.reading.rounding import places

router = Router(tags=["challenges"])


class GameSquare(Schema):
    """A square from 1 on; `to` is its own place for most, further for a climb, back for a slide."""

    place: int
    words: str
    load: Load | None
    to: int


class Game(Schema):
    """A board; the same number, age, space and spared loads make it again. `throws` is what one
    counter needs on average."""

    number: int
    age: int
    space: Space
    spare: list[Load]
    across: int
    minutes: int
    throws: float
    squares: list[GameSquare]


class GameWish(Schema):
    number: Annotated[int, Field(ge=1, le=LARGEST_NUMBER)]
    age: Annotated[int, Field(ge=4, le=12)] = 8
    space: Space = Space.FLOOR
    # Loads of what follows, kept fresh.
    spare: list[Load] = Field(default_factory=list, max_length=9)


@router.get("/warm-up", response=Game)
def get_game(request: HttpRequest, wish: Query[GameWish]) -> Game:
    """The board of a number."""
    board = make_board(wish.number, wish.age, wish.space, wish.spare)
    return Game(
        **wish.model_dump(),
        across=ACROSS,
        minutes=MINUTES,
        throws=places(board.throws, 1),
        squares=[
            GameSquare(place=one.place, words=one.words, load=one.load, to=one.to)
            for one in board.squares
        ],
    )
