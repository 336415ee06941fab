"""`./lauf start`: the database, the server, and an eye on both."""

from __future__ import annotations

import os
import resource
import signal
import socket
import subprocess
import time
import urllib.request
from contextlib import nullcontext
from dataclasses import dataclass
from typing import TYPE_CHECKING, Final, TypeVar

from ops import backup, build, network
from ops.cluster import DISK_FULL, Cluster
from ops.databases import DEMO, REAL, Database
from ops.lan import Lan
from ops.machine import ROOT, Lacking, ensure_packages, only_one, say, secret_file
from ops.nights import Nights
from ops.processes import end_with_parent

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from contextlib import AbstractContextManager

T = TypeVar("T")

#: Connections at once; beyond them the answer is 503.
MOST_CONNECTIONS: Final = 1000
#: How often server and database are looked at, what is a short life of one of them, the first pause
#: before it is started again after one, and the longest pause between two attempts, in seconds.
_LOOKS: Final = 0.2
_SHORT_LIFE: Final = 2.0
_FIRST_PAUSE: Final = 0.5
_LONGEST_PAUSE: Final = 30.0


def server_command(
    host: str, port: int, listening: int | None = None, more: Sequence[str] = ()
) -> list[str]:
    """How Lauf is served, in life as in checks; `listening` is a socket to serve at."""
    return [
        str(build.PYTHON), "-m", "lauf.serving.serve", "--host", host, "--port", str(port),
        "--connections", str(MOST_CONNECTIONS),
        *(["--fd", str(listening)] if listening is not None else []), *more,
    ]  # fmt: skip


@dataclass(frozen=True, slots=True)
class Wish:
    """What `./lauf start` was asked for."""

    port: int
    host: str
    demo: bool
    demo_passwords: bool
    lan: bool = False

    @property
    def at_home(self) -> bool:
        """Only this machine can open it."""
        return network.is_loopback(self.host)


def serve(wish: Wish) -> int:
    """Returns when it is told to stop. Raises Lacking."""
    outside = os.environ.get("LAUF_DATABASE_URL")
    with only_one("start"):
        network.demand_port(wish.host, wish.port)
        ensure_packages(checks=False)
        build.ensure_python(checks=False)
        build.ensure_front_end()
        signal.signal(signal.SIGTERM, _interrupt)
        lan = Lan(wish.host, wish.port) if wish.lan else None
        cluster: AbstractContextManager[Cluster | None]
        cluster = nullcontext() if outside else Cluster("postgres")
        with cluster as own:
            # The demo has a database of its own: its passwords never meet a real school.
            name = DEMO if wish.demo else REAL
            if own is not None:
                own.ensure_database(name)
            served = Serving(wish, own, name, outside or "", lan)
            words = served.prepare()
            return served.run(words)


