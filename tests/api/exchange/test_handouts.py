"""Reports, certificates, recording sheets and lanes on paper."""

from __future__ import annotations

import re
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from django.db import connection
from django.utils import timezone

from lauf.catalogue.queries import newest_protocols
from lauf.errors import Refused
from lauf.exchange.models import HandoutJob
from lauf.exchange.paper.jobs import begin
from lauf.exchange.paper.lane import drawn_lane
from lauf.people.models import SchoolClass
from lauf.rules.reading.quantities import Kind
from tests.api.asking import get, paper, put, tested
from tests.api.conftest import World
from tests.api.weeks import a_challenge, a_week


def test_a_report_says_what_the_screens_say_and_one_page_is_one_child(world: World) -> None:
    tested(world)
    child = world.pupils[0]
    line = {"text": "Likes to jump <b>& run</b>."}
    put(world.teacher, f"/api/pupils/{child.id}/family-line", line)
    pages = paper(world.teacher, f"/api/classes/{world.school_class.id}/reports", {})
    assert len(pages) == len(world.pupils)
    record = get(world.teacher, f"/api/pupils/{child.id}")
    lane = record["tests"][0]["lanes"][0]
    for words in (child.name, "34", "Better than last time, by 16", lane["rung_name"],
                  f"{lane['target']}"):  # fmt: skip
        assert words in pages[0], words
    assert "Likes to jump <b>& run</b>." in pages[0], "a line is text, never code"
    for other in world.pupils[1:]:
        assert other.name not in pages[0]
    assert "Press-ups in 60 s: 18, then 34" in pages[0]
    one = paper(
        world.teacher, f"/api/classes/{world.school_class.id}/reports", {"pupil_ids": [child.id]}
    )
    assert one == pages[:1]


def test_a_report_of_many_tests_is_still_one_page_and_says_no_more_than_is_known(
    world: World,
) -> None:
    """Sixteen tests, each done for the first time, and a line as long as one may be."""
    assert world.teacher.staff
    versions = [
        one
        for one in newest_protocols(world.teacher.staff)
        if one.kind == Kind.COUNT and not one.conditions and not one.test.private
    ][:16]
    assert len(versions) == 16
    children = world.pupils[:2]
    for version in versions:
        activity = world.lesson_on(3, version.test.slug)
        form = version.usual_variant
        for child in children:
            world.record(child, "3", activity, variant=form, wave=None)
    put(world.teacher, f"/api/pupils/{children[0].id}/family-line", {"text": "Works well. " * 24})
    at = f"/api/classes/{world.school_class.id}/reports"
    pages = paper(world.teacher, at, {"pupil_ids": [one.id for one in children]})
    assert len(pages) == 2
    for child, page in zip(children, pages, strict=True):
        assert child.name in page and all(one.test.name.split()[0] in page for one in versions)
        assert "These are first scores" in page
        assert "teady" not in page


def test_certificates_are_for_those_that_were_agreed_to(world: World) -> None:
    tested(world)
    at = f"/api/classes/{world.school_class.id}"
    found = get(world.teacher, f"{at}/awards")
    given = {one["name"]: [p["award"] for p in one["proposals"]] for one in found["children"]}
    assert given[world.pupils[0].name] == ["new_best", "rung", "improver"]
    assert given[world.pupils[1].name] == []
    items = [{"pupil_id": world.pupils[0].id, "words": "a new best: 34"}]
    (page,) = paper(world.teacher, f"{at}/certificates", {"title": "Bravo", "items": items})
    assert all(words in page for words in ("Bravo", world.pupils[0].name, "a new best: 34"))
    none = world.teacher.ask("POST", f"{at}/certificates", {"items": []})
    assert none.status_code == 422


def test_a_recording_sheet_is_in_the_order_of_entry_on_every_page(world: World) -> None:
    tested(world)
    at = f"/api/classes/{world.school_class.id}/sheets"
    test = world.activity.protocol.test_id
    names = [one.name for one in SchoolClass.objects.get(pk=world.school_class.id).pupils.all()]
    (page,) = paper(world.teacher, at, {"kind": "test", "of": test, "earlier": True})
    places = [page.index(name) for name in names]
    assert places == sorted(places)
    for words in ("60 s by the clock", "At most 60", "f full", "empty box is not a zero", " 34 "):
        assert words in page, words
    plain = paper(world.teacher, at, {"kind": "test", "of": test})
    assert " 34 " not in plain[0]
    for kind in ("pulses", "blank"):
        assert names[-1] in " ".join(paper(world.teacher, at, {"kind": kind}))
    unsaid = world.teacher.ask("POST", at, {"kind": "battery"})
    assert unsaid.status_code == 422 and "Choose the test" in unsaid.json()["message"]


