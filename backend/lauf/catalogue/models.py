"""Models of tests and benchmarks."""

from __future__ import annotations

import uuid
from typing import ClassVar, Final

from django.db import models

from lauf.messages import say
from lauf.people.models import Pupil, School, Staff, YearGroup
from lauf.rules.judging.comparability import CALLS, FreeConditions, course_mm
from lauf.rules.judging.tries import Merge
from lauf.rules.reading.quantities import Better, Kind, Measure, in_imperial

#: Families a test is found by.
FAMILIES: Final = [
    ("timed_reps", say("Reps against the clock")),
    ("unbroken", say("Reps in a row")),
    ("hold", say("Held as long as possible")),
    ("work", say("Work done, time taken")),
    ("laps", say("Laps and shuttles in a time")),
    ("distance", say("Distance")),
    ("reach", say("Reach and flexibility")),
    ("aim", say("Hits out of N")),
    ("total", say("Total over movements")),
    ("stages", say("Stages")),
    ("growth", say("Growth")),
]


class Test(models.Model):
    """Something that is tested. Its protocol may change; its versions stay."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="tests")
    name = models.CharField(max_length=80)
    slug = models.SlugField(max_length=80)
    family = models.CharField(max_length=20, choices=FAMILIES, default="timed_reps")
    # Height and weight: seen and entered by staff with the growth permission only.
    private = models.BooleanField(default=False)
    # Came with Lauf; an own one did not.
    ready = models.BooleanField(default=False)

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "slug"], name="test_slug_once")
        ]

    def __str__(self) -> str:
        return self.name


class ProtocolVersion(models.Model):
    """How a test is done and scored. Never changed once used: an edit makes the next version."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    test = models.ForeignKey(Test, on_delete=models.PROTECT, related_name="versions")
    number = models.PositiveSmallIntegerField(default=1)
    # Grows when an edit changes what a score means: scores across it are not compared.
    meaning = models.PositiveSmallIntegerField(default=1)
    changed = models.CharField(max_length=240, blank=True)
    # How it is measured: see rules.quantities.Measure.
    kind = models.CharField(max_length=12, choices=[(k.value, k.value) for k in Kind])
    better = models.CharField(max_length=4, choices=[(b.value, b.value) for b in Better])
    unit = models.CharField(max_length=12)
    resolution = models.PositiveIntegerField(default=1)
    lowest = models.BigIntegerField(default=0)
    highest = models.BigIntegerField()
    cap = models.BigIntegerField(null=True, blank=True)
    of = models.PositiveSmallIntegerField(null=True, blank=True)
    schedule = models.CharField(max_length=8, blank=True)
    target_mm = models.BigIntegerField(null=True, blank=True)
    # Fixed conditions and tries.
    seconds = models.PositiveIntegerField(null=True, blank=True)
    waves = models.PositiveSmallIntegerField(default=1)
    tries = models.PositiveSmallIntegerField(default=1)
    merge = models.CharField(
        max_length=4, choices=[(m.value, m.value) for m in Merge], default=Merge.BEST.value
    )
    # Free conditions with their usual values: {"course_mm": 10000, "ball": "soft, size 3"}.
    conditions = models.JSONField(default=dict, blank=True)
    most_a_second = models.FloatField(null=True, blank=True)
    # Day-to-day variation to begin with, in canonical units; the school's own repeat tests are
    # weighed with it.
    default_typical_error = models.FloatField()
    # Where the noise grows with the level: as a share of the score (0.06 is 6 %), instead.
    error_share = models.FloatField(null=True, blank=True)
    # Where it differs by age: [[completed years, value], …] in order, in the unit of the one above
    # that holds.
    errors_by_age = models.JSONField(default=list, blank=True)
    # What no child of an age lies below or beyond, as far as is known: [[completed years, least,
    # most], …] in order, in canonical units. It is asked about, not refused.
    bounds_by_age = models.JSONField(default=list, blank=True)
    # [{"code": "full", "name": "full", "key": "f"}, …] from the easiest to the hardest.
    variants = models.JSONField(default=list, blank=True)
    # Lists of short sentences, read aloud or shown.
    say = models.JSONField(default=list, blank=True)
    counts = models.JSONField(default=list, blank=True)
    does_not_count = models.JSONField(default=list, blank=True)
    cautions = models.JSONField(default=list, blank=True)
    easier = models.CharField(max_length=240, blank=True)
    harder = models.CharField(max_length=240, blank=True)
    ends = models.CharField(max_length=240, blank=True)
    counted_by = models.CharField(max_length=60, blank=True)
    # What it needs: [{"item": "mat", "each": 2, "of": "pair"}, …], where and for whom.
    kit = models.JSONField(default=list, blank=True)
    space = models.CharField(max_length=120, blank=True)
    places = models.JSONField(default=list, blank=True)
    setup_seconds = models.PositiveIntegerField(default=60)
    trial_seconds = models.PositiveIntegerField(default=60)
    changeover_seconds = models.PositiveIntegerField(default=20)
    # How many perform together; None is everyone of a wave.
    at_once = models.PositiveSmallIntegerField(null=True, blank=True)
    helpers = models.PositiveSmallIntegerField(default=0)
    from_age = models.PositiveSmallIntegerField(default=4)
    to_age = models.PositiveSmallIntegerField(default=11)
    loads = models.JSONField(default=list, blank=True)
    effort = models.CharField(max_length=8, default="high")

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["test", "number"], name="protocol_number_once"),
            # Target of the attempts' composite foreign key: no value outside its kind.
            models.UniqueConstraint(fields=["id", "kind"], name="protocol_id_and_kind"),
            models.CheckConstraint(
                name="protocol_kind_is_known",
                condition=models.Q(kind__in=[k.value for k in Kind]),
            ),
            models.CheckConstraint(
                name="protocol_has_a_try", condition=models.Q(tries__gte=1, waves__gte=1)
            ),
        ]

    def __str__(self) -> str:
        return f"{self.test} (version {self.number})"

    @property
    def variant_codes(self) -> list[str]:
        """The variants a score may be of: "" alone where the test has none."""
        return [variant["code"] for variant in self.variants] or [""]

    @property
    def usual_variant(self) -> str:
        """The form of who has not been tested yet: the one said to be usual, else the easiest; ""
        where there are none."""
        usual = (variant["code"] for variant in self.variants if variant.get("usual"))
        return next(usual, self.variant_codes[0])

    def form_name(self, variant: str) -> str:
        """What a form is called; "" for none."""
        names = (one["name"] for one in self.variants if one["code"] == variant)
        return next(names, "")

    @property
    def measure(self) -> Measure:
        """The protocol's measure, as the rules want it, under its usual conditions."""
        return self.measure_with(self.conditions)

    def measure_with(self, conditions: FreeConditions) -> Measure:
        """The measure under the conditions of one attempt, in the school's choice of units: the
        course gives the lap, and of movements that are called there are no more than the calls."""
        called = str(conditions.get(CALLS, ""))
        measure = Measure(
            kind=Kind(self.kind),
            better=Better(self.better),
            unit=self.unit,
            resolution=self.resolution,
            highest=self.highest,
            lowest=self.lowest,
            cap=int(called) if called.isdecimal() else self.cap,
            of=self.of,
            lap_mm=course_mm(conditions),
            schedule=self.schedule,
            target_mm=self.target_mm,
            variants=tuple(variant["name"] for variant in self.variants),
        )
        return in_imperial(measure) if self.test.school.imperial else measure


