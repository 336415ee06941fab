"""What children and groups said they would do."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.lessons.models import Activity
from lauf.people.models import Pupil, Staff


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
