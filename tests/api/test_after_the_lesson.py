"""After the lesson: why, what was found, who was set aside, what is next, what goes on paper."""

from __future__ import annotations

import io
import re
from datetime import timedelta
from typing import Any

import pypdf
import pytest
from django.utils import timezone

from lauf.catalogue.queries import newest_protocols
from lauf.exchange.paper.lane import lane_svg
from lauf.people.models import OwnPage, SchoolClass
from lauf.rules.reading.quantities import Kind
from tests.api.conftest import Person, World
from tests.support.papers import pages_of
from tests.support.served import wait_for


def get(person: Person, path: str) -> Any:
    answer = person.ask("GET", path)
    assert answer.status_code == 200, answer.content
    return answer.json()


def put(person: Person, path: str, body: Any) -> Any:
    answer = person.ask("PUT", path, body)
    assert answer.status_code == 200, answer.content
    return answer.json()


def paper(person: Person, path: str, body: Any = None) -> list[str]:
    """The text of each page of a hand-out, once it is there."""
    begun = person.ask("POST", path, body)
    assert begun.status_code == 200, begun.content
    at = f"/api/handouts/{begun.json()['id']}"
    state = wait_for(lambda: get(person, at), lambda found: found["ready"], seconds=120)
    assert state["ready"] and state["done"] == state["of"] and not state["problem"]
    file = person.ask("GET", f"{at}/file")
    assert file["Content-Type"] == "application/pdf" and "no-store" in file["Cache-Control"]
    # Fonts are in the file: it looks the same everywhere.
    for page in pypdf.PdfReader(io.BytesIO(file.content)).pages:
        for font in page["/Resources"]["/Font"].values():
            inner = font.get_object()
            inner = inner["/DescendantFonts"][0].get_object()
            assert any(name.startswith("/FontFile") for name in inner["/FontDescriptor"])
    return pages_of(file.content)


def tested(world: World) -> None:
    """The class twice in press-ups, the second time with one better, one lower, one missing."""
    first = world.lesson_on(30)
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, str(18 + number % 5), first)
    for number, pupil in enumerate(world.pupils[:-1]):
        world.record(pupil, {0: "34", 1: "5"}.get(number, str(18 + number % 5)))


# Why


def test_why_goes_from_what_was_typed_to_the_next_aim(world: World) -> None:
    tested(world)
    lanes = get(world.teacher, f"/api/activities/{world.activity.id}/lanes")["children"]
    score = lanes[0]["score"]
    why = get(world.teacher, f"/api/attempts/{score['id']}/why")
    assert (why["shown"], why["words"], why["name"]) == ("34", lanes[0]["words"], lanes[0]["name"])
    # One lane alone has a scale of its own; what stands on it is the same.
    for part in ("rungs", "earlier", "today", "best", "band", "variant"):
        assert why["lane"][part] == lanes[0]["lane"][part]
    steps = {step["what"]: step for step in why["steps"]}
    assert list(steps) == [
        "Entry as typed", "Kept as", "Rung", "Day-to-day variation", "Change", "Best so far",
        "Next aim",
    ]  # fmt: skip
    assert "“34”" in steps["Entry as typed"]["words"]
    assert "34 − 18 = 16" in steps["Change"]["words"]
    assert "1.645 × √2" in steps["Change"]["words"] and "Weir 2005" in steps["Change"]["source"]
    assert "typical error" in steps["Day-to-day variation"]["words"]
    assert "starting value" in steps["Day-to-day variation"]["source"]
    assert steps["Next aim"]["words"].startswith(lanes[0]["target"])


def test_why_of_what_has_no_value_or_was_taken_back_says_so(world: World) -> None:
    absent = world.record(world.pupils[0], "a")
    why = get(world.teacher, f"/api/attempts/{absent.id}/why")
    assert (why["shown"], why["lane"]) == ("absent", None)
    assert [step["what"] for step in why["steps"]] == ["Entry as typed"]
    corrected = world.record(world.pupils[0], "12", succeeds=absent.id)
    again = get(world.teacher, f"/api/attempts/{corrected.id}/why")
    assert "before that “a”" in again["steps"][0]["words"]


# The board


def test_a_term_is_put_beside_another(world: World) -> None:
    today = timezone.localdate()
    for days, score in ((200, "10"), (30, "30"), (2, "12")):
        activity = world.lesson_on(days)
        for pupil in world.pupils[:6]:
            world.record(pupil, score, activity)
    at = f"/api/classes/{world.school_class.id}/board?since={today - timedelta(days=10)}"
    plain = get(world.teacher, at)["children"][0]["cells"][0]
    assert (plain["then"], plain["verdict"]) == ("30", "lower")
    before = f"beside_since={today - timedelta(days=250)}"
    until = f"beside_until={today - timedelta(days=150)}"
    page = get(world.teacher, f"{at}&{before}&{until}")
    cell = page["children"][0]["cells"][0]
    assert (cell["then"], cell["verdict"], cell["shown"]) == ("10", "steady", "12")
    assert (page["tests"][0]["median_then"], page["tests"][0]["median"]) == ("10", "12")