class Ladder(models.Model):
    """The rungs of a year group or of ages for a test, perhaps of one sex, tied to one variant and
    one length of clock."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    test = models.ForeignKey(Test, on_delete=models.PROTECT, related_name="ladders")
    year_group = models.ForeignKey(
        YearGroup, on_delete=models.PROTECT, related_name="ladders", null=True, blank=True
    )
    # Or completed years, both included.
    from_age = models.PositiveSmallIntegerField(null=True, blank=True)
    to_age = models.PositiveSmallIntegerField(null=True, blank=True)
    sex = models.CharField(max_length=6, choices=Pupil.Sex, blank=True)
    variant = models.CharField(max_length=20, blank=True)
    seconds = models.PositiveIntegerField(null=True, blank=True)
    meaning = models.PositiveSmallIntegerField(default=1)
    conditions = models.JSONField(default=dict, blank=True)
    source = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["test", "year_group", "from_age", "sex", "variant"],
                name="ladder_once_a_year_sex_and_variant",
                nulls_distinct=False,
            ),
            models.CheckConstraint(
                name="ladder_is_for_a_year_or_for_ages",
                condition=models.Q(year_group__isnull=False, from_age=None, to_age=None)
                | models.Q(
                    year_group=None, from_age__isnull=False, to_age__gte=models.F("from_age")
                ),
            ),
        ]

    def __str__(self) -> str:
        whose = self.year_group or f"ages {self.from_age}–{self.to_age}"
        return f"{self.test}, {whose}, {self.variant or 'plain'}"


class LadderRung(models.Model):
    """One rung: "at least" the threshold (for lower-is-better: at most), or only beyond it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    ladder = models.ForeignKey(Ladder, on_delete=models.CASCADE, related_name="rungs")
    position = models.PositiveSmallIntegerField()
    name = models.CharField(max_length=40)
    threshold = models.BigIntegerField()
    beyond = models.BooleanField(default=False)

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["ladder", "position"], name="rung_position_once")
        ]

    def __str__(self) -> str:
        return self.name


