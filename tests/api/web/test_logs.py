"""What Lauf writes to its own log holds nothing of a row."""

from __future__ import annotations

import logging

import pytest
from django.db import DatabaseError, transaction

from lauf.people.models import Pupil
from lauf.web.logs import WithoutRows
from tests.api.conftest import World


def test_an_error_of_the_database_is_logged_without_the_values_of_its_row(world: World) -> None:
    with pytest.raises(DatabaseError) as failed, transaction.atomic():
        Pupil.objects.create(
            school=world.school, school_class=world.school_class, given_name="Ottilie Planted",
            place=-1,
        )  # fmt: skip
    assert "Ottilie Planted" in str(failed.value), "PostgreSQL says the whole row"
    record = logging.LogRecord(
        "django", logging.ERROR, "x.py", 1, "Internal Server Error: /api/x", (), failed._excinfo
    )
    said = WithoutRows().format(record)
    assert "people_pupil_place_check" in said and "test_logs.py" in said
    assert "Ottilie" not in said and "DETAIL: (left out)" in said
