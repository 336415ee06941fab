"""Classes and children, and what was done with their records."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.db import models
from django.db.models.functions import Upper

from lauf.messages import say
from lauf.people.models.school import House, School, YearGroup
from lauf.people.models.staff import Staff
from lauf.rules.planning.care import Care


def _letters_of(name: str) -> GinIndex:
    """An index of a school's names by every three letters in them."""
    return GinIndex(
        models.F("school"),
        OpClass(Upper(name), name="gin_trgm_ops"),
        name=f"pupil_letters_of_{name}",
    )


class SchoolClass(models.Model):
    """A class of children in one year group."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="classes")
    name = models.CharField(max_length=40)
    year_group = models.ForeignKey(YearGroup, on_delete=models.PROTECT, related_name="classes")
    teachers = models.ManyToManyField(Staff, related_name="classes", blank=True)
    # Its children have gone on: it is in no list any more, its lessons stay.
    closed_on = models.DateField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["year_group__position", "name"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["school", "name"], name="class_name_once")
        ]

    def __str__(self) -> str:
        return self.name


class Pupil(models.Model):
    """A child. Sex and birth date may be unknown: judgements that need them then say so."""

    class Consent(models.TextChoices):
        """What the family has said to height and weight."""

        UNKNOWN = "", say("not asked yet")
        GIVEN = "given", "agreed"
        REFUSED = "refused", say("not agreed")

    class Sex(models.TextChoices):
        FEMALE = "female", say("girl")
        MALE = "male", say("boy")

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.PROTECT, related_name="pupils")
    # Nobody's class is a leaver's: it is in no list, plan or lesson any more; its scores stay.
    school_class = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, related_name="pupils", null=True, blank=True
    )
    left_on = models.DateField(null=True, blank=True)
    left_from = models.ForeignKey(
        SchoolClass, on_delete=models.PROTECT, related_name="leavers", null=True, blank=True
    )
    house = models.ForeignKey(House, on_delete=models.PROTECT, null=True, blank=True)
    given_name = models.CharField(max_length=60)
    family_name = models.CharField(max_length=60, blank=True)
    born = models.DateField(null=True, blank=True)
    sex = models.CharField(max_length=6, choices=Sex, blank=True)
    # The group of its class that it is in, by the group's name; empty for none.
    group = models.CharField(max_length=40, blank=True)
    # Where the child sits or stands in line, counted from 1; 0 until the class was put in order.
    place = models.PositiveSmallIntegerField(default=0)
    # The school's own number for the child, by which the office's next list finds it again.
    number = models.CharField(max_length=40, blank=True)
    # Short and practical ("inhaler in the red bag"): shown before a lesson starts.
    medical_note = models.CharField(max_length=240, blank=True)
    measuring = models.CharField(max_length=8, choices=Consent, blank=True)
    # The record that this one turned out to be a double of; it is in no list any more.
    merged_into = models.ForeignKey(
        "self", on_delete=models.PROTECT, null=True, blank=True, related_name="doubles"
    )
    # The day on which everything that says who it was went; numbers alone are left.
    erased_on = models.DateField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["place", "given_name", "family_name", "id"]
        indexes: ClassVar = [
            models.Index(fields=["school_class", "given_name", "family_name"]),
            # A search looks for letters within names, of this school's children and no others.
            _letters_of("given_name"),
            _letters_of("family_name"),
        ]
        constraints: ClassVar = [
            models.CheckConstraint(
                name="pupil_is_in_a_class_or_has_left_one",
                condition=models.Q(school_class__isnull=False, left_on=None, left_from=None)
                | models.Q(school_class=None, left_on__isnull=False, left_from__isnull=False),
            ),
            models.UniqueConstraint(
                fields=["school", "number"],
                condition=~models.Q(number=""),
                name="pupil_number_once",
            ),
            models.CheckConstraint(
                name="pupil_measuring_is_known",
                condition=models.Q(measuring__in=["", "given", "refused"]),
            ),
            models.CheckConstraint(
                name="pupil_erased_is_nobody",
                condition=models.Q(erased_on=None)
                | models.Q(
                    given_name="",
                    family_name="",
                    born=None,
                    number="",
                    medical_note="",
                    house=None,
                    school_class=None,
                ),
            ),
            models.CheckConstraint(
                name="pupil_merged_is_in_no_class",
                condition=models.Q(merged_into=None) | models.Q(school_class=None),
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def name(self) -> str:
        return f"{self.given_name} {self.family_name}".strip()

    @property
    def last_class(self) -> SchoolClass:
        """The class the child is in, or was in when it left."""
        found = self.school_class or self.left_from
        assert found is not None, "a constraint of the database"
        return found


class Exclusion(models.Model):
    """Something a child is not to do, by its family's, a nurse's or a doctor's word."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    pupil = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="exclusions")
    what = models.CharField(max_length=12, choices=[(one.value, one.value) for one in Care])
    # The last day; None: until it is taken away.
    until = models.DateField(null=True, blank=True)
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering: ClassVar = ["what"]
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["pupil", "what"], name="exclusion_once"),
            models.CheckConstraint(
                name="exclusion_is_known",
                condition=models.Q(what__in=[one.value for one in Care]),
            ),
        ]

    def __str__(self) -> str:
        return f"{self.pupil}: {self.what}"


class Merge(models.Model):
    """Two records that were one child's, made one: what was moved, so that it can go back.

    moved  ids of the rows that were the double's, by table
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    kept = models.ForeignKey(Pupil, on_delete=models.CASCADE, related_name="merges")
    double = models.OneToOneField(Pupil, on_delete=models.CASCADE, related_name="merge")
    moved = models.JSONField()
    # The double's class, None if it had left already.
    was_in = models.ForeignKey(SchoolClass, on_delete=models.PROTECT, null=True, related_name="+")
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return f"{self.double} into {self.kept}"


class MoveUp(models.Model):
    """A whole school gone up a year in one go: what was before, so that it can go back.

    before  {"classes": {id: [name, year group]}, "pupils": {id: [class, place]}, "made": [ids of
            classes that were made by it]}
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    school = models.ForeignKey(School, on_delete=models.CASCADE, related_name="moves_up")
    before = models.JSONField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering: ClassVar = ["-at"]

    def __str__(self) -> str:
        return f"{self.school} moved up on {self.at:%Y-%m-%d}"


class OwnPage(models.Model):
    """A child's own page, opened by a code for some days: own lanes and next aims, nothing else.
    The code itself is kept nowhere, only what proves it."""

    pupil = models.OneToOneField(
        Pupil, on_delete=models.CASCADE, primary_key=True, related_name="own_page"
    )
    # SHA-256 of the code.
    proof = models.CharField(max_length=64, unique=True)
    until = models.DateTimeField()
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, related_name="+")

    def __str__(self) -> str:
        return f"own page of {self.pupil}"
