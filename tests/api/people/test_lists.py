"""A school's people from the office's lists: shown first, kept whole, and the same again changes
nothing."""

from __future__ import annotations

import base64
import io
from datetime import date
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from openpyxl import Workbook

from lauf.people.models import Change, Pupil, SchoolClass
from tests.api.conftest import MANY, World
from tests.exchange.lists import CHILDREN, offices

HEAD = "Pupil number,First name,Last name,DOB,Sex,Class,House,Medical\n"
FIRST = HEAD + (
    "101,Ada,Abara,14/03/2018,girl,3 Swift,Elm,\n"
    "102,Björn,de Vance,25/11/2017,boy,3 Swift,Oak,Asthma: blue inhaler\n"
    "103,Zoë,Ruiz,30/01/2018,girl,4 T,Elm,\n"
)


def preview(world: World, text: str, **more: Any) -> dict[str, Any]:
    answer = world.head.ask("POST", "/api/lists/preview", {"text": text, **more})
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def keep(world: World, text: str, **more: Any) -> dict[str, Any]:
    leavers = more.pop("leavers", [])
    agreed = preview(world, text, **more)["agreement"]
    asked = {"text": text, **more, "agreement": agreed, "leavers": leavers}
    answer = world.head.ask("POST", "/api/lists", asked)
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def statuses(found: dict[str, Any]) -> list[str]:
    return [row["status"] for row in found["rows"]]


def people() -> list[tuple[Any, ...]]:
    fields = ("number", "given_name", "family_name", "born", "sex", "school_class__name",
              "house__name", "medical_note", "left_on")  # fmt: skip
    return sorted(Pupil.objects.values_list("id", *fields), key=str)


def test_a_list_is_shown_kept_and_the_same_again_changes_nothing(world: World) -> None:
    before = people()
    found = preview(world, FIRST)
    assert statuses(found) == ["new", "new", "new"]
    assert (found["new_classes"], found["new_houses"]) == (["3 Swift"], ["Elm", "Oak"])
    # The class that the list names in part: who of it does not stand in it may have left.
    assert len(found["leavers"]) == len(world.pupils)
    assert people() == before, "nothing is kept by looking"
    assert keep(world, FIRST) == {"new": 3, "changed": 0, "left": 0}
    swift = SchoolClass.objects.get(name="3 Swift")
    assert swift.year_group.name == "Year 3"
    kept = swift.pupils.get(number="102")
    assert (kept.name, kept.sex, str(kept.born), kept.medical_note) == (
        "Björn de Vance", "male", "2017-11-25", "Asthma: blue inhaler",
    )  # fmt: skip
    assert kept.house is not None and kept.house.name == "Oak"
    after = people()
    assert statuses(preview(world, FIRST)) == ["same", "same", "same"]
    assert keep(world, FIRST) == {"new": 0, "changed": 0, "left": 0}
    assert people() == after
    words = Change.objects.filter(what="class").values_list("words", flat=True)
    assert "List saved: 3 new children, 0 changed, 0 left" in words


def test_whatever_a_list_corrects_of_a_child_it_has_from_then_on(world: World) -> None:
    keep(world, FIRST)
    keep(world, HEAD + "101,Adah,Abarra,15/03/2018,boy,3 Swift,Oak,Nuts\n")
    child = Pupil.objects.select_related("house", "school_class").get(number="101")
    assert child.house is not None and child.school_class is not None
    assert (
        child.given_name, child.family_name, str(child.born), child.sex, child.house.name,
        child.medical_note, child.school_class.name,
    ) == ("Adah", "Abarra", "2018-03-15", "male", "Oak", "Nuts", "3 Swift")  # fmt: skip


