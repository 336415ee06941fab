"""Every write about people, one module a noun."""

from lauf.people.actions.classes import LARGEST_CLASS, add_class, set_order
from lauf.people.actions.log import log
from lauf.people.actions.pupils import add_pupil, change_pupil, leave, move
from lauf.people.actions.school import (
    FIRST_YEAR_GROUPS,
    create_house,
    create_school,
    set_units,
    set_up_school,
)
from lauf.people.actions.staff import (
    change_password,
    change_staff,
    end_sessions,
    hashed_password,
    invite,
    invited,
    link_anew,
    welcome,
)

__all__ = [
    "FIRST_YEAR_GROUPS",
    "LARGEST_CLASS",
    "add_class",
    "add_pupil",
    "change_password",
    "change_pupil",
    "change_staff",
    "create_house",
    "create_school",
    "end_sessions",
    "hashed_password",
    "invite",
    "invited",
    "leave",
    "link_anew",
    "log",
    "move",
    "set_order",
    "set_units",
    "set_up_school",
    "welcome",
]
