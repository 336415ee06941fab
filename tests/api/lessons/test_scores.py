"""Scores from the device to the judged lane: kept once, never overwritten, never lost."""

from __future__ import annotations

import threading
import uuid
from typing import Any

import pytest
from django.db import DatabaseError, connection, transaction
from django.test import Client
from django.utils import timezone

from lauf.catalogue.models import Ladder, ProtocolVersion
from lauf.lessons.models import Run
from lauf.people.models import Pupil
from lauf.records.models import Attempt
from tests.api.conftest import Person, World
from tests.support.waits import LIMIT_S


def test_a_score_moves_the_childs_lane(world: World) -> None:
    first, pupil = world.lesson_on(21), world.pupils[0]
    world.record(pupil, "15", first)
    answer = world.post(pupil, "24")
    assert answer.status_code == 200
    child = answer.json()
    # Year 4, full: 9, 14, 20, 27; the protocol's default band is 1.645·√2·2 = 4.65.
    assert child["words"] == [
        "Far line", "3 more to End wall", "better, +9", "second time, so practice counts too",
        "new best",
    ]  # fmt: skip
    lane = child["lane"]
    assert [mark["at"] for mark in lane["earlier"]] == [15]
    assert (lane["today"]["at"], lane["best"]) == (24, 24)
    assert lane["band"] == [pytest.approx(10.35, abs=0.01), pytest.approx(19.65, abs=0.01)]
    assert [rung["at"] for rung in lane["rungs"]] == [9, 14, 20, 27]
    assert child == {**world.child(pupil), "device_clock": ""}


def test_an_estimate_is_kept_but_wins_no_best(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "15", world.lesson_on(21))
    child = world.post(pupil, "30~").json()
    assert child["score"]["estimate"] is True
    assert child["lane"]["best"] == 15
    assert "an estimate, so not a best" in child["words"]
    assert {"estimate", "history"} == {flag["code"] for flag in child["flags"]}


def test_blank_is_never_zero(world: World) -> None:
    none, zero = world.post(world.pupils[0], "a").json(), world.post(world.pupils[1], "0").json()
    assert (none["score"]["value"], none["score"]["shown"]) == (None, "absent")
    assert (zero["score"]["value"], zero["words"][0]) == (0, "9 more to Near line")


@pytest.mark.parametrize("typed", ["4o", "-3", "900", "", "12.5", "~"])
def test_a_bad_entry_says_what_is_accepted_and_stores_nothing(world: World, typed: str) -> None:
    answer = world.post(world.pupils[0], typed)
    assert answer.status_code == 422
    assert "a whole number from 0 to 60" in answer.json()["accepted"]
    assert not Attempt.objects.exists()


@pytest.mark.parametrize(
    ("more", "says"),
    [
        ({"variant": "one-armed"}, "forms knees, full"),
        ({"wave": 3}, "2 waves"),
        ({"recorded_at": "yesterday"}, "recorded_at"),
        ({"succeeds": str(uuid.uuid4())}, "does not exist"),
    ],
)
def test_an_impossible_request_is_refused_in_words(
    world: World, more: dict[str, Any], says: str
) -> None:
    answer = world.post(world.pupils[0], "20", **more)
    assert answer.status_code == 422
    assert says in answer.json()["message"]


def test_sending_one_twice_stores_it_once(world: World) -> None:
    body = world.body(world.pupils[0], "20")
    path = f"/api/activities/{world.activity.id}/attempts"
    answers = [world.teacher.ask("POST", path, body) for _ in range(3)]
    assert [answer.status_code for answer in answers] == [200] * 3
    assert answers[0].json() == answers[2].json()
    assert Attempt.objects.count() == 1
    # The same id for another child is a device's mistake, not a retry.
    other = {**body, "pupil_id": str(world.pupils[1].id)}
    assert world.teacher.ask("POST", path, other).status_code == 409


