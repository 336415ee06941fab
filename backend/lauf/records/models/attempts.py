"""Scores and what was decided about them. Rows here are added, never changed."""

from __future__ import annotations

import uuid
from functools import reduce
from operator import or_
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion, Test
from lauf.lessons.models import Activity, Helper, Run
from lauf.people.models import Pupil, School, Staff
from lauf.records.models.reasons import REASONS, WITHDRAWN
from lauf.rules.reading.clocks import EARLIEST, LATEST
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import Dimension
from lauf.rules.reading.reasons import NotDone

#: The widest values of each dimension; a protocol's own limits are narrower.
_BOUNDS = {
    Dimension.NUMBER: (0, 100_000),
    Dimension.MILLISECONDS: (0, 24 * 3_600_000),
    Dimension.MILLIMETRES: (-10_000, 50_000_000),
    Dimension.GRAMS: (0, 300_000),
    Dimension.BEATS: (0, 300),
}
_WITHIN = [
    models.Q(kind=kind.value, value__range=_BOUNDS[described.dimension])
    for kind, described in KINDS.items()
]


class Attempt(models.Model):
    """One score of one child, or the reason why there is none.

    A correction is a new attempt that names the one it succeeds. The one with no successor is
    the one that counts. The id is made by the device that took the score, so sending it twice
    stores it once. A trigger refuses UPDATE and DELETE.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    # The indexes of school and protocol are those by day below.
    school = models.ForeignKey(
        School, on_delete=models.PROTECT, related_name="attempts", db_index=False
    )
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="attempts")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="attempts")
    protocol = models.ForeignKey(
        ProtocolVersion, on_delete=models.PROTECT, related_name="attempts", db_index=False
    )
    kind = models.CharField(max_length=12)
    on = models.DateField()
    variant = models.CharField(max_length=20, blank=True)
    wave = models.PositiveSmallIntegerField(null=True, blank=True)
    try_number = models.PositiveSmallIntegerField(default=1)
    typed = models.CharField(max_length=180)
    value = models.BigIntegerField(null=True, blank=True)
    reason = models.CharField(max_length=12, choices=REASONS, null=True, blank=True)  # noqa: DJ001
    estimate = models.BooleanField(default=False)
    # What the score is made of, and the free conditions it was made under: see rules.entry.
    parts = models.JSONField(default=dict, blank=True)
    conditions = models.JSONField(default=dict, blank=True)
    succeeds = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="successor"
    )
    why = models.CharField(max_length=240, blank=True)
    # The partner child who counted and said it.
    counted_by = models.ForeignKey(
        Pupil, on_delete=models.PROTECT, null=True, blank=True, related_name="+"
    )
    # The clock it was taken by. A score that arrives before its clock is not refused for it.
    run = models.ForeignKey(
        Run,
        on_delete=models.DO_NOTHING,
        null=True,
        blank=True,
        related_name="attempts",
        db_constraint=False,
    )
    recorded_by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    # Who entered it, where that was a helper of the teacher.
    helper = models.ForeignKey(
        Helper, on_delete=models.PROTECT, null=True, blank=True, related_name="attempts"
    )
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["pupil", "protocol", "on"]),
            models.Index(fields=["school", "on"], name="attempt_by_day"),
            models.Index(fields=["protocol", "on"], name="attempt_by_test"),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="attempt_value_or_reason",
                # Or hand spans and steps, which have no value until somebody measures a hand.
                condition=models.Q(value__isnull=False, reason__isnull=True)
                | models.Q(value__isnull=True, reason__isnull=False)
                | models.Q(value__isnull=True, reason__isnull=True, parts__has_key="informal"),
            ),
            models.CheckConstraint(
                name="attempt_reason_is_known",
                condition=models.Q(reason__isnull=True)
                | models.Q(reason__in=[r.value for r in NotDone] + [WITHDRAWN]),
            ),
            models.CheckConstraint(
                name="attempt_value_within_its_kind",
                condition=reduce(or_, _WITHIN, models.Q(value__isnull=True)),
            ),
            models.CheckConstraint(
                name="attempt_estimate_has_a_value",
                condition=models.Q(estimate=False) | models.Q(reason__isnull=True),
            ),
            models.CheckConstraint(
                name="attempt_is_of_this_age",
                condition=models.Q(recorded_at__range=(EARLIEST, LATEST)),
            ),
            models.CheckConstraint(
                name="attempt_does_not_succeed_itself",
                condition=~models.Q(succeeds=models.F("id")),
            ),
            # Two devices entering the same child at once: one of them is told.
            models.UniqueConstraint(
                fields=["activity", "pupil", "try_number"],
                condition=models.Q(succeeds__isnull=True),
                name="attempt_one_beginning",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.pupil}: {self.typed}"

    @property
    def entered_by(self) -> str:
        """Who entered it, by name."""
        return self.helper.name if self.helper else self.recorded_by.name


class Recount(models.Model):
    """What a helper counted of a try that has a score of somebody else's: kept beside it and never
    in its place. The newest of a helper is what that helper says. A trigger refuses UPDATE and
    DELETE."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="recounts")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="recounts")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="recounts")
    try_number = models.PositiveSmallIntegerField(default=1)
    # The score that stood there.
    beside = models.ForeignKey(Attempt, on_delete=models.PROTECT, related_name="recounts")
    variant = models.CharField(max_length=20, blank=True)
    typed = models.CharField(max_length=180)
    kind = models.CharField(max_length=12)
    value = models.BigIntegerField(null=True, blank=True)
    reason = models.CharField(max_length=12, choices=REASONS, null=True, blank=True)  # noqa: DJ001
    helper = models.ForeignKey(Helper, on_delete=models.PROTECT, related_name="recounts")
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["received_at", "id"]
        indexes: ClassVar = [models.Index(fields=["activity", "pupil"])]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="recount_reason_is_known",
                condition=models.Q(reason__isnull=True)
                | models.Q(reason__in=[r.value for r in NotDone] + [WITHDRAWN]),
            ),
            models.CheckConstraint(
                name="recount_value_within_its_kind",
                condition=reduce(or_, _WITHIN, models.Q(value__isnull=True)),
            ),
            models.CheckConstraint(
                name="recount_is_of_this_age",
                condition=models.Q(recorded_at__range=(EARLIEST, LATEST)),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.helper}: {self.typed}"


