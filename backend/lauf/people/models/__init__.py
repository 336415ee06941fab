"""Models of a school and the people in it, one module a noun."""

from lauf.people.models.counted import CountedGroup
from lauf.people.models.log import Change
from lauf.people.models.pupils import Exclusion, Merge, MoveUp, OwnPage, Pupil, SchoolClass
from lauf.people.models.school import House, School, Term, TermKind, YearGroup
from lauf.people.models.staff import Invitation, SecondFactor, SignIn, Staff
from lauf.people.models.trust import SecondPost, Trust

__all__ = [
    "Change",
    "CountedGroup",
    "Exclusion",
    "House",
    "Invitation",
    "Merge",
    "MoveUp",
    "OwnPage",
    "Pupil",
    "School",
    "SchoolClass",
    "SecondFactor",
    "SecondPost",
    "SignIn",
    "Staff",
    "Term",
    "TermKind",
    "Trust",
    "YearGroup",
]