def test_next_terms_list_updates_moves_and_proposes_leavers(world: World) -> None:
    keep(world, FIRST)
    ada = Pupil.objects.get(number="101")
    next_term = HEAD + (
        "102,Björn,de Vance,25/11/2017,boy,4 T,Oak,\n"  # moved; an empty cell changes nothing
        "103,Zoë,Ruiz-Bell,30/01/2018,girl,4 T,Oak,Nuts\n"  # renamed, another house, a note
        "104,Cy,New,24/12/2017,boy,3 Swift,Elm,\n"
    )
    found = preview(world, next_term)
    assert statuses(found) == ["moved", "changed", "new"]
    changes = {(one["field"], one["was"], one["now"]) for one in found["rows"][1]["changes"]}
    assert changes == {
        ("family name", "Ruiz", "Ruiz-Bell"), ("house", "Elm", "Oak"), ("medical note", "", "Nuts"),
    }  # fmt: skip
    assert "Ada Abara" in [one["name"] for one in found["leavers"]]
    assert keep(world, next_term, leavers=[str(ada.id)]) == {"new": 1, "changed": 2, "left": 1}
    ada.refresh_from_db()
    assert ada.school_class is None and ada.left_from is not None and ada.left_on is not None
    moved = Pupil.objects.get(number="102")
    assert moved.school_class is not None and moved.school_class.name == "4 T"
    assert moved.medical_note == "Asthma: blue inhaler"
    # Back in a list she comes back, with all that was hers.
    back = preview(world, FIRST)
    assert statuses(back)[0] == "moved" and back["rows"][0]["changes"][0]["field"] == "returns"
    keep(world, FIRST)
    ada.refresh_from_db()
    assert ada.school_class is not None and ada.left_on is None


def test_a_family_that_changed_its_name_is_asked_about(world: World) -> None:
    """The same first name and birth date under another family name was a new child, and the old
    one a leaver."""
    first = "First name,Last name,DOB,Class\nAda,Quill,14/03/2018,3 Swift\n"
    keep(world, first)
    renamed = first.replace("Quill", "Fenn")
    assert statuses(preview(world, renamed)) == ["ask"]
    twin = first.replace("Ada", "Ben")
    assert statuses(preview(world, twin)) == ["new"]


def test_near_doubles_are_asked_about_and_nothing_is_kept_undecided(world: World) -> None:
    keep(world, "First name,Last name,DOB,Class\nAda,Abara,14/03/2018,3 Swift\n")
    near = "First name,Last name,DOB,Class\nAda,Abbara,14/03/2018,3 Swift\n"
    other_day = "First name,Last name,DOB,Class\nAda,Abara,24/03/2018,3 Swift\n"
    ada = Pupil.objects.get(family_name="Abara")
    for text in (near, other_day):
        (row,) = preview(world, text)["rows"]
        assert row["status"] == "ask" and "the same child?" in row["why"]
        assert row["maybe"] == [{"id": str(ada.id), "name": "Ada Abara"}]
        agreed = preview(world, text)["agreement"]
        asked = {"text": text, "agreement": agreed}
        answer = world.head.ask("POST", "/api/lists", asked)
        assert answer.status_code == 422 and "Row 2 is not decided" in answer.json()["message"]
    assert statuses(preview(world, near, decisions={2: "out"})) == ["out"]
    assert statuses(preview(world, near, decisions={2: str(ada.id)})) == ["changed"]
    assert keep(world, near, decisions={2: "new"})["new"] == 1
    assert Pupil.objects.filter(given_name="Ada").count() == 2


def test_what_cannot_be_is_said_row_by_row(world: World) -> None:
    found = preview(
        world,
        HEAD + "1,Ada,A,14/03/1988,girl,4 T,,\n2,Bo,B,14/03/2099,boy,4 T,,\n,,,,,4 T,,\n"
        "4,Cy,C,30/02/2018,boy,4 T,,\n5,Di,D,15/03/2018,girl,,,\n6,Ed,E,,,Larks,,\n"
        "7,Fi,F,16/03/2018,girl,4 T,,\n7,Gus,G,17/03/2018,boy,4 T,,\n"
        "8,Fi,F,16/03/2018,girl,4 T,,\n",
    )
    assert statuses(found) == ["cannot"] * 6 + ["new", "cannot", "cannot"]
    whys = [row["why"] for row in found["rows"]]
    for why, says in zip(
        whys,
        ["years", "in the future", "name is missing", "is not a date", "Choose the class",
         "its year group", "",
         "Row 8 already", "Row 8 already"],
        strict=True,
    ):  # fmt: skip
        assert says in why
    assert (found["ask_class"], found["ask_years"]) == (True, ["Larks"])
    year = str(world.school.year_groups.get(name="Year 2").id)
    said = preview(world, HEAD + "6,Ed,E,,,Larks,,\n", years={"Larks": year})
    assert (statuses(said), said["new_classes"]) == (["new"], ["Larks"])
    whole = preview(world, "Ada Abara\nBo Brook", class_id=str(world.school_class.id))
    assert statuses(whole) == ["new", "new"]


