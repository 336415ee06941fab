"""Helpers of a lesson: who comes in, what they see and enter, and that two counts stay two."""

from __future__ import annotations

import json
import re
import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.lessons.models import Activity, Helper, HelperCode
from lauf.people.models import Exclusion
from lauf.progress.school import reliability
from lauf.records.models import Attempt, Recount
from tests.api.asking import get
from tests.api.conftest import Person, World, a_client

FAMILY = "Zyxwood"
NOTE = "asks for the quixotic satchel"


def opened(world: World, activity: Activity | None = None) -> dict[str, Any]:
    lesson = (activity or world.activity).lesson_id
    answer = world.teacher.ask("POST", f"/api/lessons/{lesson}/helpers")
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def helper(code: str, name: str = "Kim") -> Person:
    person = Person(None, a_client())
    answer = person.ask("POST", "/api/help", {"code": code, "name": name})
    assert answer.status_code == 200, answer.content
    return person


def enter(person: Person, world: World, child: int, typed: str, **more: Any) -> Any:
    path = f"/api/help/activities/{more.pop('activity', world.activity).id}/attempts"
    body = world.body(world.pupils[child], typed, **more)
    body.pop("wave")
    return person.ask("POST", path, body)


def entries(person: Person) -> dict[str, dict[str, Any]]:
    """By child, what a helper's page says of the press-ups."""
    (test,) = get(person, "/api/help")["tests"]
    return {one["pupil_id"]: one for one in test["entries"]}


def test_a_helper_comes_by_the_code_or_the_square_and_is_on_the_record(world: World) -> None:
    page = opened(world)
    assert opened(world) == page, "a second press shows the same code"
    first, second = helper(page["code"].lower()), helper(page["secret"], "Alex")
    assert enter(first, world, 0, "21").json()["entry"]["shown"] == "21"
    assert enter(second, world, 1, "v").status_code == 200
    rows = get(world.teacher, f"/api/lessons/{world.activity.lesson_id}/helpers")["helpers"]
    assert [(one["name"], one["entries"]) for one in rows] == [("Kim", 1), ("Alex", 1)]
    kept = Attempt.objects.get(pupil=world.pupils[0])
    assert (kept.entered_by, kept.recorded_by, kept.value) == ("Kim", world.teacher.staff, 21)
    why = get(world.teacher, f"/api/attempts/{kept.id}/why")
    assert "Kim" in json.dumps(why["steps"][0])
    # What a helper enters is asked about as the teacher's own is, who alone is told what.
    odd = enter(first, world, 2, "60").json()
    assert odd["odd"] and "faster" not in json.dumps(odd)
    assert world.child(world.pupils[2])["flags"]


def test_a_helper_is_told_given_names_and_numbers_alone(world: World) -> None:
    child = world.pupils[0]
    child.family_name, child.medical_note, child.number = FAMILY, NOTE, "office-77"
    child.save()
    excluded = world.pupils[1]
    Exclusion.objects.create(pupil=excluded, what="running", by=world.teacher.staff)
    shuttle = world.lesson_on(0, "shuttle-20m-even")
    world.record(world.pupils[2], "33", world.lesson_on(30))
    page = opened(world, shuttle)
    person = helper(page["code"])
    said = [person.ask("GET", "/api/help").content.decode()]
    said += [
        enter(person, world, n, typed, activity=shuttle, variant="").content.decode()
        for n, typed in ((0, "3.2"), (1, "3.2"), (2, "3.2"), (0, "nonsense"), (0, "9999"))
    ]
    path = f"/api/help/activities/{shuttle.id}/reading?typed=5"
    said.append(person.ask("GET", path).content.decode())
    whole = " ".join(said)
    for planted in (FAMILY, "quixotic", "office-77", "born", "is not to"):
        assert planted not in whole, planted
    # An earlier score; an id may begin so too.
    assert not re.search(r'"33(?![0-9a-f])', whole)
    (test,) = get(person, "/api/help")["tests"]
    assert str(child.id) in test["ask_first"] and str(excluded.id) in test["ask_first"]
    refused = enter(person, world, 1, "3.2", activity=shuttle, variant="")
    assert refused.status_code == 422 and "Ask the teacher" in refused.json()["message"]
    # A reason why there is no score is always taken.
    assert enter(person, world, 1, "x", activity=shuttle, variant="").status_code == 200


