"""The commands of `./lauf`."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops import backup as backups
from ops import build, schema
from ops import mutate as mutants
from ops.cluster import Cluster
from ops.machine import (
    ROOT,
    Lacking,
    check_place,
    ensure_packages,
    only_one,
    say,
    secret_file,
    zone_where_it_is_morning,
)
from ops.serving import Wish, serve


def main() -> int:
    parser = argparse.ArgumentParser(prog="./lauf", description="Lauf: fitness tests in primary PE")
    commands = parser.add_subparsers(dest="command", required=True)
    start = commands.add_parser("start", help="install what is missing, build, serve")
    start.add_argument("--port", type=int, default=8400, help="port to serve on (default 8400)")
    start.add_argument(
        "--host", default="127.0.0.1", help="address to listen on (default loopback)"
    )
    start.add_argument(
        "--lan",
        action="store_true",
        help="let tablets in the same network open it, over TLS by an authority of this machine",
    )
    start.add_argument("--no-demo", action="store_true", help="begin with an empty school")
    start.add_argument(
        "--demo-passwords",
        action="store_true",
        help="show the demo's passwords on its first page also to other machines",
    )
    test = commands.add_parser("test", help="run every check")
    test.add_argument("pytest", nargs="*", help="only pytest, with these arguments")
    bench = commands.add_parser("bench", help="print speed as ratios within one run")
    bench.add_argument(
        "which",
        nargs="?",
        choices=[
            "draws",
            "hands",
            "live",
            "chaos",
            "service",
            "upgrade",
            "cluster",
            "scale",
            "peak",
        ],
        help="only what an entry draws, the model of hands (5,000 presses a way), devices live, "
        "a lesson under kills, several processes and memory, two versions at once, machines that "
        "die under a lesson, many scores, or a hundred schools on Monday at nine",
    )
    mutate = commands.add_parser("mutate", help="break the code on purpose: do the tests notice?")
    mutate.add_argument("which", choices=[*mutants.ROOMS, mutants.FRONT_END])
    mutate.add_argument("--since", metavar="COMMIT", help="only what was changed since then")
    mutate.add_argument("--tenth", action="store_true", help="only one change in ten")
    commands.add_parser("build", help="make the one file that Lauf is installed from")
    commands.add_parser("schema", help="write the tables of an empty Lauf anew")
    commands.add_parser("shots", help="refresh docs/screenshots from the demo data")
    backup = commands.add_parser("backup", help="write everything into a file, while serving too")
    restore = commands.add_parser("restore", help="put a backup in the place of what is there")
    for command in (backup, restore):
        command.add_argument("file", type=Path, metavar="FILE")
        command.add_argument("--demo", action="store_true", help="of the demo school")
    restore.add_argument("--yes", action="store_true", help="do not ask")
    asked, rest = parser.parse_known_args()
    if rest and asked.command != "test":
        parser.error(f"unknown: {' '.join(rest)}")
    try:
        check_place()
        match asked.command:
            case "start":
                demo = not asked.no_demo
                host = "0.0.0.0" if asked.lan and asked.host == "127.0.0.1" else asked.host
                return serve(Wish(asked.port, host, demo, asked.demo_passwords, asked.lan))
            case "test":
                return check([*asked.pytest, *rest])
            case "backup":
                build.ensure_python(checks=False)
                return backups.command_backup(asked.file, demo=asked.demo)
            case "restore":
                build.ensure_python(checks=False)
                return backups.command_restore(asked.file, demo=asked.demo, sure=asked.yes)
            case "mutate":
                return mutants.mutate(asked.which, asked.since, tenth=asked.tenth)
            case "build":
                say(f"made {build.make()}")
                return 0
            case "schema":
                return write_schema()
            case "bench":
                if asked.which == "cluster":
                    ensure_packages(checks=True, cluster=True)
                return on_test_cluster(f"tests.bench.{asked.which or 'bench'}")
            case _:
                return on_test_cluster("tests.browser.shots")
    except Lacking as lacking:
        say(str(lacking))
        return 1
    except PermissionError as error:
        say(f"{error.filename} is not for this user: start Lauf as its owner, or give it to them.")
        return 1
    except KeyboardInterrupt:
        return 130


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


def on_test_cluster(module: str) -> int:
    """Run one of the tests' modules against the throwaway cluster."""
    with only_one("test"):
        _ready_for_checks()
        with Cluster("test-postgres", throwaway=True) as cluster:
            environment = build.environment(**_test_variables(cluster))
            return subprocess.call([str(build.PYTHON), "-m", module], cwd=ROOT, env=environment)


