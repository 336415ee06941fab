"""Signing files of games, and checking them: Ed25519 (RFC 8032) over canonical JSON (RFC 8785).

A signature says that a file is as its sender made it, not who the sender is: that is for two people
to compare, by the eight check digits of a key.
"""

from __future__ import annotations

import base64
import binascii
import hashlib
from typing import Any

import rfc8785
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey

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


def signed(body: dict[str, Any], key: GamesKey) -> dict[str, Any]:
    """A file: the body, by whom it is signed, and the signature."""
    private = Ed25519PrivateKey.from_private_bytes(base64.b64decode(key.private))
    signature = _text(private.sign(rfc8785.dumps(body)))
    return {"body": body, "signed_by": key.public, "signature": signature}


def is_as_signed(body: Any, signed_by: str, signature: str) -> bool:
    """Whether this very body was signed with that key."""
    try:
        public = Ed25519PublicKey.from_public_bytes(base64.b64decode(signed_by, validate=True))
        public.verify(base64.b64decode(signature, validate=True), rfc8785.dumps(body))
    except (InvalidSignature, ValueError, binascii.Error, rfc8785.CanonicalizationError):
        return False
    return True


def digest(body: Any) -> str:
    """What a body is known by: SHA-256 of its canonical form, in hexadecimal."""
    return hashlib.sha256(rfc8785.dumps(body)).hexdigest()


def check_digits(public: str) -> str:
    """Eight digits of a key, to be read out and compared: "4821 0937"."""
    number = int.from_bytes(hashlib.sha256(public.encode()).digest()[:8], "big") % 10**8
    return f"{number // 10_000:04d} {number % 10_000:04d}"


def _text(raw: bytes) -> str:
    return base64.b64encode(raw).decode()
