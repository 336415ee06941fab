"""Routes of the living school: who gets what of terms, care, moving up, files and erasing."""

from __future__ import annotations

from lauf.exchange.actions import merge_pupils
from lauf.people.actions import new_calendar_address
from lauf.people.models import Merge, Pupil, Staff
from tests.api.conftest import PASSWORD, World
from tests.api.roles import ANY_STAFF, HEAD_DELETES, HEAD_ONLY, OWN, PUBLIC, Routes

#: Any school's head, of the own school.
ANY_HEAD = (401, 403, 200, 403, 403, 200)


def a_merge(world: World) -> Merge:
    """Two records of a child that were made one."""
    staff = world.head.staff
    assert staff is not None
    double = Pupil.objects.create(
        school=world.school, school_class=world.school_class, given_name="Twice"
    )
    return merge_pupils(staff, world.pupils[10].id, double.id)


def school_routes(world: World, teacher: Staff) -> Routes:
    group, pupil = world.school_class, world.pupils[3]
    at = f"/api/classes/{group.id}"
    spare = Pupil.objects.create(school=world.school, school_class=group, given_name="Spare")
    gone = Pupil.objects.create(school=world.school, school_class=group, given_name="Gone")
    empty = world.school.classes.create(name="4 Empty", year_group=group.year_group)
    merge = a_merge(world)
    slot = {"weekday": 1, "at": "09:30", "minutes": 45, "place": "Hall"}
    moves = {"moves": []}
    details = {"name": "S", "cut_off_month": 9, "cut_off_day": 1}
    password = {"password": "wrong"}
    return {
        ("GET", "/api/timetable"): ("/api/timetable", None, ANY_STAFF),
        ("GET", "/api/classes/{class_id}/timetable"): (f"{at}/timetable", None, OWN),
        ("PUT", "/api/classes/{class_id}/timetable"): (f"{at}/timetable", {"rows": [slot]}, OWN),
        ("PUT", "/api/classes/{class_id}"): (
            at,
            {"name": "4 T", "year_group_id": group.year_group_id, "teacher_ids": [teacher.id]},
            HEAD_ONLY,
        ),
        ("PUT", "/api/classes/{class_id}/groups"): (
            f"{at}/groups",
            {"rows": [{"pupil_id": pupil.id, "group": "Red"}]},
            OWN,
        ),
        ("DELETE", "/api/classes/{class_id}"): (f"/api/classes/{empty.id}", None, HEAD_DELETES),
        ("PUT", "/api/pupils/{pupil_id}/care"): (
            f"/api/pupils/{pupil.id}/care",
            {"measuring": "given", "exclusions": [{"what": "hanging"}]},
            OWN,
        ),
        ("PUT", "/api/lessons/{lesson_id}/allowed"): (
            f"/api/lessons/{world.activity.lesson_id}/allowed",
            {"pupil_id": pupil.id, "what": ["hanging"], "allowed": True},
            (401, 404, 404, 404, 204, 204),
        ),
        ("PUT", "/api/school/details"): ("/api/school/details", details, ANY_HEAD),
        # A list without what is in use, or with a stranger's.
        ("PUT", "/api/school/year-groups"): (
            "/api/school/year-groups",
            {"rows": [{"id": group.year_group_id, "name": "Year 4", "age": 8}]},
            (401, 403, 404, 403, 403, 422),
        ),
        ("PUT", "/api/school/houses"): ("/api/school/houses", {"rows": []}, ANY_HEAD),
        ("PUT", "/api/school/terms"): ("/api/school/terms", {"rows": []}, ANY_HEAD),
        ("PUT", "/api/school/keeping"): (
            "/api/school/keeping",
            {"keep_years": 2, "scores_outlive": False},
            ANY_HEAD,
        ),
        ("PUT", "/api/school/idle"): (
            "/api/school/idle",
            {"idle_days": 14, "tablet_idle_days": 3},
            ANY_HEAD,
        ),
        ("PUT", "/api/school/second-factor"): (
            "/api/school/second-factor",
            {"required": False},
            ANY_HEAD,
        ),
        ("GET", "/api/school/move-up"): ("/api/school/move-up", None, ANY_HEAD),
        # Every class is named; a school without any moves up as it is.
        ("POST", "/api/school/move-up"): (
            "/api/school/move-up",
            moves,
            (401, 403, 200, 403, 403, 422),
        ),
        ("DELETE", "/api/school/move-up"): (
            "/api/school/move-up",
            None,
            (401, 403, 200, 403, 403, 404),
        ),
        ("GET", "/api/school/backups"): ("/api/school/backups", None, ANY_HEAD),
        ("GET", "/api/school/server"): ("/api/school/server", None, ANY_HEAD),
        ("GET", "/api/school/leavers-due"): ("/api/school/leavers-due", None, ANY_HEAD),
        ("POST", "/api/school/leavers-due"): (
            "/api/school/leavers-due",
            {"pupil_ids": [spare.id]},
            (401, 403, 422, 403, 403, 422),
        ),
        # Height and weight are in them: for heads with that permission, which none here has.
        ("GET", "/api/school/package.zip"): ("/api/school/package.zip", None, (401, *[403] * 5)),
        ("GET", "/api/pupils/{pupil_id}/everything.zip"): (
            f"/api/pupils/{pupil.id}/everything.zip",
            None,
            (401, *[403] * 5),
        ),
        ("GET", "/api/classes/{class_id}/scores.xlsx"): (f"{at}/scores.xlsx", None, OWN),
        ("GET", "/api/calendar/{token}.ics"): (
            f"/api/calendar/{new_calendar_address(teacher)}.ics",
            None,
            PUBLIC,
        ),
        ("GET", "/api/pupils/{pupil_id}/doubles"): (f"/api/pupils/{pupil.id}/doubles", None, OWN),
        ("POST", "/api/pupils/{pupil_id}/doubles"): (
            f"/api/pupils/{pupil.id}/doubles",
            {"double_id": spare.id},
            HEAD_ONLY,
        ),
        ("DELETE", "/api/merges/{merge_id}"): (f"/api/merges/{merge.id}", None, HEAD_ONLY),
        ("POST", "/api/pupils/{pupil_id}/erase"): (
            f"/api/pupils/{gone.id}/erase",
            None,
            HEAD_ONLY,
        ),
        ("GET", "/api/session/account"): ("/api/session/account", None, ANY_STAFF),
        ("DELETE", "/api/session/devices/{device_id}"): (
            f"/api/session/devices/{merge.id}",
            None,
            (401, *[404] * 5),
        ),
        ("POST", "/api/session/second-factor"): (
            "/api/session/second-factor",
            password,
            (401, *[422] * 5),
        ),
        ("PUT", "/api/session/second-factor"): (
            "/api/session/second-factor",
            {"code": "123456"},
            (401, *[422] * 5),
        ),
        ("POST", "/api/session/second-factor/away"): (
            "/api/session/second-factor/away",
            {**password, "code": "123456"},
            (401, *[422] * 5),
        ),
        ("POST", "/api/session/calendar"): ("/api/session/calendar", None, ANY_STAFF),
        ("POST", "/api/setup/package"): (
            "/api/setup/package",
            {"setup_code": "test-code", "data": "", "username": "u", "password": PASSWORD},
            (422,) * 6,
        ),
    }
