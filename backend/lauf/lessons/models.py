"""Models of lessons."""

from __future__ import annotations

import uuid
from typing import Any, ClassVar

from django.db import models
from django.db.models.functions import Now

from lauf.catalogue.models import Battery, ProtocolVersion
from lauf.messages import say
from lauf.people.models import Pupil, School, SchoolClass, Staff, YearGroup
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.planning.care import Care
from lauf.rules.reading.clocks import EARLIEST, LATEST, Way


class Slot(models.Model):
    """A lesson of every week: what the timetable makes lessons of, on days of a term."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school_class = models.ForeignKey(SchoolClass, on_delete=models.CASCADE, related_name="slots")
    teacher = models.ForeignKey(Staff, on_delete=models.CASCADE, related_name="slots")
    # 0 is Monday.
    weekday = models.PositiveSmallIntegerField()
    at = models.TimeField()
    minutes = models.PositiveSmallIntegerField(default=40)
    place = models.CharField(max_length=60)
    # A calendar asks when an entry was last revised.
    changed_at = models.DateTimeField(auto_now=True, db_default=Now())

    class Meta:
        ordering: ClassVar = ["weekday", "at"]
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["school_class", "weekday", "at"], name="slot_of_a_class_once"
            ),
            models.CheckConstraint(
                name="slot_is_in_a_week",
                condition=models.Q(weekday__lte=6, minutes__range=(5, 240)),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.school_class}, day {self.weekday}, {self.at:%H:%M}"


class Lesson(models.Model):
    """One lesson of one class."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="lessons")
    school_class = models.ForeignKey(SchoolClass, on_delete=models.PROTECT, related_name="lessons")
    # The class's year group then: a class moves up, what was scored in it does not.
    year_group = models.ForeignKey(YearGroup, on_delete=models.PROTECT, related_name="+")
    teacher = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="lessons")
    place = models.CharField(max_length=60)
    starts_at = models.DateTimeField()
    minutes = models.PositiveSmallIntegerField(default=40)
    # A battery is filled over several days: its scores carry the day they were taken on.
    battery = models.ForeignKey(
        Battery, on_delete=models.PROTECT, null=True, blank=True, related_name="sittings"
    )
    # Counts the changes of the plan: one made to an older plan is not lost, it is told.
    plan_revision = models.PositiveIntegerField(default=0)
    # When it was last moved or planned anew: a calendar asks for it.
    changed_at = models.DateTimeField(auto_now=True, db_default=Now())
    closed_at = models.DateTimeField(null=True, blank=True)
    closed_by = models.ForeignKey(
        Staff, on_delete=models.PROTECT, null=True, blank=True, related_name="+"
    )

    class Meta:
        ordering: ClassVar = ["starts_at", "id"]
        indexes: ClassVar = [
            models.Index(fields=["school", "starts_at"]),
            # Of all there ever were, few are open: Today looks for those that wait.
            models.Index(
                fields=["school", "starts_at"],
                condition=models.Q(closed_at=None),
                name="lesson_open",
            ),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="lesson_closed_by_somebody",
                condition=models.Q(closed_at=None, closed_by=None)
                | models.Q(closed_at__isnull=False, closed_by__isnull=False),
            ),
            models.CheckConstraint(
                name="lesson_is_of_this_age",
                condition=models.Q(starts_at__range=(EARLIEST, LATEST)),
            ),
            # However often a battery is begun at once, it is one sitting.
            models.UniqueConstraint(
                fields=["battery", "school_class"],
                condition=models.Q(closed_at=None, battery__isnull=False),
                name="sitting_open_once",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.school_class} on {self.starts_at:%Y-%m-%d}"

    def save(self, *words: Any, **more: Any) -> None:
        """A new lesson is of the year group that its class is in now."""
        if self.year_group_id is None:
            self.year_group_id = self.school_class.year_group_id
        super().save(*words, **more)


