"""What is called to a beat, counted and carried into a rep target; levels counted apart."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest

from lauf.catalogue import models
from lauf.lessons.models import Activity
from lauf.records.models import Attempt
from lauf.rules.reading.entry import EntryError
from tests.api.conftest import World


class Planned:
    """A lesson with a warm-up of called squats and a target that carries them in."""

    def __init__(self, world: World, days: int = 0, **beats: Any) -> None:
        self.world = world
        self.lesson = world.lesson_on(days, "reps-240").lesson
        called, total = (models.Test.objects.get(school=world.school, slug=slug)
                         for slug in ("moves-to-the-beat", "reps-240"))  # fmt: skip
        self.beats = {
            "kind": "beats", "label": "Squats to music", "movement": "Squats", "bpm": 120,
            "every": 8, "calls": 30, "test_id": called.id, **beats,
        }  # fmt: skip
        self.target = {
            "kind": "rep_target", "label": "240", "seconds": 1500, "carries": "squats",
            "names": ["squats", "press-ups"], "test_id": total.id, "apart": True,
            "weights": "0.5/1/2",
        }  # fmt: skip
        self.kept: Any = None

    def keep(self, *blocks: dict[str, Any]) -> Any:
        path = f"/api/lessons/{self.lesson.id}/plan"
        revision = self.world.teacher.ask("GET", path).json()["revision"]
        body = {"based_on": revision, "blocks": blocks or [self.beats, self.target]}
        answer = self.world.teacher.ask("PUT", path, body)
        if answer.status_code == 200:
            for mine, theirs in zip(body["blocks"], answer.json()["blocks"], strict=True):
                mine |= {name: theirs["entry"][name] for name in ("id", "activity_id")}
        return answer

    def activity(self, kind: str) -> Activity:
        return Activity.objects.get(block__kind=kind, lesson=self.lesson)

    def page(self) -> Any:
        path = f"/api/activities/{self.activity('rep_target').id}/target?elapsed=60"
        return self.world.teacher.ask("GET", path).json()

    def row(self, number: int) -> Any:
        return self.page()["children"][number]

    def score(self, kind: str, child: int, typed: str, **more: Any) -> Attempt:
        return self.world.record(
            self.world.pupils[child], typed, self.activity(kind), variant="", wave=None, **more
        )


@pytest.fixture
def planned(world: World) -> Planned:
    made = Planned(world)
    assert made.keep().status_code == 200
    return made


def test_the_most_there_can_be_is_known_and_what_was_counted_is_carried_in_once(
    planned: Planned,
) -> None:
    world = planned.world
    cues = world.teacher.ask("GET", f"/api/lessons/{planned.lesson.id}/timeline").json()["cues"]
    beats = [cue for cue in cues if cue["kind"] == "beat"]
    assert [beat["say"] for beat in beats] == [str(n) for n in range(1, 31)]
    assert {b["at_ms"] - a["at_ms"] for a, b in pairwise(beats)} == {4_000}
    kept = planned.score("beats", 0, "28")
    assert kept.conditions == {"movement": "squats", "calls": "30", "beat": "over 120 s"}
    with pytest.raises(EntryError, match="maximum of 30"):
        planned.score("beats", 1, "31")
    page = planned.page()
    assert page["called"] == 30
    assert [child["offered"] for child in page["children"][:2]] == [28, None]
    assert not page["children"][0]["offered_about"]
    planned.score("beats", 2, "20~")
    third = planned.row(2)
    assert (third["offered"], third["offered_about"]) == (20, True)
    planned.score("rep_target", 0, "c28")
    row = planned.row(0)
    assert (row["carried"], row["total"], row["offered"]) == (28, 28, None)
    few = world.queries(f"/api/activities/{planned.activity('rep_target').id}/target")
    world.more_children()
    assert world.queries(f"/api/activities/{planned.activity('rep_target').id}/target") == few


def test_another_movement_or_a_later_one_is_not_carried_in(planned: Planned) -> None:
    planned.score("beats", 0, "28")
    assert planned.keep(planned.target, planned.beats).status_code == 200
    assert planned.page()["called"] is None
    planned.beats["movement"] = "star jumps"
    assert planned.keep().status_code == 200
    assert planned.row(0)["offered"] is None


def test_counts_of_other_calls_are_not_compared(world: World) -> None:
    """A count of 30 called ones is nothing to put beside a count of 40."""
    for days, calls, typed in ((9, 30, "28"), (5, 40, "36"), (0, 30, "29")):
        planned = Planned(world, days, calls=calls)
        assert planned.keep(planned.beats).status_code == 200
        planned.score("beats", 0, typed)
    path = f"/api/activities/{planned.activity('beats').id}/lanes"
    child = world.teacher.ask("GET", path).json()["children"][0]
    assert [one["shown"] for one in child["lane"]["earlier"]] == ["28"]
    assert child["words"] == ["steady, within ±4", "new best"]
    assert child["target"] == "30", "no more than were called"


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"times": "1\n2\nsoon\n1"}, "Line 3 says “soon”, which is not a time. Line 4 comes"),
        ({"bpm": 300}, "30 to 240 beats"),
        ({"bpm": None, "calls": None}, "give the beat"),
        ({"calls": 700}, "600 movements"),
    ],
)
def test_what_cannot_be_called_is_refused_and_says_where(
    world: World, more: dict[str, Any], words: str
) -> None:
    planned = Planned(world, **more)
    refused = planned.keep()
    assert refused.status_code == 409 or refused.status_code == 422
    assert words in refused.json()["message"]
    assert refused.json()["message"].startswith("Squats to music: ")


def test_a_list_of_times_is_kept_as_it_was_typed(planned: Planned) -> None:
    planned.beats["times"] = "# verse\n2.5 down\n5\n"
    kept = planned.keep().json()["blocks"][0]
    assert kept["entry"]["times"] == "# verse\n2.5 down\n5\n"
    assert "2 calls" in kept["why"]
    assert planned.score("beats", 0, "2").conditions["calls"] == "2"


def test_it_counts_for_what_is_called_only(planned: Planned) -> None:
    planned.beats |= {"test_id": planned.world.activity.protocol.test_id, "activity_id": None}
    refused = planned.keep()
    assert "called movements" in refused.json()["message"]


def test_levels_add_up_by_the_teachers_weights_and_moving_up_is_told(world: World) -> None:
    first = Planned(world, 7)
    assert first.keep().status_code == 200
    first.score("rep_target", 0, "20e/10+5 by 0.5/1/2")
    assert first.row(0)["total"] == 25
    assert first.row(0)["moved_up"] == []
    later = Planned(world)
    assert later.keep().status_code == 200
    kept = later.score("rep_target", 0, "c28+4e/10/6h+5e by 0.5/1/2")
    assert kept.value == 28 + 2 + 10 + 12 + 2 and kept.conditions["weights"] == "0.5/1/2"
    row = later.row(0)
    assert (row["total"], row["reps"]) == (54, [20, 5])
    assert row["moved_up"] == ["squats: harder for the first time, usual before"]
    assert row["projected"] == 28 + 26 * 25  # 26 in the first minute of 25


def test_what_was_counted_keeps_its_movement_and_its_weight(planned: Planned) -> None:
    planned.score("rep_target", 0, "20e/10+5 by 0.5/1/2")
    asked = dict(planned.target)
    planned.target["names"] = ["press-ups", "squats"]
    assert "Keep this order" in planned.keep().json()["message"]
    # Also where the device does not say which test of the lesson it is.
    unsaid = {**planned.target, "id": None, "activity_id": None}
    assert "Keep this order" in planned.keep(planned.beats, unsaid).json()["message"]
    planned.target |= {**asked, "weights": "1/1/1"}
    assert "weights stay 0.5/1/2" in planned.keep().json()["message"]
    planned.target |= {**asked, "names": ["squats", "press-ups", "hops"]}
    assert planned.keep().status_code == 200
    assert planned.row(0)["total"] == 25
