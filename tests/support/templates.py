"""Databases that tests copy from: each is made once for all the processes that share the tests, and
goes with the throwaway cluster."""

from __future__ import annotations

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Final

import pytest

from tests.support.served import admin, drop, manage

#: Where code is broken on purpose, several runs share a cluster and know nothing of each other.
OWN: Final = f"_{os.getpid()}" if "MUTANT_UNDER_TEST" in os.environ else ""
MIGRATED: Final = f"lauf_migrated_template{OWN}"
DEMO: Final = f"lauf_demo_template{OWN}"


def migrated(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> str:
    """A database that was migrated and never set up; its name."""
    return _once(MIGRATED, None, tmp_path_factory, worker_id)


def demo(tmp_path_factory: pytest.TempPathFactory, worker_id: str) -> str:
    """The same with the demo school; its name."""
    migrated(tmp_path_factory, worker_id)
    return _once(DEMO, MIGRATED, tmp_path_factory, worker_id)


def copy(template: str, name: str) -> None:
    drop(name)
    with admin() as connection:
        connection.execute(f'CREATE DATABASE "{name}" TEMPLATE "{template}"')


@contextmanager
def connected_to(name: str) -> Iterator[None]:
    """What this process reads and writes by Django is in this database meanwhile."""
    from django.db import connection

    def turn_to(other: str) -> None:
        connection.close()
        connection.close_pool()
        connection.settings_dict["NAME"] = other

    before = connection.settings_dict["NAME"]
    turn_to(name)
    try:
        yield
    finally:
        turn_to(before)


def _once(
    name: str, origin: str | None, tmp_path_factory: pytest.TempPathFactory, worker_id: str
) -> str:
    shared = tmp_path_factory.getbasetemp()
    shared = shared if worker_id == "master" else shared.parent
    with (shared / name).open("a+") as done:
        fcntl.flock(done, fcntl.LOCK_EX)
        done.seek(0)
        if not done.read():
            if origin is None:
                copy("template1", name)
                manage(["prepare", "--schema-only"], name)
            else:
                copy(origin, name)
                manage(["prepare", "--without-past"], name)
            done.write("made")
    return name
