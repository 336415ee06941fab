"""What is kept about challenges and the points given in them."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.rules.clocks import EARLIEST, LATEST
from lauf.rules.points import MOST_POINTS, PointRule


class ChallengeWeek(models.Model):
    """A week of challenges for some classes: one a day, each open to be tried again until the
    last day of the week."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="challenge_weeks")
    name = models.CharField(max_length=60)
    starts_on = models.DateField()
    ends_on = models.DateField()
    classes = models.ManyToManyField(SchoolClass, related_name="challenge_weeks")
    # What each rule gives: {"took_part": 1, "beat_rival": 3, …}.
    points = models.JSONField()
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
    protocol = models.ForeignKey(ProtocolVersion, on_delete=models.PROTECT, related_name="+")
    rival = models.CharField(max_length=60, blank=True)
    rival_typed = models.CharField(max_length=180, blank=True)
    rival_value = models.BigIntegerField(null=True, blank=True)
    rival_variant = models.CharField(max_length=20, blank=True)
    # The free conditions its mark was set under, such as the length of the course.
    rival_conditions = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering: ClassVar = ["on", "id"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["week", "on"], name="challenge_a_day"),
            models.CheckConstraint(
                name="rival_has_a_mark",
                condition=models.Q(rival="", rival_value__isnull=True)
                | (~models.Q(rival="") & models.Q(rival_value__isnull=False)),
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
