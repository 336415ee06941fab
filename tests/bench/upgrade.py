"""`./lauf bench upgrade`: a version and the one before it serve one database at the same time,
while it is brought from the older to the newer, under eight writers."""

from __future__ import annotations

import itertools
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from ops.network import free_port
from tests.bench.saying import said
from tests.support.served import ROOT, Served, admin, as_url, drop, manage, wait_for
from tests.support.writers import Writers

NAME = "lauf_upgrade"
SCORES = 300


class Both:
    """Two servers of one database, asked in turn, as a proxy before them would."""

    def __init__(self, *servers: Served) -> None:
        self.servers = servers
        self._turns = itertools.count()

    @property
    def url(self) -> str:
        return self.servers[next(self._turns) % len(self.servers)].url

    def sql(self, query: str, *values: Any) -> list[tuple[Any, ...]]:
        return self.servers[0].sql(query, *values)


class Older(Served):
    """A Lauf of an older commit, from its own files."""

    def __init__(self, root: Path, database: str) -> None:
        super().__init__(database)
        self._root = root

    def start(self) -> None:
        inside = self._root / "backend" / "lauf" / "serving" / "serve.py"
        module = "lauf.serving.serve" if inside.exists() else "lauf.web.serve"
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._process = subprocess.Popen(
            [sys.executable, "-m", module, "--host", "127.0.0.1", "--port", str(self.port)],
            env=_environment(self._root, self.database), cwd=self._root,
        )  # fmt: skip
        self._wait_until_healthy()


def _environment(root: Path, database: str) -> dict[str, str]:
    return {
        **os.environ, "PYTHONPATH": str(root / "backend"), "LAUF_DATABASE_URL": as_url(database),
        "DJANGO_SETTINGS_MODULE": "lauf.web.settings", "LAUF_DEMO": "1",
    }  # fmt: skip


@contextmanager
def older() -> Iterator[tuple[str, Path]]:
    """The version before the last one that changed the database: its commit, and its files."""
    changed = _git(
        "log",
        "-1",
        "--first-parent",
        "-m",
        "--format=%H",
        "--",
        ":(glob)backend/lauf/*/migrations/*.py",
    ).strip()
    commit = _git("rev-parse", f"{changed}^").strip()
    with tempfile.TemporaryDirectory(prefix="lauf-older-") as folder:
        packed = subprocess.run(
            ["git", "archive", commit, "backend"], cwd=ROOT, check=True, capture_output=True
        ).stdout
        subprocess.run(["tar", "-x", "-C", folder], input=packed, check=True)
        yield commit, Path(folder)


def _git(*words: str) -> str:
    return subprocess.run(
        ["git", *words], cwd=ROOT, check=True, capture_output=True, text=True
    ).stdout


def main() -> None:
    with older() as (commit, files):
        drop(NAME)
        with admin() as connection:
            connection.execute(f'CREATE DATABASE "{NAME}"')
        subprocess.run(
            [sys.executable, str(files / "backend/manage.py"), "prepare", "--without-past"],
            env=_environment(files, NAME), check=True, stdout=subprocess.DEVNULL, cwd=files,
        )  # fmt: skip
        old, new = Older(files, NAME), Served(NAME)
        try:
            old.start()
            _upgraded(commit, old, new)
        finally:
            old.stop()
            new.stop()
            drop(NAME)


def _upgraded(commit: str, old: Served, new: Served) -> None:
    both = Both(old)
    writers = Writers(both)  # type: ignore[arg-type]
    writers.start()
    writers.go_on(SCORES)
    before = _changes(old)
    manage(["prepare", "--schema-only"], NAME)
    after = _changes(old)
    writers.go_on(SCORES)
    new.start()
    both.servers = (old, new)
    writers.go_on(SCORES)
    both.servers = (new,)
    old.stop()
    writers.go_on(SCORES)
    wait_for(lambda: old.runs, lambda runs: not runs)
    toll = writers.stop()
    said(
        f"{commit[:9]} and this version at one database, brought through {after - before} "
        f"migrations meanwhile, under 8 writers: {toll} (aim: 0 lost, 0 doubled, 0 otherwise, "
        "what was not answered was sent again)"
    )


def _changes(served: Served) -> int:
    return int(served.sql("SELECT count(*) FROM django_migrations")[0][0])


if __name__ == "__main__":
    main()
