"""What keeps counts from telling single children."""

from __future__ import annotations

from typing import ClassVar

from django.contrib.postgres.fields import ArrayField
from django.db import models


class CountedGroup(models.Model):
    """A group of children that was counted in the last day (`progress.school.disclosure`). `of` and
    `asked` are digests of which scores, and of how the group was asked for."""

    of = models.CharField(max_length=64)
    asked = models.CharField(max_length=64)
    children = ArrayField(models.UUIDField())
    at = models.DateTimeField()

    class Meta:
        ordering: ClassVar = ["id"]
        indexes: ClassVar = [models.Index(fields=["of", "at"], name="counted_of")]

    def __str__(self) -> str:
        return f"{len(self.children)} children at {self.at:%H:%M}"
