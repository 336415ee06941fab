"""Shared by all tests."""

from __future__ import annotations

import gc
import os
from collections.abc import Iterator
from typing import Any, Final

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


#: Seconds of all tests of a kind, by its folder, and how many there are.
_TAKEN: Final[dict[str, list[float]]] = {}


def pytest_runtest_logreport(report: pytest.TestReport) -> None:
    """What each kind of test takes is summed up: in the process that tells of them all."""
    kind = report.nodeid.split("/")[1]
    taken = _TAKEN.setdefault(kind, [0.0, 0])
    taken[0] += report.duration
    taken[1] += report.when == "call"


def pytest_terminal_summary(
    terminalreporter: pytest.TerminalReporter, config: pytest.Config
) -> None:
    """Seconds by kind, the longest first, and what the order was drawn by."""
    terminalreporter.write_line(f"--randomly-seed={config.getoption('randomly_seed', None)}")
    for kind, (seconds, tests) in sorted(_TAKEN.items(), key=lambda one: -one[1][0]):
        terminalreporter.write_line(f"{kind:10} {seconds:6.0f} s {tests:5.0f} tests")


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

    name = f"lauf_test_{worker_id}{templates.OWN}"
    templates.copy(templates.migrated(tmp_path_factory, worker_id), name)
    with django_db_blocker.unblock(), templates.connected_to(name):
        yield
    served.drop(name)
