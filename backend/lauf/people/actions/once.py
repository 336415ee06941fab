"""What is sent twice is made once."""

from __future__ import annotations

from django.db import IntegrityError, transaction
from django.db.models import Model


def is_new(row: Model) -> bool:
    """Keep a row whose id came from the device, and say whether it was not there yet."""
    try:
        with transaction.atomic():
            row.save(force_insert=True)
    except IntegrityError:
        return False
    return True