class Settlement(models.Model):
    """A teacher looked at a flag on an attempt and confirmed the score."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    attempt = models.ForeignKey(Attempt, on_delete=models.PROTECT, related_name="settlements")
    flag = models.CharField(max_length=20)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["attempt", "flag"], name="settlement_once_a_flag")
        ]

    def __str__(self) -> str:
        return f"{self.flag} confirmed by {self.by}"


class Question(models.Model):
    """Something asked about a score when it was kept, or when another of its class was. Until a
    teacher settles it the score takes no part in anything but being shown."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    attempt = models.ForeignKey(Attempt, on_delete=models.PROTECT, related_name="questions")
    # See rules.plausibility.
    flag = models.CharField(max_length=20)
    words = models.CharField(max_length=200)
    # `Settlement` says by whom.
    settled = models.BooleanField(default=False)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["attempt", "flag"], name="question_once_a_flag")
        ]
        indexes: ClassVar = [
            models.Index(
                fields=["attempt"], name="question_open", condition=models.Q(settled=False)
            )
        ]

    def __str__(self) -> str:
        return self.words


class RepeatSummary(models.Model):
    """What the repeat tests of a test added up to before a day, so that the next day goes on from
    there: derived from attempts, thrown away when one of an earlier day comes in.

    state   see `queries.repeats`
    """

    test = models.ForeignKey(Test, on_delete=models.CASCADE, related_name="+")
    before = models.DateField()
    state = models.JSONField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["test", "before"], name="repeats_once_a_day")
        ]

    def __str__(self) -> str:
        return f"{self.test} before {self.before}"
