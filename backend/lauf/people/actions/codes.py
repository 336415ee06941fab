"""Rows that are found by a code."""

from __future__ import annotations

from typing import Any, TypeVar

from django.db import IntegrityError, transaction
from django.db.models import Model

from lauf.people.tokens import new_code

_Row = TypeVar("_Row", bound=Model)


def create_with_code(model: type[_Row], length: int, **fields: Any) -> _Row:
    """A row with a code of so many signs that no other of its kind has."""
    while True:
        code = new_code(length)
        try:
            with transaction.atomic():
                return model._default_manager.create(code=code, **fields)
        except IntegrityError:
            if not model._default_manager.filter(code=code).exists():
                raise
