"""A teacher's words about a child."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models

from lauf.people.models import Pupil, Staff
from lauf.rules.judging.attention import Need


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
