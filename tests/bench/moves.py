"""The database as it was at a chosen moment, and a school that moves to another cluster while its
lesson goes on: both compared row by row."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from datetime import UTC, datetime
from pathlib import Path

from tests.bench.cells import Cell, digests, restored_to
from tests.bench.front import Balancer, Front
from tests.bench.saying import said
from tests.support.writers import Writers

#: Rows that change by themselves: who is signed in, and devices that are known.
PASSING = ("django_session", "web_guess", "people_signin")


def to_a_moment(cell: Cell, front: Front, folder: Path) -> None:
    """A backup while devices write, a moment, more writes; then that moment, elsewhere."""
    node = cell.leader
    writers = Writers(front)
    writers.start()
    writers.go_on(40)
    begun = time.monotonic()
    cell.pgbackrest(node, "--type=full", "backup")
    backed_up = time.monotonic() - begun
    writers.go_on(40)
    first = writers.stop()
    moment = datetime.now(UTC)
    then = digests(cell.address())
    time.sleep(1.1)  # whole seconds apart from what comes after it
    later = Writers(front)
    later.start()
    later.go_on(40)
    second = later.stop()
    cell.pgbackrest(node, "check")  # what was written is in the repository
    begun = time.monotonic()
    with restored_to(cell, node, moment, folder) as address:
        took = time.monotonic() - begun
        restored = digests(address)
    wrong = sorted(
        name for name in then if name not in PASSING and then[name] != restored.get(name)
    )
    rows = sum(count for count, _ in then.values())
    said(
        f"back to a moment between {first.acknowledged} and {second.acknowledged} writes: "
        f"{len(then)} tables, {rows} rows, {len(wrong)} tables differ {wrong or ''}; backup "
        f"{backed_up:.1f} s, restore {took:.1f} s"
    )
    assert not wrong


def to_another_cell(
    cell: Cell, other: Cell, balancer: Balancer, front: Front, folder: Path
) -> None:
    """Eight devices write; their school is exported, imported, and its address goes elsewhere."""
    school = front.sql("SELECT id::text FROM people_school WHERE is_demo")[0][0]
    file = folder / "school.zip"
    writers = Writers(front)
    writers.start()
    writers.go_on(80)
    begun = time.monotonic()
    cell.lauf("school", "export", school, str(file))
    exported = time.monotonic() - begun
    imported = other.lauf("school", "import", str(file))
    there = time.monotonic() - begun
    wrong = different_rows(cell.address(), other.address(), school)
    balancer.send_school_to(other)
    waited = time.monotonic() - begun
    writers.seconds_until_all_go_on()
    cell.lauf("school", "erase", school, "--moved-by", str(file))
    left = front.sql("SELECT count(*) FROM people_school WHERE id = %s", school)[0][0]
    writers.go_on(80)
    front.database = other.address()
    toll = writers.stop()
    said(
        f"{imported} exported in {exported:.1f} s, imported in {there - exported:.1f} s; closed to "
        f"its devices for {waited:.1f} s in all; {len(wrong)} tables differ {wrong or ''}; "
        f"{left} of it left behind; {toll}"
    )
    assert not wrong and not left and (toll.lost, toll.doubled, toll.wrong) == (0, 0, 0)


def different_rows(one: str, other: str, school: str) -> list[str]:
    """Tables in which a school's rows are not the same in two databases. Numbers that only a
    database gives to its rows are not compared."""
    found = [_rows_of(address, school) for address in (one, other)]
    return sorted(name for name in found[0] if found[0][name] != found[1][name])


def _rows_of(address: str, school: str) -> dict[str, str]:
    """A sum of each table as the package has it, by a process with that database's settings."""
    environment = {
        **os.environ, "LAUF_DATABASE_URL": address, "DJANGO_SETTINGS_MODULE": "lauf.web.settings",
        "PYTHONPATH": "backend:.",
    }  # fmt: skip
    done = subprocess.run(
        [sys.executable, "-m", "tests.support.rows", school], env=environment, check=True,
        capture_output=True, text=True,
    )  # fmt: skip
    return dict(line.split() for line in done.stdout.splitlines())
