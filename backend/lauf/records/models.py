"""Attempts and what was decided about them. Rows here are added, never changed."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion
from lauf.lessons.models import Activity
from lauf.people.models import Pupil, School, Staff
from lauf.rules.entry import REASON_WORDS, NotDone
from lauf.rules.quantities import Kind

#: An entry taken back by undo: the child's row is empty again, the history is not.
WITHDRAWN = "withdrawn"
REASONS = [(reason.value, words) for reason, words in REASON_WORDS.items()] + [
    (WITHDRAWN, "taken back")
]


class Attempt(models.Model):
    """One score of one child, or the reason why there is none.

    A correction is a new attempt that names the one it succeeds. The one with no successor is
    the one that counts. The id is made by the device that took the score, so sending it twice
    stores it once. A trigger refuses UPDATE and DELETE.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="attempts")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="attempts")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="attempts")
    protocol = models.ForeignKey(ProtocolVersion, on_delete=models.PROTECT, related_name="attempts")
    kind = models.CharField(max_length=12)
    on = models.DateField()
    variant = models.CharField(max_length=20, blank=True)
    wave = models.PositiveSmallIntegerField(null=True, blank=True)
    try_number = models.PositiveSmallIntegerField(default=1)
    typed = models.CharField(max_length=40)
    value = models.BigIntegerField(null=True, blank=True)
    reason = models.CharField(max_length=12, choices=REASONS, null=True, blank=True)  # noqa: DJ001
    estimate = models.BooleanField(default=False)
    succeeds = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="successor"
    )
    why = models.CharField(max_length=240, blank=True)
    recorded_by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["pupil", "protocol", "on"])]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="attempt_value_or_reason",
                condition=models.Q(value__isnull=False, reason__isnull=True)
                | models.Q(value__isnull=True, reason__isnull=False),
            ),
            models.CheckConstraint(
                name="attempt_reason_is_known",
                condition=models.Q(reason__isnull=True)
                | models.Q(reason__in=[r.value for r in NotDone] + [WITHDRAWN]),
            ),
            models.CheckConstraint(
                name="attempt_value_within_its_kind",
                condition=models.Q(value__isnull=True)
                | models.Q(kind=Kind.COUNT.value, value__range=(0, 100_000))
                | models.Q(kind=Kind.TIME.value, value__range=(0, 24 * 3_600_000))
                | models.Q(kind=Kind.LENGTH.value, value__range=(0, 10_000_000)),
            ),
            models.CheckConstraint(
                name="attempt_estimate_has_a_value",
                condition=models.Q(estimate=False) | models.Q(value__isnull=False),
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
