"""Ids in bodies that are not the asker's: refused or left out, kept nowhere, told to nobody."""

from __future__ import annotations

import copy
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import pytest
from django.db.models import F
from django.utils import timezone

from lauf.catalogue.actions import install_ready, make_battery
from lauf.catalogue.models import BatteryTest, Ladder, ProtocolVersion
from lauf.challenges.models import Challenge, ChallengeWeek
from lauf.lessons.models import Activity, Conduct, Lesson, PlanBlock, Run
from lauf.people.models import Pupil, SchoolClass
from lauf.records.models import Attempt, Calibration, PulseReading, Recount
from tests.api.asking import childs_device, helpers_key
from tests.api.conftest import Person, World
from tests.api.routes import routes
from tests.support.scores import record_attempt

#: No answer to anybody of this school holds it.
NAME = "Quillifer"


@dataclass
class Foreign:
    """Somebody else's class, child, test, lesson, clock and score, by the names of fields."""

    ids: dict[str, str]

    def in_place_of(self, key: str, value: Any) -> Any:
        if isinstance(value, list) and key.endswith("s") and value:
            return [self.ids[key[:-1]]] if key[:-1] in self.ids else value
        return self.ids.get(key, value)


def theirs(school_class: SchoolClass, staff: Any, protocol: ProtocolVersion) -> Foreign:
    school = school_class.school
    pupil = Pupil.objects.create(school=school, school_class=school_class, given_name=NAME)
    lesson = Lesson.objects.create(
        school=school, school_class=school_class, teacher=staff, place="Hall",
        starts_at=timezone.now(),
    )  # fmt: skip
    activity = Activity.objects.create(lesson=lesson, protocol=protocol)
    run = Run.objects.create(
        id=uuid.uuid4(), activity=activity, wave=1, revision=1, anchor_ms=1, by=staff
    )
    attempt = record_attempt(
        staff, activity.id, attempt_id=uuid.uuid4(), pupil_id=pupil.id, typed="30",
        variant="full", wave=1, recorded_at=timezone.now(),
    )  # fmt: skip
    block = PlanBlock.objects.create(lesson=lesson, position=0, kind="water", label="Theirs")
    battery = make_battery(staff, "Theirs", [protocol.test_id]) if staff.is_head else None
    return Foreign({
        name: str(one)
        for name, one in {
            "class_id": school_class.id, "pupil_id": pupil.id, "test_id": protocol.test_id,
            "activity_id": activity.id, "run_id": run.id, "counted_by": pupil.id,
            "succeeds": attempt.id, "restores": attempt.id, "lesson_id": lesson.id,
            "year_group_id": school_class.year_group_id, "pupil": pupil.id, "block": block.id,
            "battery": battery.id if battery else uuid.uuid4(), "attempt": attempt.id,
        }.items()
    })  # fmt: skip


@pytest.fixture(params=["another school's", "a colleague's"])
def foreign(request: pytest.FixtureRequest, world: World) -> Foreign:
    if request.param == "a colleague's":
        year = world.school.year_groups.get(name="Year 5")
        made = world.school.classes.create(name="5 T", year_group=year)
        made.teachers.add(world.colleague.staff)
        found = theirs(made, world.colleague.staff, world.activity.protocol)
        # Tests and year groups are the school's: a colleague's are one's own.
        for name in ("test_id", "year_group_id"):
            del found.ids[name]
        return found
    head = world.stranger_head.staff
    assert head is not None
    install_ready(head.school)
    year = head.school.year_groups.get(name="Year 4")
    made = head.school.classes.create(name="4 X", year_group=year)
    protocol = ProtocolVersion.objects.get(test__school=head.school, test__slug="press-ups-60")
    return theirs(made, head, protocol)


def swapped(body: Any, foreign: Foreign) -> Iterator[tuple[str, Any]]:
    """The body once for each id in it, with that one somebody else's; and with the ids added that
    may be there."""
    for key, value in body.items():
        if (other := foreign.in_place_of(key, value)) != value:
            yield key, {**copy.deepcopy(body), key: other}
        if isinstance(value, list) and value and isinstance(value[0], dict):
            for inner, changed in swapped(value[0], foreign):
                yield f"{key}.{inner}", {**copy.deepcopy(body), key: [changed, *value[1:]]}


