"""Plans as the API says and takes them."""

from __future__ import annotations

from typing import Any


def as_entry(block: dict[str, Any]) -> dict[str, Any]:
    """A block of a plan's page as it is sent to be kept."""
    named = {key: block[key] for key in ("id", "kind", "label", "test_id", "activity_id")}
    return {**named, **block["settings"]}
