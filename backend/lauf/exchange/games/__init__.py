"""Files of games between schools: what stands in them, signed so that a change shows."""

from lauf.exchange.games.files import (
    GamesBody,
    Opened,
    ResultBody,
    fits,
    open_games,
    open_result,
    schema,
    written,
)
from lauf.exchange.games.signing import check_digits, digest, signed

__all__ = [
    "GamesBody",
    "Opened",
    "ResultBody",
    "check_digits",
    "digest",
    "fits",
    "open_games",
    "open_result",
    "schema",
    "signed",
    "written",
]
