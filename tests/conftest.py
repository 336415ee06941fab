"""Shared by all tests."""

from __future__ import annotations

import os

import pytest
from hypothesis import settings

# The machine that runs the checks may be busy; a slow example is not a wrong one.
settings.register_profile("lauf", deadline=None, max_examples=100)
settings.load_profile("lauf")

#: What takes longest begins first, so that no process is left with it at the end.
LONGEST = ("ops", "browser", "api")


@pytest.hookimpl(trylast=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    def place(item: pytest.Item) -> int:
        room = item.path.parent.name
        return LONGEST.index(room) if room in LONGEST else len(LONGEST)

    items.sort(key=place)


# Playwright's loop lives in the test's thread; the tests still use Django's database plainly.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
