"""Files of games between schools: what stands in them, signed so that a change shows."""

from lauf.exchange.games.files import (
    GamesBody,
    Opened,
    ResultBody,
    open_games,
    open_result,
    schema,
    written,
)
from lauf.exchange.games.signing import check_digits, digest, key_from, key_of, signed

__all__ = [
    "GamesBody",
    "Opened",
    "ResultBody",
    "check_digits",
    "digest",
    "key_from",
    "key_of",
    "open_games",
    "open_result",
    "schema",
    "signed",
    "written",
]
