"""The routes of a lesson in the hall and of challenges: part of the table of `test_access`."""

from __future__ import annotations

import uuid

from django.utils import timezone

from lauf.lessons.actions import save_plan
from lauf.lessons.models import Helper
from lauf.people.models import Staff
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import BlockKind
from tests.api.asking import childs_device, childs_go
from tests.api.conftest import World
from tests.api.roles import ANY_STAFF, NOBODYS, OWN, OWN_MAKES, Routes
from tests.api.weeks import a_challenge, a_week, challenge_ids


def hall_routes(world: World, lesson: str, activity: str, test: str) -> Routes:
    """What a lesson in the hall asks for."""
    staged = world.lesson_on(0, "shuttle-20m-even")
    total = world.lesson_on(0, "reps-240")
    stations = world.lesson_on(0)
    assert world.teacher.staff is not None
    entry = dict(BLOCK_KINDS[BlockKind.STATIONS].new)
    save_plan(world.teacher.staff, stations.lesson_id, based_on=0, entries=[entry])
    helper = Helper.objects.create(
        lesson_id=lesson,
        name="Kim",
        let_in_by=world.teacher.staff,
        joined_at=timezone.now(),
    )
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
        ("GET", "/api/activities/{activity_id}/wall"): (
            f"/api/activities/{activity}/wall",
            None,
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/lanes/{pupil_id}"): (
            f"/api/activities/{activity}/lanes/{child}",
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
        # A helper has a key of their own; who signs in has none.
        ("POST", "/api/help"): ("/api/help", {"code": "x", "name": "Kim"}, (404,) * 6),
        ("GET", "/api/help"): ("/api/help", None, (401,) * 6),
        ("DELETE", "/api/help"): ("/api/help", None, (401,) * 6),
        ("GET", "/api/help/live"): ("/api/help/live", None, (401,) * 6),
        ("GET", "/api/lessons/{lesson_id}/live"): (f"{at}/live", None, OWN),
        ("GET", "/api/help/activities/{activity_id}/reading"): (
            f"/api/help/activities/{activity}/reading?typed=5",
            None,
            (401,) * 6,
        ),
        ("POST", "/api/help/activities/{activity_id}/attempts"): (
            f"/api/help/activities/{activity}/attempts",
            world.body(world.pupils[0], "20"),
            (401,) * 6,
        ),
        ("GET", "/api/lessons/{lesson_id}/helpers"): (f"{at}/helpers", None, OWN),
        ("POST", "/api/lessons/{lesson_id}/helpers"): (f"{at}/helpers", None, OWN),
        ("DELETE", "/api/lessons/{lesson_id}/helpers"): (f"{at}/helpers", None, OWN),
        ("DELETE", "/api/lessons/{lesson_id}/helpers/{helper_id}"): (
            f"{at}/helpers/{helper.id}",
            None,
            OWN,
        ),
        ("GET", "/api/stand-ins/belts/{lesson_id}"): (f"/api/stand-ins/belts/{lesson}", None, OWN),
        ("GET", "/api/stand-ins/gate/{activity_id}"): (
            f"/api/stand-ins/gate/{activity}?until_ms=60000",
            None,
            OWN,
        ),
    }


def _goes(world: World, week: str, owner: Staff) -> Routes:
    """What children enter, and the addresses of their devices: who signs in has no key of one."""
    entrance, go, _ = childs_device(world, owner)
    open_week, challenge, slip_id = entrance.week, go.challenge, entrance.id
    other = childs_go(entrance, challenge, "22")
    at, chosen = f"/api/weeks/{open_week.id}", {"class_id": world.school_class.id}
    second = world.pupils[1].id
    new = {
        "id": uuid.uuid4(), "slip_id": slip_id, "challenge_id": challenge.id, "typed": "23",
        "made_at": timezone.now(),
    }  # fmt: skip
    return {
        ("GET", "/api/weeks/{week_id}/goes"): (f"{week}/goes", None, OWN),
        ("POST", "/api/weeks/{week_id}/goes/open"): (f"{at}/goes/open", chosen, OWN),
        ("POST", "/api/weeks/{week_id}/goes/close"): (f"{week}/goes/close", chosen, OWN),
        ("POST", "/api/weeks/{week_id}/goes/accept"): (
            f"{at}/goes/accept",
            {"ids": [other.id], "sure": True},
            OWN,
        ),
        ("POST", "/api/weeks/{week_id}/goes/{go_id}/decline"): (
            f"{at}/goes/{go.id}/decline",
            None,
            OWN,
        ),
        ("POST", "/api/weeks/{week_id}/goes/{go_id}/wait"): (f"{at}/goes/{go.id}/wait", None, OWN),
        ("POST", "/api/weeks/{week_id}/slips"): (f"{at}/slips", chosen, OWN),
        ("POST", "/api/weeks/{week_id}/slips/{pupil_id}"): (
            f"{at}/slips/{second}",
            {"id": uuid.uuid4()},
            OWN,
        ),
        ("DELETE", "/api/weeks/{week_id}/slips/{pupil_id}"): (
            f"{at}/slips/{world.pupils[2].id}",
            None,
            (401, 404, 404, 404, 200, 404),  # it is withdrawn once
        ),
        ("GET", "/api/lessons/{lesson_id}/goes"): (
            f"/api/lessons/{world.activity.lesson_id}/goes",
            None,
            OWN,
        ),
        ("POST", "/api/mine"): ("/api/mine", {"code": "x"}, (404,) * 6),
        ("GET", "/api/mine"): ("/api/mine", None, (401,) * 6),
        ("DELETE", "/api/mine"): ("/api/mine", None, (204,) * 6),
        ("GET", "/api/mine/children/{slip_id}"): (
            f"/api/mine/children/{slip_id}",
            None,
            (401,) * 6,
        ),
        ("GET", "/api/mine/challenges/{challenge_id}/reading"): (
            f"/api/mine/challenges/{challenge.id}/reading?typed=5",
            None,
            (401,) * 6,
        ),
        ("POST", "/api/mine/goes"): ("/api/mine/goes", new, (401,) * 6),
    }