def test_two_devices_on_one_child_are_told_of_each_other(world: World) -> None:
    pupil = world.pupils[0]
    world.post(pupil, "20")
    answer = world.post(pupil, "25")
    assert answer.status_code == 409
    current = answer.json()["current"]
    assert (current["typed"], current["by"]) == ("20", "Teacher")
    assert world.post(pupil, "25", succeeds=current["id"], why="recount").status_code == 200
    assert world.post(pupil, "26", succeeds=current["id"]).status_code == 409
    assert world.child(pupil)["score"]["value"] == 25


def test_a_correction_keeps_the_first_entry_with_who_when_and_why(world: World) -> None:
    pupil = world.pupils[0]
    first = world.record(pupil, "20")
    world.post(pupil, "23", succeeds=str(first.id), why="partner counted again")
    check = world.teacher.ask("GET", f"/api/activities/{world.activity.id}/check").json()
    (row,) = check["corrections"]
    assert (row["was"], row["now"], row["by"], row["why"]) == (
        "20",
        "23",
        "Teacher",
        "partner counted again",
    )
    history = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()["tests"][0]["history"]
    assert [entry["score"]["value"] for entry in history] == [23]
    assert history[0]["correction"]["was"] == "20"


def test_undo_takes_back_and_the_next_entry_follows(world: World) -> None:
    pupil = world.pupils[0]
    first = world.record(pupil, "20")
    taken = world.post(pupil, "", withdrawn=True, succeeds=str(first.id), why="undone").json()
    assert (taken["score"], taken["words"]) == (None, [])
    assert taken["head"] is not None
    again = world.post(pupil, "21", succeeds=taken["head"]).json()
    assert again["score"]["value"] == 21
    assert Attempt.objects.count() == 3
    # A device that has not heard of the undo still starts afresh.
    world.post(pupil, "", withdrawn=True, succeeds=again["head"])
    assert world.post(pupil, "22").status_code == 200


def test_check_lists_who_is_missing_and_what_is_odd(world: World) -> None:
    earlier = world.lesson_on(21)
    for pupil in world.pupils:
        world.record(pupil, "20", earlier)
    for pupil in world.pupils[:9]:
        world.record(pupil, "21")
    slip = world.post(world.pupils[9], "2").json()["score"]
    path = f"/api/activities/{world.activity.id}/check"
    check = world.teacher.ask("GET", path).json()
    assert check["missing"] == [str(pupil.id) for pupil in world.pupils[10:]]
    assert check["odd"] == [str(world.pupils[9].id)]
    (odd,) = [c for c in check["children"] if c["pupil_id"] in check["odd"]]
    assert [flag["words"] for flag in odd["flags"]] == [
        "A digit too few? Last time: 20.",
        "Far below the rest of the class today.",
    ]
    for flag in ("slip", "class", "class"):
        answer = world.teacher.ask("POST", f"/api/attempts/{slip['id']}/confirm", {"flag": flag})
        assert answer.status_code == 200
    assert world.teacher.ask("GET", path).json()["odd"] == []
    wrong = world.teacher.ask("POST", f"/api/attempts/{slip['id']}/confirm", {"flag": "colour"})
    assert wrong.status_code == 422


def test_a_wave_stopped_early_is_not_held_against_the_ladder(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "15", world.lesson_on(21))
    run = {"wave": 1, "revision": 1, "anchor_ms": 1000, "ended": "early", "worked_seconds": 41}
    path = f"/api/activities/{world.activity.id}/runs/{uuid.uuid4()}"
    assert world.teacher.ask("PUT", path, run).status_code == 200
    child = world.post(pupil, "18").json()
    assert child["words"] == [
        "not judged: the ladder is for 60 s, this was 41 s",
        "not compared: the clock ran 41 s, last time 60 s",
    ]
    assert child["lane"]["rungs"] == []
    # The other wave ran its minute and is judged.
    other = world.post(world.pupils[1], "18", wave=2).json()
    assert other["words"][0] == "Centre line"


