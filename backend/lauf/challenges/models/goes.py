"""What children enter of a challenge themselves: the code of their class, the slip of each, and
their goes, which wait for a teacher."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.challenges.models.weeks import Challenge, ChallengeWeek
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.records.models import Attempt
from lauf.rules.reading.clocks import EARLIEST, LATEST


class ChallengeCode(models.Model):
    """The code by which the children of a class open the challenges of a week, until the week is
    over or the code is deleted."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    week = models.ForeignKey(ChallengeWeek, on_delete=models.CASCADE, related_name="codes")
    school_class = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, related_name="challenge_codes"
    )
    code = models.CharField(max_length=8, unique=True)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["week", "school_class"], name="code_once_a_class"),
        ]

    def __str__(self) -> str:
        return f"{self.week}, {self.school_class}"


class Slip(models.Model):
    """What a child of a class is known by in a week: a picture, and the code printed for its
    family. One that was withdrawn has none and opens nothing."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    week = models.ForeignKey(ChallengeWeek, on_delete=models.CASCADE, related_name="slips")
    pupil = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="slips")
    # The picture, by its place among Lauf's own.
    picture = models.PositiveSmallIntegerField()
    code = models.CharField(max_length=12, unique=True, null=True, blank=True)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["picture", "made_at"]
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["week", "pupil"],
                condition=models.Q(withdrawn_at=None),
                name="slip_once_a_child",
            ),
            models.CheckConstraint(
                name="slip_is_withdrawn_in_our_age",
                condition=models.Q(withdrawn_at=None)
                | models.Q(withdrawn_at__range=(EARLIEST, LATEST)),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.week}: {self.pupil}"


class GoState(models.TextChoices):
    """What became of a go."""

    WAITING = "waiting"
    ACCEPTED = "accepted"
    DECLINED = "declined"
    # By who entered it.
    UNDONE = "undone"


class Go(models.Model):
    """One go that a child, or its family, entered. It counts for nothing until a teacher accepts
    it; then `attempt` is its score. The id is the device's own."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="goes")
    challenge = models.ForeignKey(Challenge, on_delete=models.CASCADE, related_name="goes")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="goes")
    # By the family's slip; else by the picture, on a device that had the code of the class.
    by_slip = models.BooleanField()
    # The partner child who counted.
    counted_by = models.ForeignKey(
        Pupil, on_delete=models.SET_NULL, null=True, blank=True, related_name="+"
    )
    typed = models.CharField(max_length=180)
    variant = models.CharField(max_length=20, blank=True)
    made_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)
    state = models.CharField(max_length=8, choices=GoState.choices, default=GoState.WAITING)
    decided_by = models.ForeignKey(
        Staff, on_delete=models.PROTECT, null=True, blank=True, related_name="+"
    )
    decided_at = models.DateTimeField(null=True, blank=True)
    attempt = models.OneToOneField(
        Attempt, on_delete=models.PROTECT, null=True, blank=True, related_name="go"
    )

    class Meta:
        ordering: ClassVar = ["made_at", "id"]
        indexes: ClassVar = [
            models.Index(
                fields=["challenge"], name="go_waiting", condition=models.Q(state="waiting")
            )
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="go_state_is_known", condition=models.Q(state__in=GoState.values)
            ),
            models.CheckConstraint(
                name="go_is_accepted_as_a_score",
                condition=models.Q(state=GoState.ACCEPTED, attempt__isnull=False)
                | (~models.Q(state=GoState.ACCEPTED) & models.Q(attempt=None)),
            ),
            models.CheckConstraint(
                name="go_is_of_this_age",
                condition=models.Q(made_at__range=(EARLIEST, LATEST))
                & (models.Q(decided_at=None) | models.Q(decided_at__range=(EARLIEST, LATEST))),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.pupil}: {self.typed}"
