"""How many children and staff a trust allows a school."""

from __future__ import annotations

from uuid import UUID

from lauf.errors import Refused
from lauf.messages import say
from lauf.people.models import Pupil, School, Staff


def demand_room(school_id: UUID) -> None:
    """Called after somebody was added, in the same transaction. Raises Refused where the school now
    has more children on roll, or more staff who sign in, than its trust allows. One query, three
    where it is limited."""
    limited = School.objects.exclude(most_children=None, most_staff=None)
    # One at a time: two lists that each fit would be too much together.
    school = limited.select_for_update().filter(pk=school_id).first()
    if school is None:
        return
    children = Pupil.objects.filter(school=school, school_class__isnull=False).count()
    staff = Staff.objects.filter(school=school, is_active=True).count()
    if school.most_children is not None and children > school.most_children:
        raise Refused(
            say(
                "Your trust allows {most} children in this school, and this would make "
                "{n}. Ask the trust's office for more.",
                most=school.most_children,
                n=children,
            )
        )
    if school.most_staff is not None and staff > school.most_staff:
        raise Refused(
            say(
                "Your trust allows {most} staff in this school, and this would make {n}. "
                "Suspend someone who has left, or ask the trust's office.",
                most=school.most_staff,
                n=staff,
            )
        )