def write_schema() -> int:
    """`./lauf schema`, on the throwaway cluster."""
    with only_one("test"):
        _ready_for_checks()
        with Cluster("test-postgres", throwaway=True) as cluster:
            return schema.command_schema(build.environment(**_test_variables(cluster)), cluster)


def check(pytest_words: list[str]) -> int:
    """`./lauf test`: every check, or only pytest with the given words."""
    signal.signal(signal.SIGTERM, _interrupt)
    with only_one("test"):
        _ready_for_checks()
        with Cluster("test-postgres", throwaway=True) as cluster:
            variables = build.environment(**_test_variables(cluster))
            cores = os.cpu_count() or 1
            failed = [] if pytest_words else _together(_lint_steps(), variables, cores)
            # All of them are shared out over the cores, and one more for while a browser or a
            # database is waited for; a few asked for by name run plainly.
            share = [] if pytest_words else ["-n", str(cores + 1), "--dist", "worksteal"]
            say("pytest")
            command = [str(build.PYTHON), "-m", "pytest", *share, *pytest_words]
            if subprocess.call(command, cwd=ROOT, env=variables):
                failed.append("pytest")
    if failed:
        say(f"these checks failed: {', '.join(failed)}")
        return 1
    say("every check passed")
    return 0


def _together(
    steps: list[tuple[str, list[str], Path]], environment: dict[str, str], cores: int
) -> list[str]:
    """Run checks that do not touch each other, as many at once as there are cores; each says what
    it has to say when it is through. The names of those that failed."""

    def run(step: tuple[str, list[str], Path]) -> str | None:
        name, command, folder = step
        done = subprocess.run(
            command, cwd=folder, env=environment, stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
        )  # fmt: skip
        say(name)
        sys.stdout.write(done.stdout)
        sys.stdout.flush()
        return name if done.returncode else None

    with ThreadPoolExecutor(cores) as pool:
        return [name for name in pool.map(run, steps) if name]


def _ready_for_checks() -> None:
    ensure_packages(checks=True)
    build.ensure_python(checks=True)
    build.ensure_front_end()


def _test_variables(cluster: Cluster) -> dict[str, str]:
    cluster.ensure_database("lauf")
    return {
        "LAUF_DATABASE_URL": cluster.url("lauf"),
        "LAUF_SECRET_KEY_FILE": str(secret_file("test-secret-key")),
        "LAUF_SETUP_CODE": "test-code",
        "LAUF_DEMO": "1",
        "LAUF_TIME_ZONE": zone_where_it_is_morning(),
    }


#: Where Python is written by hand.
PYTHON_ROOMS = ("backend", "ops", "tests")


def _lint_steps() -> list[tuple[str, list[str], Path]]:
    python, front = str(build.PYTHON), build.FRONT_END
    return [
        (
            "vue-tsc, eslint, prettier, arrows of the front end",
            ["npm", "run", "-s", "check"],
            front,
        ),
        ("vitest", ["npm", "run", "-s", "test"], front),
        ("ruff", [python, "-m", "ruff", "check", "."], ROOT),
        ("ruff format", [python, "-m", "ruff", "format", "--check", "."], ROOT),
        ("mypy", [python, "-m", "mypy"], ROOT),
        ("vulture", [python, "-m", "ops.dead_code"], ROOT),
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
    ]


if __name__ == "__main__":
    sys.exit(main())
