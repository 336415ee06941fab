"""Shared by all tests."""

from __future__ import annotations

import gc
import os
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import settings

# The machine that runs the checks may be busy; a slow example is not a wrong one.
settings.register_profile("lauf", deadline=None, max_examples=100)
settings.load_profile("lauf")

# Playwright's loop lives in the test's thread; the tests still use Django's database plainly.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Those that take longest first: at the end nobody waits for one of them alone."""
    items.sort(key=lambda item: "/ops/" not in item.nodeid)


def pytest_collection_finish() -> None:
    """What has been read by now stays to the end: nobody has to look for waste in it again."""
    gc.collect()
    gc.freeze()


@pytest.fixture(scope="session")
def django_db_setup(
    django_db_blocker: Any, tmp_path_factory: pytest.TempPathFactory, worker_id: str
) -> Iterator[None]:
    """The database of a process: a copy of one that was migrated once for all of them."""
    from tests.support import served, templates

    name = f"lauf_test_{worker_id}"
    templates.copy(templates.migrated(tmp_path_factory, worker_id), name)
    with django_db_blocker.unblock(), templates.connected_to(name):
        yield
    served.drop(name)
