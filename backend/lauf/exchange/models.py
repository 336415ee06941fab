"""PDFs on their way, for whichever process is asked for them."""

from __future__ import annotations

import uuid
from typing import ClassVar

from django.db import models


class HandoutJob(models.Model):
    """One PDF: `done` of `of` parts are laid out, and the file once it is there. Of a quarter of an
    hour only, and in no backup: what names a child does not lie about. `touched_at` is when it
    last went on; `owner` is a member of staff."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.UUIDField()
    name = models.CharField(max_length=240)
    of = models.PositiveIntegerField()
    done = models.PositiveIntegerField(default=0)
    problem = models.CharField(max_length=240, blank=True, default="")
    file = models.BinaryField(null=True)
    touched_at = models.DateTimeField()

    class Meta:
        indexes: ClassVar = [models.Index(fields=["touched_at"], name="handout_by_time")]

    def __str__(self) -> str:
        return f"{self.name}: {self.done} of {self.of}"
