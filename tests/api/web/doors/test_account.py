"""One's own sign-in: the second factor, the devices, the calendar's private address."""

from __future__ import annotations

import base64
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import parse_qs, urlsplit

import pyotp
import pytest
from django.contrib.auth.hashers import PBKDF2PasswordHasher, ScryptPasswordHasher
from django.core import mail
from django.test import Client, override_settings
from icalendar import Calendar

from lauf.lessons.models import Lesson
from lauf.people.actions import begin_second_factor, prove_second_factor, use_code
from lauf.people.models import SecondFactor, SignIn, Staff
from lauf.web.settings import PASSWORD_HASHERS
from tests.api.conftest import PASSWORD, World
from tests.api.people.test_staff import send, signed_in

AT = "/api/session/second-factor"


def now_code(staff: Staff) -> str:
    return str(pyotp.TOTP(SecondFactor.objects.get(staff=staff).secret).now())


def begin(client: Client) -> list[str]:
    """A second factor for who is signed in there: the codes on paper."""
    answer = send(client, "POST", AT, {"password": PASSWORD})
    assert answer.status_code == 200, answer.content
    secret = parse_qs(urlsplit(answer.json()["uri"]).query)["secret"][0]
    proved = send(client, "PUT", AT, {"code": pyotp.TOTP(secret).now()})
    assert proved.status_code == 200, proved.content
    return list(proved.json()["codes"])


def sign_in(username: str, code: str = "") -> Any:
    client = Client()
    return send(client, "POST", "/api/session",
                {"username": username, "password": PASSWORD, "code": code})  # fmt: skip


@pytest.mark.parametrize(
    ("at", "code"),
    [(59, "94287082"), (1111111109, "07081804"), (1234567890, "89005924"),
     (2000000000, "69279037"), (20000000000, "65353130")],
)  # fmt: skip
def test_codes_are_those_of_the_published_standard(world: World, at: int, code: str) -> None:
    """RFC 6238, appendix B (SHA-1): the last six of its eight digits."""
    staff = world.teacher.staff
    assert staff is not None
    begin_second_factor(staff)
    secret = base64.b32encode(b"12345678901234567890").decode()
    SecondFactor.objects.filter(staff=staff).update(secret=secret)
    moment = datetime.fromtimestamp(at, UTC)
    # As telephones show it, in two halves.
    prove_second_factor(staff, f"{code[2:5]} {code[5:]}", moment)
    assert not use_code(staff, code[2:], moment), "a code works once"
    later = moment + timedelta(seconds=30)
    assert use_code(staff, pyotp.TOTP(secret).at(later), later)


def test_a_password_alone_lets_nobody_in_who_has_a_second_factor(world: World) -> None:
    client = signed_in("teacher", PASSWORD)
    papers = begin(client)
    staff = Staff.objects.get(username="teacher")
    asked = sign_in("teacher").json()
    assert asked["code_needed"] and asked["person"] is None
    assert sign_in("teacher", "000000").status_code == 422
    used = now_code(staff)
    assert sign_in("teacher", used).status_code == 422, "it proved the factor: used already"
    SecondFactor.objects.update(last_step=0)
    assert sign_in("teacher", used).json()["person"]["name"] == "Teacher"
    assert sign_in("teacher", papers[0]).json()["person"]["name"] == "Teacher"
    assert sign_in("teacher", papers[0]).status_code == 422, "a code on paper works once"
    assert client.get("/api/session/account").json()["papers_left"] == 9
    secret = SecondFactor.objects.get().secret
    log = world.head.ask("GET", "/api/log").content.decode()
    assert "has turned on two-step sign-in" in log and secret not in log and papers[1] not in log
    # Taken away by password and code, not by who finds the tablet open or knows the password.
    good, paper = {"password": PASSWORD}, {"code": papers[1]}
    for given in ({"password": "wrong", **paper}, {**good, "code": "000000"}, {**good, "code": ""}):
        assert send(client, "POST", f"{AT}/away", given).status_code == 422, given
    assert send(client, "POST", f"{AT}/away", {**good, **paper}).status_code == 204
    assert sign_in("teacher").json()["person"]["name"] == "Teacher"


