"""Writes of games between schools: made, joined, handed in, and taken from other schools."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Final
from uuid import UUID

from django.db import transaction
from django.utils import timezone
from pydantic import ValidationError

from lauf.catalogue.actions import make_test
from lauf.catalogue.models import ProtocolVersion, Test
from lauf.catalogue.protocol import Protocol
from lauf.catalogue.queries import KeptLadder, ladders_for, newest_protocols
from lauf.challenges.models import Games, GamesTest
from lauf.challenges.queries import games_of, own_sums, serialized_sums, tests_of
from lauf.errors import NotFound, Refused
from lauf.exchange.actions.results import count_result
from lauf.exchange.games import (
    GamesBody,
    Opened,
    ResultBody,
    digest,
    signed,
    written,
)
from lauf.exchange.games.files import FORMAT
from lauf.exchange.games.keys import key_of
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff, YearGroup
from lauf.people.permissions import May, demand
from lauf.rules.judging.ladders import pick_ladder
from lauf.rules.reading.quantities import Kind

_NEVER: Final = say("Height, weight and pulse cannot be part of games.")
#: What makes two protocols the same test, in the words of `ProtocolVersion`.
_THE_SAME: Final = (
    "kind", "better", "unit", "resolution", "cap", "of", "schedule", "target_mm", "seconds",
    "tries", "merge", "conditions",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class GamesWish:
    """Games as they are asked for; `key` is the device's own: the same twice is made once."""

    key: UUID
    name: str
    starts_on: date
    ends_on: date
    closes_on: date
    bands: Sequence[Mapping[str, Any]]
    test_ids: Sequence[UUID]
    took_part: int
    a_rung: int
    open_here: bool


@transaction.atomic
def make_games(staff: Staff, wish: GamesWish) -> Games:
    """Games that this school organises, and takes part in. Raises Denied, NotFound for a test out
    of scope, or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    made = Games.objects.filter(school=staff.school_id, key=wish.key).first()
    if made is not None:
        return made
    versions = {one.test_id: one for one in newest_protocols(staff)}
    if missing := [one for one in wish.test_ids if one not in versions]:
        raise NotFound(say("test {missing}", missing=missing[0]))
    chosen = [versions[one] for one in dict.fromkeys(wish.test_ids)]
    if any(one.test.private for one in chosen):
        raise Refused(_NEVER)
    ages = range(min(one["from_age"] for one in wish.bands),
                 max(one["to_age"] for one in wish.bands) + 1) if wish.bands else ()  # fmt: skip
    asked = {
        "kind": "games",
        "format": FORMAT,
        "key": str(wish.key),
        "name": wish.name.strip(),
        "organiser": staff.school.name,
        "starts_on": wish.starts_on.isoformat(),
        "ends_on": wish.ends_on.isoformat(),
        "closes_on": wish.closes_on.isoformat(),
        "bands": [dict(one) for one in wish.bands],
        "tests": _tests_content(staff, chosen, ages),
        "points": {"took_part": wish.took_part, "a_rung": wish.a_rung},
    }
    try:
        body = GamesBody.model_validate(asked)
    except ValidationError as error:
        raise Refused(f"{error.errors()[0]['msg'].removeprefix('Value error, ')}.") from None
    file = signed(asked, key_of(staff.school))
    games = _keep(staff, Opened(body, asked, file["signed_by"], file["signature"]), chosen)
    games.organised_here, games.open_here = True, wish.open_here
    games.save(update_fields=["organised_here", "open_here"])
    log(staff, Change.What.GAMES, say("Games {games} created", games=games), games.id)
    return games


def _tests_content(
    staff: Staff, versions: Sequence[ProtocolVersion], ages: Sequence[int]
) -> list[dict[str, object]]:
    """The tests of games as they stand in a file, with the school's ladders of each age. Two
    queries."""
    years = {one.id: one.age for one in YearGroup.objects.filter(school=staff.school_id)}
    ladders = ladders_for([one.test_id for one in versions], years)
    return [
        {
            "code": one.test.slug[:80],
            "name": one.test.name,
            "family": one.test.family,
            "variant": one.usual_variant,
            "definition": Protocol.model_validate(one).kept(),
            "ladders": _ladders_content(one, ladders, years, ages),
        }
        for one in versions
    ]


def _ladders_content(
    version: ProtocolVersion, ladders: Sequence[KeptLadder], years: Mapping[UUID, int],
    ages: Sequence[int],
) -> list[dict[str, object]]:  # fmt: skip
    """The rungs of each age that has some, of everybody's ladder for the usual form."""
    found = []
    mine = [one for one in ladders if one.test_id == version.test_id]
    for age in ages:
        fitting = [one.ladder for one in mine
                   if one.year_group_id is None or years.get(one.year_group_id) == age]  # fmt: skip
        ladder = pick_ladder(fitting, version.usual_variant, age=age)
        if ladder is not None:
            rungs = [
                {"name": rung.name, "threshold": rung.threshold, "beyond": rung.beyond}
                for rung in ladder.rungs
            ]
            found.append({"age": age, "rungs": rungs})
    return found


