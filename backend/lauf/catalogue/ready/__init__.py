"""The tests every school begins with. Own wording; the rungs are starting values to edit."""

from __future__ import annotations

from typing import Final

from lauf.catalogue.ready.form import RUNG_NAMES, STARTER_SOURCE, Ready, Rungs
from lauf.catalogue.ready.others import (
    AIM,
    DISTANCE,
    GROWTH,
    HOLDS,
    LAPS,
    REACH,
    STAGES,
    SURVEY,
    TOTALS,
    UNBROKEN,
    WORK,
)
from lauf.catalogue.ready.timed_reps import TIMED

READY: Final[tuple[Ready, ...]] = (
    *TIMED, *UNBROKEN, *HOLDS, *WORK, *LAPS, *DISTANCE, *REACH, *AIM, *TOTALS, *STAGES, *GROWTH,
    *SURVEY,
)  # fmt: skip

__all__ = ["READY", "RUNG_NAMES", "STARTER_SOURCE", "Ready", "Rungs"]