class Serving:
    """The server and what it stands on."""

    def __init__(
        self,
        wish: Wish,
        cluster: Cluster | None,
        name: str,
        outside: str,
        lan: Lan | None = None,
    ) -> None:
        self._wish, self._cluster, self._name, self._outside = wish, cluster, name, outside
        self._lan = lan
        self._process: subprocess.Popen[bytes] | None = None
        # It listens as long as this process does: whoever connects while the server is started
        # again waits, and is not sent away.
        self._listening: socket.socket | None = None
        # When server and database were there last after a start, and how often in a row they ended
        # soon after one.
        self._there: dict[str, float] = {}
        self._short_lives: dict[str, int] = {}
        self._nights: Nights | None = None

    def prepare(self) -> str:
        """Bring the database to this version, and the demo to today. What it said. Raises
        Lacking."""
        words = [] if self._wish.demo else ["--no-demo"]
        done = subprocess.run(
            [str(build.PYTHON), "backend/manage.py", "prepare", *words],
            env=self.environment(), cwd=ROOT, capture_output=True, text=True,
        )  # fmt: skip
        if done.returncode:
            report = done.stderr.strip()[-3000:]
            raise Lacking(DISK_FULL if "No space left on device" in report else report)
        return done.stdout.strip()

    def run(self, words: str) -> int:
        try:
            self._start()
            if self._lan is not None:
                self._lan.give()
            self._say_where()
            for line in words.splitlines():
                say(line)
            self._nights = Nights(Database(self._name, self._url, self._cluster))
            while True:
                time.sleep(_LOOKS)
                self._look()
                self._nights.look()
        except KeyboardInterrupt:
            say("stopping")
            return 0
        finally:
            self._stop()
            if self._lan is not None:
                self._lan.close()
            if self._listening is not None:
                self._listening.close()

    def environment(self) -> dict[str, str]:
        """The variables that the server, and what comes before it, run under."""
        wish = self._wish
        shown = wish.demo and (wish.at_home or wish.demo_passwords)
        return build.environment(
            LAUF_DATABASE_URL=self._url,
            LAUF_SECRET_KEY_FILE=str(secret_file("secret-key")),
            LAUF_SETUP_CODE=secret_file("setup-code").read_text()[:8],
            LAUF_HOSTS=os.environ.get("LAUF_HOSTS", ",".join(network.names_for(wish.host))),
            LAUF_DEMO="1" if wish.demo else "0",
            LAUF_BACKUPS=backup.pattern(self._name),
            LAUF_BACKUPS_KEPT=str(backup.KEPT),
            LAUF_SHOW_DEMO="1" if shown else "0",
            **(self._lan.variables if self._lan is not None else {}),
        )

    @property
    def _url(self) -> str:
        return self._outside or (self._cluster.url(self._name) if self._cluster else "")

    def _start(self) -> None:
        if self._listening is None:
            self._listening = network.listen(self._wish.host, self._wish.port)
        at = self._listening.fileno()
        more = self._lan.server_words if self._lan is not None else []
        command = server_command(self._wish.host, self._wish.port, at, more)
        self._process = subprocess.Popen(
            command, cwd=ROOT, env=self.environment(), start_new_session=True,
            preexec_fn=_as_child, pass_fds=[at],
        )  # fmt: skip
        self._wait_until_it_answers(self._process)

    def _wait_until_it_answers(self, process: subprocess.Popen[bytes]) -> None:
        here = network.shown_for(self._wish.host, self._wish.port)[0]
        trusted = None
        if self._lan is not None:
            here, trusted = here.replace("http:", "https:"), self._lan.trusted
        for _ in range(600):
            if process.poll() is not None:
                raise Lacking("The server ended while starting; what it printed stands above.")
            try:
                with urllib.request.urlopen(f"{here}api/session", timeout=5, context=trusted):
                    return
            except OSError:
                time.sleep(0.1)
        raise Lacking("The server did not answer within a minute.")

    def _say_where(self) -> None:
        if self._lan is not None:
            self._lan.show()
            say(f"here, open https://localhost:{self._wish.port}/   (Ctrl-C ends it)")
            if self._wish.demo:
                say("careful: the demo's passwords are known to everybody who has Lauf.")
            return
        shown = network.shown_for(self._wish.host, self._wish.port)
        for address in shown:
            say(f"open {address}   (Ctrl-C ends it)")
        if self._wish.at_home:
            return
        if not network.own_addresses():
            say("this machine has no address that other devices could open")
        say(
            "careful: over plain http whoever is on this network can read names and scores. Use a "
            "network you trust, or a proxy with https (README, “On the network”)."
        )
        if self._wish.demo:
            say("careful: the demo's passwords are known to everybody who has Lauf.")

    def _look(self) -> None:
        """Start again what has ended by itself, and say so."""
        if self._lan is not None and self._lan.renewed():
            say("the certificate was renewed; the server takes it up")
            self._stop()
            self._start()
        if self._cluster is not None and not self._cluster.runs:
            say("the database has ended; starting it again")
            same = self._again("database", self._cluster.revive)
            say("the database runs again")
            if same is False:
                self._stop()  # it has another port now: the server is started again for it
        if self._process is not None and self._process.poll() is not None:
            say(f"the server has ended (code {self._process.returncode}); starting it again")
            self._again("server", self._start)
            say("the server runs again")

    def _again(self, what: str, start: Callable[[], T]) -> T:
        """Try until it works, saying each new reason once. One that has served for a while is
        started at once; one that ends soon after its start, ever more slowly."""
        lived = time.monotonic() - self._there.get(what, 0.0)
        short = self._short_lives.get(what, 0) + 1 if lived < _SHORT_LIFE else 0
        self._short_lives[what] = short
        time.sleep(min(_LONGEST_PAUSE, _FIRST_PAUSE * (2**short - 1)))
        pause, report = _FIRST_PAUSE, ""
        while True:
            try:
                found = start()
            except Lacking as lacking:
                if str(lacking) != report:
                    report = str(lacking)
                    say(report)
                time.sleep(pause)
                pause = min(_LONGEST_PAUSE, pause * 2)
            else:
                self._there[what] = time.monotonic()
                return found

    def _stop(self) -> None:
        process = self._process
        if process is None or process.poll() is not None:
            return
        process.terminate()
        try:
            process.wait(15)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()


def _as_child() -> None:
    end_with_parent()
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = 4 * MOST_CONNECTIONS if most == resource.RLIM_INFINITY else most
    resource.setrlimit(resource.RLIMIT_NOFILE, (min(wanted, 4 * MOST_CONNECTIONS), most))


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt
