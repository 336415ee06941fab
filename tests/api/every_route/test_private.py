"""No body measurement leaves the screens of those who may see it: walls, files, other classes, and
every answer of every route."""

from __future__ import annotations

import io
import re
import uuid
import zipfile
from collections import Counter
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from unittest.mock import patch

import pytest
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from lauf.lessons.models import Activity, PlanBlock
from lauf.people.models import CountedGroup
from lauf.progress.school.disclosure import answered
from lauf.records.models import Attempt
from lauf.rules.judging.summaries import FEWEST_TOLD
from tests.api.conftest import Person, World
from tests.api.routes import routes
from tests.support.papers import pages_of
from tests.support.scores import record_attempt

#: The planted weight as it was typed, in grams, and as it would be shown in pounds.
PLANTED = re.compile(r"\b47[.,]3\b|\b47300\b|\b104[.,]3\b")
#: Where staff who may see it get it, in their own class: the sheet, the grid, the check, growth.
OWN_SCREENS = {
    ("GET", "/api/activities/{activity_id}/lanes"),
    ("POST", "/api/activities/{activity_id}/attempts"),
    ("GET", "/api/activities/{activity_id}/check"),
    ("GET", "/api/attempts/{attempt_id}/why"),
    ("POST", "/api/attempts/{attempt_id}/confirm"),
    ("GET", "/api/lessons/{lesson_id}/grid"),
    ("GET", "/api/pupils/{pupil_id}/growth"),
}


@dataclass
class Weighed:
    """The class's weights, in a lesson with a plan and in a battery."""

    activity: Activity
    attempt: Attempt


@pytest.fixture
def weighed(world: World) -> Weighed:
    may(world.head)
    activity = world.lesson_on(0, "weight")
    return Weighed(activity, weigh(world, activity))


def may(person: Person, what: bool = True) -> None:
    assert person.staff is not None
    person.staff.may_see_growth = what
    person.staff.save()


def weigh(world: World, activity: Activity) -> Attempt:
    """Everybody is weighed by the head; the first child is the planted one."""
    staff = world.head.staff
    assert staff is not None
    kept = [
        record_attempt(
            staff, activity.id, attempt_id=uuid.uuid4(), pupil_id=pupil.id,
            typed="47.3" if pupil == world.pupils[0] else str(25 + number), variant="",
            wave=None, recorded_at=timezone.now(),
        )
        for number, pupil in enumerate(world.pupils)
    ]  # fmt: skip
    return kept[0]


def asked(world: World, weighed: Weighed) -> list[tuple[tuple[str, str], str, Any]]:
    """Every route as the table of roles asks it, and once more with the weights' own ids."""
    found = []
    table = routes(world, "teacher")
    battery = next(path for (_, route), (path, _, _) in table.items() if route.endswith("/grid"))
    of_battery = weigh_battery(world, battery.split("/")[3])
    swaps = {
        str(world.activity.id): str(weighed.activity.id),
        str(world.activity.lesson_id): str(weighed.activity.lesson_id),
        str(world.activity.protocol.test_id): str(weighed.activity.protocol.test_id),
    }
    for (method, route), (path, body, _) in table.items():
        if method == "DELETE":
            continue  # what is taken away answers nothing
        found.append(((method, route), path, body))
        its_own = path
        for was, now in swaps.items():
            its_own = its_own.replace(was, now)
        if "{attempt_id}" in route:
            its_own = re.sub(r"attempts/[^/]+", f"attempts/{of_battery.id}", its_own)
        if its_own == path:
            continue
        if isinstance(body, dict) and "typed" in body:
            body = {**body, "id": uuid.uuid4(), "variant": "", "wave": None}
        found.append(((method, route), its_own, body))
    return found


def weigh_battery(world: World, lesson_id: str) -> Attempt:
    protocol = Activity.objects.get(
        protocol__test__slug="weight", lesson__school_class=world.school_class
    ).protocol
    held = Activity.objects.create(lesson_id=lesson_id, position=9, protocol=protocol)
    return weigh(world, held)