def test_codes_are_not_guessed(world: World) -> None:
    begin(signed_in("teacher", PASSWORD))
    found = [sign_in("teacher", f"{n:06}").status_code for n in range(12)]
    assert found[0] == 422 and found[-1] == 429


def test_a_head_asks_everybody_for_one_and_a_link_sets_it_anew(world: World) -> None:
    head, teacher = signed_in("head", PASSWORD), signed_in("teacher", PASSWORD)
    rule = "/api/school/second-factor"
    first = send(head, "PUT", rule, {"required": True})
    assert first.status_code == 422 and "two-step sign-in for yourself" in first.json()["message"]
    begin(head)
    assert send(head, "PUT", rule, {"required": True}).status_code == 200
    assert teacher.get("/api/today").status_code == 401, "signed out"
    teacher = Client()
    there = send(teacher, "POST", "/api/session", {"username": "teacher", "password": PASSWORD})
    assert there.json()["person"]["factor_missing"]
    closed = teacher.get("/api/today")
    assert closed.status_code == 403 and "two-step sign-in" in closed.json()["message"]
    begin(teacher)
    assert teacher.get("/api/today").status_code == 200
    refused = send(teacher, "POST", f"{AT}/away", {"password": PASSWORD, "code": "1"})
    assert refused.status_code == 422 and "requires two-step sign-in" in refused.json()["message"]
    # The phone is lost: the head's link lets in, and it is set up anew.
    kit = Staff.objects.get(username="teacher")
    path = send(head, "POST", f"/api/staff/{kit.id}/link", {}).json()["path"]
    fresh = Client()
    body = {"token": path.split("#")[1], "password": "another-long-password-9"}
    assert send(fresh, "PUT", "/api/welcome", body).json()["person"]["factor_missing"]
    assert not SecondFactor.objects.filter(staff=kit).exists()


def test_own_devices_are_listed_and_ended_one_by_one(world: World) -> None:
    here, there = signed_in("teacher", PASSWORD), signed_in("teacher", PASSWORD)
    SignIn.objects.filter(staff__username="teacher").update(device="Chromium on Linux")
    rows = here.get("/api/session/account").json()["devices"]
    assert [row["here"] for row in rows].count(True) == 1 and len(rows) == 2
    other = next(row for row in rows if not row["here"])
    left = here.delete(f"/api/session/devices/{other['id']}").json()["devices"]
    assert [row["here"] for row in left] == [True]
    assert (here.get("/api/today").status_code, there.get("/api/today").status_code) == (200, 401)
    stranger = signed_in("head", PASSWORD)
    assert stranger.delete(f"/api/session/devices/{left[0]['id']}").status_code == 404
    # A sign-in whose session is over is listed no more after the next one; another person's is.
    ended = SignIn.objects.create(
        staff=Staff.objects.get(username="teacher"), session_key="over", device="Old tablet"
    )
    theirs = SignIn.objects.create(
        staff=Staff.objects.get(username="head"), session_key="over too", device="Old laptop"
    )
    signed_in("teacher", PASSWORD)
    assert list(SignIn.objects.filter(pk__in=[ended.pk, theirs.pk])) == [theirs]


def test_a_link_is_mailed_where_there_is_a_mail_server(world: World, settings: Any) -> None:
    body = {"name": "Kit", "username": "kit", "role": "teacher", "email": "kit@school.example"}
    first = world.head.ask("POST", "/api/staff", body).json()
    assert first["mailed_to"] == "" and mail.outbox == []
    settings.MAIL_FROM = "lauf@school.example"
    kit = Staff.objects.get(username="kit")
    second = world.head.ask("POST", f"/api/staff/{kit.id}/link").json()
    (sent,) = mail.outbox
    assert second["mailed_to"] == sent.to[0] == "kit@school.example"
    assert second["path"] in sent.body and "works once" in sent.body
    wrong = world.head.ask("POST", "/api/staff", {**body, "username": "b", "email": "nowhere"})
    assert wrong.status_code == 422