def test_moving_up_a_variant_is_not_a_drop(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "24", world.lesson_on(40), variant="knees")
    world.record(pupil, "10", world.lesson_on(20), variant="full")
    assert world.child(pupil)["variant"] == "full"
    history = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()["tests"][0]["history"]
    assert history[0]["words"][-1] == "moved to a harder form"
    back = world.post(pupil, "26", variant="knees").json()
    assert back["words"][-2:] == ["steady, within ±4", "new best"]


def test_the_schools_repeat_tests_are_weighed_with_the_starting_value(world: World) -> None:
    one, other = world.lesson_on(30), world.lesson_on(23)
    for index, pupil in enumerate(world.pupils):
        world.record(pupil, "20", one)
        world.record(pupil, str(20 + index % 2), other)
    lanes = world.teacher.ask("GET", f"/api/pupils/{world.pupils[0].id}").json()["tests"][0][
        "lanes"
    ]
    # Twelve differences, half 0 and half 1, beside ten pairs' worth of 2.0: TE² = (10·4 + 6/2)/22,
    # TE = 1.398, MDC90 = 3.25.
    assert lanes[0]["band_words"].startswith("Day-to-day variation ±3, from 12 repeat tests")
    assert "steady, within ±3" in world.post(world.pupils[0], "23").json()["words"]
    assert "better, +4" in world.post(world.pupils[2], "24").json()["words"]


def test_a_run_of_the_clock_is_kept_and_late_news_changes_nothing(world: World) -> None:
    path = f"/api/activities/{world.activity.id}/runs/{uuid.uuid4()}"

    def tell(**state: Any) -> Any:
        return world.teacher.ask("PUT", path, {"wave": 1, "anchor_ms": 5000, **state})

    assert tell(revision=1).status_code == 200
    assert tell(revision=3, ended="complete").json()["worked_seconds"] == 60
    assert tell(revision=2, paused_ms=12_000).json()["ended"] == "complete"
    # A second run of the same wave counts only once the first was started again.
    second = f"/api/activities/{world.activity.id}/runs/{uuid.uuid4()}"
    body = {"wave": 1, "revision": 2, "anchor_ms": 9000, "ended": "early", "worked_seconds": 30}
    refused = world.teacher.ask("PUT", second, body)
    assert refused.status_code == 422
    assert "already run" in refused.json()["message"]
    assert tell(revision=4, ended="restarted").status_code == 200
    assert world.teacher.ask("PUT", second, body).status_code == 200
    for wrong in ({"wave": 3}, {"ended": "early", "worked_seconds": 61}, {"ended": "early"}):
        answer = world.teacher.ask("PUT", second, {**body, "worked_seconds": None, **wrong})
        assert answer.status_code == 422
    runs = world.teacher.ask("GET", f"/api/lessons/{world.activity.lesson_id}").json()
    assert [run["ended"] for run in runs["activities"][0]["runs"]] == ["restarted", "early"]
    assert Run.objects.count() == 2


def test_closing_is_said_with_who_and_late_scores_are_still_taken(world: World) -> None:
    path = f"/api/lessons/{world.activity.lesson_id}"
    closed = world.teacher.ask("POST", f"{path}/close").json()
    assert closed["closed_by"] == "Teacher"
    assert world.head.ask("POST", f"{path}/close").json()["closed_by"] == "Teacher"
    assert world.post(world.pupils[0], "20").status_code == 200
    assert world.head.ask("POST", f"{path}/reopen").json()["closed_at"] is None


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE records_attempt SET value = 99",
        "DELETE FROM records_attempt",
        "UPDATE catalogue_protocolversion SET seconds = 30",
        "INSERT INTO records_attempt SELECT * FROM records_attempt",
    ],
)
def test_the_database_refuses_to_change_history(world: World, statement: str) -> None:
    world.record(world.pupils[0], "20")
    with pytest.raises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
        cursor.execute(statement)
    assert Attempt.objects.get().value == 20