def challenge_routes(world: World, test: str, owner: Staff) -> Routes:
    ids = challenge_ids(world, owner)
    aims = f"/api/activities/{world.activity.id}/aims"
    week, challenge = f"/api/weeks/{ids['week_id']}", f"/api/challenges/{ids['challenge_id']}"
    spare = a_week(world, staff=owner)
    unused = a_challenge(world, spare, staff=owner)
    today = timezone.localdate().isoformat()
    week_on = spare.starts_on.isoformat()
    new = {
        "id": uuid.uuid4(), "name": "W", "starts_on": today, "ends_on": today,
        "points": {"took_part": 1}, "class_ids": [world.school_class.id],
    }  # fmt: skip
    return {
        ("GET", "/api/activities/{activity_id}/aims"): (aims, None, OWN),
        ("POST", "/api/activities/{activity_id}/aims"): (aims, None, OWN),
        ("PUT", "/api/activities/{activity_id}/aims/{pupil_id}"): (
            f"{aims}/{world.pupils[7].id}",
            {"typed": "24", "variant": "full"},
            OWN,
        ),
        ("PUT", "/api/activities/{activity_id}/group-aims"): (
            f"/api/activities/{world.lesson_on(0).id}/group-aims",
            {"group": "", "typed": "240"},
            OWN,
        ),
        ("GET", "/api/activities/{activity_id}/rivals"): (
            f"/api/activities/{world.activity.id}/rivals",
            None,
            OWN,
        ),
        ("PUT", "/api/activities/{activity_id}/rivals/{challenge_id}"): (
            f"/api/activities/{world.activity.id}/rivals/{ids['challenge_id']}",
            {"typed": "30", "variant": "full"},
            OWN,
        ),
        ("GET", "/api/weeks"): ("/api/weeks", None, ANY_STAFF),
        ("POST", "/api/weeks"): ("/api/weeks", new, OWN_MAKES),
        ("GET", "/api/weeks/{week_id}"): (week, None, OWN),
        ("GET", "/api/weeks/{week_id}/wall"): (f"{week}/wall", None, OWN),
        ("POST", "/api/weeks/{week_id}/again"): (
            f"{week}/again",
            {"class_id": world.school_class.id},
            OWN,
        ),
        ("DELETE", "/api/weeks/{week_id}"): (
            f"/api/weeks/{a_week(world, staff=owner).id}",
            None,
            (401, 404, 404, 404, 204, 404),
        ),
        ("POST", "/api/weeks/{week_id}/challenges"): (
            f"{week}/challenges",
            {"on": today, "test_ids": [test]},
            OWN,
        ),
        ("PUT", "/api/weeks/{week_id}/rival"): (
            f"{week}/rival",
            {"kind": "self", "marks": [{"challenge_id": ids["challenge_id"]}]},
            OWN,
        ),
        ("GET", "/api/weeks/{week_id}/sheet"): (f"{week}/sheet?on={week_on}", None, OWN),
        ("POST", "/api/weeks/{week_id}/sheets"): (f"{week}/sheets?on={week_on}", None, OWN),
        ("POST", "/api/weeks/{week_id}/hold"): (
            f"{week}/hold",
            {"class_id": world.school_class.id, "on": week_on},
            OWN,
        ),
        ("POST", "/api/weeks/{week_id}/points"): (f"{week}/points", None, OWN),
        **_goes(world, week, owner),
        ("GET", "/api/classes/{class_id}/series"): (
            f"/api/classes/{world.school_class.id}/series",
            None,
            OWN,
        ),
        ("GET", "/api/ready-sets"): ("/api/ready-sets", None, ANY_STAFF),
        ("DELETE", "/api/challenges/{challenge_id}"): (
            f"/api/challenges/{unused.id}",
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
