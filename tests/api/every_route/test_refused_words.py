"""What used to be an error of the server is refused in words: NUL, control signs, addresses that no
mail can go to, user names that read the same, another school's class."""

from __future__ import annotations

import io
from typing import Any

import openpyxl
import pytest
from django.db import IntegrityError, OperationalError, connection, transaction
from django.test import override_settings
from hypothesis import given
from hypothesis import strategies as st
from psycopg.errors import QueryCanceled

from lauf.exchange.queries.scores import harmless
from lauf.people.models import Invitation, Pupil, Staff
from lauf.web.database_errors import unavailable
from tests.api.conftest import MANY, PASSWORD, World
from tests.api.web.doors.test_account import send, signed_in

CONTROLS = ["\0", "\x07", "\x1b", "\x7f", "\x85", "\u202e", "\u2066"]


@pytest.mark.parametrize(
    "path",
    ["/api/search?q=%00", "/api/search?q=a%00b", "/api/log?before=%00",
     "/api/lessons/suggested?at=%00", "/api/activities/{}/reading?typed=1%00",
     "/api/own/a%00b", "/api/calendar/a%00b.ics", "/x?y=%00"],
)  # fmt: skip
def test_a_nul_in_an_address_is_refused(world: World, path: str) -> None:
    answer = world.head.ask("GET", path.format(world.activity.id))
    assert answer.status_code == 400 and "NUL" in answer.json()["message"]


@pytest.mark.parametrize("sign", CONTROLS)
def test_no_name_holds_a_sign_that_cannot_be_shown(world: World, sign: str) -> None:
    name = f"A{sign}da"
    child = {"given": name, "family": "B", "born": None, "sex": "", "house_id": None, "note": "",
             "number": ""}  # fmt: skip
    place = f"/api/classes/{world.school_class.id}/pupils"
    asked: list[tuple[str, str, dict[str, Any]]] = [
        ("POST", place, child),
        ("POST", "/api/staff", {"name": name, "username": "ada", "role": "teacher",
                                "class_ids": []}),
        ("PUT", "/api/school/houses", {"rows": [{"id": None, "name": name}]}),
        ("POST", "/api/weeks", {"name": name}),
    ]  # fmt: skip
    for method, path, body in asked:
        answer = world.head.ask(method, path, body)
        assert answer.status_code == 400, (path, answer.content)
        assert "control characters" in answer.json()["message"]
    # In a list it is that row that cannot be kept.
    text = f"First name,Last name,Class\nA{sign}da,Abara,4 T\nBo,Bell,4 T\n"
    if sign not in "\0\x85":  # a text with a NUL is no list; the other is a space there
        rows = world.head.ask("POST", "/api/lists/preview", {"text": text}).json()["rows"]
        found = {row["row"]: (row["status"], row["why"]) for row in rows}
        assert found[3][0] == "new"
        assert found[2][0] == "cannot" and "cannot be shown" in found[2][1]
    assert not any(sign in one.name for one in Pupil.objects.all())


def test_a_note_may_have_lines_and_a_workbook_opens_whatever_a_package_brought(
    world: World,
) -> None:
    pupil = world.pupils[0]
    body = {"given": "Ada", "family": "Bell", "born": None, "sex": "", "house_id": None,
            "note": "Asthma:\n\tblue inhaler", "number": ""}  # fmt: skip
    assert world.head.ask("PUT", f"/api/pupils/{pupil.id}/details", body).status_code == 200
    Pupil.objects.filter(pk=pupil.pk).update(given_name="A\x07da")
    world.record(pupil, "21")
    file = world.head.ask("GET", f"/api/classes/{world.school_class.id}/scores.xlsx")
    book = openpyxl.load_workbook(io.BytesIO(file.content))
    cells = {cell for row in book.worksheets[0].iter_rows(values_only=True) for cell in row}
    assert any("Ada" in str(cell) for cell in cells)


