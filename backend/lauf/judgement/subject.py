"""What a benchmark may ask of a child."""

from __future__ import annotations

from datetime import date
from typing import Final, NamedTuple

from lauf.rules.body.ages import age_in_years, decimal_age


class Subject(NamedTuple):
    """What a benchmark may ask of a child."""

    sex: str = ""
    born: date | None = None

    def age(self, on: date) -> int | None:
        """Completed years on a day, None when the birth date is not known (or lies after it)."""
        return age_in_years(self.born, on) if self.born and self.born <= on else None

    def decimal_age(self, on: date) -> float | None:
        return decimal_age(self.born, on) if self.born and self.born <= on else None


#: A child of whom nothing is known.
UNKNOWN: Final = Subject()