class Activity(models.Model):
    """One test done in a lesson, under one protocol version."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lesson = models.ForeignKey(Lesson, on_delete=models.PROTECT, related_name="activities")
    position = models.PositiveSmallIntegerField(default=0)
    protocol = models.ForeignKey(
        ProtocolVersion, on_delete=models.PROTECT, related_name="activities"
    )
    # Free conditions set once for the class; a child's own go with the attempt.
    conditions = models.JSONField(default=dict, blank=True)
    # A helper has counted something of it beside a score of somebody else's.
    counted_twice = models.BooleanField(default=False)

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["lesson", "position"], name="activity_position_once")
        ]

    def __str__(self) -> str:
        return f"{self.protocol.test} in {self.lesson}"


class Allowed(models.Model):
    """The teacher's word that a child does, in this lesson, what it is otherwise kept from: the
    note is out of date, or the family has said so this morning."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="allowed")
    pupil = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="allowed")
    what = models.CharField(max_length=12, choices=[(one.value, one.value) for one in Care])
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["lesson", "pupil", "what"], name="allowed_once"),
            models.CheckConstraint(
                name="allowed_is_known",
                condition=models.Q(what__in=[one.value for one in Care]),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.pupil} may: {self.what}"


class PlanBlock(models.Model):
    """One block of a lesson's plan. `settings` holds what its kind needs: `plans.read_block`."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="blocks")
    position = models.PositiveSmallIntegerField()
    kind = models.CharField(max_length=12, choices=[(k.value, k.value) for k in BlockKind])
    label = models.CharField(max_length=80)
    settings = models.JSONField(default=dict, blank=True)
    # The test a test wave is of, or that a rep target or what is called to a beat counts for.
    activity = models.OneToOneField(
        Activity, on_delete=models.CASCADE, null=True, blank=True, related_name="block"
    )

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["lesson", "position"],
                name="block_position_once",
                deferrable=models.Deferrable.DEFERRED,
            ),
            models.CheckConstraint(
                name="block_kind_is_known",
                condition=models.Q(kind__in=[k.value for k in BlockKind]),
            ),
            models.CheckConstraint(
                name="block_of_a_test_has_its_activity",
                condition=models.Q(kind=BlockKind.TEST.value, activity__isnull=False)
                | models.Q(kind__in=[BlockKind.REP_TARGET.value, BlockKind.BEATS.value])
                | (~models.Q(kind=BlockKind.TEST.value) & models.Q(activity__isnull=True)),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.position}: {self.label}"


class PlanRevision(models.Model):
    """A plan as it was kept once: what a conductor that began with it goes on by, whatever is
    planned meanwhile. `entries` are the blocks as `queries.plans` reads them, with their ids."""

    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    entries = models.JSONField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["number"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["lesson", "number"], name="plan_revision_once")
        ]

    def __str__(self) -> str:
        return f"plan {self.number} of {self.lesson}"


class Conduct(models.Model):
    """The conductor of a lesson: the whole state of its clock over the plan's timeline, so that a
    reload, another device or the projector takes it up where it is.

    timeline  the timeline it goes by, of the plan revision it began with: later changes of the plan
              do not touch it
    state     anchor_ms, paused_ms, pauses (as in `Run`), edits [{segment, add_ms}, …], swaps
              [{segment, was, label, activity_id}, …], what the wall shows, and what was really
              done [{segment, seconds, planned, block, label}, …]; segments by their ids
    """

    lesson = models.OneToOneField(
        Lesson, on_delete=models.CASCADE, primary_key=True, related_name="conduct"
    )
    # A new start of the conductor has a new id; changes of one count up.
    run_id = models.UUIDField()
    revision = models.PositiveIntegerField()
    plan_revision = models.PositiveIntegerField()
    timeline = models.JSONField(null=True, blank=True)
    state = models.JSONField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)

    def __str__(self) -> str:
        return f"conductor of {self.lesson}"


class PlanTemplate(models.Model):
    """A plan to use again. `blocks` are entries as `plans.read_plan` reads them, tests by slug."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="plan_templates")
    name = models.CharField(max_length=60)
    minutes = models.PositiveSmallIntegerField()
    blocks = models.JSONField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="template_name_once")
        ]

    def __str__(self) -> str:
        return self.name


