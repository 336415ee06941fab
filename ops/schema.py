"""`./lauf schema`: the tables of an empty Lauf as one file, so that a new one need not go through
every migration there ever was. A migration that is not in the file yet is run after it."""

from __future__ import annotations

import re
import subprocess
from typing import Final

from ops import build
from ops.cluster import Cluster
from ops.databases import Database
from ops.machine import ROOT, say

FILE: Final = ROOT / "backend/lauf/schema.sql"
_HEAD: Final = "-- The tables of an empty Lauf, made of its migrations by `./lauf schema`.\n"
#: Comments, psql's own commands and settings of the session.
_SKIP: Final = re.compile(r"^(--.*|\\.*|SET .*|SELECT pg_catalog\.set_config.*)$")


def command_schema(environment: dict[str, str], cluster: Cluster) -> int:
    """Write the file anew from the migrations."""
    database = Database("lauf_schema", cluster.url("lauf_schema"), cluster)
    # A database of an earlier time would have its migrations in another order.
    cluster.ask("postgres", f'DROP DATABASE IF EXISTS "{database.name}" WITH (FORCE);')
    cluster.ensure_database(database.name)
    subprocess.run(
        [str(build.PYTHON), str(ROOT / "backend/manage.py"), "migrate", "-v0", "--skip-checks"],
        env={**environment, "LAUF_DATABASE_URL": database.url}, check=True, cwd=ROOT,
    )  # fmt: skip
    FILE.write_text(dump(database))
    say(f"{FILE.relative_to(ROOT)} is written")
    return 0


def dump(database: Database) -> str:
    """The tables of a database, and which migrations made them. Times are left out: the same
    migrations give the same file."""
    lines, in_function = [], False
    for line in database.schema().splitlines():
        if in_function or not (line == "" or _SKIP.match(line)):
            lines.append(line)
        in_function ^= line.count("$$") % 2 == 1
    rows = ",\n".join(
        "    ('{}', '{}', now())".format(*one.split(".", 1)) for one in database.migrations()
    )
    made = f"INSERT INTO public.django_migrations (app, name, applied) VALUES\n{rows};"
    return "\n".join([_HEAD, *lines, made, ""])
