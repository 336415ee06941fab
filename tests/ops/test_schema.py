"""The tables of an empty Lauf as a file are what its migrations make."""

from __future__ import annotations

import re
import uuid

import psycopg

from ops.databases import Database
from ops.schema import FILE, dump
from tests.support.served import admin, as_url, drop, manage


def test_a_new_database_is_what_all_migrations_make_of_an_empty_one() -> None:
    names = [f"lauf_schema_{uuid.uuid4().hex[:8]}" for _ in range(3)]
    try:
        for name in names:
            with admin() as connection:
                connection.execute(f'CREATE DATABASE "{name}"')
        one, new, copy = (Database(name, as_url(name)) for name in names)
        manage(["migrate", "-v0"], one.name)
        manage(["prepare", "--schema-only"], new.name)
        named = re.findall(r"^    \('(\w+)', '(\w+)', now\(\)\)", FILE.read_text(), re.M)
        assert one.migrations() == [".".join(pair) for pair in named], "once more: ./lauf schema"
        # PostgreSQL writes some conditions otherwise once it has read them: both were read.
        with psycopg.connect(copy.url) as connection:
            connection.execute(dump(one).encode())
        assert dump(copy) == dump(new)
    finally:
        for name in names:
            drop(name)