def test_letters_that_could_be_something_else_are_written_out(world: World) -> None:
    """R and x are sides of a reach: its sheet never says that they are reasons."""
    sides = world.lesson_on(3, "shoulder-reach").protocol.test_id
    at = f"/api/classes/{world.school_class.id}/sheets"
    (page,) = paper(world.teacher, at, {"kind": "test", "of": sides})
    assert "Write in words: sat out, did not want to" in page
    assert "a absent" in page and "x sat out" not in page and "r did not" not in page
    (plain,) = paper(world.teacher, at, {"kind": "test", "of": world.activity.protocol.test_id})
    assert "x sat out" in plain and "Write in words: no kit or helper." in plain, "k is the knees"


def test_a_family_reads_whole_sentences(world: World) -> None:
    """One side reached, and the same again: no sign and no term of measuring."""
    for ago in (30, 3):
        sides = world.lesson_on(ago, "shoulder-reach")
        world.record(world.pupils[0], "L n R y", sides, variant="")
    wish = {"pupil_ids": [world.pupils[0].id]}
    (page,) = paper(world.teacher, f"/api/classes/{world.school_class.id}/reports", wish)
    assert "Right side done, left side not yet. The same as last time." in page
    assert "±" not in page and "steady" not in page


def test_a_set_has_a_page_a_class_with_a_box_for_each_challenge(world: World) -> None:
    week = a_week(world)
    challenge = a_challenge(world, week, rival="41")
    at = f"/api/weeks/{week.id}/sheets"
    (page,) = paper(world.teacher, f"{at}?on={challenge.on}")
    assert all(pupil.name in page for pupil in world.pupils)
    assert "Press-ups in 60 s to beat: 41" in page
    empty = world.teacher.ask("POST", f"{at}?on={challenge.on + timedelta(days=1)}")
    assert empty.status_code == 404


def test_an_overall_statement_is_off_at_first_and_shows_its_working(world: World) -> None:
    tested(world)
    at = f"/api/pupils/{world.pupils[0].id}"
    assert get(world.teacher, at)["overall"] is None
    scheme = {
        "below": 0, "points": [1, 2, 3, 4], "fewest": 1,
        "marks": [{"begins": "0", "words": "on the way"}, {"begins": "3", "words": "strong"}],
    }  # fmt: skip
    kept = put(world.head, "/api/school/scheme", {"scheme": scheme})
    assert kept["scheme"] == scheme
    said = get(world.teacher, at)["overall"]
    assert said["words"] == "strong" and "points a test" in said["working"][-2]
    (page,) = paper(
        world.teacher,
        f"/api/classes/{world.school_class.id}/reports",
        {"pupil_ids": [world.pupils[0].id]},
    )
    assert "strong" in page and said["working"][-2] in page
    wrong = world.head.ask("PUT", "/api/school/scheme", {"scheme": {**scheme, "points": [2, 1]}})
    assert wrong.status_code == 422 and "rise" in wrong.json()["message"]
    put(world.head, "/api/school/scheme", {"scheme": None})
    assert get(world.teacher, at)["overall"] is None


def test_no_body_measurement_is_on_any_paper_whoever_asks(world: World) -> None:
    world.permit(world.teacher.staff, may_see_growth=True)
    weight = world.lesson_on(0, "weight")
    for pupil in world.pupils:
        body = world.body(pupil, "47.3", variant="")
        asked = world.teacher.ask("POST", f"/api/activities/{weight.id}/attempts", body)
        assert asked.status_code == 200, asked.content
    tested(world)
    at = f"/api/classes/{world.school_class.id}"
    world.permit(world.head.staff, may_see_growth=True)
    tests = [weight.protocol.test_id, world.activity.protocol.test_id]
    battery = world.head.ask("POST", "/api/batteries", {"name": "Check", "test_ids": tests}).json()
    sheet = {"kind": "battery", "of": battery["id"], "earlier": True}
    for path, body in (("reports", {}), ("class-list", {}), ("sheets", sheet)):
        pages = " ".join(paper(world.teacher, f"{at}/{path}", body))
        assert "47.3" not in pages and (path == "sheets" or "Weight" not in pages)