@transaction.atomic
def join_games(staff: Staff, opened: Opened[GamesBody], protocols: Sequence[Protocol]) -> Games:
    """Take part in the games of a file; `protocols` are its tests as the catalogue reads them. A
    test that the school has is used, another is made, with nothing but its protocol: the games
    bring their own ladders. Again changes nothing. Raises Denied or Refused."""
    demand(staff, May.MANAGE_SCHOOL)
    body = opened.body
    known = Games.objects.filter(school=staff.school_id, key=body.key).first()
    if known is not None:
        if (known.signed_by, known.signature) != (opened.signed_by, opened.signature):
            raise Refused(
                say("{known} are already here from another file. Nothing was changed.", known=known)
            )
        return known
    if body.closes_on < timezone.localdate():
        raise Refused(say("These games ended on {closes_on}.", closes_on=f"{body.closes_on:%d %B}"))
    _refuse_the_body(staff, body, protocols)
    own = {one.test.slug: one for one in newest_protocols(staff)}
    taken = {one.test.name.lower() for one in own.values()}
    chosen = []
    for test, protocol in zip(body.tests, protocols, strict=True):
        here = own.get(test.code)
        if here is not None and _is_the_same(here, protocol):
            chosen.append(here)
            continue
        name = test.name if test.name.lower() not in taken else f"{test.name[:50]}, {body.name}"
        chosen.append(
            make_test(
                staff, name=name[:80], family=test.family, copy_of=None, protocol=protocol
            )
        )  # fmt: skip
    games = _keep(staff, opened, chosen)
    log(
        staff,
        Change.What.GAMES,
        say("Games {games} of {organiser} joined", games=games, organiser=body.organiser),
        games.id,
    )
    return games


def _refuse_the_body(staff: Staff, body: GamesBody, protocols: Sequence[Protocol]) -> None:
    """Raises Refused for games that would have height, weight or pulses sent out as sums."""
    codes = [one.code for one in body.tests]
    private = Test.objects.filter(school=staff.school_id, private=True, slug__in=codes).exists()
    if private or any(one.kind in (Kind.MASS, Kind.PULSE) for one in protocols):
        raise Refused(_NEVER)


def _is_the_same(version: ProtocolVersion, protocol: Protocol) -> bool:
    """Whether scores of this version are scores of that protocol."""
    own = Protocol.model_validate(version)
    return [one.code for one in protocol.variants] == [one.code for one in own.variants] and all(
        getattr(own, field) == getattr(protocol, field) for field in _THE_SAME
    )


def _keep(staff: Staff, opened: Opened[GamesBody], versions: Sequence[ProtocolVersion]) -> Games:
    body = opened.body
    games = Games.objects.create(
        school=staff.school,
        key=body.key,
        name=body.name,
        starts_on=body.starts_on,
        ends_on=body.ends_on,
        closes_on=body.closes_on,
        body=opened.raw,
        signed_by=opened.signed_by,
        signature=opened.signature,
        by=staff,
    )
    GamesTest.objects.bulk_create(
        GamesTest(games=games, position=place, protocol=version)
        for place, version in enumerate(versions)
    )
    return games


@transaction.atomic
def hand_in(staff: Staff, games_id: UUID, today: date) -> tuple[Games, str, bool]:
    """This school's result as it stands today, as a file; where the organiser is on this Lauf it is
    there at once. Returns the games, the file and whether it was delivered. Raises Denied,
    NotFound, or Refused before the games have begun."""
    demand(staff, May.MANAGE_SCHOOL)
    games_of(staff, games_id)
    games = Games.objects.select_for_update().select_related("school").get(pk=games_id)
    if today < games.starts_on:
        raise Refused(
            say("These games begin on {starts_on}.", starts_on=f"{games.starts_on:%d %B}")
        )
    games.handed_in += 1
    games.save(update_fields=["handed_in"])
    sums = own_sums(games, tests_of(games))
    body = {
        "kind": "games result",
        "format": FORMAT,
        "key": str(games.key),
        "games": digest(games.body),
        "school": games.school.name,
        "number": games.handed_in,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        **serialized_sums(sums),
    }
    file = signed(body, key_of(games.school))
    organiser = Games.objects.filter(key=games.key, organised_here=True).first()
    if organiser is not None and organiser.signed_by == games.signed_by:
        count_result(staff, organiser, Opened(ResultBody.model_validate(body), body, **_of(file)))
    log(
        staff,
        Change.What.GAMES,
        say("Result {handed_in} of {games} handed in", handed_in=games.handed_in, games=games),
        games.id,
    )
    return games, written(file), organiser is not None


def _of(file: Mapping[str, Any]) -> dict[str, str]:
    return {"signed_by": file["signed_by"], "signature": file["signature"]}
