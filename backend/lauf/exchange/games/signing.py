"""Signing files of games, and checking them: Ed25519 (RFC 8032) over canonical JSON (RFC 8785).

A signature says that a file is as its sender made it, not who the sender is: that is for two people
to compare, by the eight check digits of a key.
"""

from __future__ import annotations

import base64
import binascii
import hashlib
from typing import TYPE_CHECKING, Any, Final

import rfc8785
from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey

from lauf.messages import say
from lauf.plain_json import JsonObject

if TYPE_CHECKING:
    from lauf.challenges.models import GamesKey


def signed(body: JsonObject, key: GamesKey) -> JsonObject:
    """A file: the body, by whom it is signed, and the signature."""
    private = Ed25519PrivateKey.from_private_bytes(base64.b64decode(key.private))
    signature = _text(private.sign(rfc8785.dumps(body)))
    return {"body": body, "signed_by": key.public, "signature": signature}


def is_as_signed(body: Any, signed_by: str, signature: str) -> bool:
    """Whether this very body was signed with that key, and key and signature are spelled in the one
    way there is. The same key in other letters would be another school."""
    try:
        public = _plain(signed_by, 32)
        if _is_of_low_order(public):
            return False  # a signature of such a key fits any body
        Ed25519PublicKey.from_public_bytes(public).verify(
            _plain(signature, 64), rfc8785.dumps(body)
        )
    except (InvalidSignature, ValueError, binascii.Error, rfc8785.CanonicalizationError):
        return False
    return True


def _plain(text: str, length: int) -> bytes:
    """The bytes of a base64 text (RFC 4648). Raises ValueError for another length, or another
    spelling than these bytes have: its unused bits must be zero (section 3.5)."""
    plain = base64.b64decode(text, validate=True)
    if len(plain) != length or _text(plain) != text:
        raise ValueError(say("not the canonical base64 of a key or signature"))
    return plain


#: The y of every point of edwards25519 whose order divides 8, and the spellings of them that are
#: not reduced: p and p + 1 (RFC 8032, section 5.1; the two of order 8 are checked in the tests).
_P: Final = 2**255 - 19
_ORDER_8: Final = int.from_bytes(
    bytes.fromhex("26e8958fc2b227b045c3f489f2ef98f0d5dfac05d3c63339b13802886d53fc05"), "little"
)
_LOW_ORDER: Final = frozenset((0, 1, _P - 1, _P, _P + 1, _ORDER_8, _P - _ORDER_8))


def _is_of_low_order(public: bytes) -> bool:
    return int.from_bytes(public, "little") & ~(1 << 255) in _LOW_ORDER


def digest(body: Any) -> str:
    """What a body is known by: SHA-256 of its canonical form, in hexadecimal."""
    return hashlib.sha256(rfc8785.dumps(body)).hexdigest()


def check_digits(public: str) -> str:
    """Eight digits of a key, to be read out and compared: "4821 0937"."""
    number = int.from_bytes(hashlib.sha256(public.encode()).digest()[:8], "big") % 10**8
    return f"{number // 10_000:04d} {number % 10_000:04d}"


def _text(raw: bytes) -> str:
    return base64.b64encode(raw).decode()
