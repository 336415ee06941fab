"""A list of people is kept, as it was shown and agreed to."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date
from uuid import UUID

from django.db import transaction

from lauf.errors import NotFound, Refused
from lauf.exchange.queries.lists import Effect, Held, ListWish, hold, read_wish
from lauf.messages import say, say_many
from lauf.people.actions import create_house, demand_room, leave, log
from lauf.people.models import Change, Pupil, School, SchoolClass, Staff


def keep_list(
    staff: Staff, wish: ListWish, today: date, *, agreement: str, leavers: Iterable[UUID]
) -> dict[str, int]:
    """Keep a list whole: what `preview_list` has shown and nothing else. How many are new, changed
    and gone. Raises Denied, NotFound, or Refused when the school has changed since it was shown, or
    a row is not decided."""
    file = read_wish(staff, wish)  # before anything is held for it
    with transaction.atomic():
        School.objects.select_for_update().get(pk=staff.school_id)
        return _keep(staff, hold(staff, wish, file, today), today, agreement, leavers)


def _keep(
    staff: Staff, held: Held, today: date, agreement: str, leavers: Iterable[UUID]
) -> dict[str, int]:
    if held.agreement != agreement:
        raise Refused(say("The school has changed since this page was shown. Look at it again."))
    if held.read.ask_order:
        raise Refused(say("First choose whether the day or the month comes first in the dates."))
    open_ = [one.match.person.row for one in held.effects if one.status == "ask"]
    if open_:
        raise Refused(
            say(
                "Row {open} is not decided yet. Is it a new child, a known child, or neither?",
                open=open_[0],
            )
        )
    classes = _classes(staff, held)
    houses = {one.name: one.id for one in staff.school.houses.all()}
    for name in held.new_houses:
        houses[name] = create_house(staff.school, name[:40]).id
    made = [_new(staff, one, classes, houses) for one in held.effects if one.status == "new"]
    Pupil.objects.bulk_create(made)
    changed = [
        _changed(held.pupils[one.match.known], one, classes, houses)
        for one in held.effects
        if one.changes and one.match.known
    ]
    Pupil.objects.bulk_update(changed, _FIELDS)
    proposed = {one.id: one for one in held.leavers}
    gone = list(dict.fromkeys(leavers))
    if not set(gone) <= proposed.keys():
        raise NotFound(say("child among those who may have left"))
    for child in gone:
        leave(staff, child, on=today)
    demand_room(staff.school_id)
    counts = {"new": len(made), "changed": len(changed), "left": len(gone)}
    words = say_many(
        "List saved: {n} new child, {changed} changed, {gone} left",
        "List saved: {n} new children, {changed} changed, {gone} left",
        len(made),
        changed=len(changed),
        gone=len(gone),
    )
    log(staff, Change.What.CLASS, words, staff.school_id)
    return counts


_FIELDS = (
    "given_name", "family_name", "born", "sex", "house_id", "medical_note", "number",
    "school_class_id", "left_on", "left_from_id",
)  # fmt: skip


def _classes(staff: Staff, held: Held) -> dict[str, UUID]:
    """The ids of the classes that the list makes, by name."""
    made = [
        SchoolClass(school_id=staff.school_id, name=name, year_group_id=year)
        for name, year in held.new_classes.items()
    ]
    SchoolClass.objects.bulk_create(made)
    return {one.name: one.id for one in made}


def _new(staff: Staff, one: Effect, classes: dict[str, UUID], houses: dict[str, UUID]) -> Pupil:
    person = one.match.person
    return Pupil(
        school_id=staff.school_id,
        school_class_id=one.class_id or classes[one.new_class],
        given_name=person.given,
        family_name=person.family,
        born=person.born,
        sex=person.sex or "",
        house_id=houses.get(one.house),
        medical_note=person.note,
        number=person.number,
    )


def _changed(pupil: Pupil, one: Effect, classes: dict[str, UUID], houses: dict[str, UUID]) -> Pupil:
    person = one.match.person
    fields: dict[str, tuple[str, object]] = {
        "given name": ("given_name", person.given),
        "family name": ("family_name", person.family),
        "birth date": ("born", person.born),
        "sex": ("sex", person.sex),
        "house": ("house_id", houses.get(one.house)),
        "medical note": ("medical_note", person.note),
        "number": ("number", person.number),
    }
    for name, _, _ in one.changes:
        if name in fields:
            setattr(pupil, *fields[name])
        else:
            pupil.school_class_id = one.class_id or classes[one.new_class]
            pupil.left_on, pupil.left_from_id = None, None
    return pupil