def words_of(answer: Any) -> str:
    """All the text of an answer, that of a packed file and of a printed one too."""
    if answer.content.startswith(b"%PDF"):
        return "\n".join(pages_of(answer.content))
    if not answer.content.startswith(b"PK"):
        return str(answer.content.decode())
    with zipfile.ZipFile(io.BytesIO(answer.content)) as packed:
        return "\n".join(packed.read(name).decode() for name in packed.namelist())


@pytest.mark.parametrize("who", ["teacher", "co_teacher", "colleague", "stranger_head"])
def test_no_answer_of_any_route_holds_a_weight(world: World, weighed: Weighed, who: str) -> None:
    """For the own teachers without the permission, for a colleague who has it and does not teach
    the class, and for another school's head who has it."""
    person: Person = getattr(world, who)
    may(person, who in ("colleague", "stranger_head"))
    for route, path, body in asked(world, weighed):
        answer = person.ask(route[0], path, body)
        assert answer.status_code < 500, route
        assert not PLANTED.search(words_of(answer)), (route, path)


def test_with_the_permission_it_is_on_the_own_screens_and_nowhere_else(
    world: World, weighed: Weighed
) -> None:
    """No wall, no file, no preview, no page about the class shows it to anybody."""
    may(world.teacher)
    found = set()
    for route, path, body in asked(world, weighed):
        answer = world.teacher.ask(route[0], path, body)
        if PLANTED.search(words_of(answer)):
            found.add(route)
    assert found == OWN_SCREENS


def test_the_wall_and_files_are_closed_to_weights_and_open_to_counts(
    world: World, weighed: Weighed
) -> None:
    world.record(world.pupils[0], "21")
    wall = world.head.ask("GET", f"/api/activities/{world.activity.id}/wall").json()
    assert wall[0] == {"name": world.pupils[0].name, "shown": "21"}
    assert len(wall) == len(world.pupils)
    at = f"/api/activities/{weighed.activity.id}"
    assert world.head.ask("GET", f"{at}/wall").json() == []
    file = world.head.ask("GET", f"{at}/scores.csv")
    assert (file.status_code, file.json()["message"]) == (
        403,
        "Height and weight are never saved to a file.",
    )


def preview(person: Person, test: Any, **asked: Any) -> dict[str, Any]:
    body = {"variant": "full", "printed": "7-9, 11-15", **asked}
    found = person.ask("POST", f"/api/tests/{test}/ladder-preview", body)
    assert found.status_code == 200, found.content
    return dict(found.json())


def test_a_preview_tells_of_no_single_child(world: World, weighed: Weighed) -> None:
    """Filters narrow to one child; what is answered does not."""
    test = world.activity.protocol.test_id
    scores = (3, 3, 4, 8, 8, 8, 8, 9, 12, 12, 12, 30)
    for pupil, score in zip(world.pupils, scores, strict=True):
        world.record(pupil, str(score))
    year = str(world.school_class.year_group_id)
    whole = preview(world.colleague, test, year_group_id=year)
    assert all(one["children"] >= FEWEST_TOLD for one in whole["reached"])
    assert sum(one["children"] for one in whole["reached"]) == whole["scored"] == len(scores)
    assert whole["lane"]["earlier"] == [] and whole["lane"]["today"] is None
    # One child alone fits: nothing is told.
    world.pupils[0].born, world.pupils[0].sex = timezone.localdate().replace(year=2017), "female"
    world.pupils[0].save()
    alone = preview(world.colleague, test, ages=[3, 17], sex="female")
    assert (alone["reached"], alone["scored"], alone["few"]) == ([], 0, True)
    # Of weights nothing is told at all, however many there are.
    may(world.colleague)
    weights = preview(
        world.colleague, weighed.activity.protocol.test_id, variant="", printed="20-30, 31-40"
    )
    assert (weights["reached"], weights["scored"], weights["few"]) == ([], 0, False)


