"""Models of a school: its year groups, houses and terms."""

from __future__ import annotations

import uuid
from typing import ClassVar, Final

from django.db import models

from lauf.messages import say
from lauf.rules.body.ages import CutOff

#: Days a sign-in lasts without use at most.
MOST_IDLE_DAYS: Final = 60


class School(models.Model):
    """One school. Every other row belongs to exactly one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    # The day on which year groups change; schools differ.
    cut_off_month = models.PositiveSmallIntegerField(default=9)
    cut_off_day = models.PositiveSmallIntegerField(default=1)
    is_demo = models.BooleanField(default=False)
    # Units shown: lengths in cm and m or in feet and inches, weights in kg or lb.
    imperial = models.BooleanField(default=False)
    # Nobody signs in by a password alone.
    second_factor_required = models.BooleanField(default=False)
    # Days without use after which somebody is signed out; on a tablet, which passes from hand to
    # hand, sooner.
    idle_days = models.PositiveSmallIntegerField(default=14)
    tablet_idle_days = models.PositiveSmallIntegerField(default=7)
    # Years after a child has left until it is to be erased; None: the school has not said.
    keep_years = models.PositiveSmallIntegerField(null=True, blank=True)
    # Whether an erased child's scores stay, as numbers of nobody, for the school's own sums.
    scores_outlive = models.BooleanField(default=False)
    # How rungs become one statement over several tests, where the school wants one: see
    # rules.schemes; {} for none.
    scheme = models.JSONField(default=dict, blank=True)
    # The trust it is in, and how many children on roll and staff who sign in that allows it; None:
    # any number.
    trust = models.ForeignKey(
        "people.Trust", on_delete=models.PROTECT, null=True, blank=True, related_name="schools"
    )
    most_children = models.PositiveIntegerField(null=True, blank=True)
    most_staff = models.PositiveIntegerField(null=True, blank=True)
    # Nobody reads or writes anything of it since then, until it is opened again.
    paused_at = models.DateTimeField(null=True, blank=True)
    # Whether what is asked about its scores is kept beside them: not of a school from before that,
    # until it is prepared.
    questions_kept = models.BooleanField(default=True)

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(
                name="school_cut_off_is_a_day",
                condition=models.Q(cut_off_month__range=(1, 12), cut_off_day__range=(1, 28)),
            ),
            models.CheckConstraint(
                name="school_idle_days",
                condition=models.Q(
                    idle_days__range=(1, MOST_IDLE_DAYS),
                    tablet_idle_days__range=(1, MOST_IDLE_DAYS),
                ),
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def cut_off(self) -> CutOff:
        return CutOff(self.cut_off_month, self.cut_off_day)


class TermKind(models.TextChoices):
    """What a stretch of days is."""

    TERM = "term", say("Term")
    HOLIDAY = "holiday", say("Holiday")


class Term(models.Model):
    """A stretch of days in which lessons are held, or (a holiday) are not."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.CASCADE, related_name="terms")
    kind = models.CharField(max_length=8, choices=TermKind, default=TermKind.TERM)
    name = models.CharField(max_length=40)
    # Both days included.
    starts = models.DateField()
    ends = models.DateField()

    class Meta:
        ordering: ClassVar = ["starts", "kind"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="term_ends_after_it_starts",
                condition=models.Q(ends__gte=models.F("starts")),
            ),
            models.CheckConstraint(
                name="term_kind_is_known", condition=models.Q(kind__in=["term", "holiday"])
            ),
        ]

    def __str__(self) -> str:
        return self.name


class YearGroup(models.Model):
    """A year group under the school's own name for it (Year 3, Grade 2, Klasse 3)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="year_groups")
    name = models.CharField(max_length=40)
    position = models.PositiveSmallIntegerField()
    # Completed years on the day before the school year begins.
    age = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="year_group_name_once"),
            models.UniqueConstraint(fields=["school", "position"], name="year_group_position_once"),
        ]

    def __str__(self) -> str:
        return self.name


class House(models.Model):
    """A house, told apart by a shape and a letter as well as a name."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="houses")
    name = models.CharField(max_length=40)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="house_name_once")
        ]

    def __str__(self) -> str:
        return self.name
