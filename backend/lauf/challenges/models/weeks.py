"""Challenges of a week and the points given in them."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.rules.contests.points import MOST_POINTS, PointRule
from lauf.rules.contests.rivals import RivalKind
from lauf.rules.contests.sets import WRITE_DOWN
from lauf.rules.reading.clocks import EARLIEST, LATEST


class ChallengeWeek(models.Model):
    """A week of challenges for some classes, each open from its day to be tried again until the
    last day of the week. Several of one day are a set. A week may be a single day."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="challenge_weeks")
    name = models.CharField(max_length=60)
    starts_on = models.DateField()
    ends_on = models.DateField()
    classes = models.ManyToManyField(SchoolClass, related_name="challenge_weeks")
    # What each rule gives: {"took_part": 1, "beat_rival": 3, …}.
    points = models.JSONField()
    # Seconds to write down between two challenges of a day that are done as a set.
    pause = models.PositiveSmallIntegerField(default=WRITE_DOWN)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["-starts_on", "name"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="week_is_of_this_age",
                condition=models.Q(starts_on__gte=EARLIEST.date(), ends_on__lte=LATEST.date()),
            ),
            models.CheckConstraint(
                name="week_ends_after_it_starts",
                condition=models.Q(ends_on__gte=models.F("starts_on")),
            ),
        ]

    def __str__(self) -> str:
        return self.name


class Challenge(models.Model):
    """One challenge of a week: a test under one protocol version, from its day on, and a rival's
    mark set in the same test under the same protocol."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    week = models.ForeignKey(ChallengeWeek, on_delete=models.CASCADE, related_name="challenges")
    on = models.DateField()
    # Its place among those of its day.
    position = models.PositiveSmallIntegerField(default=0)
    protocol = models.ForeignKey(ProtocolVersion, on_delete=models.PROTECT, related_name="+")
    rival_kind = models.CharField(
        max_length=8, choices=[(k.value, k.value) for k in RivalKind], blank=True
    )
    rival = models.CharField(max_length=60, blank=True)
    # A person's or a group's mark: None while a person's is still to be made.
    rival_typed = models.CharField(max_length=180, blank=True)
    rival_value = models.BigIntegerField(null=True, blank=True)
    rival_variant = models.CharField(max_length=20, blank=True)
    # Or the rung to be reached, from 0, on each child's own ladder.
    rival_rung = models.PositiveSmallIntegerField(null=True, blank=True)
    # The free conditions its mark was set under, such as the length of the course.
    rival_conditions = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering: ClassVar = ["on", "position", "id"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["week", "on", "protocol"], name="challenge_once_a_day"),
            models.CheckConstraint(
                name="rival_kind_is_known",
                condition=models.Q(rival_kind__in=["", *(k.value for k in RivalKind)]),
            ),
            # Only who is named has a mark, a group always has one, and a rung is one of a rung.
            models.CheckConstraint(
                name="rival_has_a_mark",
                condition=models.Q(
                    rival_kind__in=["", RivalKind.SELF], rival_value=None, rival_rung=None
                )
                | models.Q(rival_kind=RivalKind.PERSON, rival_rung=None)
                | models.Q(rival_kind=RivalKind.GROUP, rival_value__isnull=False, rival_rung=None)
                | models.Q(rival_kind=RivalKind.RUNG, rival_value=None, rival_rung__isnull=False),
            ),
            models.CheckConstraint(
                name="rival_is_named",
                condition=models.Q(rival="", rival_kind="")
                | (~models.Q(rival="") & ~models.Q(rival_kind="")),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.protocol.test} on {self.on}"


class Point(models.Model):
    """One line of the ledger: points given to a child by a rule, and why; the line that takes such
    a one back; or the line that takes that back. Append-only."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="points")
    challenge = models.ForeignKey(Challenge, on_delete=models.PROTECT, related_name="points")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="points")
    rule = models.CharField(max_length=16, choices=[(r.value, r.value) for r in PointRule])
    points = models.SmallIntegerField()
    why = models.CharField(max_length=240)
    reverses = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="reversal"
    )
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["at", "id"]
        constraints: ClassVar = [
            # Each rule at most once a child and challenge.
            models.UniqueConstraint(
                fields=["challenge", "pupil", "rule"],
                condition=models.Q(reverses__isnull=True),
                name="point_once",
            ),
            models.CheckConstraint(
                name="point_rule_is_known",
                condition=models.Q(rule__in=[r.value for r in PointRule]),
            ),
            models.CheckConstraint(
                name="point_is_given_or_taken_back",
                condition=models.Q(reverses__isnull=True, points__gte=1, points__lte=MOST_POINTS)
                | (
                    models.Q(reverses__isnull=False)
                    & models.Q(points__gte=-MOST_POINTS, points__lte=MOST_POINTS)
                    & ~models.Q(points=0)
                ),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.points:+d} {self.pupil}: {self.why}"
