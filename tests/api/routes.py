"""Every route of the API, with whom it answers how: the table of `test_access`."""

from __future__ import annotations

import uuid
from typing import Any

from django.utils import timezone

from lauf.catalogue.actions import make_battery, save_course
from lauf.catalogue.models import Ladder, NormTable
from lauf.lessons.actions import save_plan, start_sitting
from lauf.people.models import Staff, YearGroup
from lauf.rules.block_kinds import BLOCK_KINDS
from lauf.rules.blocks import BlockKind
from tests.api.challenges import a_week, challenge_ids
from tests.api.conftest import PASSWORD, World

#: Status by role: nobody, stranger, stranger's head, colleague, own teacher, head of PE.
OWN = (401, 404, 404, 404, 200, 200)
ANY_STAFF = (401, 200, 200, 200, 200, 200)
PUBLIC = (200, 200, 200, 200, 200, 200)
#: A stranger's head may add classes, but not into this school's year group.
HEADS = (401, 403, 404, 403, 403, 201)
#: A stranger's test is not there for a stranger's head; only the own head may change it.
HEAD_ONLY = (401, 403, 404, 403, 403, 200)
HEAD_MAKES = (401, 403, 404, 403, 403, 201)
HEAD_DELETES = (401, 403, 404, 403, 403, 204)
OWN_MAKES = (401, 404, 404, 404, 201, 201)
NOBODYS = (401, 404, 404, 404, 404, 404)
#: What belongs to the school: its own staff, nobody else.
SCHOOL = (401, 404, 404, 200, 200, 200)


Routes = dict[tuple[str, str], tuple[str, Any, tuple[int, ...]]]