def test_a_helper_has_one_lesson_and_nothing_else(world: World, unprinted: None) -> None:
    person = helper(opened(world)["code"])
    elsewhere = world.lesson_on(0)
    assert enter(person, world, 0, "20", activity=elsewhere).status_code == 404
    path = f"/api/help/activities/{elsewhere.id}/reading?typed=5"
    assert person.ask("GET", path).status_code == 404
    private = world.lesson_on(0, "height")
    private.lesson, private.position = world.activity.lesson, 7
    private.save()
    assert enter(person, world, 0, "120cm", activity=private).status_code == 404
    assert len(get(person, "/api/help")["tests"]) == 1
    body = {**world.body(world.pupils[0], "20"), "pupil_id": str(uuid.uuid4())}
    at = f"/api/help/activities/{world.activity.id}/attempts"
    assert person.ask("POST", at, body).status_code == 404
    for path in ("/api/today", f"/api/lessons/{world.activity.lesson_id}", "/api/classes"):
        assert person.ask("GET", path).status_code == 401


@pytest.mark.parametrize("how", ["closed to helpers", "lesson closed", "too late", "suspended"])
def test_it_ends_with_the_lesson_or_at_a_press_and_goes_on_when_opened_again(
    world: World, how: str
) -> None:
    lesson = f"/api/lessons/{world.activity.lesson_id}"
    page = opened(world)
    person = helper(page["code"])
    assert world.teacher.staff is not None
    if how == "closed to helpers":
        world.teacher.ask("DELETE", f"{lesson}/helpers")
    elif how == "lesson closed":
        world.teacher.ask("POST", f"{lesson}/close")
    elif how == "too late":
        HelperCode.objects.update(until=timezone.now() - timedelta(seconds=1))
    else:
        world.permit(world.teacher.staff, is_active=False)
    assert person.ask("GET", "/api/help").status_code == 423
    entry = world.body(world.pupils[0], "20")
    at = f"/api/help/activities/{world.activity.id}/attempts"
    assert person.ask("POST", at, entry).status_code == 423
    late = Person(None, a_client())
    for code in (page["code"], page["secret"]):
        joined = late.ask("POST", "/api/help", {"code": code, "name": "Late"})
        assert joined.status_code == 404
    assert not Attempt.objects.filter(pupil=world.pupils[0]).exists()
    if how == "suspended":
        return
    world.teacher.ask("POST", f"{lesson}/reopen")
    world.teacher.ask("POST", f"{lesson}/helpers")
    assert person.ask("POST", at, entry).status_code == 200, "what waited on the device goes out"


def test_one_helper_is_ended_or_leaves(world: World) -> None:
    page = opened(world)
    first, second = helper(page["code"]), helper(page["code"], "Alex")
    enter(first, world, 0, "20")
    kim = Helper.objects.get(name="Kim")
    path = f"/api/lessons/{world.activity.lesson_id}/helpers/{kim.id}"
    assert world.stranger.ask("DELETE", path).status_code == 404
    assert world.teacher.ask("DELETE", path).status_code == 200
    assert first.ask("GET", "/api/help").status_code == 401
    assert enter(first, world, 0, "21").status_code == 401, "the key opens nothing any more"
    key = second.client.cookies["lauf_helper"].value
    assert second.ask("DELETE", "/api/help").status_code == 204
    second.client.cookies["lauf_helper"] = key
    assert second.ask("GET", "/api/help").status_code == 401
    assert Attempt.objects.get(pupil=world.pupils[0]).entered_by == "Kim"


def test_wrong_codes_are_slowed_and_locked_and_the_square_still_opens(world: World) -> None:
    page = opened(world)
    guesser = Person(None, a_client())
    tried = [
        guesser.ask("POST", "/api/help", {"code": f"AAAA{n:02}", "name": "X"}).status_code
        for n in range(12)
    ]
    assert tried == [404] * 10 + [429] * 2
    right = {"code": page["code"], "name": "Kim"}
    assert guesser.ask("POST", "/api/help", right).status_code == 429
    assert helper(page["secret"]), "what nobody can guess is locked for nobody"
    nobody = Person(None, a_client())
    assert nobody.ask("POST", "/api/help", {"code": page["secret"], "name": " "}).status_code == 422


def test_the_same_entry_twice_is_one_and_a_helper_corrects_their_own(world: World) -> None:
    person = helper(opened(world)["code"])
    body = world.body(world.pupils[0], "20")
    at = f"/api/help/activities/{world.activity.id}/attempts"
    for _ in range(2):
        assert person.ask("POST", at, body).status_code == 200
    assert person.ask("POST", at, {**body, "typed": "30"}).status_code == 409
    assert enter(person, world, 0, "22").json()["beside"] is False
    assert enter(person, world, 0, "", withdrawn=True).json()["entry"]["shown"] == ""
    assert enter(person, world, 0, "23").status_code == 200
    assert entries(person)[str(world.pupils[0].id)]["typed"] == "23"
    assert world.child(world.pupils[0])["score"]["typed"] == "23"


