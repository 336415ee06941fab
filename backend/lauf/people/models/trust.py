"""Several schools on one Lauf, looked after by one office."""

from __future__ import annotations

import uuid

from django.db import models


class Trust(models.Model):
    """Schools that one office looks after. Its office is a school of its own that has no children:
    who signs in there sees sums of the others, and none of their names."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    office = models.OneToOneField(
        "people.School", on_delete=models.PROTECT, related_name="office_of"
    )

    def __str__(self) -> str:
        return self.name


class SecondPost(models.Model):
    """Somebody who works in two schools signs in by one password: `post` is who they are in the
    second school, `account` whose password and second factor let them in."""

    post = models.OneToOneField(
        "people.Staff", on_delete=models.CASCADE, primary_key=True, related_name="second_post"
    )
    account = models.ForeignKey(
        "people.Staff", on_delete=models.CASCADE, related_name="second_posts"
    )

    def __str__(self) -> str:
        return f"{self.post} by the sign-in of {self.account}"
