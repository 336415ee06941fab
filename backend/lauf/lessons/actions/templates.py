"""Writes of plan templates."""

from __future__ import annotations

from uuid import UUID

from django.db import IntegrityError, transaction

from lauf.catalogue.models import Test
from lauf.errors import Refused
from lauf.lessons.models import PlanTemplate
from lauf.lessons.queries.entries import closed_activities, saved_entries, settings_of
from lauf.lessons.queries.lessons import lesson_of
from lauf.lessons.queries.templates import template_of
from lauf.messages import say
from lauf.people.models import Staff
from lauf.people.permissions import demand_own


@transaction.atomic
def save_template(staff: Staff, lesson_id: UUID, name: str) -> PlanTemplate:
    """Keep a lesson's plan as a template, without its groups of children. Raises NotFound, or
    Refused for a name that is taken or missing."""
    lesson = lesson_of(staff, lesson_id)
    label = name.strip()
    if not label or len(label) > 60:
        raise Refused(say("Give the template a name of up to 60 letters."))
    hidden = closed_activities(staff, lesson)
    entries = [one for one in saved_entries(lesson) if one.get("activity_id") not in hidden]
    if not entries:
        raise Refused(say("This plan has no blocks yet."))
    ids = {test for entry in entries if (test := entry.get("test_id"))}
    slugs: dict[UUID, str] = dict(Test.objects.filter(pk__in=ids).values_list("id", "slug"))
    blocks = []
    for entry in entries:
        kept = {key: value for key, value in settings_of(entry).items() if key != "groups"}
        block = {**kept, "kind": entry["kind"], "label": entry.get("label", "")}
        if test := entry.get("test_id"):
            block["test"] = slugs[test]
        blocks.append(block)
    try:
        with transaction.atomic():
            return PlanTemplate.objects.create(
                school_id=staff.school_id,
                name=label,
                minutes=lesson.minutes,
                blocks=blocks,
                by=staff,
            )
    except IntegrityError as error:
        raise Refused(
            say("A template is already called “{label}”. Choose another name.", label=label)
        ) from error


@transaction.atomic
def delete_template(staff: Staff, code: str) -> None:
    """Take a template away: one's own, or any for the head of PE. Raises NotFound or Denied."""
    found = template_of(staff, code)
    demand_own(staff, found.by_id, "template")
    found.delete()
