"""`./lauf start` when things die, are full, are newer, or are open to a network."""

from __future__ import annotations

import os
import signal
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest

from ops import machine, network
from ops.cluster import DISK_FULL, Cluster
from ops.processes import postgres_on
from ops.serving import Serving, Wish
from tests.ops.installed import Installed
from tests.support.served import wait_for
from tests.support.waits import LIMIT_S


def test_what_dies_is_started_again_and_said(lauf: Installed) -> None:
    """The server, the database, and the one who starts both, who then serves a network."""
    lauf.start("--no-demo")
    lauf.is_well()
    server = lauf.server()
    assert server is not None
    os.kill(server, signal.SIGKILL)
    lauf.heard("the server runs again")
    lauf.is_well()
    assert lauf.server() not in (None, server)
    keeper = lauf.keeper()
    assert keeper is not None
    os.kill(keeper, signal.SIGKILL)
    lauf.heard("the server runs again", times=2)
    lauf.is_well()
    assert lauf.keeper() not in (None, keeper)
    os.kill(lauf.database(), signal.SIGKILL)
    lauf.heard("the database runs again")
    lauf.is_well()
    assert "the server has ended (code -9)" in lauf.said and "the database has ended" in lauf.said
    # Killed itself, it leaves no server without an eye on it; the next start takes the rest over.
    lauf.kill()
    assert wait_for(lauf.server, lambda found: found is None) is None
    assert postgres_on(lauf.home / "data"), "the database goes on"
    lauf.start("--host", "0.0.0.0", "--no-demo")
    lauf.is_well()
    on_a_network_it_says_where_it_is_and_what_that_means(lauf)
    lauf.stop()
    assert not postgres_on(lauf.home / "data") and lauf.server() is None


def test_a_renamed_folder_serves_the_same_school_and_a_newer_one_is_not_touched(
    lauf: Installed, place: Path
) -> None:
    lauf.start("--no-demo")
    assert "set-up code" in wait_for(lambda: lauf.said, lambda said: "set-up code" in said)
    code = (lauf.state / "setup-code").read_text()[:8]
    lauf.stop()
    lauf.folder.rename(place / "renamed")
    lauf.folder = place / "renamed"
    lauf.start("--no-demo")
    assert f"the set-up code is {code}" in wait_for(lambda: lauf.said, lambda said: code in said)
    lauf.stop()
    # A newer Lauf has been here.
    future = "INSERT INTO django_migrations (app, name, applied) VALUES ('lessons', '9_x', now())"
    in_its_database(lauf, future)
    said = lauf.refused("--no-demo")
    assert "last used by a newer Lauf" in said and "lessons 9_x" in said
    # A change that fails leaves everything as it was.
    for forgotten in ("9_x", "0012_group_aims"):
        in_its_database(lauf, f"DELETE FROM django_migrations WHERE name LIKE '{forgotten}'")
    said = lauf.refused("--no-demo")
    assert "could not be brought to this version" in said and "as it was" in said
    assert len([line for line in lauf.lines if "Traceback" in line]) == 0


def in_its_database(lauf: Installed, sql: str) -> None:
    """As its superuser, while it is stopped."""
    import ops.cluster as rooms

    before = rooms.STATE
    rooms.STATE = lauf.state
    try:
        with Cluster("postgres") as cluster, psycopg.connect(cluster.url("lauf")) as connection:
            connection.execute(sql)  # type: ignore[arg-type]
    finally:
        rooms.STATE = before


@pytest.fixture
def small_disk(place: Path) -> Iterator[Path]:
    """A disk of its own with little room."""
    disk = place / "disk"
    disk.mkdir()
    root = [] if os.geteuid() == 0 else ["sudo"]
    options = f"size=150m,mode=755,uid={os.geteuid()}"
    subprocess.run([*root, "mount", "-t", "tmpfs", "-o", options, "none", disk], check=True)
    yield disk
    subprocess.run([*root, "umount", "-l", disk], check=True)


def test_a_full_disk_loses_nothing_and_is_said(small_disk: Path) -> None:
    lauf = Installed(small_disk / "lauf")
    filler = small_disk / "filler"
    try:
        lauf.start("--no-demo")
        lauf.is_well()

        def asked_when_full() -> tuple[int, Any]:
            # The database clears up behind itself now and then.
            _fill(filler)
            return lauf.ask("/api/health")

        status, health = wait_for(asked_when_full, lambda found: found[0] == 503, seconds=30)
        assert (status, health["writing"]) == (503, False), lauf.said
        filler.unlink()
        lauf.is_well()
        lauf.stop()
        _fill(filler)
        said = lauf.refused("--no-demo")
        assert DISK_FULL in said and "Traceback" not in said, said
        filler.unlink()
        lauf.start("--no-demo")
        lauf.is_well()
    finally:
        filler.unlink(missing_ok=True)
        lauf.remove()


