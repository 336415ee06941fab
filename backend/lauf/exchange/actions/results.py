"""Writes of the results of games: taken from other schools, known, accepted late, removed."""

from __future__ import annotations

from uuid import UUID

from django.db import transaction
from django.utils import timezone

from lauf.challenges.models import Games, GamesNote, GamesResult, GamesSchool
from lauf.challenges.queries import games_of
from lauf.errors import NotFound, Refused
from lauf.exchange.games import Opened, ResultBody, check_digits, digest, fits, open_result
from lauf.exchange.games.files import Altered
from lauf.messages import say
from lauf.people.actions import log
from lauf.people.models import Change, Staff
from lauf.people.permissions import May, demand


def take_result(staff: Staff, games_id: UUID, text: str) -> str:
    """Take a school's result file in, and say what became of it. What is not taken is noted, and
    stays noted. Raises Denied, NotFound, Refused, or Altered."""
    demand(staff, May.MANAGE_SCHOOL)
    games = games_of(staff, games_id)
    if not games.organised_here:
        raise Refused(say("Results must go to the school that organises the games."))
    try:
        opened = open_result(text)
    except Altered as altered:
        whose = (
            say("claiming to be from {school}", school=altered.school)
            if altered.school
            else say("from an unknown school")
        )
        _note(
            staff,
            games,
            say("A file {whose} was changed on the way and does not count.", whose=whose),
        )
        raise
    if opened.body.key != games.key or opened.body.games != digest(games.body):
        _note(
            staff,
            games,
            say(
                "A file from {school} is for other games and does not count.",
                school=opened.body.school,
            ),
        )
        raise Refused(say("This result is for other games, or for another file of these games."))
    return count_result(staff, games, opened)


def count_result(staff: Staff, games: Games, opened: Opened[ResultBody]) -> str:
    """Keep a result once, and say what there is to say of it."""
    body = opened.body
    if not fits(body, games.body):
        _note(
            staff,
            games,
            say(
                "A file from {school} does not fit these games and does not count.",
                school=body.school,
            ),
        )
        raise Refused(say("This result has tests, rungs or ages that are not part of these games."))
    with transaction.atomic():
        school, new = GamesSchool.objects.get_or_create(
            games=games, public=opened.signed_by, defaults={"name": body.school}
        )
        _, came = GamesResult.objects.get_or_create(
            sent_by=school,
            signature=opened.signature,
            defaults={
                "number": body.number,
                "made_at": body.made_at,
                "body": opened.raw,
                "came_at": timezone.now(),
                "came_by": staff,
            },
        )
    if not came:
        words = say(
            "The same file from {school} was opened again. It counts once.", school=body.school
        )
        _note(staff, games, words)
        return words
    twins = GamesSchool.objects.filter(games=games, name__iexact=body.school).exclude(pk=school.pk)
    if new and twins.exists():
        _note(
            staff, games,
            say("Two schools sign as {school}. The new one has the check digits "
"{check_digits}.", school=body.school, check_digits=check_digits(opened.signed_by)),
        )  # fmt: skip
    return say("Result {number} from {school} received.", number=body.number, school=body.school)


def _note(staff: Staff, games: Games, words: str) -> None:
    GamesNote.objects.create(games=games, words=words[:240], by=staff)


@transaction.atomic
def know_school(staff: Staff, games_id: UUID, school_id: UUID, *, known: bool) -> None:
    """Say that a school is the one that its file says, as its check digits were compared; or take
    that back. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    games = games_of(staff, games_id)
    school = GamesSchool.objects.filter(games=games, pk=school_id).first()
    if school is None:
        raise NotFound(say("school in these games"))
    school.known_by = staff if known else None
    school.save(update_fields=["known_by"])
    words = say(
        "Check digits of {school} in {games} confirmed"
        if known
        else "Check digits of {school} in {games} no longer confirmed",
        school=school,
        games=games,
    )
    log(staff, Change.What.GAMES, words, games.id)


@transaction.atomic
def let_in(staff: Staff, games_id: UUID, result_id: UUID, *, count: bool) -> None:
    """Count a result although it came late; or no longer. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    games = games_of(staff, games_id)
    result = GamesResult.objects.filter(sent_by__games=games, pk=result_id).first()
    if result is None:
        raise NotFound(say("result in these games"))
    result.let_in = count
    result.save(update_fields=["let_in"])
    words = say(
        "Late result {result} of {games} accepted"
        if count
        else "Late result {result} of {games} not accepted",
        result=result,
        games=games,
    )
    log(staff, Change.What.GAMES, words, games.id)


@transaction.atomic
def remove_result(staff: Staff, games_id: UUID, result_id: UUID) -> None:
    """Remove a result file from games that this school organises, and the school with its last one.
    The file can be taken in again. Raises Denied or NotFound."""
    demand(staff, May.MANAGE_SCHOOL)
    games = games_of(staff, games_id)
    found = GamesResult.objects.filter(sent_by__games=games, pk=result_id)
    result = found.defer("body").select_related("sent_by").first()
    if result is None:
        raise NotFound(say("result in these games"))
    words = say(
        "Result {number} of {sent_by} removed", number=result.number, sent_by=result.sent_by
    )
    result.delete()
    if not result.sent_by.results.exists():
        result.sent_by.delete()
    _note(staff, games, say("{words}. It does not count.", words=words))
    log(staff, Change.What.GAMES, say("{words} from {games}", words=words, games=games), games.id)
