"""`./lauf bench cluster`: a lesson goes on while the machines under it die. Three database
machines, two application servers, eight devices that write without a pause; five harms, five times
each; then the database as it was at a chosen moment, and a school that moves to another cluster."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from typing import Final

from tests.bench import moves
from tests.bench.cells import Cell, room
from tests.bench.front import Balancer, Front, wait_until_serves
from tests.bench.saying import said
from tests.support.writers import Writers

TIMES: Final = 5
#: Writes between two harms.
BETWEEN: Final = 60
_LIMIT_S: Final = 90.0
AIM_S: Final = 15


def main() -> None:
    with room() as folder:
        cell, other = Cell(1, folder), Cell(2, folder, size=2, fronts=1)
        balancer = Balancer(folder, [cell, other])
        try:
            said("starting etcd, Patroni, PostgreSQL, PgBouncer, Lauf and HAProxy")
            for one in (cell, other):
                one.start()
                one.prepare_fronts()
            balancer.start()
            for one in (cell, other):
                one.pgbackrest(one.leader, "stanza-create")
            cell.manage("prepare", "--without-past")
            other.manage("prepare", "--schema-only")
            for one in (cell, other):
                one.serve()
            front = Front(f"http://127.0.0.1:{balancer.port}", cell.address())
            wait_until_serves(front.url)
            fail_over(cell, front)
            moves.to_a_moment(cell, front, folder)
            moves.to_another_cell(cell, other, balancer, front, folder)
        finally:
            for cell_ in (cell, other):
                cell_.stop()
            balancer.stop()


def fail_over(cell: Cell, front: Front) -> None:
    writers = Writers(front)
    writers.start()
    writers.go_on(BETWEEN)
    for name, harm, repair in harms(cell):
        taken: list[float] = []
        try:
            for _ in range(TIMES):
                harm()
                taken.append(writers.seconds_until_all_go_on(_LIMIT_S))
                repair()
                cell.wait_until_whole()
                writers.go_on(BETWEEN)
        except AssertionError:
            said(f"{name}, after {taken}: {evidence(cell, writers)}")
            raise
        said(
            f"{name}, {TIMES} times: all 8 write again after {statistics.median(taken):.1f} s "
            f"(p50), {max(taken):.1f} s (worst; aim {AIM_S})"
        )
    said(str(writers.stop()))


def evidence(cell: Cell, writers: Writers) -> str:
    """What each machine holds of the children whose devices were told something else."""
    lines = []
    for pupil, sent in writers.refused():
        lines.append(f"\n{pupil} was acknowledged {sent}")
        lines += [f"  {one.name} ({one.role()}): {cell.newest(one, pupil)}" for one in cell.nodes]
    return "".join(f"{line}\n" for line in lines)


def harms(cell: Cell) -> list[tuple[str, Callable[[], None], Callable[[], None]]]:
    """What is done, and how it is mended."""
    hurt = []

    def kill_leader() -> None:
        hurt.append(cell.leader)
        hurt[-1].kill_database()

    def cut_leader() -> None:
        hurt.append(cell.leader)
        hurt[-1].cut()

    def kill_etcd() -> None:
        hurt.append(cell.leader)
        hurt[-1].etcd.kill()

    turn = iter(range(10_000))

    def kill_pooler() -> None:
        cell.poolers[next(turn) % len(cell.poolers)].kill()

    def kill_app() -> None:
        cell.apps[next(turn) % len(cell.apps)].kill()

    def start_again() -> None:
        for one in (*cell.poolers, *cell.apps):
            if not one.runs:
                one.start()
        time.sleep(3)  # HAProxy looks once a second: the next harm hits a whole front

    return [
        ("the leader killed", kill_leader, lambda: hurt[-1].patroni.start()),
        ("the leader's network cut", cut_leader, lambda: hurt[-1].mend()),
        ("an etcd member killed", kill_etcd, lambda: hurt[-1].etcd.start()),
        ("a PgBouncer killed", kill_pooler, start_again),
        ("an application server killed", kill_app, start_again),
    ]


if __name__ == "__main__":
    main()
