"""What a school signs its files of games with."""

from __future__ import annotations

import base64

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

from lauf.challenges.models import GamesKey
from lauf.people.models import School


def key_of(school: School) -> GamesKey:
    """What a school signs with: made when it is first asked for. Two queries at most."""
    found = GamesKey.objects.filter(school=school).first()
    if found is not None:
        return found
    made = key_from(Ed25519PrivateKey.generate())
    held = {"private": made.private, "public": made.public}
    return GamesKey.objects.get_or_create(school=school, defaults=held)[0]


def key_from(private: Ed25519PrivateKey) -> GamesKey:
    """A key as it is kept, of nobody yet."""
    return GamesKey(
        private=_text(private.private_bytes_raw()),
        public=_text(private.public_key().public_bytes_raw()),
    )


def _text(raw: bytes) -> str:
    return base64.b64encode(raw).decode()