def routes(world: World, own: str) -> Routes:
    """Method and route -> address with this world's ids, body, expected statuses, where the own
    teacher is the one of that name."""
    owner = getattr(world, own).staff
    activity, lesson = world.activity.id, world.activity.lesson_id
    pupil = world.pupils[0]
    unused = f"/api/lessons/{world.lesson_on(3).lesson_id}"
    attempt = world.record(world.pupils[1], "21~")
    year = YearGroup.objects.get(school=world.school, name="Year 4").id
    new_class = {"name": "4 New", "year_group_id": year, "children": "Ada Abara"}
    new_lesson = {
        "class_id": world.school_class.id,
        "test_ids": [world.activity.protocol.test_id],
        "starts_at": timezone.now().isoformat(),
        "minutes": 40,
        "place": "Hall",
    }
    moved = {key: value for key, value in new_lesson.items() if key != "test_ids"}
    suggested = "/api/lessons/suggested?at=2026-03-10T09:00:00Z"
    run = {"wave": 1, "revision": 1, "anchor_ms": 1_000, "paused_ms": None}
    wrong = {"username": "nobody", "password": "wrong"}
    # The fifth wrong password in a row locks that name out.
    set_up = {"setup_code": "test-code", "school_name": "S", "name": "N", "username": "u"}
    score = world.body(pupil, "20")
    test = world.activity.protocol.test_id
    ladder, spare = Ladder.objects.filter(test=test)[:2]
    norm = NormTable.objects.create(
        school=world.school, test_id=test, name="N", source="S", population="P", year=2000,
        standing="made up", form="percentiles", unit="reps", percentiles=[50], rows=[],
    )  # fmt: skip
    staff = world.head.staff
    assert staff is not None
    battery = make_battery(staff, "Term check", [test])
    sitting = start_sitting(staff, battery.id, world.school_class.id)
    course = save_course(
        staff, course_id=None, name="Loop", lap_mm=42_000, steps=None, step_mm=None
    )
    card = world.head.ask("GET", f"/api/tests/{test}").json()
    edited = {**card["protocol"], "easier": "From a wall."}
    edit = {"based_on": 1, "why": "clearer", "protocol": edited}
    draft = {"year_group_id": year, "variant": "full", "printed": "7-9, 11-15"}
    rungs = {"ages": [7, 8], "variant": "full", "rungs": [{"name": "A", "at": "5"}]}
    file = {
        "text": "sex,age,P50\ngirl,8,20", "unit": "reps", "name": "N", "source": "S",
        "population": "P", "variant": "full",
    }  # fmt: skip
    pulse = {
        "id": uuid.uuid4(), "pupil_id": pupil.id, "position": 0, "moment": "rest", "typed": "14",
        "seconds": 10, "recorded_at": timezone.now().isoformat(),
    }  # fmt: skip
    plan = {"blocks": [{"kind": "test", "label": "", "test_id": test}]}
    hands = {"pupil_id": pupil.id, "unit": "hand", "known": "1m", "counted": 8}
    new_test = {"name": "Wall sit", "family": "hold", "protocol": {"kind": "time", "unit": "s"}}
    return {
        ("GET", "/api/catalogue"): ("/api/catalogue", None, ANY_STAFF),
        ("GET", "/api/tests/{test_id}"): (f"/api/tests/{test}", None, SCHOOL),
        ("POST", "/api/tests"): ("/api/tests", new_test, (401, 403, 201, 403, 403, 201)),
        ("POST", "/api/tests/{test_id}/effects"): (f"/api/tests/{test}/effects", edit, SCHOOL),
        ("POST", "/api/tests/{test_id}/versions"): (
            f"/api/tests/{test}/versions",
            edit,
            HEAD_MAKES,
        ),
        ("POST", "/api/tests/{test_id}/ladders"): (f"/api/tests/{test}/ladders", rungs, HEAD_MAKES),
        ("PUT", "/api/tests/{test_id}/ladders/{ladder_id}"): (
            f"/api/tests/{test}/ladders/{ladder.id}",
            {**rungs, "ages": [9, 10]},
            HEAD_ONLY,
        ),
        ("POST", "/api/ladders/{ladder_id}/copy"): (
            f"/api/ladders/{ladder.id}/copy",
            {"year_group_ids": [year]},
            HEAD_ONLY,
        ),
        ("DELETE", "/api/ladders/{ladder_id}"): (f"/api/ladders/{spare.id}", None, HEAD_DELETES),
        ("POST", "/api/tests/{test_id}/ladder-preview"): (
            f"/api/tests/{test}/ladder-preview",
            draft,
            SCHOOL,
        ),
        ("GET", "/api/tests/{test_id}/benchmarks"): (f"/api/tests/{test}/benchmarks", None, SCHOOL),
        ("POST", "/api/tests/{test_id}/norms/preview"): (
            f"/api/tests/{test}/norms/preview",
            file,
            SCHOOL,
        ),
        ("POST", "/api/tests/{test_id}/norms"): (f"/api/tests/{test}/norms", file, HEAD_MAKES),
        ("DELETE", "/api/norms/{norm_id}"): (f"/api/norms/{norm.id}", None, HEAD_DELETES),
        ("GET", "/api/batteries"): ("/api/batteries", None, ANY_STAFF),
        ("POST", "/api/batteries"): (
            "/api/batteries",
            {"name": "Another", "test_ids": [test]},
            HEAD_MAKES,
        ),
        ("POST", "/api/batteries/{battery_id}/sittings"): (
            f"/api/batteries/{battery.id}/sittings",
            {"class_id": world.school_class.id},
            (401, 404, 404, 404, 201, 201),
        ),
        ("GET", "/api/sittings"): ("/api/sittings", None, ANY_STAFF),
        ("GET", "/api/lessons/{lesson_id}/grid"): (f"/api/lessons/{sitting.id}/grid", None, OWN),
        ("GET", "/api/courses"): ("/api/courses", None, ANY_STAFF),
        ("POST", "/api/courses"): (
            "/api/courses",
            {"name": "Oval", "lap": "60m"},
            (401, 201, 422, 201, 422, 422),  # a name is taken once in each school
        ),
        ("DELETE", "/api/courses/{course_id}"): (
            f"/api/courses/{course.id}",
            None,
            (401, 404, 404, 204, 404, 404),
        ),
        ("POST", "/api/laps"): ("/api/laps", {"lap": "21m"}, ANY_STAFF),
        ("POST", "/api/laps/step"): ("/api/laps/step", {"known": "20m", "steps": 26}, ANY_STAFF),
        ("PUT", "/api/activities/{activity_id}/conditions"): (
            f"/api/activities/{activity}/conditions",
            {"conditions": {}},
            OWN,
        ),
        ("GET", "/api/lessons/{lesson_id}/pulse"): (f"/api/lessons/{lesson}/pulse", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/pulses"): (f"/api/lessons/{lesson}/pulses", pulse, OWN),
        ("POST", "/api/calibrations"): (
            "/api/calibrations",
            hands,
            (401, 404, 404, 404, 201, 201),
        ),
        ("GET", "/api/pupils/{pupil_id}/points"): (f"/api/pupils/{pupil.id}/points", None, OWN),
        # The own teacher sees the child, but not its growth without that permission.
        ("GET", "/api/pupils/{pupil_id}/growth"): (
            f"/api/pupils/{pupil.id}/growth",
            None,
            (401, 404, 404, 404, 403, 403),
        ),
        ("GET", "/api/log"): ("/api/log", None, (401, 403, 200, 403, 403, 200)),
        ("GET", "/api/school"): ("/api/school", None, (401, 403, 200, 403, 403, 200)),
        ("PUT", "/api/school/units"): (
            "/api/school/units",
            {"imperial": False},
            (401, 403, 200, 403, 403, 200),
        ),
        ("PUT", "/api/staff/{staff_id}/growth"): (
            f"/api/staff/{staff.id}/growth",
            {"may_see_growth": False},
            HEAD_ONLY,
        ),
        ("GET", "/api/health"): ("/api/health", None, PUBLIC),
        ("GET", "/api/session"): ("/api/session", None, PUBLIC),
        ("POST", "/api/session"): ("/api/session", wrong, (401, 401, 401, 401, 429, 429)),
        ("POST", "/api/setup"): ("/api/setup", {**set_up, "password": PASSWORD}, (422,) * 6),
        ("GET", "/api/today"): ("/api/today", None, ANY_STAFF),
        ("GET", "/api/tests"): ("/api/tests", None, ANY_STAFF),
        ("GET", "/api/classes"): ("/api/classes", None, ANY_STAFF),
        ("POST", "/api/classes"): ("/api/classes", new_class, HEADS),
        ("GET", "/api/classes/{class_id}"): (f"/api/classes/{world.school_class.id}", None, OWN),
        ("GET", "/api/classes/{class_id}/lessons"): (
            f"/api/classes/{world.school_class.id}/lessons",
            None,
            OWN,
        ),
        ("POST", "/api/lessons"): ("/api/lessons", new_lesson, (401, 404, 404, 404, 201, 201)),
        ("GET", "/api/lessons/{lesson_id}"): (f"/api/lessons/{lesson}", None, OWN),
        ("GET", "/api/lessons/{lesson_id}/results"): (f"/api/lessons/{lesson}/results", None, OWN),
        ("GET", "/api/lessons/suggested"): (suggested, None, ANY_STAFF),
        ("PUT", "/api/lessons/{lesson_id}"): (f"/api/lessons/{lesson}", moved, OWN),
        ("DELETE", "/api/lessons/{lesson_id}"): (
            unused,
            None,
            (401, 404, 404, 404, 204, 404),
        ),
        ("POST", "/api/lessons/{lesson_id}/close"): (f"/api/lessons/{lesson}/close", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/reopen"): (f"/api/lessons/{lesson}/reopen", None, OWN),
        ("GET", "/api/lessons/{lesson_id}/plan"): (f"/api/lessons/{lesson}/plan", None, OWN),
        ("PUT", "/api/lessons/{lesson_id}/plan"): (
            f"/api/lessons/{lesson}/plan",
            plan,
            (401, 404, 404, 404, 200, 422),  # the head's plan is based on an older one
        ),
        ("POST", "/api/lessons/{lesson_id}/plan/preview"): (
            f"/api/lessons/{lesson}/plan/preview",
            plan,
            OWN,
        ),
        ("POST", "/api/lessons/{lesson_id}/plan/order"): (
            f"/api/lessons/{lesson}/plan/order",
            plan,
            OWN,
        ),
        ("POST", "/api/lessons/{lesson_id}/plan/fit"): (
            f"/api/lessons/{lesson}/plan/fit",
            plan,
            OWN,
        ),
        ("POST", "/api/lessons/{lesson_id}/copy"): (
            f"/api/lessons/{lesson}/copy",
            {"starts_at": timezone.now().isoformat()},
            (401, 404, 404, 404, 201, 201),
        ),
        ("GET", "/api/lessons/{lesson_id}/timeline"): (
            f"/api/lessons/{lesson}/timeline",
            None,
            OWN,
        ),
        ("GET", "/api/lessons/{lesson_id}/conduct"): (f"/api/lessons/{lesson}/conduct", None, OWN),
        ("PUT", "/api/lessons/{lesson_id}/conduct"): (
            f"/api/lessons/{lesson}/conduct",
            {"run_id": uuid.uuid4(), "revision": 1, "plan_revision": 0, "anchor_ms": 0},
            OWN,
        ),
        ("PUT", "/api/activities/{activity_id}/runs/{run_id}"): (
            f"/api/activities/{activity}/runs/{uuid.uuid4()}",
            run,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/lanes"): (
            f"/api/activities/{activity}/lanes",
            None,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/reading"): (
            f"/api/activities/{activity}/reading?typed=18",
            None,
            OWN,
        ),
        ("POST", "/api/activities/{activity_id}/attempts"): (
            f"/api/activities/{activity}/attempts",
            score,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/check"): (
            f"/api/activities/{activity}/check",
            None,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/scores.csv"): (
            f"/api/activities/{activity}/scores.csv",
            None,
            OWN,
        ),
        ("POST", "/api/attempts/{attempt_id}/confirm"): (
            f"/api/attempts/{attempt.id}/confirm",
            {"flag": "estimate"},
            OWN,
        ),
        ("GET", "/api/pupils/{pupil_id}"): (f"/api/pupils/{pupil.id}", None, OWN),
        **_hall_routes(world, str(lesson), str(activity), str(test)),
        **_challenge_routes(world, str(test), owner),
        ("DELETE", "/api/session"): ("/api/session", None, ANY_STAFF),
    }


def _hall_routes(world: World, lesson: str, activity: str, test: str) -> Routes:
    """What a lesson in the hall asks for."""
    staged = world.lesson_on(0, "shuttle-20m-even")
    total = world.lesson_on(0, "reps-240")
    stations = world.lesson_on(0)
    assert world.teacher.staff is not None
    entry = {"kind": "stations", "label": "", **BLOCK_KINDS[BlockKind.STATIONS].defaults}
    save_plan(world.teacher.staff, stations.lesson_id, based_on=0, entries=[entry])
    class_id, child = world.school_class.id, world.pupils[0].id
    at = f"/api/lessons/{lesson}"
    belt = {"messages": [{"pupil_id": child, "hex": "0048"}]}
    return {
        ("PUT", "/api/classes/{class_id}/order"): (
            f"/api/classes/{class_id}/order",
            {"pupils": []},
            OWN,
        ),
        ("GET", "/api/lessons/{lesson_id}/record"): (f"{at}/record", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/activities"): (
            f"{at}/activities",
            {"test_id": test},
            OWN_MAKES,
        ),
        ("GET", "/api/activities/{activity_id}/beeps"): (
            f"/api/activities/{staged.id}/beeps",
            None,
            OWN,
        ),
        ("GET", "/api/lessons/{lesson_id}/stations/{block}"): (
            f"/api/lessons/{stations.lesson_id}/stations/0",
            None,
            OWN,
        ),
        ("POST", "/api/lessons/{lesson_id}/plan/groups"): (
            f"{at}/plan/groups",
            {"how": "random", "number": 3},
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/target"): (
            f"/api/activities/{total.id}/target",
            None,
            OWN,
        ),
        ("GET", "/api/templates"): ("/api/templates", None, ANY_STAFF),
        ("POST", "/api/lessons/{lesson_id}/plan/template"): (
            f"{at}/plan/template",
            {"code": "intervals"},
            OWN,
        ),
        ("POST", "/api/lessons/{lesson_id}/template"): (
            f"{at}/template",
            {"name": "Mine"},
            (401, 404, 404, 404, 201, 422),  # a name is taken once in a school
        ),
        # A ready one is nobody's to take away.
        ("DELETE", "/api/templates/{code}"): ("/api/templates/intervals", None, NOBODYS),
        ("POST", "/api/lessons/{lesson_id}/belts"): (f"{at}/belts", belt, OWN),
        ("POST", "/api/activities/{activity_id}/gate"): (
            f"/api/activities/{activity}/gate",
            {"lines": ["P,1,5000"]},
            OWN,
        ),
        ("GET", "/api/stand-ins/belts/{lesson_id}"): (f"/api/stand-ins/belts/{lesson}", None, OWN),
        ("GET", "/api/stand-ins/gate/{activity_id}"): (
            f"/api/stand-ins/gate/{activity}?until_ms=60000",
            None,
            OWN,
        ),
    }


def _challenge_routes(world: World, test: str, owner: Staff) -> Routes:
    ids = challenge_ids(world, owner)
    week, challenge = f"/api/weeks/{ids['week_id']}", f"/api/challenges/{ids['challenge_id']}"
    spare = a_week(world, staff=owner)
    today = timezone.localdate().isoformat()
    new = {
        "name": "W", "starts_on": today, "ends_on": today, "points": {"took_part": 1},
        "class_ids": [world.school_class.id],
    }  # fmt: skip
    return {
        ("GET", "/api/weeks"): ("/api/weeks", None, ANY_STAFF),
        ("POST", "/api/weeks"): ("/api/weeks", new, OWN_MAKES),
        ("GET", "/api/weeks/{week_id}"): (week, None, OWN),
        ("DELETE", "/api/weeks/{week_id}"): (
            f"/api/weeks/{spare.id}",
            None,
            (401, 404, 404, 404, 204, 404),
        ),
        ("PUT", "/api/weeks/{week_id}/days/{on}"): (
            f"{week}/days/{today}",
            {"test_id": test},
            OWN,
        ),
        ("DELETE", "/api/weeks/{week_id}/days/{on}"): (
            f"{week}/days/{today}",
            None,
            (401, 404, 404, 404, 200, 404),
        ),
        ("GET", "/api/open-challenges"): ("/api/open-challenges", None, ANY_STAFF),
        ("GET", "/api/challenges/{challenge_id}"): (challenge, None, OWN),
        ("POST", "/api/challenges/{challenge_id}/open"): (
            f"{challenge}/open",
            {"class_id": world.school_class.id},
            OWN,
        ),
        ("POST", "/api/challenges/{challenge_id}/points"): (f"{challenge}/points", None, OWN),
        ("POST", "/api/points/{point_id}/reverse"): (
            f"/api/points/{ids['point_id']}/reverse",
            {"why": "by mistake"},
            OWN,
        ),
    }