def test_nested_questions_tell_of_no_single_child(world: World) -> None:
    """A year and the same year with one age differ by a child: two hundred such questions gave its
    exact score, by the threshold at which the difference changes."""
    test, year = world.activity.protocol.test_id, str(world.school_class.year_group_id)
    ages = [7] + [8] * 11
    for pupil, age, score in zip(world.pupils, ages, range(10, 22), strict=True):
        day = timezone.localdate()
        pupil.born, pupil.sex = day.replace(year=day.year - age, day=1), "female"
        pupil.save()
        world.record(pupil, str(score))
    whole = preview(world.colleague, test, year_group_id=year)
    assert (whole["scored"], whole["nested"]) == (12, False)
    for asker in (world.colleague, world.head):  # another person asks no more
        eight = preview(asker, test, year_group_id=year, ages=[8, 8])
        assert (eight["scored"], eight["reached"], eight["nested"]) == (0, [], True)
        assert eight["other"] == 0
    # The same once more is the same, at any threshold; and so is any group that is far enough.
    again = preview(world.colleague, test, year_group_id=year, printed="14-16, 17-19")
    assert again["scored"] == 12
    # The next day it is another question.
    later = timezone.now() + timedelta(days=1, minutes=1)
    with patch("lauf.progress.school.ladder_preview.timezone.now", return_value=later):
        eight = preview(world.colleague, test, year_group_id=year, ages=[8, 8])
        assert (eight["scored"], eight["nested"]) == (11, False)
        assert preview(world.colleague, test, year_group_id=year)["nested"]


def test_a_child_that_comes_later_does_not_show_by_the_difference(world: World) -> None:
    test = world.activity.protocol.test_id
    for pupil in world.pupils[:8]:
        world.record(pupil, "12")
    assert preview(world.colleague, test)["scored"] == 8
    world.record(world.pupils[8], "31")
    assert preview(world.colleague, test)["scored"] == 8, "as it was when it was asked first"
    for pupil in world.pupils[9:]:
        world.record(pupil, "12")
    assert preview(world.colleague, test)["scored"] == 8
    CountedGroup.objects.all().delete()
    assert preview(world.colleague, test)["scored"] == len(world.pupils)


CHILDREN = [uuid.UUID(int=number) for number in range(40)]


@given(st.lists(st.frozensets(st.sampled_from(CHILDREN), min_size=5), max_size=6))
def test_what_is_counted_holds_no_group_of_fewer_than_five(
    groups: list[frozenset[uuid.UUID]],
) -> None:
    """Every sum and difference of the counts is over whole sets that are told apart: each of those
    is five children or more, or nobody."""
    kept: list[tuple[str, frozenset[uuid.UUID]]] = []
    counted = []
    for number, group in enumerate(groups):
        answer, is_new = answered(kept, str(number), group)
        if is_new:
            kept.append((str(number), group))
        if answer is not None:
            counted.append(answer)
    apart = Counter(tuple(child in one for one in counted) for child in CHILDREN)
    apart.pop((False,) * len(counted), None)
    assert all(size >= FEWEST_TOLD for size in apart.values())


def planned(world: World) -> tuple[str, list[dict[str, Any]]]:
    """A plan that the head has made: talk, weight, press-ups."""
    may(world.head)
    weight = world.lesson_on(0, "weight").protocol.test_id
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    blocks = [
        {"kind": "briefing", "label": "Talk", "seconds": 60},
        {"kind": "test", "label": "Weight", "test_id": weight, "setup": 45},
        {"kind": "test", "label": "", "test_id": world.activity.protocol.test_id},
    ]
    made = world.head.ask("PUT", f"{lesson}/plan", {"based_on": 0, "blocks": blocks})
    assert made.status_code == 200, made.content
    return lesson, made.json()["blocks"]


