"""`lauf school …` and `lauf create-trust`: the schools of one Lauf, for who looks after it."""

from __future__ import annotations

import argparse
import sys
from typing import Final

from django.core.exceptions import ValidationError
from django.utils import timezone

from lauf.errors import NotFound, Refused
from lauf.exchange.package.move import erase_school, export_moving, school_of
from lauf.exchange.package.read import read_moved
from lauf.people.actions import found_trust, head_link, set_paused
from lauf.people.models import School, Staff
from lauf.records.models import Attempt
from lauf.web.hashing import hashed

#: What is said in a sentence; anything else is a fault.
MISTAKES: Final = (Refused, NotFound, ValidationError, OSError)


def create_trust(asked: argparse.Namespace, password: str) -> str:
    """An office and its first person. Raises Refused, ValidationError."""
    person = Staff(school=School(name=asked.trust), name=asked.name, username=asked.username)
    trust = found_trust(
        trust_name=asked.trust, name=asked.name, username=asked.username,
        password=hashed(password, person),
    )  # fmt: skip
    number = trust.schools.count()
    return f"{trust.name} is there with {number} schools; {asked.username} signs in."


def run(asked: argparse.Namespace) -> str:
    """Do it, and what is said of it. Raises Refused, NotFound, OSError."""
    match asked.step:
        case "list":
            return _listed()
        case "import":
            school = read_moved(asked.file.read_bytes(), ending=asked.ending)
            return f"{school.name} is here with {_scores(school)} scores."
        case "close":
            set_paused(asked.id, timezone.now())
            return f"{school_of(asked.id).name} is closed."
        case "open":
            set_paused(asked.id, None)
            return f"{school_of(asked.id).name} is open."
        case "export":
            export_moving(asked.id, asked.file)
            return (
                f"{school_of(asked.id).name} is closed here and in {asked.file}. Import it, then: "
                f"lauf school erase {asked.id} --moved-by {asked.file}"
            )
        case "head":
            token = head_link(asked.id, asked.username)
            return f"Once, within three days: /welcome#{token}"
        case _:
            name = school_of(asked.id).name
            if asked.moved_by is None and not asked.yes and not _sure(name):
                return "Nothing was erased."
            erase_school(asked.id, asked.moved_by)
            return f"{name} is erased."


def _listed() -> str:
    schools = School.objects.filter(office_of=None).order_by("name")
    lines = [
        f"{one.id}  {_scores(one):>8}  {'closed' if one.paused_at else 'open  '}  {one.name}"
        for one in schools
    ]
    return "\n".join(lines) or "There is no school in this Lauf yet."


def _scores(school: School) -> int:
    return Attempt.objects.filter(school=school).count()


def _sure(name: str) -> bool:
    sys.stderr.write(f"lauf: all of {name} goes for good. Type its name to erase it: ")
    return input().strip() == name
