"""The long series of kills under eight writers: the server fifty times, PostgreSQL twenty."""

from __future__ import annotations

import os
import shutil
import signal
import tempfile
from pathlib import Path

from ops import cluster as rooms
from ops.cluster import Cluster
from tests.bench.saying import said
from tests.support.served import Served, manage
from tests.support.writers import Writers

SERVER, DATABASE = 50, 20
NAME = "lauf_kills"


def main() -> None:
    """On a cluster of its own, with all the safety that a real one has."""
    folder = Path(tempfile.mkdtemp(prefix="lauf-kills-"))
    folder.chmod(0o755)
    rooms.STATE = folder
    try:
        with Cluster("postgres") as cluster:
            cluster.ensure_database(NAME)
            os.environ["LAUF_DATABASE_URL"] = cluster.url(NAME)
            manage(["prepare"], NAME)
            served = Served(NAME)
            served.start()
            try:
                _under_writers(cluster, served)
            finally:
                served.stop()
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def _under_writers(cluster: Cluster, served: Served) -> None:
    writers = Writers(served)
    writers.start()
    for _ in range(SERVER):
        writers.go_on(10)
        served.kill()
        served.start()
    for _ in range(DATABASE):
        writers.go_on(10)
        file = cluster.data / "postmaster.pid"
        os.kill(int(file.read_text().split("\n", 1)[0]), signal.SIGKILL)
        assert cluster.revive(), "it came back at another address"
    toll = writers.stop()
    said(
        f"{SERVER} kills of the server and {DATABASE} of PostgreSQL under 8 writers: {toll} "
        "(aim: 0 lost, 0 doubled, 0 otherwise)"
    )


if __name__ == "__main__":
    main()
