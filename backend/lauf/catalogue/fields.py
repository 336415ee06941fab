"""The fields of a protocol, named once: what a person edits, and what a card shows."""

from __future__ import annotations

from typing import Final

from lauf.catalogue.models import ProtocolVersion

#: What a version is, not what it says.
_OF_THE_VERSION: Final = {"id", "test", "number", "meaning", "changed"}
PROTOCOL_FIELDS: Final[tuple[str, ...]] = tuple(
    field.name
    for field in ProtocolVersion._meta.concrete_fields
    if field.name not in _OF_THE_VERSION
)
