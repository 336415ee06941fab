"""Games between schools as one school has them."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion
from lauf.people.models import School, Staff
from lauf.rules.reading.clocks import EARLIEST, LATEST


class GamesKey(models.Model):
    """What a school signs its files of games with (Ed25519, base64). It never leaves this Lauf."""

    school = models.OneToOneField(
        School, on_delete=models.PROTECT, primary_key=True, related_name="games_key"
    )
    private = models.CharField(max_length=60)
    public = models.CharField(max_length=60, unique=True)

    def __str__(self) -> str:
        return f"key of {self.school}"


class Games(models.Model):
    """Games between schools as one school has them: those it organises, or has joined."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="games")
    # The same in every school that takes part.
    key = models.UUIDField()
    name = models.CharField(max_length=60)
    starts_on = models.DateField()
    ends_on = models.DateField()
    # The last day on which a result is in time.
    closes_on = models.DateField()
    # What the organiser said and signed, as it was signed.
    body = models.JSONField()
    signed_by = models.CharField(max_length=60)
    signature = models.CharField(max_length=100)
    organised_here = models.BooleanField(default=False)
    # Schools on the same Lauf may join without a file.
    open_here = models.BooleanField(default=False)
    # How many times this school has made its result.
    handed_in = models.PositiveIntegerField(default=0)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-starts_on", "name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "key"], name="games_once_a_school"),
            models.CheckConstraint(
                name="games_are_of_this_age",
                condition=models.Q(starts_on__gte=EARLIEST.date(), closes_on__lte=LATEST.date()),
            ),
            models.CheckConstraint(
                name="games_end_before_they_close",
                condition=models.Q(ends_on__gte=models.F("starts_on"))
                & models.Q(closes_on__gte=models.F("ends_on")),
            ),
        ]

    def __str__(self) -> str:
        return self.name


class GamesTest(models.Model):
    """A test of games, and the protocol version that stands for it in this school."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    games = models.ForeignKey(Games, on_delete=models.CASCADE, related_name="tests")
    position = models.PositiveSmallIntegerField()
    protocol = models.ForeignKey(ProtocolVersion, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["games", "position"], name="games_test_place_once")
        ]

    def __str__(self) -> str:
        return f"{self.games}: {self.protocol.test}"


class GamesSchool(models.Model):
    """A school that has handed in to games organised here, by the key it signs with. Its results
    count once somebody has made sure that it is the one it says."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    games = models.ForeignKey(Games, on_delete=models.CASCADE, related_name="schools")
    public = models.CharField(max_length=60)
    name = models.CharField(max_length=120)
    known_by = models.ForeignKey(
        Staff, on_delete=models.PROTECT, null=True, blank=True, related_name="+"
    )

    class Meta:
        ordering: ClassVar = ["name", "id"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["games", "public"], name="games_school_once")
        ]

    def __str__(self) -> str:
        return self.name


class GamesResult(models.Model):
    """A result file as it came, with sums alone. Kept whatever becomes of it: which one counts is
    worked out (`rules.games.states`)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    sent_by = models.ForeignKey(GamesSchool, on_delete=models.CASCADE, related_name="results")
    number = models.PositiveIntegerField()
    made_at = models.DateTimeField()
    body = models.JSONField()
    signature = models.CharField(max_length=100)
    came_at = models.DateTimeField()
    came_by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    # It counts although it came after the last day.
    let_in = models.BooleanField(default=False)

    class Meta:
        ordering: ClassVar = ["came_at", "id"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["sent_by", "signature"], name="games_result_once")
        ]

    def __str__(self) -> str:
        return f"{self.sent_by}, {self.number}"


class GamesNote(models.Model):
    """Something the organiser is told of a file that was not taken: altered, double, of others."""

    id = models.BigAutoField(primary_key=True)
    games = models.ForeignKey(Games, on_delete=models.CASCADE, related_name="notes")
    words = models.CharField(max_length=240)
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering: ClassVar = ["-id"]

    def __str__(self) -> str:
        return self.words
