"""What a watcher asks of Lauf."""

from __future__ import annotations

import pytest
from django.db import connection
from django.test import Client

from lauf.web import health


@pytest.mark.django_db
def test_a_look_leaves_the_time_that_a_question_may_take(monkeypatch: pytest.MonkeyPatch) -> None:
    """A transaction around it kept the look's three seconds."""
    monkeypatch.setattr(health, "_last", {})
    before = _may_take()
    assert Client().get("/api/health").json()["writing"]
    assert _may_take() == before


def _may_take() -> str:
    with connection.cursor() as cursor:
        cursor.execute("SHOW statement_timeout")
        (told,) = cursor.fetchone()
    return str(told)
