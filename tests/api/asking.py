"""What several files of tests ask, and a class that has been tested."""

from __future__ import annotations

import io
import uuid
from typing import Any

import pypdf
from django.utils import timezone

from lauf.challenges.actions import enter_go, publish
from lauf.challenges.models import Challenge, Go, Slip
from lauf.challenges.queries.entering import Entrance
from lauf.lessons.actions import join, open_to_helpers
from lauf.lessons.models import Helper
from lauf.people.models import Staff
from lauf.web.doors.entering import child_key
from tests.api.conftest import Person, World
from tests.api.weeks import a_challenge, a_week
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
    """The text of each page of a handout, once it is there."""
    begun = person.ask("POST", path, body)
    assert begun.status_code == 200, begun.content
    at = f"/api/handouts/{begun.json()['id']}"
    state = wait_for(lambda: get(person, at), lambda found: found["ready"])
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


def helpers_key(world: World) -> tuple[Helper, str]:
    """Somebody who helps in the world's lesson, and the key of their device."""
    assert world.teacher.staff is not None
    now = timezone.now()
    opened = open_to_helpers(world.teacher.staff, world.activity.lesson_id, now)
    joined = join(opened.code, "Kim", now)
    return joined.helper, joined.key


def childs_device(world: World, staff: Staff | None = None) -> tuple[Entrance, Go, str]:
    """A device that the first child's slip has opened, a go that was entered on it, and its
    cookie."""
    by = staff or world.teacher.staff
    assert by is not None
    week = a_week(world, timezone.localdate(), staff=by)
    challenge = a_challenge(world, week, staff=by)
    publish(by, week.id, world.school_class.id, timezone.localdate())
    slip = Slip.objects.select_related("pupil").get(week=week, pupil=world.pupils[0])
    entrance = Entrance(slip.id, week, world.school_class, by, slip)
    return entrance, childs_go(entrance, challenge, "21"), child_key(entrance)


def childs_go(entrance: Entrance, challenge: Challenge, typed: str) -> Go:
    """A go that a child entered on its device."""
    return enter_go(
        entrance,
        entrance.id,
        go_id=uuid.uuid4(),
        challenge_id=challenge.id,
        typed=typed,
        variant="full",
        made_at=timezone.now(),
    )


def tested(world: World) -> None:
    """The class twice in press-ups, the second time with one better, one lower, one missing."""
    first = world.lesson_on(30)
    for number, pupil in enumerate(world.pupils):
        world.record(pupil, str(18 + number % 5), first)
    for number, pupil in enumerate(world.pupils[:-1]):
        world.record(pupil, {0: "34", 1: "5"}.get(number, str(18 + number % 5)))
