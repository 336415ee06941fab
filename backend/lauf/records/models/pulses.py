"""Pulse counts, and how long hands and steps are."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.lessons.models import Lesson
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.records.models.reasons import REASONS
from lauf.rules.body.pulse import COUNT_SECONDS, HIGHEST_BPM, LOWEST_BPM, Moment
from lauf.rules.reading.clocks import EARLIEST, LATEST


class PulseReading(models.Model):
    """One pulse of one child at one moment of a lesson, or the reason why there is none.

    Beats as counted, in so many seconds (60 for a rate that was read). Append-only, corrected by
    succession, as attempts are.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="pulses")
    lesson = models.ForeignKey(Lesson, on_delete=models.PROTECT, related_name="pulses")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="pulses")
    # Place in the lesson's series: rest, warm-up, each activity, recovery.
    position = models.PositiveSmallIntegerField()
    moment = models.CharField(max_length=10, choices=[(m.value, m.value) for m in Moment])
    label = models.CharField(max_length=80, blank=True)
    waited = models.PositiveSmallIntegerField(null=True, blank=True)
    typed = models.CharField(max_length=20)
    beats = models.PositiveSmallIntegerField(null=True, blank=True)
    seconds = models.PositiveSmallIntegerField(null=True, blank=True)
    reason = models.CharField(max_length=12, choices=REASONS, null=True, blank=True)  # noqa: DJ001
    succeeds = models.OneToOneField(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="successor"
    )
    confirmed = models.BooleanField(default=False)
    recorded_by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="pulse_beats_or_reason",
                condition=models.Q(
                    beats__isnull=False, seconds__in=COUNT_SECONDS, reason__isnull=True
                )
                | models.Q(beats__isnull=True, seconds__isnull=True, reason__isnull=False),
            ),
            models.CheckConstraint(
                name="pulse_is_a_pulse",
                condition=models.Q(beats__isnull=True)
                | models.Q(
                    beats__gte=models.F("seconds") * LOWEST_BPM / 60,
                    beats__lte=models.F("seconds") * HIGHEST_BPM / 60,
                ),
            ),
            models.CheckConstraint(
                name="pulse_is_of_this_age",
                condition=models.Q(recorded_at__range=(EARLIEST, LATEST)),
            ),
            models.UniqueConstraint(
                fields=["lesson", "pupil", "position"],
                condition=models.Q(succeeds__isnull=True),
                name="pulse_one_beginning",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.pupil}: {self.typed}"


class Calibration(models.Model):
    """How long an informal unit is: a child's hand, the class's step, in millimetres."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="calibrations")
    school_class = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, null=True, blank=True, related_name="calibrations"
    )
    pupil = models.ForeignKey(
        Pupil, on_delete=models.PROTECT, null=True, blank=True, related_name="calibrations"
    )
    unit = models.CharField(max_length=12)
    millimetres = models.FloatField()
    on = models.DateField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="calibration_of_a_child_or_a_class",
                condition=models.Q(pupil__isnull=False, school_class__isnull=True)
                | models.Q(pupil__isnull=True, school_class__isnull=False),
            ),
            models.CheckConstraint(
                name="calibration_is_a_length",
                condition=models.Q(millimetres__gt=20, millimetres__lt=3000),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.unit}: {self.millimetres:g} mm"
