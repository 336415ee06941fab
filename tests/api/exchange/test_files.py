"""The scores as a file that a spreadsheet opens rightly."""

from __future__ import annotations

import csv
import io
import re
from datetime import timedelta

import pytest
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from lauf.catalogue.actions import make_battery
from lauf.exchange.queries.scores import harmless
from lauf.lessons.actions import start_sitting
from lauf.lessons.models import Activity
from tests.api.conftest import World


def sheet(world: World) -> list[dict[str, str]]:
    answer = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/scores.csv")
    assert answer["Content-Type"] == "text/csv; charset=utf-8"
    text = answer.content.decode("utf-8")
    assert text.startswith("\ufeff")
    return list(csv.DictReader(io.StringIO(text.removeprefix("\ufeff"))))


def test_every_child_has_a_row_that_says_what_was_recorded(world: World) -> None:
    first = world.record(world.pupils[0], "20")
    world.record(world.pupils[0], "21", succeeds=first.id, why="recount")
    world.record(world.pupils[1], "18~", variant="knees", wave=2)
    world.record(world.pupils[2], "a")
    rows = sheet(world)
    told = [
        [row[name] for name in ("raw", "value", "variant", "wave", "status", "corrected")]
        for row in rows
    ]
    assert len(rows) == 12
    assert told[:4] == [
        ["21", "21", "full", "1", "measured", "yes"],
        ["18~", "18", "knees", "2", "estimate", "no"],
        ["a", "", "full", "1", "absent", "no"],
        ["", "", "", "", "not recorded", "no"],
    ]
    assert {row["unit"] for row in rows} == {"reps"}
    assert {row["seconds"] for row in rows} == {"60"}


def test_a_score_has_its_own_day_and_the_unit_of_its_test(world: World) -> None:
    """A battery takes days: each score is of the day it was taken."""
    staff = world.head.staff
    assert staff is not None
    test = world.lesson_on(40, "long-jump").protocol.test_id
    battery = make_battery(staff, "Term check", [test])
    lesson = start_sitting(staff, battery.id, world.school_class.id)
    lesson.starts_at = timezone.now() - timedelta(days=9)
    lesson.save()
    world.activity = Activity.objects.get(lesson=lesson)
    early, late = timezone.now() - timedelta(days=8), timezone.now() - timedelta(days=2)
    world.record(world.pupils[0], "1.27m", variant="", recorded_at=early)
    world.record(world.pupils[1], "118", variant="", recorded_at=late)
    first, second, missing = sheet(world)[:3]
    assert [one["date"] for one in (first, second)] == [
        timezone.localdate(one).isoformat() for one in (early, late)
    ]
    assert [first["value"], second["value"], first["unit"]] == ["127", "118", "cm"]
    assert missing["date"] == (timezone.localdate() - timedelta(days=9)).isoformat()


@pytest.mark.parametrize("name", ["=1+1", "+44 20", "-Ada", "@Ada", "\tAda", "\rAda"])
def test_a_cell_that_a_spreadsheet_might_run_is_made_harmless(world: World, name: str) -> None:
    pupil = world.pupils[0]
    pupil.given_name, pupil.family_name = name, "Zoë, “Zo” Ångström"
    pupil.save()
    row = next(row for row in sheet(world) if row["family_name"].startswith("Zo"))
    assert row["given_name"] == f"'{name}"
    assert row["family_name"] == "Zoë, “Zo” Ångström"


@given(st.text())
def test_no_text_begins_a_formula_and_none_is_lost(text: str) -> None:
    cell = harmless(text)
    if re.fullmatch(r"[+-][0-9]+(\.[0-9]+)?", text):
        assert cell == text, "a number stays one"
        return
    assert cell[:1] not in {"=", "+", "-", "@", "\t", "\r"} or not cell
    assert cell.removeprefix("'") == text.removeprefix("'")