class NormTable(models.Model):
    """A published norm for a test: percentiles or LMS by age and sex, with where it comes from."""

    class Form(models.TextChoices):
        PERCENTILES = "percentiles", "percentiles"
        LMS = "lms", "L, M, S"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="norm_tables")
    test = models.ForeignKey(Test, on_delete=models.PROTECT, related_name="norm_tables")
    variant = models.CharField(max_length=20, blank=True)
    seconds = models.PositiveIntegerField(null=True, blank=True)
    meaning = models.PositiveSmallIntegerField(default=1)
    name = models.CharField(max_length=120)
    source = models.CharField(max_length=240)
    population = models.CharField(max_length=120)
    year = models.PositiveSmallIntegerField()
    # How far it can be trusted: "public domain", "values written from memory", …
    standing = models.CharField(max_length=240)
    form = models.CharField(max_length=12, choices=Form)
    # One unit of the table in canonical units: 10 for centimetres, 1000 for seconds.
    unit_size = models.FloatField(default=1)
    unit = models.CharField(max_length=12)
    at_points = models.BooleanField(default=False)
    percentiles = models.JSONField(default=list, blank=True)
    # [[sex, age, [score, …] or [L, M, S]], …]
    rows = models.JSONField()

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="norm_form_is_known", condition=models.Q(form__in=["percentiles", "lms"])
            )
        ]

    def __str__(self) -> str:
        return self.name


class Battery(models.Model):
    """A named set of tests given together, such as a term assessment."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="batteries")
    name = models.CharField(max_length=80)
    tests: models.ManyToManyField[Test, BatteryTest] = models.ManyToManyField(
        Test, through="BatteryTest", related_name="batteries"
    )

    class Meta:
        ordering: ClassVar = ["name"]
        verbose_name_plural = "batteries"
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="battery_name_once")
        ]

    def __str__(self) -> str:
        return self.name


class BatteryTest(models.Model):
    """The place of a test in a battery."""

    battery = models.ForeignKey(Battery, on_delete=models.CASCADE, related_name="places")
    test = models.ForeignKey(Test, on_delete=models.PROTECT)
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["battery", "position"], name="battery_place_once"),
            models.UniqueConstraint(fields=["battery", "test"], name="battery_test_once"),
        ]

    def __str__(self) -> str:
        return f"{self.position}: {self.test}"


class Course(models.Model):
    """A measured course of the school: a loop, or a line run to and fro."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="courses")
    name = models.CharField(max_length=60)
    lap_mm = models.PositiveIntegerField()
    # "measured" in metres, or "stepped": so many steps of so many millimetres.
    steps = models.FloatField(null=True, blank=True)
    step_mm = models.PositiveIntegerField(null=True, blank=True)
    # Who measured it; not known of those from before it was written down.
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, null=True, blank=True, related_name="+")

    class Meta:
        ordering: ClassVar = ["name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="course_name_once"),
            models.CheckConstraint(
                name="course_has_a_length", condition=models.Q(lap_mm__range=(1000, 5_000_000))
            ),
        ]

    def __str__(self) -> str:
        return self.name