@pytest.mark.parametrize("better", ["up", "down"])
def test_a_printed_lane_has_better_at_the_right(better: str) -> None:
    lane = {
        "better": better, "origin": 0, "scale": 100, "band": [20, 40], "best": None,
        "rungs": [{"name": "A<b>", "at": 30, "shown": "30"}], "earlier": [],
        "today": {"at": 80, "estimate": False},
    }  # fmt: skip
    drawn = drawn_lane(lane, "34")
    rung = float(re.findall(r'M([\d.]+) 9v18"', drawn["svg"])[0])
    today = float(re.findall(r'<rect x="([\d.]+)" y="13', drawn["svg"])[0])
    assert (rung < today) == (better == "up")
    # The name stands over its rung, the threshold under it.
    for row in ("names", "ticks"):
        (label,) = drawn[row]  # type: ignore[literal-required]
        assert label["gap"] / 100 * 340 == pytest.approx(rung, abs=20), row


def test_no_two_words_of_a_printed_lane_run_into_each_other() -> None:
    rungs = [{"name": "Centre line", "at": at, "shown": str(at)} for at in range(0, 101, 5)]
    lane = {
        "better": "up", "origin": 0, "scale": 100, "band": None, "best": None, "rungs": rungs,
        "earlier": [], "today": {"at": 50, "estimate": False},
    }  # fmt: skip
    drawn = drawn_lane(lane, "34")
    assert 3 < len(drawn["names"]) < len(drawn["ticks"])
    assert all(label["gap"] > 1 for label in [*drawn["names"][1:], *drawn["ticks"][1:]])
    # Beside the last score is a name, whoever has to go.
    assert "50" in [label["words"] for label in drawn["ticks"]]


def test_what_a_process_that_ended_was_making_is_told_as_not_made(world: World) -> None:
    assert world.teacher.staff
    late = {"of": 3, "done": 1, "name": "Reports.pdf", "owner": world.teacher.staff.id}
    now = timezone.now()
    ended, going, old = (
        HandoutJob.objects.create(**late, touched_at=now - timedelta(seconds=seconds))
        for seconds in (70, 5, 16 * 60)
    )
    state = get(world.teacher, f"/api/handouts/{ended.id}")
    assert "Try again" in state["problem"] and not state["ready"]
    assert get(world.teacher, f"/api/handouts/{going.id}")["problem"] == ""
    assert world.teacher.ask("GET", f"/api/handouts/{old.id}").status_code == 404
    assert world.head.ask("GET", f"/api/handouts/{going.id}").status_code == 404
    assert world.teacher.ask("GET", f"/api/handouts/{going.id}/file").status_code == 404


def test_only_so_many_are_made_for_one_person_at_once(world: World) -> None:
    assert world.teacher.staff
    owner, now = world.teacher.staff.id, timezone.now()
    of_one = {"of": 3, "name": "Reports.pdf", "owner": owner}
    with ThreadPoolExecutor(1) as apart:
        apart.submit(laid_by, [HandoutJob(**of_one, touched_at=now) for _ in range(10)]).result()
        try:
            with pytest.raises(Refused, match="Wait for one of them"):
                begin(owner, "One more.pdf", [])
            # Those of a process that has ended are in nobody's way.
            apart.submit(
                lambda: HandoutJob.objects.filter(owner=owner).update(
                    touched_at=now - timedelta(minutes=2)
                )
            ).result()
            assert begin(owner, "One more.pdf", ["<p>.</p>"])["done"] == 0
        finally:
            apart.submit(lambda: HandoutJob.objects.filter(owner=owner).delete()).result()
            apart.submit(lambda: connection.close()).result()


def laid_by(jobs: list[HandoutJob]) -> None:
    """Where every connection sees them."""
    HandoutJob.objects.bulk_create(jobs)
