"""The application's role in PostgreSQL: it owns its databases and is nothing more."""

from __future__ import annotations

from typing import Final, Protocol

APPLICATION: Final = "lauf_app"
#: Databases from before the application had a role of its own belong to the superuser.
_HAND_OVER: Final = """
DO $$ DECLARE one record; BEGIN
    FOR one IN
        SELECT c.oid::regclass AS name FROM pg_class c
        WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p', 'v', 'm', 'S')
            AND c.relowner <> 'lauf_app'::regrole
            AND NOT EXISTS (  -- sequences of a column go with their table
                SELECT FROM pg_depend d WHERE d.classid = 'pg_class'::regclass AND d.objid = c.oid
                AND c.relkind = 'S' AND d.deptype IN ('a', 'i'))
    LOOP EXECUTE format('ALTER TABLE %s OWNER TO lauf_app', one.name); END LOOP;
    FOR one IN
        SELECT p.oid::regprocedure AS name FROM pg_proc p
        WHERE p.pronamespace = 'public'::regnamespace AND p.proowner <> 'lauf_app'::regrole
    LOOP EXECUTE format('ALTER ROUTINE %s OWNER TO lauf_app', one.name); END LOOP;
END $$;
ALTER SCHEMA public OWNER TO lauf_app;
"""


class Ask(Protocol):
    """Asks a database as the superuser: statements, with values for `:'name'`; lines of answers."""

    def __call__(self, database: str, sql: str, **variables: str) -> list[str]: ...


def provide_role(ask: Ask, password: str, *, may_make_databases: bool) -> None:
    """The role, with the password that is written down; making databases is for checks, and so is
    ending what is at work in one that goes away, PostgreSQL's own tidying up included."""
    may = "CREATEDB" if may_make_databases else "NOCREATEDB"
    ends = "GRANT" if may_make_databases else "REVOKE"
    of = "TO" if may_make_databases else "FROM"
    ask(
        "postgres",
        f"""
        SELECT 'CREATE ROLE {APPLICATION}'
            WHERE NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '{APPLICATION}') \\gexec
        ALTER ROLE {APPLICATION} LOGIN NOSUPERUSER {may} NOCREATEROLE PASSWORD :'password';
        {ends} pg_signal_backend {of} {APPLICATION};
        """,
        password=password,
    )


def provide_database(ask: Ask, database: str) -> None:
    """A database of that name that belongs to the role, with all that is in it."""
    owners = ask(
        "postgres",
        "SELECT pg_get_userbyid(datdba) FROM pg_database WHERE datname = :'name';",
        name=database,
    )
    if not owners:
        ask("postgres", f'CREATE DATABASE "{database}" OWNER {APPLICATION};')
    elif owners != [APPLICATION]:
        ask(database, _HAND_OVER)
        ask("postgres", f'ALTER DATABASE "{database}" OWNER TO {APPLICATION};')