@pytest.mark.parametrize(
    ("fields", "constraint"),
    [
        ({"value": None, "reason": None}, "attempt_value_or_reason"),
        ({"value": 3, "reason": "absent"}, "attempt_value_or_reason"),
        ({"value": None, "reason": "lazy"}, "attempt_reason_is_known"),
        ({"value": -1}, "attempt_value_within_its_kind"),
        ({"value": 3, "kind": "time"}, "attempt_kind_of_its_protocol"),
        ({"value": None, "reason": "absent", "estimate": True}, "attempt_estimate_has_a_value"),
        ({"pupil_id": uuid.uuid4()}, "pupil"),
        ({"protocol_id": uuid.uuid4()}, "protocol"),
    ],
)
def test_the_database_refuses_what_must_never_be_false(
    world: World, fields: dict[str, Any], constraint: str
) -> None:
    good = {
        "school": world.school,
        "pupil_id": world.pupils[0].id,
        "activity": world.activity,
        "protocol_id": world.activity.protocol_id,
        "kind": "count",
        "on": timezone.localdate(),
        "typed": "3",
        "value": 3,
        "recorded_by": world.teacher.staff,
        "recorded_at": timezone.now(),
    }
    with pytest.raises(DatabaseError, match=constraint), transaction.atomic():
        Attempt.objects.create(**{**good, **fields})
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")


def test_a_child_of_another_school_cannot_be_filed_here(world: World) -> None:
    other = world.stranger.staff.school  # type: ignore[union-attr]
    foreign = Pupil.objects.create(
        school=other,
        school_class=other.classes.create(name="X", year_group=other.year_groups.first()),
        given_name="Child foreign",
    )
    with pytest.raises(DatabaseError, match="pupils_school"), transaction.atomic():
        Attempt.objects.create(
            school=world.school,
            pupil=foreign,
            activity=world.activity,
            protocol=world.activity.protocol,
            kind="count",
            on=timezone.localdate(),
            typed="3",
            value=3,
            recorded_by=world.teacher.staff,
            recorded_at=timezone.now(),
        )


def test_editing_a_ladder_judges_history_anew(world: World) -> None:
    pupil = world.pupils[0]
    world.record(pupil, "15")
    assert world.child(pupil)["words"][0] == "Centre line"
    ladder = Ladder.objects.get(
        test=world.activity.protocol.test, year_group__name="Year 4", variant="full"
    )
    ladder.rungs.filter(name="Centre line").update(threshold=16)
    assert world.child(pupil)["words"][:2] == ["Near line", "1 more to Centre line"]
    ladder.delete()
    assert world.child(pupil)["words"][0].startswith("not judged: no ladder")


def test_every_shipped_ladder_is_sound(world: World) -> None:
    """The starting values have no hole, no wrong order and nothing out of reach."""
    from lauf.catalogue.queries import benchmark_key, ladders_for
    from lauf.rules.judging.ladders import findings

    versions = ProtocolVersion.objects.filter(test__school=world.school)
    protocols = {version.test_id: version for version in versions.select_related("test__school")}
    ladders = ladders_for(protocols)
    # Seven year groups for every test and variant that has starting values.
    assert len(ladders) >= 45 * 7
    assert {kept.test_id for kept in ladders} <= set(protocols)
    for kept in ladders:
        protocol, ladder = protocols[kept.test_id], kept.ladder
        key = benchmark_key(protocol, ladder.key.variant)
        assert findings(ladder, protocol.measure, key) == (), kept
        assert "without a source" in ladder.source


def test_the_same_moment_on_two_connections_keeps_one_score(
    transactional_world: World,
) -> None:
    """Ten devices send for one child at once: one score counts, nine are told."""
    world = transactional_world
    path = f"/api/activities/{world.activity.id}/attempts"
    answers: list[int] = []
    barrier = threading.Barrier(10, timeout=LIMIT_S)

    def send(number: int) -> None:
        client = Client()
        client.force_login(world.teacher.staff, backend="lauf.web.hashing.PasswordBackend")
        body = world.body(world.pupils[0], str(number))
        barrier.wait()
        answers.append(Person(None, client).ask("POST", path, body).status_code)
        connection.close()

    threads = [threading.Thread(target=send, args=(n,)) for n in range(10, 20)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(answers) == [200] + [409] * 9
    assert Attempt.objects.count() == 1