def test_a_note_is_set_aside_with_a_reason_as_long_as_it_says_the_same(world: World) -> None:
    child = world.pupils[0]
    for slug, scores in (("press-ups-60", ("30", "12")), ("burpees-30", ("14", "4"))):
        for days, typed in zip((20, 2), scores, strict=True):
            activity = world.lesson_on(days, slug)
            world.record(child, typed, activity, variant=activity.protocol.variant_codes[-1])

    def note() -> Any:
        return get(world.teacher, f"/api/classes/{world.school_class.id}/board")["children"][0][
            "notes"
        ][0]

    assert note()["need"] == "lower" and note()["aside"] is None
    at = f"/api/pupils/{child.id}/notes/lower"
    empty = world.teacher.ask("PUT", at, {"words": note()["words"], "why": "  "})
    assert empty.status_code == 422 and "why" in empty.json()["message"]
    put(world.teacher, at, {"words": note()["words"], "why": "had been ill"})
    assert note()["aside"]["why"] == "had been ill"
    # The next scores say something new: it is looked at anew.
    activity = world.lesson_on(1, "burpees-30")
    world.record(child, "3", activity, variant=activity.protocol.variant_codes[-1])
    assert note()["aside"] is None


def test_what_a_lesson_found_is_read_aloud_without_a_name(world: World) -> None:
    tested(world)
    (found,) = get(world.teacher, f"/api/lessons/{world.activity.lesson_id}/found")["tests"]
    said = " ".join(found["aloud"])
    assert "11 of us" in said or "Eleven of us did" in said
    assert "One of us has really got better" in said
    assert not any(pupil.given_name in said for pupil in world.pupils)
    assert found["teacher"].startswith("1 better, 9 steady, 1 lower")


def test_what_is_next_names_who_needs_another_form(world: World) -> None:
    activity = world.lesson_on(120)
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, "60" if number == 0 else "4", activity, variant="full")
    page = get(world.teacher, f"/api/classes/{world.school_class.id}/next")
    (test,) = page["tests"]
    assert test["due"] and test["missing"] == 12
    assert [one["name"] for one in test["easier"]] == [one.name for one in world.pupils[1:]]
    assert test["harder"] == []  # full is the hardest there is


# Paper


def test_a_report_says_what_the_screens_say_and_one_page_is_one_child(world: World) -> None:
    tested(world)
    child = world.pupils[0]
    line = {"text": "Likes to jump <b>& run</b>."}
    put(world.teacher, f"/api/pupils/{child.id}/family-line", line)
    pages = paper(world.teacher, f"/api/classes/{world.school_class.id}/reports", {})
    assert len(pages) == len(world.pupils)
    record = get(world.teacher, f"/api/pupils/{child.id}")
    lane = record["tests"][0]["lanes"][0]
    for words in (child.name, "34", lane["change"], lane["rung_name"], f"{lane['target']}"):
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
    for words in ("60 s by the clock", "At most 60", "f full", "blank is never a nought", " 34 "):
        assert words in page, words
    plain = paper(world.teacher, at, {"kind": "test", "of": test})
    assert " 34 " not in plain[0]
    for kind in ("pulses", "blank"):
        assert names[-1] in " ".join(paper(world.teacher, at, {"kind": kind}))
    unsaid = world.teacher.ask("POST", at, {"kind": "battery"})
    assert unsaid.status_code == 422 and "which" in unsaid.json()["message"]


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


def test_the_school_is_told_without_names_and_small_groups_not_at_all(world: World) -> None:
    tested(world)
    picture = get(world.head, "/api/school/picture")
    (year,) = picture["terms"][-1]["year_groups"]
    assert (year["told"], year["children"], year["took_part"]) == (True, 12, 12)
    assert (year["better"], year["lower"]) == (1, 1)
    text = str(picture)
    assert not any(pupil.name in text for pupil in world.pupils)
    for pupil in world.pupils[4:]:
        pupil.school_class, pupil.left_from = None, world.school_class
        pupil.left_on = timezone.localdate()
        pupil.save()
    (small,) = get(world.head, "/api/school/picture")["terms"][-1]["year_groups"]
    assert not small["told"] and small["better"] == small["children"] == 0
    (page,) = paper(world.head, "/api/school/head-page")
    assert "fewer than 5: not told" in page


# A child's own page


def test_a_code_opens_own_lanes_and_next_aims_and_nothing_else(world: World) -> None:
    tested(world)
    child = world.pupils[0]
    opened = world.teacher.ask("POST", f"/api/pupils/{child.id}/own-code").json()
    page = get(world.nobody, f"/api/own/{opened['code'].lower()}")
    assert page == get(world.teacher, f"/api/pupils/{child.id}/own")
    assert set(page) == {"name", "lanes"} and page["name"] == child.given_name
    assert set(page["lanes"][0]) == {
        "test", "variant", "lane", "shown", "best", "target", "rung_name",
    }  # fmt: skip
    text = str(page)
    assert not any(other.name in text for other in world.pupils[1:])
    # A new code closes the one before; a closed or late one opens nothing.
    again = world.teacher.ask("POST", f"/api/pupils/{child.id}/own-code").json()
    assert world.nobody.ask("GET", f"/api/own/{opened['code']}").status_code == 404
    assert OwnPage.objects.get(pupil=child).proof != again["code"]
    OwnPage.objects.update(until=timezone.now())
    assert world.nobody.ask("GET", f"/api/own/{again['code']}").status_code == 404
    assert world.nobody.ask("GET", "/api/own/AAAAAAAAAA").status_code == 404


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
    drawn = lane_svg(lane)
    assert "A&lt;b&gt;" in drawn
    rung = float(re.findall(r'M([\d.]+) 20v18"', drawn)[0])
    today = float(re.findall(r'<rect x="([\d.]+)" y="24', drawn)[0])
    assert (rung < today) == (better == "up")
