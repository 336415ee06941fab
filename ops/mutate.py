"""`./lauf mutate`: the code is broken on purpose, one small change at a time. What no test notices
is told: it is a hole in the tests, or a change that changes nothing.

Python by mutmut, in a copy of its own; the front end by Stryker, in its folder.
"""

from __future__ import annotations

import json
import os
import shutil
import subprocess
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Final

from ops import build
from ops.cluster import Cluster
from ops.machine import ROOT, STATE, say, zone_where_it_is_morning


@dataclass(frozen=True, slots=True)
class Room:
    """Code that is broken, the tests that should notice, and whether they need a database."""

    code: str
    tests: tuple[str, ...]
    database: bool = True


ROOMS: Final = {
    "rules": Room("lauf/rules/*", ("tests/rules",), database=False),
    "judgement": Room(
        "lauf/judgement/*",
        (
            "tests/judgement",
            "tests/api/catalogue",
            "tests/api/lessons",
            "tests/api/progress",
            "tests/api/people",
        ),
    ),
    "actions": Room("lauf/*/actions/*", ("tests/api",)),
}
FRONT_END: Final = "front-end"
#: Tests that look at the house itself, which is another one here, and those that call every route
#: once: they take long and notice little.
_NOT_HERE: Final = (
    "tests/api/test_one_place.py",
    "tests/api/test_migrations.py",
    "tests/api/test_what_to_touch.py",
    "tests/api/every_route",
    # Holds a server of its own to account, which a forked process of tests is not.
    "tests/api/web/test_overload.py",
)
#: What code and tests read from the folder above: fonts, the built pages, published formats.
_READ: Final = ("frontend", "docs")


#: One change in ten, over all functions: those whose number ends so.
_TENTH: Final = ("*7",)


def mutate(which: str, since: str | None, *, tenth: bool = False) -> int:
    """Break a room, or of it only what was changed since a commit. 0 when all could be tried."""
    build.ensure_python(checks=True)
    build.ensure_front_end()
    if which != FRONT_END:
        build.ensure_mutation()
    if which == FRONT_END:
        return _stryker(_changed(since, "frontend/src/") if since else [], tenth=tenth)
    room = ROOMS[which]
    wanted = [room.code]
    if since:
        wanted = [
            path.removeprefix("backend/")
            for path in _changed(since, "backend/lauf/")
            if Path(path.removeprefix("backend/")).match(room.code)
        ]
    if not wanted:
        say("nothing of it was changed")
        return 0
    place = _copy(which, room, wanted)
    only = _TENTH if tenth else ()
    if not room.database:
        return _mutmut(room, place, build.environment(PYTHONPATH=""), only)
    with Cluster("mutate-postgres", throwaway=True) as cluster:
        cluster.ensure_database("lauf")
        variables = {
            "LAUF_DATABASE_URL": cluster.url("lauf"),
            "LAUF_SECRET_KEY": "of nothing that is kept",
            "LAUF_SETUP_CODE": "test-code",
            "LAUF_DEMO": "1",
            "LAUF_TIME_ZONE": zone_where_it_is_morning(),
        }
        return _mutmut(room, place, build.environment(PYTHONPATH="", **variables), only)


def _changed(since: str, folder: str) -> list[str]:
    told = subprocess.run(
        ["git", "diff", "--name-only", "--diff-filter=d", since, "--", folder],
        cwd=ROOT, check=True, capture_output=True, text=True,
    )  # fmt: skip
    return told.stdout.split()


def _copy(which: str, room: Room, wanted: Sequence[str]) -> Path:
    """A copy of the code and its tests, set up for mutmut. What was tried before is not tried again
    while it is the same."""
    place = STATE / "mutate" / which
    place.mkdir(parents=True, exist_ok=True)
    # Databases are prepared by the code as it is, from where it always is.
    for source, name in ((ROOT / "backend" / "lauf", "lauf"), (ROOT / "tests", "tests"),
                         (ROOT / "ops", "ops"), (ROOT / "backend", "backend")):  # fmt: skip
        shutil.rmtree(place / name, ignore_errors=True)
        shutil.copytree(source, place / name, ignore=shutil.ignore_patterns("__pycache__"))
    mutants = place / "mutants"
    mutants.mkdir(exist_ok=True)
    _refresh(mutants)
    for folder in (place, mutants):
        for name in _READ:
            link = folder / name
            if not link.is_symlink():
                link.symlink_to(ROOT / name, target_is_directory=True)
    plugins = ["no:randomly", "no:cacheprovider"] + ([] if room.database else ["no:django"])
    words = [word for plugin in plugins for word in ("-p", plugin)]
    words += [word for one in _NOT_HERE for word in ("--ignore", one)] if room.database else []
    told = {
        "source_paths": ["lauf"],
        "only_mutate": list(wanted),
        "do_not_mutate": ["lauf/*/migrations/*"],
        "also_copy": ["ops", "backend"],
        "pytest_add_cli_args": words,
        "pytest_add_cli_args_test_selection": list(room.tests),
        # What a forked server of tests covers is not seen from outside.
        "mutate_only_covered_lines": not room.database,
        "process_isolation": "forkserver" if room.database else "fork",
    }
    lines = [f"{name} = {json.dumps(value)}" for name, value in told.items()]
    # A table of its own: pytest looks for one in the folders above otherwise.
    settings = ["[tool.pytest.ini_options]", 'addopts = ""']
    settings += ['DJANGO_SETTINGS_MODULE = "tests.settings"'] if room.database else []
    (place / "pyproject.toml").write_text("\n".join(["[tool.mutmut]", *lines, *settings, ""]))
    return place