class Run(models.Model):
    """One run of a clock in an activity: the whole state of the clock, so that any device can take
    it up, and what was really done once it has ended.

    The clock shows (now − anchor), or `paused_ms` while it is paused; `go_ms` of it is the start of
    the effort. `pauses` are those that are over, [{from_ms, to_ms}, …]: what the clock showed at
    any moment follows from them (see `rules.clocks`). Milliseconds, moments since 1970.
    """

    class Ended(models.TextChoices):
        COMPLETE = "complete", say("ran to its end")
        EARLY = "early", say("stopped early")
        RESTARTED = "restarted", say("started again")

    id = models.UUIDField(primary_key=True, editable=False)
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="runs")
    way = models.CharField(
        max_length=10, choices=[(way.value, way.value) for way in Way], default=Way.WAVE.value
    )
    wave = models.PositiveSmallIntegerField(null=True, blank=True)
    try_number = models.PositiveSmallIntegerField(default=1)
    # Counts the changes of this run: an older one that arrives late changes nothing.
    revision = models.PositiveIntegerField()
    anchor_ms = models.BigIntegerField()
    go_ms = models.PositiveIntegerField(default=0)
    paused_ms = models.BigIntegerField(null=True, blank=True)
    pauses = models.JSONField(default=list, blank=True)
    ended = models.CharField(max_length=10, choices=Ended, blank=True)
    worked_seconds = models.PositiveIntegerField(null=True, blank=True)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering: ClassVar = ["wave", "anchor_ms"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="run_ended_is_known",
                condition=models.Q(ended__in=["", "complete", "early", "restarted"]),
            ),
            models.CheckConstraint(
                name="run_way_is_known", condition=models.Q(way__in=[way.value for way in Way])
            ),
            models.CheckConstraint(
                name="run_of_a_wave_has_one",
                condition=~models.Q(way=Way.WAVE.value) | models.Q(wave__isnull=False),
            ),
            models.CheckConstraint(
                name="run_says_what_was_worked",
                condition=models.Q(ended__in=["", "restarted"])
                | models.Q(worked_seconds__isnull=False)
                | ~models.Q(way=Way.WAVE.value),
            ),
            # At most one run of a wave is the one whose scores count.
            models.UniqueConstraint(
                fields=["activity", "wave"],
                condition=models.Q(way=Way.WAVE.value, ended__in=["complete", "early"]),
                name="run_that_counts_once",
            ),
        ]

    def __str__(self) -> str:
        return f"{self.way} {self.wave or ''} of {self.activity}"


class HelperCode(models.Model):
    """What opens one lesson to helpers while it runs: `code` is read out or typed, `secret` is in
    the square that a phone reads. Both stand here as they are, to be shown again: they open scores
    of one lesson, for hours."""

    lesson = models.OneToOneField(
        Lesson, on_delete=models.CASCADE, primary_key=True, related_name="helper_code"
    )
    code = models.CharField(max_length=12, unique=True)
    secret = models.CharField(max_length=40, unique=True)
    until = models.DateTimeField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")

    def __str__(self) -> str:
        return f"helpers of {self.lesson}"


class Helper(models.Model):
    """Somebody who helps in one lesson without an account, by the name they gave. The key of their
    device is kept nowhere, only what proves it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    lesson = models.ForeignKey(Lesson, on_delete=models.CASCADE, related_name="helpers")
    name = models.CharField(max_length=40)
    # SHA-256 of the key; None once it opens nothing any more.
    proof = models.CharField(max_length=64, unique=True, null=True, blank=True)
    # The teacher who answers for what is entered.
    let_in_by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    joined_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["joined_at", "id"]

    def __str__(self) -> str:
        return f"{self.name} helps"
