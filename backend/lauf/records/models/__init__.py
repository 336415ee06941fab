"""Models of records, one module a noun."""

from lauf.records.models.aims import Aim, GroupAim
from lauf.records.models.attempts import Attempt, Question, Recount, RepeatSummary, Settlement
from lauf.records.models.notes import FamilyLine, SetAside
from lauf.records.models.pulses import Calibration, PulseReading
from lauf.records.models.reasons import REASONS, WITHDRAWN

__all__ = [
    "REASONS",
    "WITHDRAWN",
    "Aim",
    "Attempt",
    "Calibration",
    "FamilyLine",
    "GroupAim",
    "PulseReading",
    "Question",
    "Recount",
    "RepeatSummary",
    "SetAside",
    "Settlement",
]
