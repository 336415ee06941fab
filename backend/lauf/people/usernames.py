"""User names: one for each spelling that reads the same, whatever its case or width."""

from __future__ import annotations

import unicodedata
from typing import Final

from django.db.models import Func
from django.db.models.functions import Lower

_NFKC: Final = "%(function)s(%(expressions)s, NFKC)"


def key_of(expression: object) -> Lower:
    """What a user name is found by, in SQL: in Unicode's compatibility form (NFKC) and small
    letters."""
    return Lower(Func(expression, function="normalize", template=_NFKC))


def written_plainly(username: str) -> str:
    """A user name as it is kept: in NFKC, without spaces at its ends."""
    return unicodedata.normalize("NFKC", username).strip()


def folded(username: str) -> str:
    """What guesses of a user name are counted by."""
    return written_plainly(username).casefold()
