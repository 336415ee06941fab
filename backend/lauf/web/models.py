"""What the web keeps of guests: how often they guessed wrong."""

from __future__ import annotations

from typing import ClassVar

from django.db import models
from django.db.models.functions import Now


class Guess(models.Model):
    """One wrong guess of a password or a code, for a quarter of an hour.

    `key` is of whom: a name as a digest, an address, a device. A database that fell over may have
    forgotten it.
    """

    key = models.CharField(max_length=200)
    at = models.DateTimeField(db_default=Now())

    class Meta:
        indexes: ClassVar = [
            models.Index(fields=["key", "at"], name="guess_by_key"),
            models.Index(fields=["at"], name="guess_by_time"),
        ]

    def __str__(self) -> str:
        return f"{self.key} at {self.at:%H:%M:%S}"