def test_what_was_shown_is_what_is_kept_or_nothing_is(world: World) -> None:
    agreed = preview(world, FIRST)["agreement"]
    Pupil.objects.create(
        school=world.school, school_class=world.school_class, given_name="Ada",
        family_name="Abara", number="101",
    )  # fmt: skip
    before = people()
    answer = world.head.ask("POST", "/api/lists", {"text": FIRST, "agreement": agreed})
    assert answer.status_code == 422 and "Look at it again" in answer.json()["message"]
    assert people() == before
    # Dates in either order, and nobody has said which.
    text = "First name,Last name,DOB,Class\nAda,A,03/04/2018,4 T\n"
    assert preview(world, text)["ask_order"] is True
    agreed = preview(world, text)["agreement"]
    answer = world.head.ask("POST", "/api/lists", {"text": text, "agreement": agreed})
    assert answer.status_code == 422 and "day or the month" in answer.json()["message"]
    keep(world, text, order="month")
    assert str(Pupil.objects.get(family_name="A").born) == "2018-03-04"


def test_files_come_in_as_they_are(world: World) -> None:
    for office in offices():
        if not office.school_class:
            continue
        data = base64.b64encode(office.data).decode()
        answer = world.head.ask("POST", "/api/lists/preview", {"data": data})
        assert answer.status_code == 200, (office.words, answer.content)
        names = [row["name"].casefold() for row in answer.json()["rows"]]
        assert names == [f"{g} {f}".casefold() for g, f, *_ in CHILDREN]
    for bad, says in (
        ("%%%", "completely"),
        ("\x80é", "completely"),
        (base64.b64encode(b"PK\x03\x04x").decode(), "damaged"),
    ):
        answer = world.head.ask("POST", "/api/lists/preview", {"data": bad})
        assert answer.status_code == 422 and says in answer.json()["message"]


NAMES = st.text(alphabet="abcdefghij éüñ", min_size=1, max_size=8).map(str.strip).filter(bool)
ROWS = st.lists(
    st.tuples(NAMES, NAMES, st.dates(date(2015, 1, 1), date(2021, 12, 31)), st.sampled_from(
        ["3 A", "4 T", "5 C"]), st.sampled_from(["girl", "boy", ""])),
    min_size=1, max_size=8, unique_by=lambda one: (one[0], one[1]),
)  # fmt: skip


def test_any_table_agreed_to_and_brought_again_changes_nothing(world: World) -> None:
    @MANY
    @given(ROWS)
    def again(rows: list[tuple[Any, ...]]) -> None:
        text = "Vorname;Nachname;Geburtsdatum;Klasse;Geschlecht\n" + "\n".join(
            ";".join(map(str, row)) for row in rows
        )
        found = preview(world, text)
        decisions = {row["row"]: "new" for row in found["rows"] if row["status"] == "ask"}
        before = Pupil.objects.count()
        made = keep(world, text, decisions=decisions)["new"]
        assert Pupil.objects.count() == before + made
        after = people()
        second = preview(world, text)
        wanted = [row for row in second["rows"] if row["status"] not in ("same", "cannot")]
        # Two that are nearly alike are asked about again: nobody is taken for another.
        assert all(row["status"] == "ask" for row in wanted)
        keep(world, text, decisions={row["row"]: "out" for row in wanted})
        assert people() == after

    again()


@pytest.mark.parametrize("who", ["teacher", "colleague", "stranger_head"])
def test_lists_are_the_heads_and_stay_in_the_school(world: World, who: str) -> None:
    """A colleague's or another school's: nothing of this one is told or changed."""
    before = people()
    answer = getattr(world, who).ask("POST", "/api/lists/preview", {"text": FIRST})
    if who == "stranger_head":
        assert statuses(answer.json()) == ["new"] * 3 and answer.json()["leavers"] == []
    else:
        assert answer.status_code == 403
    assert people() == before


