"""The data of a Lauf through renamed folders, copied ones, killed starts and other machines: found
again, or said to be missing; never begun anew beside what is there."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest

from ops import cluster as rooms
from ops.cluster import Cluster
from ops.machine import Lacking, postgres_programs
from ops.processes import postgres_on
from tests.support.served import wait_for
from tests.support.waits import LIMIT_S


@pytest.fixture
def place(monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A folder for data, reachable by PostgreSQL's own user. What lies elsewhere lies beside it."""
    made = Path(tempfile.mkdtemp(prefix="lauf-ops-"))
    made.chmod(0o755)
    monkeypatch.setattr(rooms, "_ELSEWHERE", made / "elsewhere")
    yield made
    for data in made.rglob("data"):
        for process in postgres_on(data):
            os.kill(process, signal.SIGKILL)
    shutil.rmtree(made, ignore_errors=True)


@pytest.fixture
def state(place: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    return live_in(place / "installed", monkeypatch)


def live_in(folder: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """As if Lauf were installed in this folder."""
    folder.mkdir(exist_ok=True)
    (folder / ".lauf").mkdir(exist_ok=True)
    monkeypatch.setattr(rooms, "ROOT", folder)
    monkeypatch.setattr(rooms, "STATE", folder / ".lauf")
    return folder / ".lauf"


def put(cluster: Cluster, words: str) -> None:
    cluster.ensure_database("lauf")
    with psycopg.connect(cluster.url("lauf")) as connection:
        connection.execute("CREATE TABLE IF NOT EXISTS kept (words text)")
        connection.execute("INSERT INTO kept VALUES (%s)", [words])


def kept(cluster: Cluster) -> list[str]:
    with psycopg.connect(cluster.url("lauf")) as connection:
        return [row[0] for row in connection.execute("SELECT words FROM kept")]


def test_a_renamed_folder_finds_its_data_again(
    state: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    with Cluster("postgres") as one:
        put(one, "a score")
    folder = state.parent
    folder.rename(folder.with_name("renamed"))
    live_in(folder.with_name("renamed"), monkeypatch)
    with Cluster("postgres") as again:
        assert kept(again) == ["a score"]


def test_one_that_root_keeps_elsewhere_is_found_after_a_rename_too(
    place: Path, state: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A new, empty cluster was made, and the only password of the old one overwritten."""
    elsewhere = place / "elsewhere" / "ab12" / "postgres"
    monkeypatch.setattr(Cluster, "_place", lambda _: elsewhere)
    with Cluster("postgres") as one:
        assert one.home == elsewhere
        put(one, "a score")
    state.parent.rename(place / "renamed")
    live_in(place / "renamed", monkeypatch)
    with Cluster("postgres") as again:
        assert kept(again) == ["a score"]
    # A copy of the folder is told that somebody works there.
    shutil.copytree(place / "renamed", place / "copy")
    with Cluster("postgres"):
        live_in(place / "copy", monkeypatch)
        with pytest.raises(Lacking, match=r"Another \./lauf works with the data"):
            Cluster("postgres").__enter__()


def test_data_that_is_not_there_is_said_to_be_missing_and_nothing_is_begun(state: Path) -> None:
    with Cluster("postgres") as one:
        put(one, "a score")
        home = one.home
    written = (state / "postgres.json").read_text()
    home.rename(home.with_name("away"))
    with pytest.raises(Lacking, match="Put it back there") as said:
        Cluster("postgres").__enter__()
    assert str(home) in str(said.value)
    assert (state / "postgres.json").read_text() == written, "what opens it is still known"
    shutil.rmtree(home, ignore_errors=True)
    home.with_name("away").rename(home)
    with Cluster("postgres") as again:
        assert kept(again) == ["a score"]
    # What says where it is and what opens it cannot be read: that is no new beginning either.
    (state / "postgres.json").write_text(written[:20])
    with pytest.raises(Lacking, match="Put a copy of it back"):
        Cluster("postgres").__enter__()


def former(state: Path, cluster: Cluster) -> dict[str, Any]:
    """As a Lauf from before places were written down had left it."""
    found = dict(json.loads((state / "postgres.json").read_text()))
    (state / "postgres.password").write_text(found["superuser"])
    (state / "postgres.json").unlink()
    assert cluster.home.exists()
    return found


def test_a_cluster_from_before_is_taken_over_with_its_password(state: Path) -> None:
    with Cluster("postgres") as one:
        put(one, "a score")
        # Then everything belonged to the superuser.
        one.ask("postgres", "ALTER DATABASE lauf OWNER TO lauf;")
        one.ask("lauf", "ALTER TABLE kept OWNER TO lauf; ALTER SCHEMA public OWNER TO lauf;")
        one.ask("lauf", "CREATE TABLE n (id int GENERATED ALWAYS AS IDENTITY);")
    former(state, one)
    with Cluster("postgres") as again:
        again.ensure_database("lauf")
        assert kept(again) == ["a score"]
        put(again, "another")
        owners = "SELECT DISTINCT tableowner FROM pg_tables WHERE schemaname = 'public';"
        assert again.ask("lauf", owners) == ["lauf_app"]
    # Its data is away, or its password is: said, and nothing is made.
    former(state, again)
    (state / "postgres.password").rename(state / "away")
    with pytest.raises(Lacking, match="what opens it"):
        Cluster("postgres").__enter__()
    (state / "away").rename(state / "postgres.password")
    again.home.rename(again.home.with_name("gone"))
    with pytest.raises(Lacking, match=r"but not its data\. Was the folder renamed"):
        Cluster("postgres").__enter__()
    assert not (state / "postgres.json").exists() and not again.home.exists()


def test_only_what_is_proved_to_be_ours_is_signalled(state: Path) -> None:
    """A stale postmaster.pid whose number belongs to another process: that one was interrupted."""
    with Cluster("postgres") as one:
        put(one, "a score")
        (server, *_) = one.data.joinpath("postmaster.pid").read_text().split("\n", 1)
        os.kill(int(server), signal.SIGKILL)
        wait_for(lambda: postgres_on(one.data), lambda found: not found)
    other = subprocess.Popen([sys.executable, "-c", "input()"], stdin=subprocess.PIPE)
    file = one.data / "postmaster.pid"
    lines = file.read_text().split("\n")
    file.write_text("\n".join([str(other.pid), *lines[1:]]))
    try:
        with Cluster("postgres") as again:
            assert kept(again) == ["a score"]
            assert other.poll() is None
        assert other.poll() is None
    finally:
        other.communicate(b"\n", timeout=LIMIT_S)
    assert other.returncode == 0, "it ended by itself"


def test_one_left_by_a_killed_start_is_taken_over(state: Path) -> None:
    left = Cluster("postgres").__enter__()
    put(left, "a score")
    port = left.port
    left._open.pop_all()  # as SIGKILL ends it: nothing is tidied up by anybody
    left._lock.close()
    with Cluster("postgres") as again:
        assert again.port != port and kept(again) == ["a score"]


def test_a_database_that_dies_is_there_again_at_the_same_address(state: Path) -> None:
    with Cluster("postgres") as one:
        put(one, "a score")
        url = one.url("lauf")
        server = int(one.data.joinpath("postmaster.pid").read_text().split("\n", 1)[0])
        os.kill(server, signal.SIGKILL)
        wait_for(lambda: one.runs, lambda runs: not runs)
        assert one.revive() and one.url("lauf") == url
        assert kept(one) == ["a score"]


def test_a_cluster_that_was_half_made_is_made(state: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Killed while its files are written, and killed between the last two steps."""

    def cut(self: Cluster, program: str, *words: str, **more: Any) -> bool:
        data = Path(words[1])
        data.mkdir()
        (data / "PG_VERSION").write_text("15\n")
        raise KeyboardInterrupt

    with monkeypatch.context() as patched:
        patched.setattr(Cluster, "_run", cut)
        with pytest.raises(KeyboardInterrupt):
            Cluster("postgres").__enter__()
    with Cluster("postgres") as one:
        put(one, "a score")
        data = one.data
    data.rename(data.with_name("data.new"))
    with Cluster("postgres") as again:
        assert kept(again) == ["a score"]


def test_data_of_another_major_version_is_not_touched(state: Path) -> None:
    with Cluster("postgres") as one:
        put(one, "a score")
    version = one.data / "PG_VERSION"
    was = version.read_text()
    version.write_text("14\n")
    with pytest.raises(Lacking, match="apt-get install postgresql-14"):
        Cluster("postgres").__enter__()
    version.write_text(was)
    with Cluster("postgres") as again:
        assert kept(again) == ["a score"]
    assert postgres_programs(int(was)) is not None


def test_the_application_is_no_superuser_and_no_command_line_holds_a_password(
    state: Path,
) -> None:
    seen: set[str] = set()
    watching = subprocess.Popen(
        [sys.executable, "-c", _WATCH], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
    )
    with Cluster("postgres") as one:
        put(one, "a score")
        rights = "SELECT rolsuper, rolcreaterole, rolcreatedb, rolreplication FROM pg_roles"
        assert one.ask("postgres", f"{rights} WHERE rolname = 'lauf_app';") == ["f|f|f|f"]
        assert one.ask("postgres", "SHOW data_checksums;") == ["on"]
        with psycopg.connect(one.url("lauf")) as connection:
            assert connection.execute("SELECT current_user").fetchone() == ("lauf_app",)
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                connection.execute("COPY (SELECT 1) TO PROGRAM 'true'")
    said, _ = watching.communicate("\n", timeout=LIMIT_S)
    seen.update(json.loads(said))
    passwords = json.loads((state / "postgres.json").read_text())
    assert any("initdb" in line for line in seen), "it was watched"
    for name in ("superuser", "application"):
        assert not [line for line in seen if passwords[name] in line], name
    assert (state / "postgres.json").stat().st_mode & 0o077 == 0


#: Every command line there was until it is told to end.
_WATCH = """
import json, pathlib, select, sys
seen = set()
while not select.select([sys.stdin], [], [], 0.002)[0]:
    for path in pathlib.Path("/proc").glob("[0-9]*/cmdline"):
        try:
            seen.add(path.read_text(errors="replace").replace(chr(0), " "))
        except OSError:
            pass
print(json.dumps(sorted(seen)))
"""


def test_the_log_of_the_database_holds_no_names(state: Path) -> None:
    """A row that is refused, a statement that fails, a question that takes too long."""
    with Cluster("postgres") as one:
        put(one, "a score")
        with psycopg.connect(one.url("lauf"), autocommit=True) as connection:
            connection.execute("CREATE TABLE child (name text UNIQUE, n int CHECK (n > 0))")
            connection.execute("INSERT INTO child VALUES ('Ottilie Planted', 1)")
            for asked in (
                "INSERT INTO child VALUES (%s, 2)",
                "INSERT INTO child SELECT %s, -1",
                "SELECT pg_sleep(9) WHERE 'x' <> %s",
            ):
                connection.execute("SET statement_timeout = 100")
                with pytest.raises(psycopg.Error):
                    connection.execute(asked, ["Ottilie Planted"])
        log = (one.home / "server.log").read_text()
    assert "child_name_key" in log and "statement timeout" in log
    assert "Ottilie" not in log and "Planted" not in log


@pytest.mark.parametrize("program", ["initdb", "pg_ctl"])
def test_a_full_disk_is_said_in_one_sentence(
    state: Path, monkeypatch: pytest.MonkeyPatch, program: str
) -> None:
    real = Cluster._run

    def full(self: Cluster, name: str, *words: str, may_fail: bool = False) -> bool:
        if name != program:
            return real(self, name, *words, may_fail=may_fail)
        if may_fail:
            said = "FATAL: could not write lock file: No space left on device\n"
            (self.home / "server.log").write_text(said)
            return False
        raise Lacking(rooms._plainly("initdb: error: No space left on device"))

    monkeypatch.setattr(Cluster, "_run", full)
    with pytest.raises(Lacking) as said:
        Cluster("postgres").__enter__()
    assert str(said.value) == rooms.DISK_FULL
    monkeypatch.setattr(Cluster, "_run", real)
    for log in state.glob("*/server.log"):
        log.unlink()
    with Cluster("postgres") as again:
        put(again, "a score")