def test_what_one_counted_stays_theirs_where_the_next_on_the_device_sends_it(world: World) -> None:
    page = opened(world)
    first, second = helper(page["code"]), helper(page["code"], "Alex")
    kim = get(first, "/api/help")["helper_id"]
    enter(first, world, 0, "20")
    for child, number in ((0, "21"), (1, "22")):
        sent = enter(second, world, child, number, counted_by=kim)
        assert sent.status_code == 200 and sent.json()["beside"] is False
        kept = Attempt.objects.get(pupil=world.pupils[child], successor=None)
        assert (kept.value, kept.entered_by) == (int(number), "Kim")
    elsewhere = world.lesson_on(1)
    foreign = get(helper(opened(world, elsewhere)["code"], "Sam"), "/api/help")["helper_id"]
    enter(second, world, 2, "23", counted_by=foreign)
    assert Attempt.objects.get(pupil=world.pupils[2]).entered_by == "Alex"


def test_two_who_count_the_same_child_are_both_kept_and_the_teacher_chooses(world: World) -> None:
    page = opened(world)
    first, second = helper(page["code"]), helper(page["code"], "Alex")
    child = world.pupils[0]
    enter(first, world, 0, "20")
    # The second sees that there is one, and not what: two counts are two.
    seen = entries(second)[str(child.id)]
    assert (seen["mine"], seen["typed"], seen["shown"], seen["head"]) == (False, "", "", None)
    again = world.body(child, "24")
    at = f"/api/help/activities/{world.activity.id}/attempts"
    for _ in range(2):
        assert second.ask("POST", at, again).json()["beside"] is True
    assert second.ask("POST", at, {**again, "typed": "25"}).status_code == 409
    assert Recount.objects.count() == 1
    assert entries(second)[str(child.id)]["typed"] == "24"
    assert entries(first)[str(child.id)]["typed"] == "20"

    def asked() -> list[tuple[str, bool]]:
        flags = world.child(child)["flags"]
        return [(one["words"], one["settled"]) for one in flags]

    assert asked() == [("Two counts. Kim: 20. Alex: 24.", False)]
    assert world.child(child)["score"]["open"], "it takes no part until somebody says which"
    # Taken back, or counted again the same, there is no difference any more.
    enter(second, world, 0, "", withdrawn=True)
    assert asked() == []
    enter(second, world, 0, "24")
    enter(second, world, 0, "20")
    assert asked() == []
    enter(second, world, 0, "24")
    check = get(world.teacher, f"/api/activities/{world.activity.id}/check")
    (row,) = check["recounts"]
    assert (row["pupil_id"], row["by"], row["typed"]) == (str(child.id), "Alex", "24")
    # The teacher takes the second one: a correction, which is the last word.
    head = world.child(child)["head"]
    taken = world.post(child, "24", succeeds=head, why="second count")
    assert taken.status_code == 200 and asked() == []
    assert get(world.teacher, f"/api/activities/{world.activity.id}/check")["recounts"] == []


def test_a_second_count_is_of_the_try_that_was_counted(world: World) -> None:
    page = opened(world)
    first, second = helper(page["code"]), helper(page["code"], "Alex")
    for number, typed in ((1, "20"), (2, "22")):
        enter(first, world, 0, typed, try_number=number)
    assert enter(second, world, 0, "25", try_number=2).json()["beside"] is True
    kept = Recount.objects.get()
    assert (kept.try_number, kept.beside.try_number, kept.beside.value) == (2, 2, 22)


def test_a_count_beside_the_teachers_own_stands_when_the_teacher_says_so(world: World) -> None:
    person = helper(opened(world)["code"])
    child = world.pupils[0]
    world.post(child, "20")
    assert enter(person, world, 0, "21").json()["beside"] is True
    score = world.child(child)["score"]
    path = f"/api/attempts/{score['id']}/confirm"
    answer = world.teacher.ask("POST", path, {"flag": "two_counts"})
    assert answer.status_code == 200
    assert world.child(child)["score"]["open"] is False
    assert Recount.objects.get().value == 21, "what was counted stays on record"


def test_counts_of_helpers_feed_the_agreement_of_counters(world: World) -> None:
    page = opened(world)
    first, second = helper(page["code"]), helper(page["code"], "Alex")
    for n in range(12):
        enter(first, world, n, str(20 + n))
        enter(second, world, n, str(20 + n + n % 2))
    assert world.head.staff is not None
    rows = reliability.test_reliability(world.head.staff, world.activity.protocol.test_id)
    assert any("50%" in row["counters"] and "12" in row["counters"] for row in rows), rows


def test_a_helpers_page_takes_as_many_queries_for_a_large_class(world: World) -> None:
    person = helper(opened(world)["code"])

    def queries() -> int:
        with CaptureQueriesContext(connection) as asked:
            get(person, "/api/help")
        return len(asked)

    few = queries()
    world.more_children()
    for n in range(10):
        enter(person, world, n, "20")
    assert queries() == few
