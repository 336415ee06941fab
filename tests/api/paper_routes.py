"""Routes of what is made from scores: the board and its working, handouts, a child's own page."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone

from lauf.exchange.paper import jobs
from lauf.people.actions import open_own_page
from lauf.people.models import Staff
from tests.api.conftest import World
from tests.api.roles import ANY_STAFF, OWN, PUBLIC, SCHOOL, Routes
from tests.support.served import wait_for

#: Of the own school: who may see all of it; a stranger's head sees the own one.
WHO_SEES_SCHOOL = (401, 403, 200, 403, 403, 200)
#: Of the own class, without an answer.
OWN_ENDS = (401, 404, 404, 404, 204, 204)


def a_handout(staff: Staff) -> UUID:
    """A file that is ready to be fetched."""
    begun = jobs.begin(staff.id, "A page.pdf", ["<p>A page</p>"])["id"]
    assert wait_for(lambda: jobs.state_of(staff.id, begun)["ready"], bool)
    return begun


def paper_routes(world: World, teacher: Staff) -> Routes:
    group, pupil = world.school_class, world.pupils[4]
    at, child = f"/api/classes/{group.id}", f"/api/pupils/{pupil.id}"
    attempt = world.record(pupil, "22", world.lesson_on(9))
    test = world.activity.protocol.test_id
    note = f"{child}/notes/lower"
    handout = f"/api/handouts/{a_handout(teacher)}"
    code = open_own_page(teacher, world.pupils[5].id, timezone.now()).code
    item = {"pupil_id": pupil.id, "words": "kept trying"}
    # A file is there for who began it, and for nobody else.
    owner = (401, 404, 404, 404, 200, 404)
    return {
        ("GET", "/api/attempts/{attempt_id}/why"): (f"/api/attempts/{attempt.id}/why", None, OWN),
        ("PUT", "/api/pupils/{pupil_id}/notes/{need}"): (
            note,
            {"words": "lower than before", "why": "was ill"},
            OWN,
        ),
        ("DELETE", "/api/pupils/{pupil_id}/notes/{need}"): (note, None, OWN_ENDS),
        ("GET", "/api/lessons/{lesson_id}/found"): (
            f"/api/lessons/{world.activity.lesson_id}/found",
            None,
            OWN,
        ),
        ("GET", "/api/classes/{class_id}/next"): (f"{at}/next", None, OWN),
        ("GET", "/api/tests/{test_id}/reliability"): (
            f"/api/tests/{test}/reliability",
            None,
            SCHOOL,
        ),
        ("GET", "/api/school/picture"): ("/api/school/picture", None, WHO_SEES_SCHOOL),
        ("PUT", "/api/school/scheme"): (
            "/api/school/scheme",
            {"scheme": None},
            WHO_SEES_SCHOOL,
        ),
        ("POST", "/api/school/head-page"): ("/api/school/head-page", None, WHO_SEES_SCHOOL),
        ("POST", "/api/classes/{class_id}/reports"): (
            f"{at}/reports",
            {"pupil_ids": [pupil.id]},
            OWN,
        ),
        ("POST", "/api/classes/{class_id}/class-list"): (f"{at}/class-list", {}, OWN),
        ("POST", "/api/classes/{class_id}/certificates"): (
            f"{at}/certificates",
            {"items": [item]},
            OWN,
        ),
        ("POST", "/api/classes/{class_id}/sheets"): (
            f"{at}/sheets",
            {"kind": "test", "of": test, "earlier": True},
            OWN,
        ),
        ("GET", "/api/classes/{class_id}/awards"): (f"{at}/awards", None, OWN),
        ("GET", "/api/classes/{class_id}/family-lines"): (f"{at}/family-lines", None, OWN),
        ("PUT", "/api/pupils/{pupil_id}/family-line"): (
            f"{child}/family-line",
            {"text": "Likes to jump."},
            OWN,
        ),
        ("GET", "/api/handouts/{handout_id}"): (handout, None, owner),
        ("GET", "/api/handouts/{handout_id}/file"): (f"{handout}/file", None, owner),
        ("GET", "/api/pupils/{pupil_id}/own"): (f"{child}/own", None, OWN),
        ("POST", "/api/pupils/{pupil_id}/own-code"): (f"{child}/own-code", None, OWN),
        ("DELETE", "/api/pupils/{pupil_id}/own-code"): (f"{child}/own-code", None, OWN_ENDS),
        ("GET", "/api/warm-up"): ("/api/warm-up?number=12&spare=legs", None, ANY_STAFF),
        ("GET", "/api/own/{code}"): (f"/api/own/{code}", None, PUBLIC),
    }
