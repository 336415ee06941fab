"""Attempts and what was decided about them. Rows here are added, never changed."""

from __future__ import annotations

import uuid
from functools import reduce
from operator import or_
from typing import ClassVar

from django.db import models

from lauf.catalogue.models import ProtocolVersion, Test
from lauf.lessons.models import Activity, Lesson, Run
from lauf.messages import say
from lauf.people.models import Pupil, School, SchoolClass, Staff
from lauf.rules.body.pulse import COUNT_SECONDS, HIGHEST_BPM, LOWEST_BPM, Moment
from lauf.rules.judging.attention import Need
from lauf.rules.reading.clocks import EARLIEST, LATEST
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import Dimension
from lauf.rules.reading.reasons import REASON_WORDS, NotDone

#: An entry taken back by undo: the child's row is empty again, the history is not.
WITHDRAWN = "withdrawn"
REASONS = [(reason.value, words) for reason, words in REASON_WORDS.items()] + [
    (WITHDRAWN, say("undone"))
]


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
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="attempts")
    pupil = models.ForeignKey(Pupil, on_delete=models.PROTECT, related_name="attempts")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="attempts")
    protocol = models.ForeignKey(ProtocolVersion, on_delete=models.PROTECT, related_name="attempts")
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
    recorded_at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        indexes: ClassVar = [models.Index(fields=["pupil", "protocol", "on"])]
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


class Aim(models.Model):
    """What a child said it would do in a test of a lesson, before it did: in one form of the
    movement. It stays as it was said once the child has a score."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="aims")
    pupil = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="aims")
    typed = models.CharField(max_length=180)
    value = models.BigIntegerField()
    variant = models.CharField(max_length=20, blank=True)
    # Lauf's proposal was taken as it was.
    proposed = models.BooleanField(default=False)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["activity", "pupil"], name="aim_once_an_activity")
        ]

    def __str__(self) -> str:
        return f"{self.pupil} says {self.typed}"


class GroupAim(models.Model):
    """What a group of a class ("" for all of it) said it would do together, before it began."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="group_aims")
    group = models.CharField(max_length=40, blank=True)
    value = models.PositiveIntegerField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["activity", "group"], name="group_aim_once_an_activity")
        ]

    def __str__(self) -> str:
        return f"{self.group or 'the class'} says {self.value}"


class SetAside(models.Model):
    """A teacher has looked at what the class board notes of a child, and says why it is all right.
    It holds as long as the note says the same."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pupil = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="set_aside")
    # See rules.attention.
    need = models.CharField(max_length=12, choices=[(n.value, n.value) for n in Need])
    words = models.CharField(max_length=1000)
    why = models.CharField(max_length=240)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["pupil", "need"], name="set_aside_once_a_need"),
            models.CheckConstraint(
                name="set_aside_need_is_known",
                condition=models.Q(need__in=[n.value for n in Need]),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.need} of {self.pupil} set aside by {self.by}"


class FamilyLine(models.Model):
    """A line from the teacher in a child's report to its family; the newest one counts."""

    pupil = models.OneToOneField(
        Pupil, on_delete=models.CASCADE, primary_key=True, related_name="family_line"
    )
    text = models.CharField(max_length=300)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"line for the family of {self.pupil}"


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