def _refresh(mutants: Path) -> None:
    """mutmut copies what is not there yet: what an earlier run copied, tests and templates, is
    removed. The broken code and its results stay."""
    for name in ("tests", "ops", "backend"):
        shutil.rmtree(mutants / name, ignore_errors=True)
    for path in (mutants / "lauf").rglob("*"):
        if path.is_file() and path.suffix not in (".py", ".meta"):
            path.unlink()


def _mutmut(room: Room, place: Path, variables: dict[str, str], only: Sequence[str]) -> int:
    python = str(build.PYTHON)
    done = subprocess.call(
        [python, "-m", "mutmut", "run", "--max-children", str(os.cpu_count() or 1), *only],
        cwd=place, env=variables,
    )  # fmt: skip
    if done:
        say("not all could be tried: what stopped it stands above")
        return done
    subprocess.call(
        [python, "-m", "mutmut", "export-cicd-stats"],
        cwd=place, env=variables, stdout=subprocess.DEVNULL,
    )  # fmt: skip
    subprocess.call([python, "-m", "mutmut", "results"], cwd=place, env=variables)
    stats = json.loads((place / "mutants" / "mutmut-cicd-stats.json").read_text())
    tried = stats["killed"] + stats["survived"] + stats["timeout"] + stats["no_tests"]
    noticed = stats["killed"] + stats["timeout"]
    words = _noticed_as_words(room, place)
    share = 100 * (noticed + words) / max(1, tried)
    say(f"{noticed} of {tried} changes were noticed, and {words} more are by tests/messages: "
        f"{share:.1f} %")  # fmt: skip
    return 0


def _noticed_as_words(room: Room, place: Path) -> int:
    """How many of the others change only what is said, which the list of messages notices; names
    those that nothing does."""
    told = subprocess.run(
        [str(build.PYTHON), "-m", "tests.support.changed_words", str(place), room.code],
        cwd=ROOT, check=True, capture_output=True, text=True,
    )  # fmt: skip
    *left, sums = told.stdout.splitlines()
    for line in left:
        say(line)
    return int(json.loads(sums)["words"])


def _stryker(files: Sequence[str], *, tenth: bool) -> int:
    """Of the sheet and of sync: their files, or those of these that are in them; or four lines in
    forty of each."""
    tools = build.FRONT_END / "mutation"
    build.ensure_node_modules(tools, "mutation-node-modules")
    every = (str(one.relative_to(build.FRONT_END)) for one in _typescript())
    wanted = [
        path
        for path in (one.removeprefix("frontend/") for one in (files or (every if tenth else ())))
        if path.startswith(("src/sheet/", "src/sync/")) and path.endswith(".ts")
        and not path.endswith((".test.ts", ".model.ts", ".d.ts"))
    ]  # fmt: skip
    if tenth:
        wanted = [part for path in wanted for part in _lines_of(path)]
    if files and not wanted:
        say("nothing of it was changed")
        return 0
    only = ["--mutate", ",".join(wanted)] if wanted else []
    stryker = str(tools / "node_modules/.bin/stryker")
    settings = str(tools / "stryker.config.json")
    return subprocess.call(
        [stryker, "run", settings, *only], cwd=build.FRONT_END, env=build.environment()
    )


def _typescript() -> Iterator[Path]:
    for room in ("sheet", "sync"):
        yield from sorted((build.FRONT_END / "src" / room).rglob("*.ts"))


def _lines_of(path: str) -> Iterator[str]:
    """Four lines in forty of a file, as Stryker takes them."""
    lines = len((build.FRONT_END / path).read_text().splitlines())
    for first in range(11, lines, 40):
        yield f"{path}:{first}-{min(first + 3, lines)}"