def sent_back(blocks: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [dict(one["entry"]) for one in blocks]


def test_a_co_teacher_without_the_permission_keeps_the_plan_and_only_its_block_is_closed(
    world: World,
) -> None:
    lesson, theirs = planned(world)
    page = world.co_teacher.ask("GET", f"{lesson}/plan").json()
    mine = page["blocks"]
    assert [one["entry"]["closed"] for one in mine] == [False, True, False]
    assert [one["seconds"] for one in mine] == [one["seconds"] for one in theirs]
    shut = mine[1]["entry"]
    assert (shut["test_id"], shut["activity_id"]) == (None, None)
    assert set(shut) == {"id", "kind", "label", "test_id", "activity_id", "closed"}
    # It can be put elsewhere, and is not changed by what is sent of it.
    changed = [*sent_back(mine)[1:], {"kind": "water", "label": "Water", "seconds": 30}]
    changed[0] |= {"label": "Broad jump", "setup": 999}
    saved = world.co_teacher.ask(
        "PUT", f"{lesson}/plan", {"based_on": page["revision"], "blocks": changed}
    )
    assert [one["entry"]["label"] for one in saved.json()["blocks"]] == [
        "Weight", "Press-ups in 60 s", "Water",
    ]  # fmt: skip
    again = world.head.ask("GET", f"{lesson}/plan").json()
    assert again["blocks"][0]["entry"]["setup"] == 45
    assert again["blocks"][0]["entry"]["activity_id"] == theirs[1]["entry"]["activity_id"]
    # Left out, it stays where it was; every proposal keeps it too.
    rest = [one for one in sent_back(saved.json()["blocks"]) if not one["closed"]]
    for way in ("plan/preview", "plan/order", "plan/fit"):
        proposed = world.co_teacher.ask("POST", f"{lesson}/{way}", {"blocks": rest}).json()
        assert [one["entry"]["closed"] for one in proposed["blocks"]] == [True, False, False], way
    kept = world.co_teacher.ask(
        "PUT", f"{lesson}/plan", {"based_on": again["revision"], "blocks": rest}
    )
    assert kept.json()["blocks"][0]["entry"]["label"] == "Weight"
    assert PlanBlock.objects.filter(activity=theirs[1]["entry"]["activity_id"]).count() == 1


def test_the_clock_calls_a_closed_block_without_opening_it(world: World) -> None:
    lesson, theirs = planned(world)
    for person, shut in ((world.co_teacher, True), (world.head, False)):
        blocks = person.ask("GET", f"{lesson}/timeline").json()["blocks"]
        assert [one["closed"] for one in blocks] == [False, shut, False]
        assert blocks[1]["activity_id"] == (None if shut else theirs[1]["entry"]["activity_id"])
    # Begun by one who does not see it, it is whole for one who does.
    state = {"run_id": uuid.uuid4(), "revision": 1, "plan_revision": 1, "anchor_ms": 1_000}
    assert world.co_teacher.ask("PUT", f"{lesson}/conduct", state).status_code == 200
    blocks = world.head.ask("GET", f"{lesson}/timeline").json()["blocks"]
    assert blocks[1]["activity_id"] == theirs[1]["entry"]["activity_id"]
    # A template that the co-teacher makes of it leaves it out.
    made = world.co_teacher.ask("POST", f"{lesson}/template", {"name": "Ours"}).json()
    code = next(one["code"] for one in made if one["name"] == "Ours")
    other = f"/api/lessons/{world.lesson_on(2).lesson_id}/plan/template"
    proposed = world.head.ask("POST", other, {"code": code}).json()
    assert [one["entry"]["label"] for one in proposed["blocks"]] == ["Talk", "Press-ups in 60 s"]


def test_a_lesson_without_a_plan_has_the_weight_closed_too(world: World, weighed: Weighed) -> None:
    lesson = f"/api/lessons/{weighed.activity.lesson_id}"
    for part in ("plan", "timeline"):
        (row,) = world.teacher.ask("GET", f"{lesson}/{part}").json()["blocks"]
        block = row.get("entry", row)
        assert (block["closed"], block["activity_id"]) == (True, None)
