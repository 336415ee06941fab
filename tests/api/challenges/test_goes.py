"""Children enter their own goes: by the code of the class and a picture, or by a slip; a teacher
accepts them."""

from __future__ import annotations

import json
import uuid
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.challenges.models import Challenge, ChallengeCode, ChallengeWeek, Go, Slip
from lauf.records.models import Attempt
from tests.api.asking import get, paper
from tests.api.conftest import Person, World, a_client
from tests.api.weeks import a_challenge, a_week, added

FAMILY = "Zyxwood"
NOTE = "asks for the quixotic satchel"


class Open:
    """A week that is open to the children of the world's class."""

    def __init__(self, world: World) -> None:
        self.world = world
        self.week = a_week(world)
        self.challenge = a_challenge(world, self.week)
        self.at = f"/api/weeks/{self.week.id}"
        self.page = self.post("goes/open", {"class_id": world.school_class.id})

    def post(self, what: str, body: Any = None, method: str = "POST") -> Any:
        answer = self.world.teacher.ask(method, f"{self.at}/{what}", body)
        assert answer.status_code == 200, answer.content
        return answer.json()

    @property
    def code(self) -> str:
        return str(ChallengeCode.objects.get(week=self.week).code)

    def slip(self, child: int) -> Slip:
        return Slip.objects.get(week=self.week, pupil=self.world.pupils[child], withdrawn_at=None)

    def waiting(self) -> list[dict[str, Any]]:
        return list(get(self.world.teacher, f"{self.at}/goes")["waiting"])

    def accept(self, *ids: str, sure: bool = False) -> Any:
        return self.post("goes/accept", {"ids": ids, "sure": sure})


@pytest.fixture
def opened(world: World) -> Open:
    return Open(world)


def device(code: str | None) -> Person:
    person = Person(None, a_client())
    assert code is not None
    answer = person.ask("POST", "/api/mine", {"code": code})
    assert answer.status_code == 200, answer.content
    return person


def go(opened: Open, child: int, typed: str, **more: Any) -> dict[str, Any]:
    return {
        "id": str(uuid.uuid4()),
        "slip_id": str(opened.slip(child).id),
        "challenge_id": str(opened.challenge.id),
        "typed": typed,
        "variant": "full",
        "made_at": timezone.now().isoformat(),
        **more,
    }


def enter(person: Person, body: dict[str, Any]) -> Any:
    return person.ask("POST", "/api/mine/goes", body)


def test_a_go_waits_counts_for_nothing_and_is_a_score_once_it_is_accepted(opened: Open) -> None:
    world, child = opened.world, opened.world.pupils[0]
    home = device(opened.slip(0).code)
    body = go(opened, 0, "21")
    for _ in range(2):
        assert enter(home, body).json()["state"] == "waiting"
    assert Go.objects.count() == 1, "sent twice, stored once"
    assert enter(home, {**body, "typed": "30"}).status_code == 409
    assert not Attempt.objects.filter(pupil=child).exists()
    assert get(world.teacher, "/api/open-challenges")[0]["waiting"] == 1
    (row,) = opened.waiting()
    assert (row["name"], row["shown"], row["by_slip"], row["flags"]) == (child.name, "21", True, [])
    for _ in range(2):
        assert opened.accept(row["id"])["waiting"] == []
    kept = Attempt.objects.get(pupil=child)
    assert (kept.value, kept.recorded_by, str(kept.id)) == (21, world.teacher.staff, row["id"])
    assert kept.activity.id == world.activity.id, (
        "in today's lesson of the test, where there is one"
    )
    (mine,) = get(home, f"/api/mine/children/{opened.slip(0).id}")["goes"]
    assert mine["state"] == "accepted"
    points = get(world.teacher, f"/api/challenges/{opened.challenge.id}")["children"]
    assert next(one for one in points if one["pupil_id"] == str(child.id))["best"] == "21"


def test_goes_of_another_day_are_recorded_on_that_day_and_each_go_is_its_own(
    opened: Open,
) -> None:
    home = device(opened.slip(0).code)
    then = timezone.now() - timedelta(days=1)
    many = [go(opened, 0, str(20 + n), made_at=then.isoformat()) for n in range(9)]
    for body in many:
        assert enter(home, body).status_code == 200
    opened.accept(*(one["id"] for one in opened.waiting()))
    kept = Attempt.objects.filter(pupil=opened.world.pupils[0]).order_by("value")
    assert [one.value for one in kept] == list(range(20, 29)), "as many goes as wanted"
    assert {one.on for one in kept} == {timezone.localdate(then)}
    lessons = {one.activity.lesson_id for one in kept}
    assert len(lessons) == 2, "a lesson has room for so many tries and no more"


