"""Whatever is sent, the server answers: no 500, and every refusal says why. A few of each here;
some twenty thousand in `./lauf bench`, which sets LAUF_FUZZ to how many of each."""

from __future__ import annotations

import copy
import os
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Final
from urllib.parse import urlencode

import pytest
import schemathesis
from django.db import transaction
from hypothesis import given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode

from lauf.catalogue.actions import make_battery, save_course
from lauf.catalogue.models import Ladder, NormTable
from lauf.people.actions import new_calendar_address
from lauf.web.api import api
from tests.api.asking import childs_device, helpers_key
from tests.api.conftest import MANY, World, the_world
from tests.api.games import games_ids
from tests.api.paper_routes import a_handout
from tests.api.school_routes import a_merge
from tests.api.weeks import challenge_ids

SCHEMA = schemathesis.openapi.from_dict(api.get_openapi_schema())
OPERATIONS = {
    f"{found.ok().method.upper()} {found.ok().path}": found.ok()
    for found in SCHEMA.get_all_operations()
}
# Signing out or in would end the session the others need.
OPERATIONS = {name: op for name, op in OPERATIONS.items() if "/api/session" not in name}


def _real_ids(world: World) -> dict[str, Any]:
    staff, test = world.head.staff, world.activity.protocol.test_id
    assert staff is not None
    helper, key = helpers_key(world)
    entrance, go, child = childs_device(world, staff)
    course = save_course(
        staff, course_id=None, name="Loop", lap_mm=42_000, steps=None, step_mm=None
    )
    return {
        "activity_id": world.activity.id,
        "lesson_id": world.activity.lesson_id,
        "class_id": world.school_class.id,
        "pupil_id": world.pupils[0].id,
        "attempt_id": world.record(world.pupils[1], "21~").id,
        "run_id": uuid.uuid4(),
        "test_id": world.activity.protocol.test_id,
        "year_group_id": world.school_class.year_group_id,
        "ladder_id": Ladder.objects.filter(test=test)[0].id,
        "norm_id": NormTable.objects.filter(test__school=world.school)[0].id,
        "battery_id": make_battery(staff, "Term check", [test]).id,
        "course_id": course.id,
        "staff_id": staff.id,
        "merge_id": a_merge(world).id,
        "token": new_calendar_address(staff),
        "need": "lower",
        "handout_id": a_handout(staff),
        "helper_id": helper.id,
        "slip_id": entrance.id,
        "go_id": go.id,
        "child": child,
        # What the head's browser holds too: it is a helper's phone at the same time.
        "key": key,
        **challenge_ids(world, staff),
        **games_ids(world),
        "on": "2026-01-05",
        "block": 0,
        "code": "intervals",
    }


@pytest.fixture(scope="module")
def full(
    django_db_setup: None, django_db_blocker: Any, unprinted: None
) -> Iterator[tuple[World, dict[str, Any]]]:
    """A school with one of everything, and its ids. It is made once: each test is a transaction
    within the one that it stands in."""
    with django_db_blocker.unblock(), transaction.atomic():
        world = the_world()
        yield world, _real_ids(world)
        transaction.set_rollback(True)


MODES = [
    (name, mode)
    for name, operation in OPERATIONS.items()
    for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
    if operation.body or mode is GenerationMode.POSITIVE
]


#: How many of each are sent; where the number of requests is added up, if anywhere.
EXAMPLES: Final = int(os.environ.get("LAUF_FUZZ", "3"))
COUNTED: Final = os.environ.get("LAUF_FUZZ_COUNTED")
#: Times, sizes and signs at their ends, in the place of anything that was to be sent.
ENDS: Final = st.sampled_from(
    [
        "0001-01-01T00:00:00Z", "9999-12-31T23:59:59-12:00", "9999-12-31", "0001-01-01", "24:00",
        "", " ", "x" * 131_073, "\r", "\u202e\u200b", "\U0001f3c3" * 50, "é" * 200, "٣", "1e400",
        0, -1, 2**31, 2**53, 2**63, 2**64, 10**400, -(2**63), 1e308, float("nan"), float("inf"),
        None, True, [], {}, [[]] * 60, {"a": {"a": {}}}, str(uuid.UUID(int=0)),
    ]
)  # fmt: skip
#: What is no JSON, or only just.
RAW: Final = (b"", b"{", b"[" * 100_000, b"\xff\xfe{\x00", b'{"a":' * 5_000, b"9" * 9_000, b"\x00")


def spoiled(data: st.DataObject, body: Any) -> Any:
    """The body with one thing in it, anywhere, at an end of what there is."""
    body = copy.deepcopy(body)
    place, within = None, body
    while isinstance(within, dict | list) and within:
        keys = sorted(within) if isinstance(within, dict) else range(len(within))
        key = data.draw(st.sampled_from(list(keys)))
        place, within = (within, key), within[key]
        if data.draw(st.booleans()):
            break
    if place is None:
        return data.draw(ENDS)
    holder, key = place
    holder[key] = data.draw(ENDS)
    return body


