"""Whatever the office gives is read as a careful reader does, or asked about; no row is lost."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lauf.exchange.lists.columns import Column
from lauf.exchange.lists.dates import Order, read_date
from lauf.exchange.lists.files import read_file, read_text
from lauf.exchange.lists.reading import read_list, split_name
from lauf.exchange.lists.tables import Unreadable
from tests.exchange.lists import CHILDREN, Office, offices, packed, plain, sheet

TODAY = date(2026, 11, 26)


@pytest.mark.parametrize("office", offices(), ids=lambda one: one.words)
def test_a_list_as_an_office_exports_it(office: Office) -> None:
    page = read_file(office.data)
    read = read_list(page.cells, TODAY)
    assert [(one.given, one.family.casefold(), one.wrong, one.odd) for one in read.people] == [
        (given, family.casefold(), "", ()) for given, family, *_ in CHILDREN
    ]
    assert not read.ask_order
    for one, (_, _, born, sex, group) in zip(read.people, CHILDREN, strict=True):
        assert one.born == (born if office.born else None)
        assert one.sex == (sex if office.sex else None)
        assert one.school_class == (group if office.school_class else "")


def read(text: str, **more: object) -> list[tuple[str, str, date | None]]:
    found = read_list(read_text(text), TODAY, **more)  # type: ignore[arg-type]
    return [(one.given, one.family, one.born) for one in found.people]


@pytest.mark.parametrize(
    ("text", "asks", "day_first", "month_first"),
    [
        # Nothing says which number is the month: it is asked once, for the whole column.
        ("n,dob\nAda A,03/04/2017\nBo B,05/06/2017", True, (2017, 4, 3), (2017, 3, 4)),
        ("n,dob\nAda A,03/04/2017\nBo B,25/06/2017", False, (2017, 4, 3), None),
        ("n,dob\nAda A,03/04/2017\nBo B,06/25/2017", False, None, (2017, 3, 4)),
        ("n,dob\nAda A,03.04.2017\nBo B,05.06.17", False, (2017, 4, 3), None),
        ("n,dob\nAda A,03/03/2017\nBo B,05/05/2017", False, (2017, 3, 3), (2017, 3, 3)),
        # Both: somebody has mixed them, and it is asked.
        ("n,dob\nAda A,03/04/2017\nBo B,25/06/2017\nCy C,06/25/2017", True, (2017, 4, 3), None),
    ],
)
def test_the_order_of_a_date_is_shown_by_the_column_or_asked_for(
    text: str, asks: bool, day_first: tuple[int, int, int] | None,
    month_first: tuple[int, int, int] | None,
) -> None:  # fmt: skip
    cells = read_text(text.replace("n,dob", "Name,Date of birth"))
    found = read_list(cells, TODAY)
    assert found.ask_order is asks
    if not asks and day_first:
        assert found.people[0].born == date(*day_first)
    for order, expected in ((Order.DAY, day_first), (Order.MONTH, month_first)):
        said = read_list(cells, TODAY, order=order)
        assert not said.ask_order
        if expected:
            assert said.people[0].born == date(*expected)


@given(st.dates(date(1900, 3, 1), date(2099, 12, 31)), st.sampled_from(list(Order)))
def test_a_date_comes_back_from_every_form_that_names_it(day: date, order: Order) -> None:
    first = "%d/%m/%Y" if order is Order.DAY else "%m/%d/%Y"
    serial = str((day - date(1899, 12, 30)).days)
    forms = [day.isoformat(), day.strftime(first), day.strftime("%d.%m.%Y"), serial,
             day.strftime("%d %B %Y"), day.strftime("%b %d, %Y")]  # fmt: skip
    for form in forms:
        if len(serial) == 5 or form != serial:
            assert read_date(form, order, TODAY) == day, form


def test_two_digits_of_a_year_are_of_the_hundred_years_that_end_today() -> None:
    assert read_date("31.5.18", Order.DAY, TODAY) == date(2018, 5, 31)
    assert read_date("31.5.88", Order.DAY, TODAY) == date(1988, 5, 31)
    for wrong in ("31/02/2018", "0/1/2018", "2018-13-01", "yesterday", "31 Foo 2018", "99999999"):
        with pytest.raises(ValueError, match=r"is not a date\. Write"):
            read_date(wrong, Order.DAY, TODAY)


@pytest.mark.parametrize(
    ("born", "says"),
    [("1988-05-31", "which makes 38 years"), ("2027-05-31", "in the future"),
     ("2026-01-01", "which makes 0 years"), ("31/31/2018", "is not a date")],
)  # fmt: skip
def test_a_birth_date_that_cannot_be_is_said_to_be_wrong(born: str, says: str) -> None:
    (one,) = read_list(read_text(f"Name,DOB,Class\nAda Abara,{born},4"), TODAY).people
    assert says in one.wrong and one.row == 2


def test_columns_can_be_put_right_and_rows_that_are_no_people_are_named() -> None:
    cells = read_text("A,B,C\nAda,Abara,x\n,,\nBo,,y\nTotal: 2,,\nPage 1 of 1,,\n,,z")
    found = read_list(cells, TODAY, columns=[Column.GIVEN, Column.FAMILY, Column.NOTE])
    # Without a known head the first row is a person, too: it is shown, not lost.
    assert [(one.row, one.name, one.wrong) for one in found.people] == [
        (1, "A B", ""),
        (2, "Ada Abara", ""),
        (4, "Bo", ""),
        (7, "", "The name is missing."),
    ]
    assert found.left_out == (3, 5, 6)


@pytest.mark.parametrize(
    ("whole", "given", "family"),
    [("Ada Abara", "Ada", "Abara"), ("Abara, Ada", "Ada", "Abara"), ("ABARA Ada", "Ada", "Abara"),
     ("Ada ABARA", "Ada", "Abara"), ("Mina de Vance", "Mina", "de Vance"), ("Ada", "Ada", ""),
     ("de Vance, Mina Jo", "Mina Jo", "de Vance"), ("Abara,", "Abara", ""), ("", "", ""),
     ("O'NEILL Sean", "Sean", "O'Neill")],
)  # fmt: skip
def test_a_name_in_one_column_is_parted_as_people_write_it(
    whole: str, given: str, family: str
) -> None:
    assert split_name(whole) == (given, family)


def test_a_sex_that_is_not_read_is_left_open_and_said() -> None:
    head = "Name,Sex,Class\n"
    said = [read_list(read_text(f"{head}Ada A,{one},4"), TODAY).people[0]
            for one in ("girl", "M", "x", "", "divers", "7")]  # fmt: skip
    assert [one.sex for one in said] == ["female", "male", "", "", "", ""]
    assert [bool(one.odd) for one in said] == [False] * 5 + [True]


def test_several_medical_columns_are_one_note_and_none_is_none() -> None:
    text = "Name,Medical conditions,Allergies,Class\nAda A,Asthma,Nuts,4\nBo B,None,n/a,4"
    people = read_list(read_text(text), TODAY).people
    assert [one.note for one in people] == ["Asthma; Nuts", ""]


@pytest.mark.parametrize(
    "data",
    [b"PK\x03\x04broken", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1old", b"a\0b\0\0\0c", b"\xff\xfea"],
)  # fmt: skip
def test_a_file_that_is_no_list_is_refused_in_words(data: bytes) -> None:
    with pytest.raises(Unreadable) as said:
        read_file(data)
    assert any(word in str(said.value) for word in ("CSV", "XLSX", "password"))


def test_what_unpacks_without_an_end_is_refused() -> None:
    with pytest.raises(Unreadable, match="holds more than"):
        read_file(packed(big="x," * 11_000_000))
    with pytest.raises(Unreadable, match="at most 5000 rows"):
        read_text("a,b\n" * 6_000)


CELLS = st.text(alphabet=st.characters(codec="utf-8", exclude_characters="\0\r\n"), max_size=12)


@given(
    st.lists(st.lists(CELLS, min_size=3, max_size=3), min_size=1, max_size=12),
    st.sampled_from([",", ";", "\t"]),
    st.sampled_from(["utf-8", "utf-8-sig", "utf-16"]),
)
def test_no_row_is_lost_or_doubled_whatever_stands_in_it(
    rows: list[list[str]], separator: str, encoding: str
) -> None:
    """Every row below the head is a person, or among those that are none; in the file's order."""
    quoted = [separator.join('"' + one.replace('"', '""') + '"' for one in row) for row in rows]
    text = separator.join(("First name", "Last name", "Class")) + "\n" + "\n".join(quoted) + "\n"
    try:
        data = text.encode(encoding)
    except UnicodeEncodeError:
        return
    page = read_file(data)
    found = read_list(page.cells, TODAY)
    numbers = sorted([*(one.row for one in found.people), *found.left_out])
    assert numbers == list(range(2, len(page.cells) + 1))
    seen = [one.replace("\ufeff", "").replace("\u200b", "") for row in rows for one in row]
    kept = [row for row in zip(*[iter(seen)] * 3, strict=True) if any(map(str.split, row))]
    assert len(found.people) + len([n for n in found.left_out if n <= len(rows) + 1]) >= len(kept)


@pytest.mark.parametrize("end", ["\x0b", "\x0c", "\x1c", "\x85", "\u2028", "\u2029"])
def test_a_line_end_of_another_kind_ends_no_row(end: str) -> None:
    rows = f'"","\t","{end}\t"\n"Ada","{end}\t","{end}\t"\n'
    cells = read_text("First name,Last name,Class\n" + rows)
    assert [(one.row, one.given) for one in read_list(cells, TODAY).people] == [(3, "Ada")]


def test_the_sheets_of_a_file_are_named_and_one_is_read() -> None:
    book = read_file(sheet([["Name"], ["Ada"]], "4 Heron"))
    assert (book.sheets, book.cells) == (["4 Heron"], [["Name"], ["Ada"]])
    both = packed(heron=plain(), empty=" \n", swift="Name\nBo\n")
    assert read_file(both).sheets == ["heron.csv", "swift.csv"]
    assert read_file(both, sheet=1).cells == [["Name"], ["Bo"]]
    with pytest.raises(Unreadable, match="no sheet 3"):
        read_file(both, sheet=2)