def test_an_odd_go_is_asked_about_by_the_same_rules_and_accepted_one_by_one(opened: Open) -> None:
    world = opened.world
    world.record(world.pupils[0], "20", world.lesson_on(20))
    world.record(world.pupils[0], "21", world.lesson_on(10))
    home, tablet = device(opened.slip(0).code), device(opened.code)
    enter(home, go(opened, 0, "59"))
    enter(tablet, go(opened, 1, "22"))
    enter(tablet, go(opened, 2, "24~"))
    flags = {one["name"]: one["flags"] for one in opened.waiting()}
    assert flags[world.pupils[0].name] and not flags[world.pupils[1].name]
    page = opened.accept(*(one["id"] for one in opened.waiting()))
    assert [one["name"] for one in page["waiting"]] == [world.pupils[0].name]
    (odd,) = page["waiting"]
    opened.accept(odd["id"], sure=True)
    assert world.child(world.pupils[0])["score"]["open"] is False, "it was looked at"
    guess = Attempt.objects.get(pupil=world.pupils[2])
    assert (guess.value, guess.estimate) == (24, True), "an honest guess stays one"


def test_a_declined_go_counts_for_nothing_and_waits_again_when_that_is_undone(
    opened: Open,
) -> None:
    tablet = device(opened.code)
    body = go(opened, 0, "21")
    enter(tablet, body)
    page = opened.post(f"goes/{body['id']}/decline")
    assert page["waiting"] == [] and page["decided"][0]["state"] == "declined"
    assert enter(tablet, {**body, "undone": True}).status_code == 422, "it was looked at"
    assert len(opened.post(f"goes/{body['id']}/wait")["waiting"]) == 1
    opened.accept(body["id"])
    late = opened.world.teacher.ask("POST", f"{opened.at}/goes/{body['id']}/decline")
    assert late.status_code == 422 and "Results" in late.json()["message"]


def test_a_child_reads_what_its_teacher_made_of_an_accepted_go(opened: Open) -> None:
    home = device(opened.slip(0).code)
    body = go(opened, 0, "21")
    enter(home, body)
    opened.accept(body["id"])

    def shown() -> tuple[str, str]:
        (mine,) = get(home, f"/api/mine/children/{opened.slip(0).id}")["goes"]
        return mine["shown"].split()[0], mine["state"]

    def score_is(typed: str, **more: Any) -> None:
        last = Attempt.objects.get(pupil=opened.world.pupils[0], successor=None)
        entry = opened.world.body(last.pupil, typed, succeeds=str(last.id), **more)
        path = f"/api/activities/{last.activity_id}/attempts"
        assert opened.world.teacher.ask("POST", path, entry).status_code == 200

    assert shown() == ("21", "accepted")
    score_is("19", why="counted on the film")
    assert shown() == ("19", "accepted")
    score_is("", withdrawn=True)
    assert shown() == ("21", "declined")
    assert Go.objects.get().state == "accepted", "what the teacher decided stays on record"


def test_a_child_undoes_its_own_go_and_one_that_never_came_is_not_kept(opened: Open) -> None:
    tablet = device(opened.code)
    body = go(opened, 0, "21")
    enter(tablet, body)
    for _ in range(2):
        assert enter(tablet, {**body, "undone": True}).json()["state"] == "undone"
    never = go(opened, 0, "22", undone=True)
    assert enter(tablet, never).json()["state"] == "undone"
    assert opened.waiting() == [] and Go.objects.count() == 1
    assert get(tablet, f"/api/mine/children/{opened.slip(0).id}")["goes"] == []


