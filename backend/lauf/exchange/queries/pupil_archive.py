"""The whole school, and all about one child, as a file."""

from __future__ import annotations

import html
import io
import json
import zipfile
from uuid import UUID

from django.db.models import Q
from django.utils import timezone

from lauf.challenges.models import Point
from lauf.exchange.package.tables import written
from lauf.exchange.package.write import write_package
from lauf.lessons.queries import day_of
from lauf.messages import say
from lauf.people.actions import log, look_at
from lauf.people.models import Change, Pupil, Staff
from lauf.people.permissions import May, demand
from lauf.people.queries import pupil_of
from lauf.plain_json import JsonObject
from lauf.records.models import Attempt, Calibration, PulseReading
from lauf.records.queries import reason_words
from lauf.rules.planning.care import CARE_WORDS, Care


def whole_school(staff: Staff) -> tuple[str, bytes]:
    """A file name and the whole school as a data package; that it was taken is put on record.
    Raises Denied for who may not see height and weight, which are in it."""
    demand(staff, May.MANAGE_SCHOOL)
    demand(staff, May.SEE_GROWTH)
    packed = write_package(staff.school)
    log(staff, Change.What.SEEN, say("The whole school was saved to a file"), staff.school_id)
    return say(
        "{name} {localdate}.zip",
        name=staff.school.name,
        localdate=f"{timezone.localdate():%Y-%m-%d}",
    ), packed


def child_file(staff: Staff, pupil_id: UUID) -> tuple[str, bytes]:
    """A file name and all that is kept about a child, as JSON and as a page to read, in a zip; that
    it was taken is put on record. Eight queries. Raises NotFound, or Denied for who may not see
    height and weight, which are in it."""
    demand(staff, May.MANAGE_SCHOOL)
    demand(staff, May.SEE_GROWTH)
    pupil = pupil_of(staff, pupil_id)
    look_at(staff, pupil.id, say("everything saved, as a file,"))
    about = _about(pupil)
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("child.json", json.dumps(about, ensure_ascii=False, indent=1))
        archive.writestr("child.html", _as_page(about))
    return f"{pupil.name}.zip", packed.getvalue()


def _about(pupil: Pupil) -> JsonObject:
    """Every row that names the child or one of its doubles, in words and as kept."""
    records = [pupil.pk, *Pupil.objects.filter(merged_into=pupil).values_list("pk", flat=True)]
    attempts = Attempt.objects.filter(Q(pupil__in=records)).select_related(
        "protocol__test", "activity__lesson", "recorded_by", "helper"
    )
    pulses = PulseReading.objects.filter(pupil__in=records).select_related("lesson", "recorded_by")
    points = Point.objects.filter(pupil__in=records).select_related("challenge__protocol__test")
    lines = Change.objects.filter(about__in=[str(one) for one in records]).select_related("by")
    return {
        "child": {
            "given_name": pupil.given_name,
            "family_name": pupil.family_name,
            "school": pupil.school.name,
            "class": str(pupil.school_class or say("left {left_from}", left_from=pupil.left_from)),
            "house": pupil.house.name if pupil.house else "",
            "group": pupil.group,
            "born": written(pupil.born),
            "sex": pupil.get_sex_display(),
            "number": pupil.number,
            "medical_note": pupil.medical_note,
            "height_and_weight": Pupil.Consent(pupil.measuring).label,
            "left_on": written(pupil.left_on),
        },
        "is_not_to": [
            {"what": CARE_WORDS[Care(one.what)], "until": written(one.until)}
            for one in pupil.exclusions.all()
        ],
        "scores": [
            {
                "on": written(one.on),
                "test": one.protocol.test.name,
                "protocol_version": one.protocol.number,
                "kind": one.kind,
                "typed": one.typed,
                "value": one.value,
                "reason": reason_words(one.reason) if one.reason else "",
                "estimate": one.estimate,
                "variant": one.variant,
                "parts": one.parts,
                "conditions": one.conditions,
                "corrects": str(one.succeeds_id or ""),
                "why": one.why,
                "id": str(one.id),
                "taken_by": one.entered_by,
                "taken_at": written(one.recorded_at),
            }
            for one in attempts.order_by("on", "recorded_at", "id")
        ],
        "pulses": [
            {
                "on": written(day_of(one.lesson)),
                "when": one.label or one.moment,
                "beats": one.beats,
                "seconds": one.seconds,
                "typed": one.typed,
                "taken_by": one.recorded_by.name,
            }
            for one in pulses.order_by("recorded_at", "id")
        ],
        "hand_and_step": [
            {"on": written(one.on), "unit": one.unit, "millimetres": one.millimetres}
            for one in Calibration.objects.filter(pupil__in=records).order_by("on", "made_at")
        ],
        "points": [
            {"on": written(one.at), "points": one.points, "why": one.why}
            for one in points.order_by("at", "id")
        ],
        "who_did_what": [
            {"at": written(one.at), "by": one.by.name, "what": one.words}
            for one in lines.order_by("id")
        ],
    }


def _as_page(about: JsonObject) -> str:
    """The same as a page without anything but text."""
    parts = [
        '<!doctype html><html lang="en"><meta charset="utf-8"><title>'
        + html.escape(say("Saved in Lauf"))
        + "</title>"
    ]
    name = f"{about['child']['given_name']} {about['child']['family_name']}".strip()
    parts.append(f"<h1>{html.escape(say('Everything saved about {name}', name=name))}</h1>")
    for title, rows in about.items():
        parts.append(f"<h2>{html.escape(title.replace('_', ' ').capitalize())}</h2>")
        listed = [rows] if isinstance(rows, dict) else rows
        if not listed:
            parts.append(f"<p>{html.escape(say('Nothing.'))}</p>")
            continue
        heads = "".join(f"<th>{html.escape(key.replace('_', ' '))}</th>" for key in listed[0])
        parts.append(f"<table border='1' cellpadding='4'><tr>{heads}</tr>")
        for row in listed:
            cells = "".join(f"<td>{html.escape(written(cell))}</td>" for cell in row.values())
            parts.append(f"<tr>{cells}</tr>")
        parts.append("</table>")
    return "\n".join([*parts, "</html>"])