#: A mail server that is not there.
MAIL = {
    "MAIL_FROM": "lauf@school.example", "EMAIL_HOST": "127.0.0.1", "EMAIL_PORT": 1,
    "EMAIL_BACKEND": "django.core.mail.backends.smtp.EmailBackend",
}  # fmt: skip
ODD = ["a@.", "a,b@c.d", "a@b", "@c.d", "a b@c.de", "a@" + "x" * 64 + ".example", "a@c..d",
       "a@-c.example", "a" * 65 + "@c.example", "ä@c.example"]  # fmt: skip


@pytest.mark.parametrize("email", ODD)
@override_settings(**MAIL)
def test_an_address_that_no_mail_can_go_to_makes_nobody(world: World, email: str) -> None:
    """The person was made, the answer was an error, and the link was lost with it."""
    new = {"name": "Ash", "username": "ash", "role": "teacher", "class_ids": [], "email": email}
    before = Staff.objects.count(), Invitation.objects.count()
    answer = world.head.ask("POST", "/api/staff", new)
    assert answer.status_code == 422 and "mail address" in answer.json()["message"]
    assert (Staff.objects.count(), Invitation.objects.count()) == before
    # A server that does not answer loses no link either.
    made = world.head.ask("POST", "/api/staff", {**new, "email": "ash@school.example"})
    assert made.status_code == 201 and made.json()["path"] and made.json()["mailed_to"] == ""


@MANY
@given(st.text(min_size=1, max_size=20), st.sampled_from(["c.example", "c", "", ".", "c.d" * 30]))
@override_settings(**MAIL)
def test_no_address_at_all_is_an_error_of_the_server(world: World, local: str, domain: str) -> None:
    new = {"name": "Ash", "username": "ash", "role": "teacher", "class_ids": [],
           "email": f"{local}@{domain}"}  # fmt: skip
    with transaction.atomic():
        assert world.head.ask("POST", "/api/staff", new).status_code in (201, 400, 422)
        transaction.set_rollback(True)


def test_user_names_are_one_for_every_way_they_are_written(world: World) -> None:
    """A stranger in the same school could be invited as "Teacher" beside "teacher"."""
    for twin in ("Teacher", "TEACHER ", "ｔｅａｃｈｅｒ", "ﬀ"):
        if twin == "ﬀ":
            Staff.objects.create(school=world.school, username="ff", name="F", password="!")
        new = {"name": "Twin", "username": twin, "role": "teacher", "class_ids": []}
        answer = world.head.ask("POST", "/api/staff", new)
        assert answer.status_code == 422 and "taken" in answer.json()["message"], twin
    assert signed_in("ＴＥＡＣＨＥＲ", PASSWORD).get("/api/today").status_code == 200
    with pytest.raises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("UPDATE people_staff SET username = 'TEACHER' WHERE username = 'head'")


def test_guesses_of_one_name_are_counted_together(world: World) -> None:
    client = signed_in("head", PASSWORD)
    found = []
    for n in range(11):
        name = "head".upper() if n % 2 else "head"
        given = {"username": name, "password": "wrong"}
        found.append(send(client, "POST", "/api/session", given).status_code)
    assert found == [401] * 10 + [429]


@pytest.mark.parametrize("begins", list("=+-@\t\r＝＋－＠"))
def test_no_cell_of_a_csv_is_run(begins: str) -> None:
    assert harmless(f"{begins}1+1") == f"'{begins}1+1"


def test_the_timetable_of_anothers_class_is_not_there(world: World) -> None:
    path = f"/api/classes/{world.school_class.id}/timetable"
    assert world.head.ask("GET", path).status_code == 200
    for who in (world.stranger, world.stranger_head, world.colleague):
        assert who.ask("GET", path).status_code == 404


def test_what_takes_too_long_is_not_said_to_be_a_database_that_is_away() -> None:
    """A school with a million scores was told that its database could not be reached."""
    error = OperationalError("canceling statement due to statement timeout")
    error.__cause__ = QueryCanceled()
    answer = unavailable(error)
    assert answer.status_code == 503 and "took too long" in answer.content.decode()
    assert "cannot be reached" in unavailable(OperationalError()).content.decode()
