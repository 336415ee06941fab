"""Who may see whom. Every other part starts from these scopes: what lies outside them does not
exist for the asker."""

from __future__ import annotations

from typing import Final
from uuid import UUID

from django.db.models import Q, QuerySet, Value
from typing_extensions import TypedDict

from lauf.errors import NotFound
from lauf.messages import say
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.people.usernames import key_of


def classes_of(staff: Staff) -> QuerySet[SchoolClass]:
    """The classes this person may see: all of the school for the head and who may see it, otherwise
    the own ones."""
    classes = SchoolClass.objects.filter(school_id=staff.school_id)
    return classes if staff.sees_school else classes.filter(teachers=staff)


def pupils_of(staff: Staff) -> QuerySet[Pupil]:
    """The children this person may see: who has left is the head's alone."""
    pupils = Pupil.objects.filter(school_id=staff.school_id, merged_into=None, erased_on=None)
    if staff.is_head:
        return pupils
    if staff.may_see_school:
        return pupils.filter(school_class__isnull=False)
    return pupils.filter(school_class__teachers=staff)


def class_of(staff: Staff, class_id: UUID) -> SchoolClass:
    """One class in scope, with its year group. Raises NotFound. One query."""
    found = classes_of(staff).select_related("year_group", "school").filter(pk=class_id).first()
    if found is None:
        raise NotFound(say("class"))
    return found


def pupil_of(staff: Staff, pupil_id: UUID) -> Pupil:
    """One child in scope, with class, year group, house and school. Raises NotFound. One query."""
    related = ("school", "school_class__year_group", "left_from__year_group", "house")
    found = pupils_of(staff).select_related(*related).filter(pk=pupil_id).first()
    if found is None:
        raise NotFound(say("child"))
    return found


#: How many of a kind a search shows.
_FOUND: Final = 12


class Hit(TypedDict):
    """Something found by its name, and where it belongs."""

    id: UUID
    name: str
    where: str


class Hits(TypedDict):
    """What a search found."""

    pupils: list[Hit]
    classes: list[Hit]


def search(staff: Staff, words: str) -> Hits:
    """Children and classes in scope whose name has all of the words; those who have left among them
    for the head. Two queries."""
    pupils, classes = pupils_of(staff), classes_of(staff)
    for word in words.split()[:6]:
        pupils = pupils.filter(
            Q(given_name__icontains=word) | Q(family_name__icontains=word) | Q(number=word)
        )
        classes = classes.filter(Q(name__icontains=word) | Q(year_group__name__icontains=word))
    if not words.strip():
        pupils, classes = pupils.none(), classes.none()
    return {
        "pupils": [
            {"id": one.id, "name": one.name, "where": str(one.school_class or say("has left"))}
            for one in pupils.select_related("school_class").distinct()[:_FOUND]
        ],
        "classes": [
            {"id": one.id, "name": one.name, "where": one.year_group.name}
            for one in classes.select_related("year_group").distinct()[:_FOUND]
        ],
    }


def staff_named(username: str) -> Staff | None:
    """Who signs in by a name, in whichever case and width it is written. One query."""
    asked = Staff.objects.annotate(key=key_of("username"))
    return asked.filter(key=key_of(Value(username.strip()))).first()


def setup_needed() -> bool:
    """True until the first school exists. One query."""
    return not School.objects.exists()
