"""What is kept of challenges, one module a noun."""

from lauf.challenges.models.games import (
    Games,
    GamesKey,
    GamesNote,
    GamesResult,
    GamesSchool,
    GamesTest,
)
from lauf.challenges.models.goes import ChallengeCode, Go, GoState, Slip
from lauf.challenges.models.weeks import Challenge, ChallengeWeek, Point

__all__ = [
    "Challenge",
    "ChallengeCode",
    "ChallengeWeek",
    "Games",
    "GamesKey",
    "GamesNote",
    "GamesResult",
    "GamesSchool",
    "GamesTest",
    "Go",
    "GoState",
    "Point",
    "Slip",
]
