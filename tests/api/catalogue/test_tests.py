"""Tests, their versions, ladders and norm tables, as a teacher's device asks for them."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pytest
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from lauf.catalogue.models import NormTable, ProtocolVersion
from lauf.catalogue.models import Test as Protocol
from lauf.people.models import Pupil
from lauf.records.models import Attempt
from lauf.rules.reading.quantities import Kind
from tests.api.conftest import World


def id_of(world: World, slug: str) -> str:
    return str(Protocol.objects.get(school=world.school, slug=slug).id)


def card(world: World, slug: str) -> dict[str, Any]:
    answer = world.head.ask("GET", f"/api/tests/{id_of(world, slug)}")
    found: dict[str, Any] = answer.json()
    return found


def test_the_catalogue_covers_the_trade(world: World) -> None:
    page = world.head.ask("GET", "/api/catalogue").json()
    assert len(page["tests"]) >= 45
    assert {test["family"] for test in page["tests"]} == {
        family["code"] for family in page["families"]
    } - {"growth"} | {"growth"}
    versions = ProtocolVersion.objects.filter(test__school=world.school).select_related("test")
    assert {Kind(v.kind) for v in versions} == set(Kind)
    for version in versions:
        assert version.say and version.counts and version.cautions and version.ends, version
        assert version.setup_seconds and version.changeover_seconds and version.places, version
        lowest, highest = version.measure.lowest, version.measure.ceiling
        assert lowest < highest, version
    # Both schools of the tests that practice does in two ways.
    slugs = set(versions.values_list("test__slug", flat=True))
    assert slugs >= {"sit-ups-60-held", "sit-ups-beat", "press-ups-60", "press-ups-row"}
    assert slugs >= {"skipping-60", "skipping-unbroken", "plank-limit", "plank-30"}
    assert slugs >= {"sit-reach-wall", "sit-reach-box"}


def test_growth_is_hidden_without_its_permission(world: World) -> None:
    names = {test["name"] for test in world.teacher.ask("GET", "/api/catalogue").json()["tests"]}
    assert not names & {"Height", "Weight"}
    assert world.teacher.ask("GET", f"/api/tests/{id_of(world, 'height')}").status_code == 404


def test_reads_take_a_constant_number_of_queries(world: World) -> None:
    from django.db import connection

    press_ups = id_of(world, "press-ups-60")
    counts = []
    for records in (0, 24):
        for pupil in world.pupils[: records // 2]:
            world.record(pupil, "20")
            world.record(pupil, "22", world.lesson_on(9))
        found = {}
        for path in ("catalogue", f"tests/{press_ups}", f"tests/{press_ups}/benchmarks"):
            with CaptureQueriesContext(
                connection,
            ) as queries:
                assert world.head.ask("GET", f"/api/{path}").status_code == 200
            found[path] = len(queries)
        counts.append(found)
    assert counts[0] == counts[1]
    assert max(counts[0].values()) <= 14


def test_an_edit_makes_the_next_version_and_says_what_that_does(world: World) -> None:
    before = world.record(world.pupils[0], "20")
    shown = card(world, "press-ups-60")
    path = f"/api/tests/{shown['id']}"
    kinder = {**shown["protocol"], "easier": "From a wall."}
    stricter = {**shown["protocol"], "counts": ["Chest to the floor."]}
    said = [
        world.head.ask("POST", f"{path}/effects", {"based_on": 1, "protocol": protocol}).json()
        for protocol in (kinder, stricter, {**shown["protocol"], "seconds": 30})
    ]
    assert said[0] == {
        "changed": ["easier"],
        "effects": ["Scores before and after stay comparable."],
        "questions": [],
    }
    assert "will not be compared" in said[1]["effects"][0]
    assert "the clock is different" in said[2]["effects"][0]
    edit = {"based_on": 1, "why": "one rule for all", "protocol": stricter}
    made = world.head.ask("POST", f"{path}/versions", edit)
    assert (made.status_code, made.json()["version"]) == (201, 2)
    late = world.head.ask("POST", f"{path}/versions", {**edit, "protocol": kinder})
    assert "Look at the new version first" in late.json()["message"]
    # The earlier score keeps the version it was made under, and is not compared across.
    before.refresh_from_db()
    assert before.protocol.number == 1
    after = world.lesson_on(0)
    answer = world.teacher.ask(
        "POST", f"/api/activities/{after.id}/attempts", world.body(world.pupils[0], "25")
    )
    assert any("under different rules" in word for word in answer.json()["words"])


def test_a_copy_takes_its_ladders_along(world: World) -> None:
    shown = card(world, "skipping-60")
    body = {
        "name": "Skipping backwards in 60 s",
        "family": "",
        "copy_of": shown["id"],
        "protocol": {**shown["protocol"], "say": ["Turn the rope backwards."]},
    }
    made = world.head.ask("POST", "/api/tests", body)
    assert made.status_code == 201
    page = world.head.ask("GET", f"/api/tests/{made.json()['id']}/benchmarks").json()
    assert len(page["ladders"]) == 7
    assert not any(ladder["findings"] for ladder in page["ladders"])
    again = world.head.ask("POST", "/api/tests", body)
    assert "Choose another name" in again.json()["message"]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"kind": "time", "unit": "cm"}, "must be one of s"),
        ({"lowest": 50, "highest": 40}, "above the lowest"),
        ({"cap": 900}, "maximum must be between"),
        ({"kind": "hits"}, "number of shots"),
        ({"kind": "stage"}, "a schedule of stages"),
        ({"from_age": 11, "to_age": 5}, "youngest age"),
        ({"conditions": {"colour": "red"}}, "free condition must be one of"),
        ({"variants": [{"code": "p", "name": "plain", "key": "a"}]}, "must be a small letter"),
    ],
)
def test_a_protocol_that_does_not_fit_together_is_refused(
    world: World, change: dict[str, Any], says: str
) -> None:
    shown = card(world, "press-ups-60")
    edit = {"based_on": 1, "protocol": {**shown["protocol"], **change}}
    answer = world.head.ask("POST", f"/api/tests/{shown['id']}/versions", edit)
    assert answer.status_code == 422
    assert says in answer.json()["message"]


def test_a_ladder_from_printed_ranges_is_previewed_on_last_years_scores(world: World) -> None:
    for number, pupil in enumerate(world.pupils[:6]):
        world.record(pupil, str(8 + 2 * number), world.lesson_on(40))  # 8, 10, … 18
    shown = id_of(world, "press-ups-60")
    draft = {
        "year_group_id": world.school_class.year_group_id,
        "variant": "full",
        "printed": "7–9, 11–15, more than 19",
        "rungs": [{"name": n, "at": ""} for n in ("Kerb", "Bench", "Fence")],
    }
    path = f"/api/tests/{shown}/ladder-preview"
    said = world.head.ask("POST", path, draft).json()
    assert [(r["name"], r["typed"], r["beyond"]) for r in said["rungs"]] == [
        ("Kerb", "7", False),
        ("Bench", "11", False),
        ("Fence", "19", True),
    ]
    # Five stand on the lowest rungs, none beyond: fewer than five are told with their neighbours.
    assert said["reached"] == [{"from_rung": -1, "to_rung": 2, "children": 6}]
    assert (said["scored"], said["few"]) == (6, False)
    assert [f["fault"] for f in said["findings"]] == ["gap", "gap"]
    bad = world.head.ask("POST", path, {**draft, "printed": "eight to ten"})
    assert bad.status_code == 422 and "Type" in bad.json()["accepted"]
    beyond = world.head.ask("POST", path, {**draft, "printed": "7, 12–18, more than 60"})
    assert "above the maximum" in [f["fault"] for f in beyond.json()["findings"]]


def test_a_changed_ladder_judges_history_anew_and_is_copied(world: World) -> None:
    world.record(world.pupils[0], "20")
    page = world.head.ask("GET", f"/api/tests/{id_of(world, 'press-ups-60')}/benchmarks").json()
    year = str(world.school_class.year_group_id)
    ladder = next(
        row for row in page["ladders"] if row["year_group_id"] == year and row["variant"] == "full"
    )
    assert ladder["source"] == "starting values without a source, to be adjusted by your school"
    path = f"/api/tests/{page['test_id']}/ladders/{ladder['id']}"
    rungs = [{"name": "First", "at": "10"}, {"name": "Second", "at": "more than 19"}]
    entry = {"year_group_id": year, "variant": "full", "rungs": rungs}
    assert world.head.ask("PUT", path, entry).status_code == 200
    assert world.child(world.pupils[0])["words"][0] == "Second"
    upside_down = {**entry, "rungs": rungs[::-1]}
    refused = world.head.ask("PUT", path, upside_down)
    assert "is not harder than the rung before it" in refused.json()["message"]
    again = world.head.ask("POST", f"/api/tests/{page['test_id']}/ladders", entry)
    assert "already a ladder" in again.json()["message"]
    years = [row["id"] for row in page["year_groups"]]
    copied = world.head.ask("POST", f"/api/ladders/{ladder['id']}/copy", {"year_group_ids": years})
    assert len(copied.json()) == len(years) - 1


NORM = "sex,age,P5,P50,P95\ngirl,8,6,14,25\nboy,8,7,16,28\n"


def norm_body(**more: Any) -> dict[str, Any]:
    return {
        "text": NORM, "unit": "reps", "name": "Made up", "source": "nobody", "year": 2020,
        "population": "no children", "standing": "invented for this test", "variant": "full",
        **more,
    }  # fmt: skip


def test_a_norm_is_imported_and_stands_beside_each_judgement(world: World) -> None:
    test = id_of(world, "press-ups-60")
    path = f"/api/tests/{test}/norms"
    assert world.head.ask("POST", path, norm_body()).status_code == 201
    assert NormTable.objects.get(name="Made up").seconds == 60
    pupil = world.pupils[0]
    born = {"born": "2018-01-10", "sex": "female"}
    Pupil.objects.filter(pk=pupil.pk).update(**born)
    answer = world.post(pupil, "14")
    assert any(word.startswith("about P50 (Made up)") for word in answer.json()["words"])
    record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()
    (norm,) = record["tests"][0]["lanes"][0]["norms"]
    assert (norm["source"], norm["population"], norm["standing"]) == (
        "nobody", "no children", "invented for this test",
    )  # fmt: skip
    # A norm for 60 s says nothing of a run that was stopped after 40 s, nor of an unknown age.
    Pupil.objects.filter(pk=pupil.pk).update(born=None)
    record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()
    assert record["tests"][0]["lanes"][0]["norms"][0]["why_not"].endswith("there is no birth date")


def test_what_a_change_is_worth_for_the_age_is_told_beside_it(world: World) -> None:
    test = id_of(world, "press-ups-60")
    text = "sex,age,P5,P50,P95\ngirl,8,6,14,25\ngirl,9,9,18,30\n"
    assert (
        world.head.ask("POST", f"/api/tests/{test}/norms", norm_body(text=text)).status_code == 201
    )
    pupil = world.pupils[0]
    born = timezone.localdate() - timedelta(days=9 * 365 + 60)
    Pupil.objects.filter(pk=pupil.pk).update(born=born, sex="female")
    world.record(pupil, "14", world.lesson_on(200))

    def gain(typed: str, **more: Any) -> str:
        assert world.post(pupil, typed, **more).status_code == 200
        record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()
        return str(record["tests"][0]["lanes"][0]["norms"][0]["gain"])

    # The middle of eight is 14, of nine 18: 4 come with the year.
    assert gain("23").startswith(
        "4 better is usual for the age in this time. This child gained 5 more than that, ±"
    )
    first = Attempt.objects.get(pupil=pupil, activity=world.activity)
    assert "gained about the same" in gain("19", succeeds=str(first.id))


def test_a_norm_in_inches_is_read_with_the_exact_inch(world: World) -> None:
    jump = id_of(world, "long-jump")
    table = "sex,age,P5,P50,P95\ngirl,8,30,40,50\nboy,8,30,40,50\n"
    body = norm_body(text=table, unit="in", variant="")
    assert world.head.ask("POST", f"/api/tests/{jump}/norms", body).status_code == 201
    pupil = world.pupils[0]
    Pupil.objects.filter(pk=pupil.pk).update(born="2018-01-10", sex="female")
    world.record(pupil, "40in", world.lesson_on(0, "long-jump"), variant="")
    record = world.teacher.ask("GET", f"/api/pupils/{pupil.id}").json()
    (norm,) = record["tests"][0]["lanes"][0]["norms"]
    # Kept in whole centimetres: 102 cm are 40.16 inches, 40.8 if an inch were 25 mm.
    assert norm["words"].startswith("about P51")


def test_faults_of_a_file_are_told_by_row_and_column(world: World) -> None:
    path = f"/api/tests/{id_of(world, 'press-ups-60')}/norms"
    text = NORM + "girl,nine,6,14,25\nboy,9,7,30,28\n"
    said = world.head.ask("POST", f"{path}/preview", norm_body(text=text)).json()
    assert [(f["row"], f["column"]) for f in said["faults"]] == [(4, "age"), (5, "P95")]
    refused = world.head.ask("POST", path, norm_body(text=text))
    assert refused.status_code == 422 and "2 mistakes" in refused.json()["message"]
    unsaid = world.head.ask("POST", path, norm_body(source=" "))
    assert "its source" in unsaid.json()["message"]
    good = world.head.ask("POST", f"{path}/preview", norm_body()).json()
    assert (good["form"], good["columns"], len(good["rows"])) == (
        "percentiles", ["P5", "P50", "P95"], 2,
    )  # fmt: skip


def test_the_schools_own_norm_needs_twenty_children_and_says_n(world: World) -> None:
    Pupil.objects.filter(school_class=world.school_class).update(born="2018-01-10", sex="female")
    extra = Pupil.objects.bulk_create(
        Pupil(school=world.school, school_class=world.school_class, given_name=f"More {n}",
              born="2018-02-01", sex="male")
        for n in range(9)
    )  # fmt: skip
    for number, pupil in enumerate([*world.pupils, *extra]):
        world.record(pupil, str(10 + number))
    page = world.head.ask("GET", f"/api/tests/{id_of(world, 'press-ups-60')}/benchmarks").json()
    own = {(row["sex"], row["n"]): row for row in page["own"]}
    assert {key for key, row in own.items() if row["percentiles"]} == {("", 21)}
    # The outermost two are told from fifty children on; each with where it lies.
    marks = {row["mark"]: row for row in own["", 21]["percentiles"]}
    assert list(marks) == ["P10", "P25", "P50", "P75", "P90"]
    assert marks["P50"] == {"mark": "P50", "shown": "20", "interval": "16 to 24"}
    assert own["female", 12]["why_not"] == "12 children so far, 20 needed"


def test_laps_are_worked_out_from_metres_or_steps(world: World) -> None:
    ask = world.teacher.ask
    mile = ask("POST", "/api/laps", {"steps": 26}).json()
    # Common practice: a mile in laps of 26 big steps is 62 laps.
    assert (mile["exact"], mile["whole"], mile["beyond"]) == ("61.898", 62, "2.66 m")
    step = ask("POST", "/api/laps/step", {"known": "20m", "steps": 25}).json()
    assert step["step_mm"] == 800
    short = ask("POST", "/api/laps", {"steps": 26, "step_mm": 800, "time": "12:00"}).json()
    assert (short["lap_mm"], short["pace_mile"]) == (20_800, "12:00")
    told = {"lap": "400m", "distance": "1600m", "time": "2:00 4:10 6:20", "done": "3+100m"}
    said = ask("POST", "/api/laps", told).json()
    assert said["splits"] == ["2:00", "2:10", "2:10"]
    assert said["halves"].startswith("slower second half")
    assert said["projected"] == "8:26.7"
    assert said["run"] == "1300 m run, 300 m to go"
    for wrong in ({"lap": "x"}, {"lap": "42m", "time": "soon"}, {"lap": "42m", "done": "many"}):
        answer = ask("POST", "/api/laps", wrong)
        assert answer.status_code == 422 and "Type" in answer.json()["message"]
