"""Every route of the API, with whom it answers how: the table of `test_access`."""

from __future__ import annotations

import uuid

from django.utils import timezone

from lauf.catalogue.actions import make_battery, save_course
from lauf.catalogue.models import Ladder, NormTable
from lauf.lessons.actions import start_sitting
from lauf.people.models import YearGroup
from tests.api.conftest import PASSWORD, World
from tests.api.games_routes import games_routes
from tests.api.hall_routes import challenge_routes, hall_routes
from tests.api.paper_routes import paper_routes
from tests.api.roles import (
    ANY_STAFF,
    HEAD_DELETES,
    HEAD_MAKES,
    HEAD_ONLY,
    HEADS,
    OWN,
    PUBLIC,
    SCHOOL,
    Routes,
)
from tests.api.school_routes import school_routes
from tests.api.trusts import trust_routes


def routes(world: World, own: str) -> Routes:
    """Method and route -> address with this world's ids, body, expected statuses, where the own
    teacher is the one of that name."""
    owner = getattr(world, own).staff
    assert owner is not None
    activity, lesson = world.activity.id, world.activity.lesson_id
    pupil = world.pupils[0]
    unused = f"/api/lessons/{world.lesson_on(3).lesson_id}"
    attempt = world.record(world.pupils[1], "21~")
    year = YearGroup.objects.get(school=world.school, name="Year 4").id
    new_class = {"name": "4 New", "year_group_id": year, "children": "Ada Abara"}
    new_lesson = {
        "id": uuid.uuid4(),
        "class_id": world.school_class.id,
        "test_ids": [world.activity.protocol.test_id],
        "starts_at": timezone.now().isoformat(),
        "minutes": 40,
        "place": "Hall",
    }
    moved = {key: value for key, value in new_lesson.items() if key not in ("id", "test_ids")}
    suggested = "/api/lessons/suggested?at=2026-03-10T09:00:00Z"
    run = {"wave": 1, "revision": 1, "anchor_ms": 1_000, "paused_ms": None}
    wrong = {"username": "nobody", "password": "wrong"}
    # Five wrong passwords in a row lock that name out.
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
        ("POST", "/api/tests/{test_id}/norms"): (
            f"/api/tests/{test}/norms",
            {**file, "name": "Another"},
            HEAD_MAKES,
        ),
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
            (401, 404, 404, 403, 403, 204),  # the head has made it
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
        ("GET", "/api/search"): ("/api/search?q=child", None, ANY_STAFF),
        ("POST", "/api/classes/{class_id}/pupils"): (
            f"/api/classes/{world.school_class.id}/pupils",
            {"given": "New", "family": "Child"},
            (401, 403, 404, 403, 403, 201),
        ),
        ("PUT", "/api/pupils/{pupil_id}/details"): (
            f"/api/pupils/{world.pupils[2].id}/details",
            {"given": "Other", "family": "Name"},
            HEAD_ONLY,
        ),
        ("POST", "/api/pupils/{pupil_id}/move"): (
            f"/api/pupils/{world.pupils[2].id}/move",
            {"class_id": world.school_class.id},
            HEAD_ONLY,
        ),
        ("POST", "/api/pupils/{pupil_id}/leave"): (
            f"/api/pupils/{world.pupils[11].id}/leave",
            None,
            HEAD_ONLY,
        ),
        ("POST", "/api/lists/preview"): (
            "/api/lists/preview",
            {"text": "Name,Class\nAda Abara,4 New"},
            (401, 403, 200, 403, 403, 200),
        ),
        # Nobody keeps what was never shown.
        ("POST", "/api/lists"): (
            "/api/lists",
            {"text": "Name,Class\nAda Abara,4 New", "agreement": "x"},
            (401, 403, 422, 403, 403, 422),
        ),
        ("GET", "/api/school"): ("/api/school", None, (401, 403, 200, 403, 403, 200)),
        ("PUT", "/api/school/units"): (
            "/api/school/units",
            {"imperial": False},
            (401, 403, 200, 403, 403, 200),
        ),
        ("PUT", "/api/staff/{staff_id}"): (
            f"/api/staff/{staff.id}",
            {"name": "Head", "role": "head", "is_active": True},
            HEAD_ONLY,
        ),
        # A user name is taken once, in all schools.
        ("POST", "/api/staff"): (
            "/api/staff",
            {"name": "New", "username": "new", "role": "teacher"},
            (401, 403, 201, 403, 403, 422),
        ),
        ("POST", "/api/staff/{staff_id}/link"): (f"/api/staff/{staff.id}/link", None, HEAD_ONLY),
        ("POST", "/api/welcome"): ("/api/welcome", {"token": "x"}, (422,) * 6),
        ("PUT", "/api/welcome"): (
            "/api/welcome",
            {"token": "x", "password": "y"},
            (422,) * 4 + (429,) * 2,
        ),
        ("PUT", "/api/welcome/post"): ("/api/welcome/post", {"token": "x", **wrong}, (429,) * 6),
        ("PUT", "/api/session/password"): (
            "/api/session/password",
            {"old": "wrong", "new": PASSWORD},
            (401, 422, 422, 422, 422, 422),
        ),
        ("DELETE", "/api/session/others"): ("/api/session/others", None, ANY_STAFF),
        ("GET", "/api/health"): ("/api/health", None, PUBLIC),
        ("GET", "/api/ready"): ("/api/ready", None, PUBLIC),
        ("GET", "/api/session"): ("/api/session", None, PUBLIC),
        ("POST", "/api/session"): ("/api/session", wrong, (401, 401, 401, 401, 401, 429)),
        ("POST", "/api/setup"): ("/api/setup", {**set_up, "password": PASSWORD}, (422,) * 6),
        ("GET", "/api/today"): ("/api/today", None, ANY_STAFF),
        ("GET", "/api/tests"): ("/api/tests", None, ANY_STAFF),
        ("GET", "/api/classes"): ("/api/classes", None, ANY_STAFF),
        ("POST", "/api/classes"): ("/api/classes", new_class, HEADS),
        ("GET", "/api/classes/{class_id}"): (f"/api/classes/{world.school_class.id}", None, OWN),
        ("GET", "/api/classes/{class_id}/board"): (
            f"/api/classes/{world.school_class.id}/board",
            None,
            OWN,
        ),
        ("GET", "/api/classes/{class_id}/lessons"): (
            f"/api/classes/{world.school_class.id}/lessons",
            None,
            OWN,
        ),
        ("POST", "/api/lessons"): ("/api/lessons", new_lesson, (401, 404, 404, 404, 201, 201)),
        ("GET", "/api/lessons/{lesson_id}"): (f"/api/lessons/{lesson}", None, OWN),
        ("GET", "/api/lessons/{lesson_id}/results"): (f"/api/lessons/{lesson}/results", None, OWN),
        ("GET", "/api/lessons/suggested"): (suggested, None, ANY_STAFF),
        ("GET", "/api/spares"): ("/api/spares", None, ANY_STAFF),
        ("GET", "/api/spares/{class_id}/{test_id}"): (
            f"/api/spares/{world.school_class.id}/{world.activity.protocol.test_id}",
            None,
            OWN,
        ),
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
            {"id": uuid.uuid4(), "starts_at": timezone.now().isoformat()},
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
        **paper_routes(world, owner),
        **trust_routes(world),
        **school_routes(world, owner),
        ("GET", "/api/lessons/{lesson_id}/grid.xlsx"): (
            f"/api/lessons/{sitting.id}/grid.xlsx",
            None,
            OWN,
        ),
        **hall_routes(world, str(lesson), str(activity), str(test)),
        **challenge_routes(world, str(test), owner),
        **games_routes(world),
        ("DELETE", "/api/session"): ("/api/session", None, ANY_STAFF),
    }
