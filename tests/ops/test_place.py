"""Who may start Lauf in which folder: one sentence with the remedy, and nothing is given to another
user."""

from __future__ import annotations

import os
import pwd
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest

from ops import machine
from ops.cluster import Cluster
from ops.machine import Lacking, check_place, name_of
from tests.ops.installed import Installed
from tests.ops.test_cluster import live_in

ROOT = [] if os.geteuid() == 0 else ["sudo"]
UNKNOWN = pwd.getpwnam("nobody").pw_uid


def owners(folder: Path) -> dict[str, tuple[int, int, int]]:
    """Whose everything below a folder is, and who may what."""
    found = {}
    for path in [folder, *folder.rglob("*")]:
        about = path.lstat()
        found[str(path)] = (about.st_uid, about.st_gid, about.st_mode)
    return found


def one_sentence(said: str) -> str:
    """What it says in the end, without what the shell printed before."""
    assert "Traceback" not in said, said
    (line,) = [one for one in said.splitlines() if one.startswith("lauf: ")]
    return line


def test_data_of_another_user_are_not_taken_over(lauf: Installed) -> None:
    """Root in an ordinary user's folder chowned the data; that user in root's got a traceback."""
    lauf.start("--no-demo")
    lauf.is_well()
    lauf.stop()
    subprocess.run([*ROOT, "chown", "nobody", str(lauf.state)], check=True)
    before = owners(lauf.folder)
    try:
        said = one_sentence(lauf.refused("--no-demo"))
        assert "belong to nobody" in said and f"you are {name_of(os.geteuid())}" in said
        assert "start it as nobody" in said
        assert owners(lauf.folder) == before
    finally:
        subprocess.run([*ROOT, "chown", str(os.geteuid()), str(lauf.state)], check=True)
    # The folder is this user's, and what is in it is not.
    file = lauf.state / "postgres.json"
    data = lauf.home / "data"
    owner = data.stat().st_uid
    subprocess.run([*ROOT, "chown", "nobody", str(data)], check=True)
    before = owners(lauf.folder)
    try:
        said = one_sentence(lauf.refused("--no-demo"))
        assert "belong to nobody" in said and "Nothing was changed" in said
        assert owners(lauf.folder) == before and file.exists()
    finally:
        subprocess.run([*ROOT, "chown", str(owner), str(data)], check=True)
    lauf.start("--no-demo")
    lauf.is_well()


@pytest.fixture
def read_only(place: Path) -> Iterator[Path]:
    """A disk that nothing can be written to."""
    disk = place / "disk"
    disk.mkdir()
    options = f"size=1m,mode=755,uid={os.geteuid()}"
    subprocess.run([*ROOT, "mount", "-t", "tmpfs", "-o", options, "none", disk], check=True)
    (disk / "begun").mkdir()
    (disk / "begun" / ".lauf").mkdir()
    (disk / "fresh").mkdir()
    subprocess.run([*ROOT, "mount", "-o", "remount,ro", disk], check=True)
    yield disk
    subprocess.run([*ROOT, "umount", "-l", disk], check=True)


def test_a_folder_that_is_read_only_is_said_to_be(read_only: Path) -> None:
    with pytest.raises(Lacking, match="copy Lauf into a folder of your own"):
        check_place(read_only / "fresh")
    with pytest.raises(Lacking, match="mounted to be read only"):
        check_place(read_only / "begun")


def test_another_users_folder_is_said_to_be_theirs(tmp_path: Path) -> None:
    (tmp_path / ".lauf").mkdir()
    with pytest.raises(Lacking, match=f"belong to {name_of(os.geteuid())}, and you are nobody"):
        check_place(tmp_path, me=UNKNOWN)
    check_place(tmp_path)


def test_a_settings_file_that_cannot_be_read_is_named(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Root reads everything: for anybody else it is as here."""
    (tmp_path / ".lauf").mkdir()
    kept = tmp_path / ".lauf" / "postgres.json"
    kept.write_text("{}")
    monkeypatch.setattr(os, "access", lambda path, _: Path(path) != kept)
    with pytest.raises(Lacking, match=r"postgres\.json cannot be read by .*chown"):
        check_place(tmp_path)


def test_why_postgresql_did_not_start_is_said_where_it_has_no_log(
    place: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """ "Its log says:" and nothing after it."""
    live_in(place / "installed", monkeypatch)
    with Cluster("postgres") as cluster:
        home = cluster.home
    (home / "server.log").unlink()
    home.chmod(0o555)
    try:
        with pytest.raises(Lacking, match=r"did not start\. It says:\n[^$]*server\.log"):
            Cluster("postgres").__enter__()
    finally:
        home.chmod(0o755)


def test_without_sudo_it_says_which_packages_are_missing(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(machine, "missing_packages", lambda **_: ["postgresql", "libpango-1.0-0"])
    monkeypatch.setattr(machine.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(machine.shutil, "which", lambda name: None if name == "sudo" else name)
    with pytest.raises(Lacking) as said:
        machine.ensure_packages(checks=False)
    assert "missing here, and there is no sudo: postgresql, libpango-1.0-0" in str(said.value)
    assert "apt-get install -y --no-install-recommends postgresql libpango-1.0-0" in str(said.value)