def test_nobody_learns_from_a_code_who_is_in_the_class(opened: Open) -> None:
    world, child = opened.world, opened.world.pupils[0]
    child.family_name, child.medical_note, child.number = FAMILY, NOTE, "office-77"
    child.save()
    world.record(child, "33", world.lesson_on(20))
    tablet, home = device(opened.code), device(opened.slip(0).code)
    said = []
    for person in (tablet, home):
        said.append(person.ask("GET", "/api/mine").content.decode())
        said.append(person.ask("GET", f"/api/mine/children/{opened.slip(0).id}").content.decode())
        said += [
            enter(person, go(opened, 0, typed)).content.decode()
            for typed in ("21", "nonsense", "9999", "a")
        ]
        reading = f"/api/mine/challenges/{opened.challenge.id}/reading?typed=5o"
        said.append(person.ask("GET", reading).content.decode())
    everything = " ".join(said)
    for planted in (FAMILY, "quixotic", "office-77", "born"):
        assert planted not in everything, planted
    assert child.given_name not in " ".join(said[: len(said) // 2]), "a picture has no name"
    # Earlier scores are for who has the slip.
    assert '"33"' not in said[1] and '"33"' in said[len(said) // 2 + 1]
    assert enter(home, go(opened, 0, "a")).status_code == 422, "a reason is the teacher's to say"
    pictures = [one["picture"]["word"] for one in get(tablet, "/api/mine")["children"]]
    assert len(set(pictures)) == len(world.pupils)
    (own,) = get(home, "/api/mine")["children"]
    assert own["slip_id"] == str(opened.slip(0).id)


def test_a_device_enters_goes_of_its_own_children_and_week_alone(opened: Open) -> None:
    world = opened.world
    home = device(opened.slip(0).code)
    other = go(opened, 1, "21")
    assert enter(home, other).status_code == 404, "another child's"
    assert home.ask("GET", f"/api/mine/children/{opened.slip(1).id}").status_code == 404
    elsewhere = Open(world)
    assert enter(home, go(opened, 0, "21", challenge_id=elsewhere.challenge.id)).status_code == 404
    foreign = go(elsewhere, 0, "21")
    assert enter(device(opened.code), foreign).status_code == 404, "another week's slip"
    # A replayed go of one child is not another's.
    body = go(opened, 0, "21")
    enter(home, body)
    stolen = {**body, "slip_id": str(opened.slip(1).id)}
    assert enter(device(opened.code), stolen).status_code == 409
    for path in ("/api/today", "/api/help", f"{opened.at}/goes", "/api/classes"):
        assert home.ask("GET", path).status_code == 401


def test_a_withdrawn_slip_opens_nothing_and_a_new_one_has_the_same_picture(opened: Open) -> None:
    child = opened.world.pupils[0]
    before = opened.slip(0)
    home = device(before.code)
    opened.post(f"slips/{child.id}", {"id": str(uuid.uuid4())})
    assert home.ask("GET", "/api/mine").status_code == 401
    assert enter(home, go(opened, 0, "21")).status_code == 401
    old = {"code": before.code}
    assert Person(None, a_client()).ask("POST", "/api/mine", old).status_code == 404
    after = opened.slip(0)
    assert after.picture == before.picture and after.code != before.code
    assert device(after.code)
    opened.post(f"slips/{child.id}", method="DELETE")
    assert not Slip.objects.filter(pupil=child, withdrawn_at=None).exists()
    tablet = get(device(opened.code), "/api/mine")["children"]
    assert len(tablet) == len(opened.world.pupils) - 1, "nor is the picture there to choose"
    again = opened.post("goes/open", {"class_id": opened.world.school_class.id})
    assert all(one["has_slip"] for one in again["classes"][0]["children"])


@pytest.mark.parametrize("how", ["closed", "over", "suspended"])
def test_a_week_that_is_closed_or_over_takes_no_goes(opened: Open, how: str) -> None:
    world = opened.world
    home, slip = device(opened.slip(0).code), opened.slip(0).code
    assert world.teacher.staff is not None
    if how == "closed":
        opened.post("goes/close", {"class_id": world.school_class.id})
    elif how == "over":
        gone = timezone.localdate() - timedelta(days=10)
        ChallengeWeek.objects.update(starts_on=gone - timedelta(days=1), ends_on=gone)
    else:
        world.permit(world.teacher.staff, is_active=False)
    body = go(opened, 0, "21")
    assert enter(home, body).status_code == 423, "it waits on the device"
    late = Person(None, a_client())
    assert late.ask("POST", "/api/mine", {"code": slip}).status_code == 404
    if how == "closed":
        opened.post("goes/open", {"class_id": world.school_class.id})
        assert enter(home, body).status_code == 200


def test_what_was_done_in_time_comes_in_late_and_what_was_not_does_not(opened: Open) -> None:
    home = device(opened.slip(0).code)
    ChallengeWeek.objects.update(ends_on=timezone.localdate() - timedelta(days=1))
    in_time = timezone.now() - timedelta(days=1)
    assert enter(home, go(opened, 0, "21", made_at=in_time.isoformat())).status_code == 200
    refused = enter(home, go(opened, 0, "22"))
    assert refused.status_code == 422 and "open from" in refused.json()["message"]


def test_wrong_codes_are_slowed_and_locked_and_a_slip_still_opens(opened: Open) -> None:
    guesser = Person(None, a_client())
    tried = [
        guesser.ask("POST", "/api/mine", {"code": f"AAAA{n:02}"}).status_code for n in range(12)
    ]
    assert tried == [404] * 10 + [429] * 2
    assert guesser.ask("POST", "/api/mine", {"code": opened.code}).status_code == 429
    assert device(opened.slip(0).code), "what nobody can guess is locked for nobody"
    forged = Person(None, a_client())
    forged.client.cookies["lauf_child"] = "WyJzbGlwIl0:made-up:signature"
    assert forged.ask("GET", "/api/mine").status_code == 401


def test_body_measurements_and_courses_are_not_for_children_to_enter(opened: Open) -> None:
    world = opened.world
    shuttle = world.lesson_on(0, "shuttle-20m-even").protocol
    course = added(world, opened.week, opened.week.starts_on, shuttle.test_id)
    page = get(device(opened.code), "/api/mine")
    assert [one["test"] for one in page["tests"]] == [opened.challenge.protocol.test.name]
    assert page["in_class"] == [shuttle.test.name]
    body = go(opened, 0, "3.2", challenge_id=str(course.id), variant="")
    assert enter(device(opened.code), body).status_code == 404


def test_a_partner_counts_on_the_tablet_of_the_class(opened: Open) -> None:
    tablet = device(opened.code)
    enter(tablet, go(opened, 0, "21", counted_by=str(opened.slip(1).id)))
    (row,) = opened.waiting()
    assert row["counted_by"] == opened.world.pupils[1].given_name
    opened.accept(row["id"])
    assert Attempt.objects.get(pupil=opened.world.pupils[0]).counted_by == opened.world.pupils[1]


def test_a_child_cannot_enter_more_than_a_teacher_can_look_at(opened: Open) -> None:
    home = device(opened.slip(0).code)
    answers = [enter(home, go(opened, 0, "21")).status_code for _ in range(31)]
    assert answers == [200] * 30 + [422]


def test_what_children_entered_is_not_lost_unseen(opened: Open) -> None:
    enter(device(opened.code), go(opened, 0, "21"))
    for path in (f"/api/challenges/{opened.challenge.id}", opened.at):
        refused = opened.world.teacher.ask("DELETE", path)
        assert refused.status_code == 422 and "Accept or decline" in refused.json()["message"]
    assert Challenge.objects.filter(pk=opened.challenge.id).exists()


def test_slips_are_printed_with_the_code_and_no_family_name(opened: Open) -> None:
    child = opened.world.pupils[0]
    child.family_name = FAMILY
    child.save()
    pages = paper(
        opened.world.teacher, f"{opened.at}/slips", {"class_id": opened.world.school_class.id}
    )
    text = " ".join(pages)
    code = opened.slip(0).code or ""
    assert f"{code[:5]} {code[5:]}" in text and child.given_name in text and FAMILY not in text
    assert len(pages) == -(-len(opened.world.pupils) // 8)
    assert "Stop if anything hurts" in text
    one = {"class_id": opened.world.school_class.id, "pupil_id": child.id}
    (single,) = paper(opened.world.teacher, f"{opened.at}/slips", one)
    assert single.count("Open until") == 1


def test_a_merged_child_and_an_erased_one_take_their_goes_with_them(opened: Open) -> None:
    world = opened.world
    tablet = device(opened.code)
    enter(tablet, go(opened, 0, "21"))
    enter(tablet, go(opened, 1, "22"))
    kept, double = world.pupils[5], world.pupils[0]
    merged = world.head.ask("POST", f"/api/pupils/{kept.id}/doubles", {"double_id": double.id})
    assert merged.status_code == 200, merged.content
    assert Go.objects.get(typed="21").pupil == kept
    gone = world.pupils[1].id
    assert world.head.ask("POST", f"/api/pupils/{gone}/erase").status_code == 200
    assert not Go.objects.filter(pupil=gone).exists()
    assert [one["name"] for one in opened.waiting()] == [kept.name]


def test_the_page_takes_as_many_queries_for_many_goes(opened: Open) -> None:
    tablet = device(opened.code)
    enter(tablet, go(opened, 0, "21"))

    def queries() -> tuple[int, int]:
        slip = opened.slip(0).id
        with CaptureQueriesContext(connection) as asked:
            get(tablet, "/api/mine")
            get(tablet, f"/api/mine/children/{slip}")
        return opened.world.queries(f"{opened.at}/goes"), len(asked)

    queries()  # repeat tests are summed up once
    few = queries()
    opened.world.more_children()
    opened.post("goes/open", {"class_id": opened.world.school_class.id})
    for n in range(9):
        enter(tablet, go(opened, n, "22"))
    assert queries() == few
    assert json.dumps(opened.waiting())