def test_one_name_a_formula_and_a_heading_are_no_children_without_a_word(world: World) -> None:
    text = HEAD + (
        "Autumn lists,,,,,,,\n"
        ",Adele,,,,4 T,,\n"
        ",=Bo,Marsh,,,4 T,,\n"
        ",Cleo,Marsh,,,4 T,,\n"
        ",@Di,,,,4 T,,\n"
    )
    found = preview(world, text)
    assert found["left_out"] == [2]
    rows = {row["row"]: row for row in found["rows"]}
    assert [rows[n]["status"] for n in (3, 4, 5, 6)] == ["ask", "cannot", "new", "cannot"]
    assert "only one name" in rows[3]["why"] and "formula" in rows[4]["why"]
    decided = preview(world, text, decisions={"3": "new"})
    assert {row["row"]: row["status"] for row in decided["rows"]}[3] == "new"
    # A class that is called by its first names is no question thirty times over.
    alone = preview(world, "First name,Class\nAdele,4 T\nBo,4 T\n")
    assert statuses(alone) == ["new", "new"]


def test_rows_without_a_class_go_to_a_new_one_or_to_the_one_the_sheet_is_called(
    world: World,
) -> None:
    text = "First name,Last name\nAda,Abara\n"
    assert preview(world, text)["ask_class"] is True
    asked = preview(world, text, new_class="Wren")
    assert asked["ask_years"] == ["Wren"] and not asked["ask_class"]
    year = str(world.school_class.year_group_id)
    said = preview(world, text, new_class="Wren", years={"Wren": year})
    assert said["new_classes"] == ["Wren"] and statuses(said) == ["new"]
    assert said["rows"][0]["class_name"] == "Wren"

    book = Workbook()
    first = book.active
    assert first is not None
    for sheet, name in ((first, world.school_class.name), (book.create_sheet(), "Sheet2")):
        sheet.title = name
        sheet.append(["First name", "Last name"])
        sheet.append(["Ada", "Abara"])
    file = io.BytesIO()
    book.save(file)
    given = {"text": "", "data": base64.b64encode(file.getvalue()).decode(), "file_name": "a.xlsx"}
    found = world.head.ask("POST", "/api/lists/preview", given).json()
    assert statuses(found) == ["new"] and not found["ask_class"]
    assert found["rows"][0]["class_name"] == world.school_class.name
    # What a spreadsheet calls a sheet by itself is no class.
    other = world.head.ask("POST", "/api/lists/preview", {**given, "sheet": 1}).json()
    assert other["ask_class"] is True


def test_a_leaver_stands_on_the_page_of_its_class_and_comes_back(world: World) -> None:
    pupil = world.pupils[0]
    path = f"/api/classes/{world.school_class.id}"
    assert world.head.ask("POST", f"/api/pupils/{pupil.id}/leave").status_code == 200
    (gone,) = world.head.ask("GET", path).json()["leavers"]
    assert gone["name"] == pupil.name
    assert world.teacher.ask("GET", path).json()["leavers"] == []
    back = {"class_id": str(world.school_class.id)}
    assert world.head.ask("POST", f"/api/pupils/{pupil.id}/move", back).status_code == 200
    page = world.head.ask("GET", path).json()
    assert page["leavers"] == [] and pupil.name in [one["name"] for one in page["pupils"]]


def test_a_list_makes_nobody_a_leaver_whom_it_did_not_propose(world: World) -> None:
    keep(world, FIRST)
    known = Pupil.objects.get(number="101")
    agreed = preview(world, FIRST)["agreement"]
    body = {"text": FIRST, "agreement": agreed, "leavers": [str(known.id)]}
    assert world.head.ask("POST", "/api/lists", body).status_code == 404
    known.refresh_from_db()
    assert known.left_on is None and known.school_class is not None


def test_what_would_change_besides_has_to_be_looked_at_again(world: World) -> None:
    keep(world, FIRST)
    note = FIRST.replace("Asthma: blue inhaler", "Asthma: brown inhaler")
    agreed = preview(world, note)["agreement"]
    # Meanwhile somebody moves the child to another house: the list would move it back.
    elm = Pupil.objects.get(number="101").house
    Pupil.objects.filter(number="102").update(house=elm)
    before = people()
    answer = world.head.ask("POST", "/api/lists", {"text": note, "agreement": agreed})
    assert answer.status_code == 422 and "Look at it again" in answer.json()["message"]
    assert people() == before
