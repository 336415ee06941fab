"""Words with numbers."""

from __future__ import annotations


def plural(number: int, one: str, many: str = "") -> str:
    """A number with its word: "1 lap", "2 laps", "1 child", "3 children"."""
    return f"{number} {one if number == 1 else many or one + 's'}"
