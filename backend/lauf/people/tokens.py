"""What proves a secret that was handed out, without being it: links, codes on paper, addresses."""

from __future__ import annotations

import hashlib
import secrets
from typing import Final

#: Letters and digits that are not taken for each other, in capitals: for codes that are read out.
SIGNS: Final = "ABCDEFGHJKMNPQRSTUVWXYZ23456789"


def new_code(length: int) -> str:
    """A code of so many signs, by chance."""
    return "".join(secrets.choice(SIGNS) for _ in range(length))


def token_hash(secret: str) -> str:
    """SHA-256 of a secret that nobody can guess, as 64 letters: what is kept of it."""
    return hashlib.sha256(secret.encode()).hexdigest()