def _fill(file: Path) -> None:
    """As much more as there is room for."""
    with file.open("ab", buffering=0) as opened:
        try:
            while True:
                opened.write(b"\0" * 65536)
        except OSError:
            pass
        try:
            while True:
                opened.write(b"\0" * 512)
        except OSError:
            pass


def on_a_network_it_says_where_it_is_and_what_that_means(lauf: Installed) -> None:
    wait_for(lambda: lauf.said, lambda said: "over plain http" in said)
    assert "over plain http whoever is on this network can read" in lauf.said
    for address in network.own_addresses():
        assert f"open http://{address}:{lauf.port}/" in lauf.said
        from_there = subprocess.run(
            ["python3", "-c", _STATUS, f"http://{address}:{lauf.port}/api/session"],
            capture_output=True, text=True,
        )  # fmt: skip
        assert from_there.stdout.strip() == "200", "tablets come in by it"


def test_what_lays_out_pages_is_installed_where_it_is_missing(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    assert machine.missing_packages(checks=True) == [], "the checks have installed all of it"
    monkeypatch.setattr(machine, "find_library", lambda _: None)
    monkeypatch.setattr(machine, "_SIGNS", Path("/no/such/font"))
    assert machine.missing_packages(checks=False) == [
        "libpango-1.0-0", "libpangoft2-1.0-0", "libharfbuzz-subset0", "fonts-dejavu-core",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("host", "demo", "asked_for", "shown"),
    [
        ("127.0.0.1", True, False, "1"),
        ("::1", True, False, "1"),
        ("0.0.0.0", True, False, "0"),
        ("192.0.2.7", True, False, "0"),
        ("0.0.0.0", True, True, "1"),
        ("127.0.0.1", False, True, "0"),
    ],
)
def test_the_demos_passwords_are_shown_at_home_or_when_asked_for(
    host: str, demo: bool, asked_for: bool, shown: str
) -> None:
    served = Serving(Wish(8400, host, demo, asked_for), None, "lauf", "postgresql://x")
    assert served.environment()["LAUF_SHOW_DEMO"] == shown


_STATUS = "import sys, urllib.request as u; print(u.urlopen(sys.argv[1]).status)"


def test_two_that_prepare_at_once_do_it_one_after_the_other(lauf: Installed) -> None:
    """Migrations and the demo, from two processes on one empty database."""
    import ops.cluster as rooms

    before = rooms.STATE
    rooms.STATE = lauf.state
    try:
        with Cluster("postgres") as cluster:
            cluster.ensure_database("lauf_demo")
            environment = {
                **os.environ,
                "DJANGO_SETTINGS_MODULE": "lauf.web.settings",
                "LAUF_DATABASE_URL": cluster.url("lauf_demo"),
            }
            command = [str(lauf.folder / ".venv/bin/python"), "backend/manage.py", "prepare"]
            both = [
                subprocess.Popen(command, cwd=lauf.folder, env=environment, text=True,
                                 stdout=subprocess.PIPE, stderr=subprocess.STDOUT)
                for _ in range(2)
            ]  # fmt: skip
            said = [one.communicate(timeout=LIMIT_S)[0] for one in both]
            assert [one.returncode for one in both] == [0, 0], said
            assert sum("waiting for another start" in one for one in said) >= 1
            with psycopg.connect(cluster.url("lauf_demo")) as connection:
                schools = connection.execute(
                    "SELECT count(*) FROM people_school WHERE is_demo"
                ).fetchone()
                assert schools == (1,)
    finally:
        rooms.STATE = before


def test_the_names_it_answers_to_are_the_networks_even_if_its_own_name_is_loopback(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """On Debian a machine's name stands for 127.0.1.1: tablets were refused."""
    monkeypatch.setattr("socket.gethostname", lambda: "hall")
    monkeypatch.setattr(network, "own_addresses", lambda: ["192.0.2.7"])
    assert {"192.0.2.7", "hall", "hall.local", "127.0.0.1"} <= set(network.names_for("0.0.0.0"))
    assert network.shown_for("0.0.0.0", 8400) == [
        "http://127.0.0.1:8400/",
        "http://192.0.2.7:8400/",
    ]
    assert network.names_for("127.0.0.1") == list(network.LOOPBACK)
