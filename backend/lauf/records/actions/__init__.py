"""Every write of what is recorded, one module a noun."""

from lauf.records.actions.aims import accept_proposed, say_aim, say_group_aim
from lauf.records.actions.attempts import (
    confirm_flag,
    record_attempt,
)
from lauf.records.actions.calibrations import (
    calibrate,
)
from lauf.records.actions.notes import look_again, set_aside, write_family_line
from lauf.records.actions.pulses import (
    record_pulse,
)
from lauf.records.actions.recounts import record_for_helper

__all__ = [
    "accept_proposed",
    "calibrate",
    "confirm_flag",
    "look_again",
    "record_attempt",
    "record_for_helper",
    "record_pulse",
    "say_aim",
    "say_group_aim",
    "set_aside",
    "write_family_line",
]
