"""What is sent twice is made once."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import IntegrityError, transaction

from lauf.errors import IdTaken


def save_once(row: Any, content: Sequence[str]) -> bool:
    """Keep a row whose id came from the device, and say whether it was not there yet.

    content  fields that the same row sent again has the same; raises IdTaken for another row
    """
    try:
        with transaction.atomic():
            row.save(force_insert=True)
    except IntegrityError:
        stored = type(row).objects.filter(pk=row.pk).first()
        if stored is None:
            raise
        # Another school's is not there for this one, whatever it holds.
        if stored.school_id == row.school_id and any(
            getattr(stored, field) != getattr(row, field) for field in content
        ):
            raise IdTaken from None
        return False
    return True
