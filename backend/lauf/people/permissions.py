"""Who may do what: every rule in one place. Which rows a person sees at all is in `queries`."""

from __future__ import annotations

from enum import StrEnum
from typing import Final, NamedTuple
from uuid import UUID

from lauf.errors import Denied
from lauf.messages import say
from lauf.people.models import Staff


class May(StrEnum):
    """Something that not everybody may do."""

    EDIT_TESTS = "edit_tests"
    MANAGE_SCHOOL = "manage_school"
    SEE_LOG = "see_log"
    SEE_GROWTH = "see_growth"
    SEE_SCHOOL = "see_school"
    LEAD_TRUST = "lead_trust"
    SEE_TRUST = "see_trust"


class Rights(NamedTuple):
    """What a person may beside their role: fields of `Staff` by these names."""

    may_edit_tests: bool = True
    may_see_growth: bool = False
    may_see_school: bool = False


#: In the words of "may …".
RIGHTS_WORDS: Final[dict[str, str]] = {
    "may_edit_tests": say("change tests and benchmarks"),
    "may_see_growth": say("see height and weight"),
    "may_see_school": say("see the whole school"),
}


def rights_of(staff: Staff) -> Rights:
    """What a person may beside their role."""
    return Rights(*(getattr(staff, name) for name in Rights._fields))


_WHO: Final[dict[May, str]] = {
    May.EDIT_TESTS: say("You need permission to change tests and benchmarks. Ask your head of PE."),
    May.MANAGE_SCHOOL: say("Only the head of PE can change the school's settings."),
    May.SEE_LOG: say("Only the head of PE can see the log of changes."),
    May.SEE_GROWTH: say("You need permission to see height and weight. Ask your head of PE."),
    May.SEE_SCHOOL: say("You need permission to see the whole school. Ask your head of PE."),
    May.LEAD_TRUST: say("Only who leads the trust's office can change its schools."),
    May.SEE_TRUST: say("Only the trust's office can see its schools."),
}


def may(staff: Staff, what: May) -> bool:
    """Whether this person may do it."""
    if what is May.SEE_GROWTH:
        return staff.may_see_growth
    if what is May.SEE_SCHOOL:
        return staff.sees_school
    if what is May.SEE_TRUST:
        return staff.at_office
    if what is May.LEAD_TRUST:
        return staff.at_office and staff.is_head
    return staff.is_head or (what is May.EDIT_TESTS and staff.may_edit_tests)


def demand(staff: Staff, what: May) -> None:
    """Raises Denied, saying who may, unless this person does."""
    if not may(staff, what):
        raise Denied(_WHO[what])


def owns(staff: Staff, made_by: UUID | None) -> bool:
    """Whether this person may change what somebody made: they did, or they are the head of PE."""
    return staff.is_head or made_by == staff.id


def demand_own(staff: Staff, made_by: UUID | None, what: str) -> None:
    """What one person made is changed by that person or the head of PE. Raises Denied."""
    if not owns(staff, made_by):
        raise Denied(
            say("Only the head of PE or the person who made the {what} can change it.", what=what)
        )
