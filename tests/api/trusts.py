"""Two schools of one trust and its office, as the office made them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Final

from django.contrib.auth.hashers import make_password

from lauf.people.actions import found_trust
from lauf.people.models import School, Staff, Trust
from tests.api.asking import get
from tests.api.conftest import PASSWORD, Person, World, a_client
from tests.api.roles import Routes

#: Nobody in a school gets at what the office has, the schools' own heads as little as others.
_OFFICES: Final = (401, *[403] * 5)


@dataclass
class Office:
    """The trust that has taken in the schools of a world, and who leads its office."""

    trust: Trust
    person: Person

    def row(self, school: School) -> dict[str, Any]:
        """A school as the trust's page has it."""
        rows: list[dict[str, Any]] = get(self.person, "/api/trust")["schools"]
        return next(one for one in rows if one["id"] == str(school.id))

    def limit(self, school: School, **most: int | None) -> Any:
        return self.person.ask("PUT", f"/api/trust/schools/{school.id}/limits", most)

    def pause(self, school: School, *, paused: bool = True) -> Any:
        path = f"/api/trust/schools/{school.id}/paused"
        return self.person.ask("PUT", path, {"paused": paused})

    def opened(self, **more: Any) -> Any:
        new = {"school_name": "Quarry School", "name": "Noor Vale", "username": "noor", **more}
        return self.person.ask("POST", "/api/trust/schools", new)


def signed_in(staff: Staff) -> Person:
    """Somebody in a browser of their own."""
    client = a_client()
    client.force_login(staff, backend="lauf.web.hashing.PasswordBackend")
    return Person(staff, client)


def an_office(world: World) -> Office:
    """The world's two schools come under one office."""
    trust = found_trust(
        trust_name="River Trust", name="Office", username="office",
        password=make_password(PASSWORD),
    )  # fmt: skip
    assert set(trust.schools.all()) == {world.school, Staff.objects.get(username="stranger").school}
    return Office(trust, signed_in(Staff.objects.get(username="office")))


def trust_routes(world: World) -> Routes:
    at = f"/api/trust/schools/{world.school.id}"
    new = {"school_name": "New", "name": "New", "username": "newest"}
    return {
        ("GET", "/api/trust"): ("/api/trust", None, _OFFICES),
        ("POST", "/api/trust/schools"): ("/api/trust/schools", new, _OFFICES),
        ("PUT", "/api/trust/schools/{school_id}/limits"): (f"{at}/limits", {}, _OFFICES),
        ("PUT", "/api/trust/schools/{school_id}/paused"): (
            f"{at}/paused",
            {"paused": True},
            _OFFICES,
        ),
        ("POST", "/api/trust/schools/{school_id}/link"): (f"{at}/link", None, _OFFICES),
    }
