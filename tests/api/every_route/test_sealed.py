"""Two schools on one Lauf and the office above them: what is of one is in no answer, file, log or
number of another."""

from __future__ import annotations

import io
import logging
import zipfile
from typing import Any

import pytest
from prometheus_client import generate_latest

from lauf.challenges.models import Games
from lauf.exchange.package.write import write_package
from lauf.people.models import Pupil, School, Staff
from lauf.web.logs import configured
from tests.api.conftest import Person, World
from tests.api.every_route.test_private import words_of
from tests.api.games import new_games
from tests.api.routes import routes
from tests.api.trusts import an_office, signed_in

#: In the names of a child, a class, a person and a place of one school, and in what they wrote.
PLANTED = "Zwirnfaden"
#: What a school has said itself, by an address or a file it gave away, or to its trust.
TOLD_BY_THEMSELVES = {
    ("GET", "/api/calendar/{token}.ics"), ("GET", "/api/own/{code}"), ("GET", "/api/games"),
    ("POST", "/api/games/look"), ("POST", "/api/games/join"), ("POST", "/api/welcome"),
}  # fmt: skip


@pytest.fixture
def planted(world: World) -> World:
    """One school full of the word; the table of routes makes scores, games and hand-outs of it."""
    School.objects.filter(pk=world.school.pk).update(name=f"{PLANTED} School")
    Pupil.objects.filter(school=world.school).update(family_name=PLANTED, medical_note=PLANTED)
    world.school.classes.update(name=PLANTED)
    Staff.objects.filter(school=world.school).update(name=f"{PLANTED} Person")
    return world


def asked_of_all(world: World, person: Person) -> dict[tuple[str, str], str]:
    """All the text of every route's answer, with the other school's ids."""
    return {
        route: words_of(person.ask(route[0], path, body))
        for route, (path, body, _) in routes(world, "teacher").items()
    }


@pytest.mark.parametrize("who", ["stranger", "stranger_head", "office"])
def test_a_planted_name_is_in_nothing_that_another_gets(
    planted: World, unprinted: None, who: str, caplog: pytest.LogCaptureFixture
) -> None:
    office = an_office(planted)
    person: Person = office.person if who == "office" else getattr(planted, who)
    assert person.staff is not None
    person.staff.may_see_growth = True
    person.staff.save()
    packed = zipfile.ZipFile(io.BytesIO(write_package(person.staff.school)))
    assert not [one for one in packed.namelist() if PLANTED.encode() in packed.read(one)]
    with caplog.at_level(logging.DEBUG, "lauf"):
        found = asked_of_all(planted, person)
    told = {route for route, words in found.items() if PLANTED in words}
    # The school's name is what its trust calls it by.
    of_trust = {route for route in told if route[1].startswith("/api/trust")}
    assert told - TOLD_BY_THEMSELVES == (of_trust if who == "office" else set())
    assert PLANTED not in caplog.text
    assert PLANTED.encode() not in generate_latest()


def test_games_are_open_to_the_trust_and_to_nobody_beyond_it(planted: World) -> None:
    new_games(planted)
    Games.objects.update(open_here=True)
    assert PLANTED in words_of(planted.stranger_head.ask("GET", "/api/games"))
    an_office(planted)
    assert PLANTED in words_of(planted.stranger_head.ask("GET", "/api/games"))
    School.objects.filter(name="Stranger School").update(trust=None)
    assert PLANTED not in words_of(planted.stranger_head.ask("GET", "/api/games"))


def test_the_office_is_answered_nothing_but_its_own(world: World, unprinted: None) -> None:
    office = an_office(world)
    its_own = ("/api/trust", "/api/session", "/api/staff", "/api/log")
    wrong = {}
    for (method, route), (path, body, statuses) in routes(world, "teacher").items():
        status = office.person.ask(method, path, body).status_code
        if statuses[0] == 401 and not route.startswith(its_own) and status not in (401, 403):
            wrong[method, route] = status
    assert wrong == {}
    # Helpers' and children's doors know no sign-in; of the school's own staff it reaches nobody.
    person = signed_in(Staff.objects.get(username="office"))
    head = Staff.objects.get(username="head")
    change = {"name": "X", "role": "head", "is_active": False}
    assert person.ask("PUT", f"/api/staff/{head.id}", change).status_code == 404
    log: list[dict[str, Any]] = person.ask("GET", "/api/log").json()
    assert {one["by"] for one in log} <= {"Office", "New"}


def test_every_line_of_the_log_is_about_requests_and_not_people(
    planted: World, capsys: pytest.CaptureFixture[str]
) -> None:
    logging.config.dictConfig(configured("json"))
    try:
        path = f"/api/search?q={PLANTED}"
        planted.stranger.ask("GET", path)
        planted.nobody.ask("GET", path)
        planted.stranger.ask("GET", f"/api/search?q={PLANTED}&q={'x' * 999}")
        planted.teacher.ask("GET", path)
        planted.teacher.ask("GET", f"/api/pupils/{planted.pupils[0].id}")
    finally:
        logging.config.dictConfig(configured("quiet"))
    said = capsys.readouterr()
    assert PLANTED not in said.out + said.err
