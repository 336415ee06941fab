"""Every write about people, one module a noun."""

from lauf.people.actions.classes import LARGEST_CLASS, add_class, set_order
from lauf.people.actions.log import log
from lauf.people.actions.pupils import leave, move
from lauf.people.actions.school import (
    FIRST_YEAR_GROUPS,
    create_house,
    create_school,
    grant_growth,
    hashed_password,
    set_units,
    set_up_school,
)

__all__ = [
    "FIRST_YEAR_GROUPS",
    "LARGEST_CLASS",
    "add_class",
    "create_house",
    "create_school",
    "grant_growth",
    "hashed_password",
    "leave",
    "log",
    "move",
    "set_order",
    "set_units",
    "set_up_school",
]
