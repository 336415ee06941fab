"""The commands of `./lauf`."""

from __future__ import annotations

import argparse
import fcntl
import os
import secrets
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from pathlib import Path
from typing import TYPE_CHECKING

from ops import build
from ops.cluster import Cluster
from ops.machine import ROOT, STATE, Lacking, ensure_packages, say

if TYPE_CHECKING:
    from contextlib import AbstractContextManager


def main() -> int:
    parser = argparse.ArgumentParser(prog="./lauf", description="Lauf: fitness tests in primary PE")
    commands = parser.add_subparsers(dest="command", required=True)
    start = commands.add_parser("start", help="install what is missing, build, serve")
    start.add_argument("--port", type=int, default=8400, help="port to serve on (default 8400)")
    start.add_argument(
        "--host", default="127.0.0.1", help="address to listen on (default loopback)"
    )
    start.add_argument("--no-demo", action="store_true", help="begin with an empty school")
    test = commands.add_parser("test", help="run every check")
    test.add_argument("pytest", nargs="*", help="only pytest, with these arguments")
    commands.add_parser("bench", help="print speed as ratios within one run")
    commands.add_parser("shots", help="refresh docs/screenshots from the demo data")
    asked, rest = parser.parse_known_args()
    if rest and asked.command != "test":
        parser.error(f"unknown: {' '.join(rest)}")
    try:
        match asked.command:
            case "start":
                return serve(asked.port, asked.host, demo=not asked.no_demo)
            case "test":
                return check([*asked.pytest, *rest])
            case "bench":
                return on_test_cluster("tests.bench.bench")
            case _:
                return on_test_cluster("tests.browser.shots")
    except Lacking as lacking:
        say(str(lacking))
        return 1
    except KeyboardInterrupt:
        return 130