@pytest.mark.parametrize(("name", "mode"), MODES)
def test_any_body_gets_an_answer(
    full: tuple[World, dict[str, Any]], db: None, name: str, mode: GenerationMode
) -> None:
    operation = OPERATIONS[name]
    world, ids = full
    world.head.client.cookies["lauf_helper"] = ids["key"]
    world.head.client.cookies["lauf_child"] = ids["child"]
    for place in list(operation.path_parameters):
        assert place.name in ids, f"{place.name} needs a real id for this test"

    # Without a body there is but one thing to send.
    sent = 0

    @settings(MANY, max_examples=EXAMPLES if operation.body or operation.query else 1)
    @given(data=st.data())
    def answered(data: st.DataObject) -> None:
        body = (
            data.draw(operation.as_strategy(generation_mode=mode)).body if operation.body else None
        )
        if isinstance(body, dict):  # an unknown id would end most requests at "not found"
            body |= {name: ids[name] for name in set(body) & set(ids) if _is_id(body[name])}
        if operation.body and data.draw(st.booleans()):
            body = spoiled(data, body if _json(body) else {})
        path = operation.path.format(**ids)
        if operation.query:
            path += "?" + urlencode({one.name: data.draw(ENDS) for one in operation.query})
        answer = world.head.ask(operation.method.upper(), path, body if _json(body) else None)
        nonlocal sent
        sent += 1
        assert answer.status_code < 500
        if answer.status_code >= 400:
            assert answer.json()["message"]

    answered()
    for raw in RAW if operation.body else ():
        path = operation.path.format(**ids)
        answer = world.head.client.generic(
            operation.method.upper(), path, raw, content_type="application/json"
        )
        sent += 1
        assert answer.status_code in (400, 422), raw[:20]
        assert answer.json()["message"]
    if COUNTED:
        with Path(COUNTED).open("a") as counted:
            counted.write(f"{sent}\n")


def _is_id(value: Any) -> bool:
    try:
        return bool(uuid.UUID(value))
    except (ValueError, TypeError, AttributeError):
        return False


def _json(body: Any) -> bool:
    return isinstance(body, dict | list | str | int | float | bool)


@pytest.mark.parametrize("sign", ["\\u0000", "\\ud800", "\\udc00\\ud800"])
def test_text_that_no_database_holds_is_refused_by_every_address(world: World, sign: str) -> None:
    """PostgreSQL takes neither NUL nor half of a surrogate pair, in text or in JSON."""
    body = '{"name": "a' + sign + '"}'
    for path in ("template", "plan/template", "close"):
        address = f"/api/lessons/{world.activity.lesson_id}/{path}"
        answer = world.teacher.client.generic(
            "POST", address, body, content_type="application/json"
        )
        assert answer.status_code in (200, 400), "what takes no body reads none"
        assert answer.status_code == 200 or "could not be read" in answer.json()["message"]
    emoji = world.teacher.ask(
        "POST", f"/api/lessons/{world.activity.lesson_id}/template", {"name": "run \U0001f3c3"}
    )
    assert emoji.status_code == 201, "a whole pair is a sign like any other"


ENTRIES = st.text(max_size=60) | st.from_regex(r"[0-9.:'~ +/amcftsxyn-]{1,12}", fullmatch=True)
#: One test of every kind that a teacher without the growth permission enters.
SLUGS = (
    "press-ups-60", "plank-limit", "mile-run", "long-jump", "floor-roll", "vertical-jump",
    "sit-reach-box", "shoulder-reach", "underarm-10", "shuttle-20m-even", "laps-180", "reps-240",
    "resting-pulse",
)  # fmt: skip


@pytest.mark.parametrize("slug", SLUGS)
def test_any_entry_is_kept_whole_or_refused_with_what_is_accepted(world: World, slug: str) -> None:
    """What was typed is stored as typed, or the refusal names what is accepted."""
    activity = world.lesson_on(0, slug)
    variant = ([v["code"] for v in activity.protocol.variants] or [""])[-1]
    path = f"/api/activities/{activity.id}/attempts"
    pupil = world.pupils[2]

    @MANY
    @given(typed=ENTRIES)
    def kept_or_refused(typed: str) -> None:
        row = world.child(pupil, activity)
        body = world.body(pupil, typed, succeeds=row["head"], variant=variant, wave=None)
        answer = world.teacher.ask("POST", path, body)
        if answer.status_code == 200:
            score = answer.json()["score"]
            assert score["typed"] == typed.strip()
            measured = score["value"] is not None or "hand" in typed or "step" in typed
            assert measured != (score["reason"] is not None)
        else:
            assert answer.status_code == 422
            assert "Type" in answer.json()["accepted"] or "Set" in answer.json()["accepted"]

    kept_or_refused()