def test_the_calendar_has_a_private_address(world: World) -> None:
    """Read by a reader of the open format (RFC 5545): lessons kept and those of the timetable."""
    rows = [{"weekday": n, "at": "09:30", "minutes": 45, "place": "Hall"} for n in range(5)]
    at = f"/api/classes/{world.school_class.id}/timetable"
    assert world.teacher.ask("PUT", at, {"rows": rows}).status_code == 200
    Lesson.objects.update(starts_at=datetime.now(UTC) - timedelta(days=1))
    url = urlsplit(world.teacher.ask("POST", "/api/session/calendar").json()["url"]).path
    answer = world.nobody.client.get(url)
    assert answer["Content-Type"] == "text/calendar" and answer["Cache-Control"] == "no-store"
    feed: Any = Calendar.from_ical(answer.content)
    events = feed.walk("VEVENT")
    assert len(events) > 100, "every school day of half a year"
    assert {str(one["summary"]) for one in events} == {"PE 4 T"}
    assert len({str(one["uid"]) for one in events}) == len(events)
    again: Any = Calendar.from_ical(world.nobody.client.get(url).content)
    assert [str(one["uid"]) for one in again.walk("VEVENT")] == [str(one["uid"]) for one in events]
    assert b"Child" not in answer.content
    # Each says when it was last revised, and only the one that is moved says so anew.
    assert all(one["dtstamp"].dt <= datetime.now(UTC) for one in events)
    moved = world.activity.lesson
    place = {"class_id": moved.school_class_id, "starts_at": moved.starts_at.isoformat(),
             "minutes": moved.minutes, "place": "Field"}  # fmt: skip
    assert world.teacher.ask("PUT", f"/api/lessons/{moved.id}", place).status_code == 200
    later: Any = Calendar.from_ical(world.nobody.client.get(url).content)
    before = {str(one["uid"]): one["dtstamp"].dt for one in events}
    anew = [one for one in later.walk("VEVENT") if one["dtstamp"].dt != before[str(one["uid"])]]
    assert {str(one["uid"]) for one in anew} <= {f"{moved.id}@lauf"}
    assert Lesson.objects.get(pk=moved.pk).changed_at > moved.changed_at
    # A new address, or being shut out, ends the old one.
    other = urlsplit(world.teacher.ask("POST", "/api/session/calendar").json()["url"]).path
    assert world.nobody.client.get(url).status_code == 404
    world.permit(world.teacher.staff, is_active=False)
    assert world.nobody.client.get(other).status_code == 404
    assert world.nobody.client.get("/api/calendar/.ics").status_code == 404


def test_an_older_kept_password_is_hashed_anew_once_no_device_depends_on_it(world: World) -> None:
    """Parameters from memory of OWASP's "Password Storage Cheat Sheet": scrypt's N with
    r = 8 and its p, which are of one strength."""
    staff = world.teacher.staff
    assert staff is not None
    old = PBKDF2PasswordHasher().encode(PASSWORD, "salt", iterations=1000)
    Staff.objects.filter(pk=staff.pk).update(password=old)
    SignIn.objects.create(staff=staff, session_key="tablet", device="Tablet")

    def kept_after_sign_in() -> str:
        answer = sign_in("teacher")
        assert answer.status_code == 200 and answer.json()["person"]
        return str(Staff.objects.get(pk=staff.pk).password)

    with override_settings(PASSWORD_HASHERS=PASSWORD_HASHERS):
        assert kept_after_sign_in() == old, "the tablet stays signed in"
        SignIn.objects.all().delete()
        kept = kept_after_sign_in()
        how = ScryptPasswordHasher().decode(kept)
        assert (how["work_factor"], how["block_size"], how["parallelism"]) in {
            (2**17, 8, 1), (2**16, 8, 2), (2**15, 8, 3), (2**14, 8, 5), (2**13, 8, 10),
        }  # fmt: skip
        assert kept_after_sign_in() == kept
