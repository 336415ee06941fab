"""What is kept about tests and benchmarks."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.people.models import School, YearGroup
from lauf.rules.quantities import Better, Kind, Measure


class Test(models.Model):
    """Something that is tested. Its protocol may change; its versions stay."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="tests")
    name = models.CharField(max_length=80)
    slug = models.SlugField(max_length=80)

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
    kind = models.CharField(max_length=12, choices=[(k.value, k.value) for k in Kind])
    better = models.CharField(max_length=4, choices=[(b.value, b.value) for b in Better])
    unit = models.CharField(max_length=12)
    resolution = models.PositiveIntegerField(default=1)
    lowest = models.BigIntegerField(default=0)
    highest = models.BigIntegerField()
    cap = models.BigIntegerField(null=True, blank=True)
    seconds = models.PositiveIntegerField(null=True, blank=True)
    waves = models.PositiveSmallIntegerField(default=1)
    most_a_second = models.FloatField(null=True, blank=True)
    # In canonical units; stands in until the school has enough repeat tests of its own.
    default_typical_error = models.FloatField()
    # [{"code": "full", "name": "full", "key": "f"}, …] from the easiest to the hardest.
    variants = models.JSONField(default=list)
    # Lists of short sentences, read aloud or shown.
    say = models.JSONField(default=list)
    counts = models.JSONField(default=list)
    does_not_count = models.JSONField(default=list)
    cautions = models.JSONField(default=list)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["test", "number"], name="protocol_number_once"),
            # Target of the attempts' composite foreign key: no value outside its kind.
            models.UniqueConstraint(fields=["id", "kind"], name="protocol_id_and_kind"),
            models.CheckConstraint(
                name="protocol_kind_is_known",
                condition=models.Q(kind__in=[k.value for k in Kind]),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.test} (version {self.number})"

    @property
    def measure(self) -> Measure:
        """The protocol's measure, as the rules want it."""
        return Measure(
            kind=Kind(self.kind),
            better=Better(self.better),
            unit=self.unit,
            resolution=self.resolution,
            highest=self.highest,
            lowest=self.lowest,
            cap=self.cap,
        )


class Ladder(models.Model):
    """A year group's rungs for a test, tied to one variant and one length of clock."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    test = models.ForeignKey(Test, on_delete=models.PROTECT, related_name="ladders")
    year_group = models.ForeignKey(YearGroup, on_delete=models.PROTECT, related_name="ladders")
    variant = models.CharField(max_length=20, blank=True)
    seconds = models.PositiveIntegerField(null=True, blank=True)
    source = models.CharField(max_length=120)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["test", "year_group", "variant"], name="ladder_once_a_year_and_variant"
            )
        ]

    def __str__(self) -> str:
        return f"{self.test}, {self.year_group}, {self.variant or 'plain'}"


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
