"""Challenge weeks: first and best, rivals, points with their reasons, and taking them back."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.db import DatabaseError, transaction
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st

from lauf.challenges.models import Challenge, Point
from lauf.lessons.models import Activity
from lauf.people.actions import create_house
from lauf.people.models import Pupil
from tests.api.conftest import MANY, World
from tests.api.weeks import POINTS, a_challenge, a_week, added, page, person, row


@pytest.fixture
def challenge(world: World) -> Challenge:
    """Open since yesterday; Brook set 30 full press-ups in a minute."""
    return a_challenge(world, a_week(world))


def give(world: World, challenge: Challenge) -> dict[str, Any]:
    answer = world.teacher.ask("POST", f"/api/challenges/{challenge.id}/points")
    assert answer.status_code == 200
    found: dict[str, Any] = answer.json()
    return found


def rules(points: list[dict[str, Any]]) -> dict[str, int]:
    return {point["rule"]: point["points"] for point in points}


def test_first_and_best_of_the_window_are_kept(world: World, challenge: Challenge) -> None:
    yesterday, before = world.lesson_on(1), world.lesson_on(2)
    world.record(world.pupils[0], "50", before)  # the day before it opened: not in it
    world.record(world.pupils[0], "26", yesterday)
    world.record(world.pupils[0], "31")
    child = row(world, challenge, 0)
    assert (child["first"], child["best"], child["tries"]) == ("26", "31", 2)
    assert child["gain"] == "5 better than the first"
    assert child["rival"] == "beat Brook by 1"
    # A worse third try takes nothing away.
    world.record(world.pupils[0], "12", world.lesson_on(0))
    assert row(world, challenge, 0)["best"] == "31"


def test_points_are_given_by_the_stated_rules_with_their_reasons(
    world: World, challenge: Challenge
) -> None:
    world.record(world.pupils[0], "22", world.lesson_on(20))
    world.record(world.pupils[0], "31")
    world.record(world.pupils[1], "5")  # a first score beats no own best
    world.record(world.pupils[2], "40~")  # a guess takes part, and beats nobody
    world.record(world.pupils[3], "a")
    before = page(world, challenge)
    assert before["waiting"] > 0
    after = give(world, challenge)
    assert (after["waiting"], after["took_part"], after["beat_rival"]) == (0, 3, 1)
    first, second, third, fourth = (row(world, challenge, n) for n in range(4))
    assert rules(first["given"]).items() >= {
        "took_part": 1, "beat_own_best": 2, "beat_rival": 3,
    }.items()  # fmt: skip
    whys = {point["rule"]: point["why"] for point in first["given"]}
    assert whys["beat_rival"] == "beat Brook by 1: 31 in Press-ups in 60 s"
    assert whys["beat_own_best"] == "beat their own best: 31 in Press-ups in 60 s"
    assert "beat_own_best" not in rules(second["given"])
    assert rules(third["given"]) == {"took_part": 1}
    assert (fourth["given"], fourth["points"]) == ([], 0)


def test_each_rule_gives_at_most_once_a_child_and_challenge(
    world: World, challenge: Challenge
) -> None:
    world.record(world.pupils[0], "31")
    give(world, challenge)
    lines = Point.objects.count()
    give(world, challenge)
    assert Point.objects.count() == lines
    # A go better than the own best of the week gives that rule, once.
    for typed in ("35", "38"):
        world.record(world.pupils[0], typed, world.lesson_on(0))
        give(world, challenge)
    new = Point.objects.order_by("at").values_list("rule", flat=True)[lines:]
    assert list(new) == ["beat_own_best"]


def test_a_point_is_taken_back_and_given_again_and_all_of_it_stays_in_the_ledger(
    world: World, challenge: Challenge
) -> None:
    world.record(world.pupils[0], "31")
    give(world, challenge)
    child = row(world, challenge, 0)
    beaten = next(point for point in child["given"] if point["rule"] == "beat_rival")
    path = f"/api/points/{beaten['id']}/reverse"
    assert world.teacher.ask("POST", path, {"why": " "}).status_code == 422
    for _ in range(2):  # a double press takes back once
        assert world.teacher.ask("POST", path, {"why": "miscounted"}).status_code == 200
    after = row(world, challenge, 0)
    assert after["points"] == child["points"] - 3
    taken = next(point for point in after["given"] if point["rule"] == "beat_rival")
    assert (taken["points"], taken["back"]) == (0, "miscounted")
    give(world, challenge)
    assert row(world, challenge, 0)["points"] == after["points"], "it is not given by itself"
    again = f"/api/points/{taken['id']}/reverse"
    world.teacher.ask("POST", again, {"why": "counted right after all"})
    assert row(world, challenge, 0)["points"] == child["points"]
    lines = Point.objects.filter(pupil=world.pupils[0], rule="beat_rival").values_list("points")
    assert list(lines) == [(3,), (-3,), (3,)]
    with pytest.raises(DatabaseError), transaction.atomic():
        Point.objects.filter(pk=beaten["id"]).update(points=9)


def test_a_childs_page_has_its_points_with_their_reasons(
    world: World, challenge: Challenge
) -> None:
    child = world.pupils[0]
    path = f"/api/pupils/{child.id}/points"
    assert world.teacher.ask("GET", path).json() == {"points": 0, "lines": []}
    world.record(child, "31")
    give(world, challenge)
    given = {point["rule"]: point for point in row(world, challenge, 0)["given"]}
    page = world.teacher.ask("GET", path).json()
    assert page["points"] == row(world, challenge, 0)["points"] > 0
    assert "beat Brook by 1: 31 in Press-ups in 60 s" in [one["why"] for one in page["lines"]]
    back = f"/api/points/{given['beat_rival']['id']}/reverse"
    world.teacher.ask("POST", back, {"why": "miscounted"})
    left = world.teacher.ask("GET", path).json()
    assert left["points"] == page["points"] - 3
    assert len(left["lines"]) == len(page["lines"]) - 1, "what was undone is not shown"


def test_a_corrected_score_asks_about_the_point_it_was_given_for(
    world: World, challenge: Challenge
) -> None:
    wrong = world.record(world.pupils[0], "33")
    give(world, challenge)
    world.record(world.pupils[0], "23", succeeds=wrong.id)
    given = {point["rule"]: point for point in row(world, challenge, 0)["given"]}
    assert given["beat_rival"]["no_longer"] is True
    assert given["took_part"]["no_longer"] is False


def test_a_rival_is_beaten_under_the_same_protocol_only(world: World, challenge: Challenge) -> None:
    world.record(world.pupils[0], "44", variant="knees")
    child = row(world, challenge, 0)
    assert child["rival"].startswith("not compared")
    assert "beat_rival" not in rules(child["waiting"])


def test_less_is_better_where_the_test_says_so(world: World) -> None:
    week = a_week(world)
    mile = world.lesson_on(0, "mile-run")
    challenge = added(world, week, week.starts_on, mile.protocol.test_id)
    mark = person("Brook", (challenge, "8:30"))
    assert world.teacher.ask("PUT", f"/api/weeks/{week.id}/rival", mark).status_code == 200
    # Typed in the next morning: how long the clock ran says nothing then.
    tomorrow = timezone.now() + timedelta(hours=12)
    for number, time in enumerate(("8:12", "8:45")):
        world.record(world.pupils[number], time, mile, variant="", wave=None, recorded_at=tomorrow)
    assert "beat Brook by" in row(world, challenge, 0)["rival"]
    assert "short of Brook" in row(world, challenge, 1)["rival"]


def test_the_sums_of_houses_and_children_are_the_ledgers(
    world: World, challenge: Challenge
) -> None:
    for number, name in enumerate(("Alder", "Birch")):
        house = create_house(world.school, name)
        ids = [pupil.id for pupil in world.pupils[number::2]]
        Pupil.objects.filter(pk__in=ids).update(house=house)
    for number in range(5):
        world.record(world.pupils[number], str(26 + 2 * number))
    give(world, challenge)
    week = world.teacher.ask("GET", f"/api/weeks/{challenge.week_id}").json()
    by_child = {child["pupil_id"]: child["points"] for child in week["children"]}
    assert sum(by_child.values()) == sum(Point.objects.values_list("points", flat=True)) > 0
    assert [house["points"] for house in week["houses"]] == [
        sum(by_child[str(pupil.id)] for pupil in world.pupils[number::2]) for number in (0, 1)
    ]
    assert [house["children"] for house in week["houses"]] == [6, 6]


@pytest.mark.parametrize(
    ("wish", "mark", "says"),
    [
        ({"name": "Brook"}, {"typed": "many"}, "Press-ups in 60 s: "),
        ({"name": "Brook"}, {"typed": "30~"}, "cannot be an estimate"),
        ({"name": "Brook"}, {"typed": "a"}, "cannot be an estimate"),
        ({"name": "Brook"}, {"typed": "30", "variant": "one hand"}, "forms"),
        ({"name": "Brook"}, {"typed": "30", "course": "10 m"}, "has no course"),
        ({"name": " "}, {"typed": "30"}, "the rival"),
        ({"kind": None}, {"typed": "30"}, "the rival"),
        ({"name": "Brook"}, {"typed": "61"}, "60"),
        ({"kind": "rung"}, {}, "a rung from"),
        ({"kind": "group"}, {}, "class or house"),
    ],
)
def test_a_rivals_mark_is_read_as_any_score_is_and_a_wrong_one_changes_nothing(
    world: World, challenge: Challenge, wish: dict[str, Any], mark: dict[str, Any], says: str
) -> None:
    body = {"kind": "person", **wish, "marks": [{"challenge_id": challenge.id, **mark}]}
    answer = world.teacher.ask("PUT", f"/api/weeks/{challenge.week_id}/rival", body)
    assert answer.status_code in (404, 422)
    assert says in f"{answer.json()['message']} {answer.json().get('accepted', '')}"
    challenge.refresh_from_db()
    assert (challenge.rival, challenge.rival_value) == ("Brook", 30)


def test_a_week_is_of_days_that_can_be(world: World, challenge: Challenge) -> None:
    today = timezone.localdate()
    body = {
        "name": "W", "starts_on": today, "ends_on": today - timedelta(days=1),
        "class_ids": [world.school_class.id], "points": {"took_part": 1},
    }  # fmt: skip
    assert "last day" in world.teacher.ask("POST", "/api/weeks", body).json()["message"]
    body |= {"ends_on": today, "points": {"took_part": 99}}
    assert "0 to 20" in world.teacher.ask("POST", "/api/weeks", body).json()["message"]
    body |= {"points": {}, "class_ids": []}
    assert "class" in world.teacher.ask("POST", "/api/weeks", body).json()["message"]
    # Once points were given a challenge stays, and the week does.
    world.record(world.pupils[0], "31")
    give(world, challenge)
    assert world.teacher.ask("DELETE", f"/api/challenges/{challenge.id}").status_code == 422
    assert world.teacher.ask("DELETE", f"/api/weeks/{challenge.week_id}").status_code == 422


def test_scores_are_taken_in_todays_lesson_of_the_class(world: World, challenge: Challenge) -> None:
    path = f"/api/challenges/{challenge.id}/open"
    choice = {"class_id": str(world.school_class.id)}
    found = world.teacher.ask("POST", path, choice).json()
    assert found["activity_id"] == str(world.activity.id), "the lesson that is there already"
    week = a_week(world, timezone.localdate() - timedelta(days=9), days=3)
    over = a_challenge(world, week)
    said = world.teacher.ask("POST", f"/api/challenges/{over.id}/open", choice).json()["message"]
    assert "is open from" in said
    jumps = world.lesson_on(3, "star-jumps-30").protocol
    new = Challenge.objects.create(week=challenge.week, on=timezone.localdate(), protocol=jumps)
    for _ in range(2):
        made = world.teacher.ask("POST", f"/api/challenges/{new.id}/open", choice).json()
    assert Activity.objects.get(pk=made["activity_id"]).protocol_id == jumps.id
    assert Activity.objects.filter(protocol=jumps).count() == 2, "two presses, one lesson"
    titles = [one["test"] for one in world.teacher.ask("GET", "/api/open-challenges").json()]
    assert titles == ["Star jumps in 30 s", "Press-ups in 60 s"]


def test_pages_take_a_constant_number_of_queries(world: World, challenge: Challenge) -> None:
    world.record(world.pupils[0], "31")
    give(world, challenge)
    paths = (
        f"/api/challenges/{challenge.id}",
        f"/api/weeks/{challenge.week_id}",
        "/api/weeks",
        f"/api/pupils/{world.pupils[0].id}/points",
    )
    few = [world.queries(path) for path in paths]
    world.more_children()
    for number in range(1, 10):
        world.record(world.pupils[number], str(20 + number))
        world.record(world.pupils[number], str(25 + number), world.lesson_on(1))
    give(world, challenge)
    assert [world.queries(path) for path in paths] == few


#: What happens in a week: a score of a child, points given, or a point undone (or restored).
EVENTS = st.tuples(
    st.sampled_from(["score", "correct", "give", "reverse"]), st.integers(0, 3), st.integers(5, 45)
)


def test_whatever_happens_in_a_week_its_ledger_adds_up(world: World, challenge: Challenge) -> None:
    house = create_house(world.school, "Alder")
    Pupil.objects.filter(pk__in=[pupil.id for pupil in world.pupils[:4]]).update(house=house)
    latest: dict[int, Any] = {}

    def happens(what: str, number: int, value: int) -> None:
        if what == "score":
            lesson = world.lesson_on(0)
            latest[number] = world.record(world.pupils[number], str(value), lesson)
        elif what == "correct" and number in latest:
            wrong = latest[number]
            latest[number] = world.record(
                world.pupils[number], str(value), wrong.activity, succeeds=wrong.id
            )
        elif what == "give":
            assert give(world, challenge)["waiting"] == 0
        elif what == "reverse" and (given := row(world, challenge, number)["given"]):
            point = given[value % len(given)]
            path = f"/api/points/{point['id']}/reverse"
            assert world.teacher.ask("POST", path, {"why": "looked again"}).status_code == 200

    @settings(MANY, max_examples=10)
    @given(st.lists(EVENTS, min_size=1, max_size=12))
    def week(events: list[tuple[str, int, int]]) -> None:
        for event in events:
            before = list(Point.objects.values_list("id", "points"))
            happens(*event)
            assert set(before) <= set(Point.objects.values_list("id", "points")), "append-only"
        worth = {rule.value: points for rule, points in POINTS.items()}
        now = page(world, challenge)
        for child in now["children"]:
            stand = rules(child["given"])
            assert all(points in (0, worth[rule]) for rule, points in stand.items())
            assert child["points"] == sum(stand.values())
        total = sum(child["points"] for child in now["children"])
        assert total == sum(Point.objects.values_list("points", flat=True))
        assert now["houses"][0]["points"] == total

    week()


def test_a_go_that_is_better_than_the_one_before_in_the_week_beats_the_own_best(
    world: World, challenge: Challenge
) -> None:
    first, second = world.pupils[0], world.pupils[1]
    world.record(first, "12", world.lesson_on(1))
    world.record(first, "15")
    world.record(second, "12", world.lesson_on(1))
    world.record(second, "15~")
    give(world, challenge)
    better, guessed = row(world, challenge, 0), row(world, challenge, 1)
    assert rules(better["given"])["beat_own_best"] == 2
    assert "beat_own_best" not in rules(guessed["given"])
    why = {one["rule"]: one["why"] for one in guessed["missed"]}
    assert why["beat_own_best"].endswith("Beat it with another attempt.")
    absent = row(world, challenge, 5)
    assert {one["why"] for one in absent["missed"]} == {"no attempt in this period"}


def test_the_wall_says_who_takes_part_by_house_and_class_and_names_nobody(
    world: World, challenge: Challenge
) -> None:
    house = create_house(world.school, "Elm")
    Pupil.objects.filter(pk__in=[one.id for one in world.pupils[:3]]).update(house=house)
    world.record(world.pupils[5], "12", world.lesson_on(3))  # before it opened
    world.record(world.pupils[0], "31")
    world.record(world.pupils[1], "x")  # sat out: a blank is no go
    give(world, challenge)
    answer = world.teacher.ask("GET", f"/api/weeks/{challenge.week_id}/wall")
    page = answer.json()
    (elm,), (own,) = page["houses"], page["classes"]
    assert (elm["name"], elm["children"], elm["took_part"]) == ("Elm", 3, 1)
    assert (own["children"], own["took_part"], own["points"]) == (12, 1, elm["points"])
    assert elm["points"] == row(world, challenge, 0)["points"] > 0
    assert elm["each"] == round(elm["points"] / 3, 1)
    assert not any(one.name in answer.content.decode() for one in world.pupils)