def whole() -> None:
    """Whatever was sent: every row is of one school, and of one lesson."""
    apart = [
        Lesson.objects.exclude(school_class__school=F("school")),
        Activity.objects.exclude(protocol__test__school=F("lesson__school")),
        PlanBlock.objects.filter(activity__isnull=False).exclude(activity__lesson=F("lesson")),
        Attempt.objects.exclude(pupil__school=F("school")),
        Attempt.objects.exclude(activity__lesson__school=F("school")),
        Attempt.objects.exclude(pupil__school_class=F("activity__lesson__school_class")),
        Attempt.objects.filter(counted_by__isnull=False).exclude(counted_by__school=F("school")),
        Recount.objects.exclude(pupil__school_class=F("activity__lesson__school_class")),
        Attempt.objects.filter(run__isnull=False).exclude(run__activity=F("activity")),
        Attempt.objects.filter(succeeds__isnull=False).exclude(succeeds__pupil=F("pupil")),
        PulseReading.objects.exclude(pupil__school_class=F("lesson__school_class")),
        Challenge.objects.exclude(protocol__test__school=F("week__school")),
        ChallengeWeek.classes.through.objects.exclude(
            schoolclass__school=F("challengeweek__school")
        ),
        BatteryTest.objects.exclude(test__school=F("battery__school")),
        Ladder.objects.filter(year_group__isnull=False).exclude(
            year_group__school=F("test__school")
        ),
        Calibration.objects.filter(pupil__isnull=False).exclude(pupil__school=F("school")),
        SchoolClass.objects.exclude(year_group__school=F("school")),
    ]
    assert [found for found in apart if found.exists()] == []


@pytest.mark.parametrize("who", ["teacher", "head"])
def test_no_body_of_any_route_takes_somebody_elses_ids(
    world: World, foreign: Foreign, who: str
) -> None:
    person: Person = getattr(world, who)
    seen_by_head = who == "head" and str(foreign.ids["class_id"]) in {
        str(one) for one in world.school.classes.values_list("id", flat=True)
    }
    if seen_by_head:
        return  # all of the school is the head's own
    # The same browser is a helper's phone.
    person.client.cookies["lauf_helper"] = helpers_key(world)[1]
    person.client.cookies["lauf_child"] = childs_device(world)[2]
    asked = 0
    for (method, route), (path, body, _) in routes(world, "teacher").items():
        if not isinstance(body, dict):
            continue
        plain = {key: str(one) if isinstance(one, uuid.UUID) else one for key, one in body.items()}
        for name, changed in swapped(plain, foreign):
            if (route.rpartition("/")[2], name) == ("conduct", "run_id"):
                continue  # the device makes it up
            answer = person.ask(method, path, changed)
            asked += 1
            assert answer.status_code in (403, 404, 409, 422), (route, name, answer.content)
            assert NAME.encode() not in answer.content
    assert asked >= 12
    whole()


def test_ids_within_ids_are_held_to_the_lesson_and_the_class(
    world: World, foreign: Foreign
) -> None:
    """Groups, swaps, partners, what is put back, whose clock it was by, blocks and activities."""
    person, ids = world.teacher, foreign.ids
    lesson_id = world.lesson_on(0).lesson_id
    lesson = f"/api/lessons/{lesson_id}"
    at = f"/api/activities/{world.activity.id}"
    own = [str(one.id) for one in world.pupils[:4]]
    groups = {"how": "random", "names": ["A", "B"], "members": [[*own[:2], ids["pupil"]], own[2:]]}
    stations = {
        "kind": "stations", "label": "Set", "groups": groups, "work": 30, "change": 15, "rounds": 2,
        "stations": [{"name": "Ropes"}, {"name": "Mats"}],
    }  # fmt: skip
    kept = person.ask("PUT", f"{lesson}/plan", {"based_on": 0, "blocks": [stations]})
    assert kept.status_code == 200, kept.content
    (block,) = PlanBlock.objects.filter(lesson=lesson_id)
    assert block.settings["groups"]["members"] == [own[:2], own[2:]]
    page = person.ask("GET", f"{lesson}/stations/0")
    assert NAME.encode() not in page.content
    swap = {"segment": "1", "was": "x", "label": "y", "activity_id": ids["activity_id"]}
    state = {"run_id": str(uuid.uuid4()), "revision": 1, "plan_revision": 1, "anchor_ms": 1}
    answer = person.ask("PUT", f"{lesson}/conduct", {**state, "swaps": [swap]})
    assert answer.status_code == 404 and not Conduct.objects.exists()
    for more in ("counted_by", "succeeds", "restores", "run_id"):
        score = world.body(world.pupils[0], "20", **{more: ids[more]})
        assert person.ask("POST", f"{at}/attempts", score).status_code in (404, 422), more
    # A score's own id, and a clock's: somebody else's stay theirs.
    taken = {**world.body(world.pupils[0], "20"), "id": ids["attempt"]}
    assert person.ask("POST", f"{at}/attempts", taken).status_code == 409
    clock = {"wave": 1, "revision": 9, "anchor_ms": 5}
    assert person.ask("PUT", f"{at}/runs/{ids['run_id']}", clock).status_code == 422
    assert Run.objects.get(pk=ids["run_id"]).anchor_ms == 1
    water = {"id": ids["block"], "kind": "water", "label": "Water", "seconds": 30}
    plan = person.ask("PUT", f"{lesson}/plan", {"based_on": 1, "blocks": [water]}).json()
    assert plan["blocks"][0]["entry"]["id"] != ids["block"]
    assert PlanBlock.objects.get(pk=ids["block"]).label == "Theirs"
    whole()