@contextmanager
def only_one(name: str) -> Iterator[None]:
    """Refuse to run the same thing twice in one folder."""
    STATE.mkdir(exist_ok=True)
    with (STATE / f"{name}.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as error:
            raise Lacking(f"./lauf {name} is running in this folder already.") from error
        yield


def secret_file(name: str) -> Path:
    """A file with a fresh secret, made once and readable by its owner only."""
    STATE.mkdir(exist_ok=True)
    path = STATE / name
    if not path.exists():
        with os.fdopen(os.open(path, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600), "w") as file:
            file.write(secrets.token_urlsafe(48))
    return path


def serve(port: int, host: str, *, demo: bool) -> int:
    """`./lauf start`: returns when it is told to stop."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            raise Lacking(f"Port {port} is taken. Choose another: ./lauf start --port N") from error
    outside = os.environ.get("LAUF_DATABASE_URL")
    with only_one("start"):
        ensure_packages(browser=False)
        build.ensure_python(checks=False)
        build.ensure_front_end()
        signal.signal(signal.SIGTERM, _interrupt)
        cluster: AbstractContextManager[Cluster | None]
        cluster = nullcontext() if outside else Cluster("postgres")
        with cluster as own:
            if own is not None:
                # The demo has a database of its own: its passwords never meet a real school.
                name = "lauf_demo" if demo else "lauf"
                own.ensure_database(name)
            url = outside or (own.url(name) if own else "")
            variables = _variables(url, host, demo=demo)
            manage = [str(build.PYTHON), "backend/manage.py"]
            build.run([*manage, "migrate", "-v0"], "preparing the database", variables=variables)
            prepared = subprocess.run(
                [*manage, "prepare", *([] if demo else ["--no-demo"])],
                env=build.environment(**variables), cwd=ROOT, capture_output=True, text=True,
            )  # fmt: skip
            if prepared.returncode:
                raise Lacking(prepared.stderr.strip()[-3000:])
            return _serve_until_told(port, host, variables, prepared.stdout.strip())


def _variables(url: str, host: str, *, demo: bool) -> dict[str, str]:
    names = ["127.0.0.1", "localhost", "[::1]"]
    if host not in names:
        names += [socket.gethostname(), *([host] if host != "0.0.0.0" else _own_addresses())]
    return {
        "LAUF_DATABASE_URL": url,
        "LAUF_SECRET_KEY_FILE": str(secret_file("secret-key")),
        "LAUF_SETUP_CODE": secret_file("setup-code").read_text()[:8],
        "LAUF_HOSTS": os.environ.get("LAUF_HOSTS", ",".join(names)),
        "LAUF_DEMO": "1" if demo else "0",
    }


def _own_addresses() -> list[str]:
    found = socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)
    return sorted({str(item[4][0]) for item in found})


def _serve_until_told(port: int, host: str, variables: dict[str, str], words: str) -> int:
    server = subprocess.Popen(
        [str(build.PYTHON), "-m", "uvicorn", "lauf.web.asgi:application", "--host", host,
         "--port", str(port), "--log-level", "warning", "--no-server-header"],
        cwd=ROOT, env=build.environment(**variables), start_new_session=True,
    )  # fmt: skip
    shown = "127.0.0.1" if host == "0.0.0.0" else host
    try:
        _wait_until_healthy(server, f"http://{shown}:{port}/api/health")
        say(f"open http://{shown}:{port}/   (Ctrl-C ends it)")
        for line in words.splitlines():
            say(line)
        return server.wait()
    except KeyboardInterrupt:
        say("stopping")
        return 0
    finally:
        server.terminate()
        try:
            server.wait(10)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()


def _wait_until_healthy(server: subprocess.Popen[bytes], address: str) -> None:
    for _ in range(300):
        if server.poll() is not None:
            raise Lacking("The server ended while starting; what it printed stands above.")
        try:
            with urllib.request.urlopen(address, timeout=2) as answer:
                if answer.status == 200:
                    return
        except OSError:
            time.sleep(0.1)
    raise Lacking("The server did not answer within half a minute.")


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


def on_test_cluster(module: str) -> int:
    """Run one of the tests' modules against the throwaway cluster."""
    with only_one("test"):
        _ready_for_checks()
        with Cluster("test-postgres", throwaway=True) as cluster:
            environment = build.environment(**_test_variables(cluster))
            return subprocess.call([str(build.PYTHON), "-m", module], cwd=ROOT, env=environment)


def check(pytest_words: list[str]) -> int:
    """`./lauf test`: every check, or only pytest with the given words."""
    signal.signal(signal.SIGTERM, _interrupt)
    with only_one("test"):
        _ready_for_checks()
        with Cluster("test-postgres", throwaway=True) as cluster:
            variables = _test_variables(cluster)
            steps = [] if pytest_words else _lint_steps()
            # All of them are shared out over the cores; a few asked for by name run plainly.
            share = [] if pytest_words else ["-n", str(os.cpu_count() or 1), "--dist", "worksteal"]
            command = [str(build.PYTHON), "-m", "pytest", *share, *pytest_words]
            steps.append(("pytest", command, ROOT))
            failed = []
            for name, command, folder in steps:
                say(name)
                if subprocess.call(command, cwd=folder, env=build.environment(**variables)):
                    failed.append(name)
    if failed:
        say(f"these checks failed: {', '.join(failed)}")
        return 1
    say("every check passed")
    return 0


def _ready_for_checks() -> None:
    ensure_packages(browser=True)
    build.ensure_python(checks=True)
    build.ensure_front_end()


def _test_variables(cluster: Cluster) -> dict[str, str]:
    cluster.ensure_database("lauf")
    return {
        "LAUF_DATABASE_URL": cluster.url("lauf"),
        "LAUF_SECRET_KEY_FILE": str(secret_file("test-secret-key")),
        "LAUF_SETUP_CODE": "test-code",
        "LAUF_DEMO": "1",
    }


#: Where Python is written by hand.
PYTHON_ROOMS = ("backend", "ops", "tests")


def _lint_steps() -> list[tuple[str, list[str], Path]]:
    python, front = str(build.PYTHON), build.FRONT_END
    return [
        ("ruff", [python, "-m", "ruff", "check", "."], ROOT),
        ("ruff format", [python, "-m", "ruff", "format", "--check", "."], ROOT),
        ("mypy", [python, "-m", "mypy"], ROOT),
        ("vulture", [python, "-m", "vulture"], ROOT),
        (
            "xenon",  # no function is a tangle
            [str(build.VENV / "bin" / "xenon"), "-b", "C", "-e", "*/migrations/*", *PYTHON_ROOMS],
            ROOT,
        ),
        ("import-linter", [str(build.VENV / "bin" / "lint-imports"), "--no-cache"], ROOT),
        (
            "migrations",
            [python, "backend/manage.py", "makemigrations", "--check", "--dry-run", "-v1"],
            ROOT,
        ),
        ("API types", [python, "backend/manage.py", "api_schema", "--check"], ROOT),
        (
            "vue-tsc, eslint, prettier, arrows of the front end",
            ["npm", "run", "-s", "check"],
            front,
        ),
        ("vitest", ["npm", "run", "-s", "test"], front),
    ]


if __name__ == "__main__":
    sys.exit(main())
