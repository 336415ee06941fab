"""`manage.py prepare`: the database at this version, and a school to begin with."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from typing import Any, Final

import psycopg
from django.conf import settings
from django.core.checks import Tags
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import DatabaseError, connection, transaction
from django.db.migrations.exceptions import InconsistentMigrationHistory
from django.db.migrations.loader import MigrationLoader
from django.utils import timezone

from lauf.judgement.questions import ask_about_all
from lauf.people.models import School

#: The tables of an empty Lauf, with the names of the migrations they stand for: `./lauf schema`.
_SCHEMA: Final = Path(__file__).parents[3] / "schema.sql"
#: "Lauf", as the number of an advisory lock of PostgreSQL.
_LOCK: Final = 0x4C617566


class Command(BaseCommand):
    help = (
        "Bring the database to this version, whole or not at all; then load the demo school into "
        "an empty one and bring it to today, or say how to create the first school."
    )

    # The addresses are looked at by the server as it starts.
    requires_system_checks = (Tags.models, Tags.security, Tags.caches)

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--no-demo", action="store_true")
        parser.add_argument("--schema-only", action="store_true")
        # For checks: a demo school that began this term is copied faster.
        parser.add_argument("--without-past", action="store_true")

    def handle(
        self, *_: Any, no_demo: bool, schema_only: bool, without_past: bool, **__: Any
    ) -> None:
        with self._alone():
            _migrate()
            self._ask_older()
            if schema_only:
                return
            if no_demo:
                self._for_a_school()
            else:
                self._demo(past=not without_past)

    def _ask_older(self) -> None:
        """Scores from before questions were kept beside them are asked about once."""
        for school in School.objects.all():
            if school.questions_kept:
                continue
            self.stdout.write(f"looking through the scores of {school.name} once, for odd ones")
            with transaction.atomic():
                ask_about_all(school, date.min)
                school.questions_kept = True
                school.save(update_fields=["questions_kept"])

    @contextmanager
    def _alone(self) -> Iterator[None]:
        """Two that prepare the same database do it one after the other."""
        try:
            held = psycopg.connect(
                **{**connection.get_connection_params(), **_PLAIN}, autocommit=True
            )
        except psycopg.OperationalError as error:
            raise CommandError(f"The database cannot be reached: {_first_line(error)}") from error
        with held:
            found = held.execute("SELECT pg_try_advisory_lock(%s)", [_LOCK]).fetchone()
            if found != (True,):
                self.stdout.write("waiting for another start that prepares this database")
                held.execute("SELECT pg_advisory_lock(%s)", [_LOCK])
            yield

    def _for_a_school(self) -> None:
        if School.objects.filter(is_demo=True).exists():
            raise CommandError(
                "This database holds the demo school, whose passwords are known to everybody. "
                "Use another database for a real school."
            )
        if not School.objects.exists():
            self.stdout.write(
                f"create your school in the browser; the set-up code is {settings.SETUP_CODE}"
            )

    def _demo(self, *, past: bool) -> None:
        # A real school's start does without; reading it takes as long as all the rest.
        from lauf.demo import school as demo

        school = School.objects.order_by("-is_demo").first()
        today = timezone.localdate()
        if school is None:
            school = demo.load(today, past=past)
            if past:
                demo.begin_lesson(school, timezone.now())
        elif school.is_demo:
            self._keep_up(school, today, past=past)
        else:
            raise CommandError("This database holds a real school: start with --no-demo.")
        for entry in demo.DEMO_SIGN_INS:
            self.stdout.write(
                f"demo sign-in: {entry['username']} / {entry['password']}  ({entry['who']})"
            )

    def _keep_up(self, school: School, today: Any, *, past: bool) -> None:
        """Whatever was done in the demo, it starts: what cannot be added is left out, and said."""
        from lauf.demo import school as demo

        try:
            with transaction.atomic():
                demo.keep_up(school, today)
                if past:
                    demo.begin_lesson(school, timezone.now())
        except Exception as error:
            self.stdout.write(
                "the demo school has no new lessons for today, because of what was changed in it "
                f"({type(error).__name__}: {_first_line(error)})"
            )


#: Of the connection's settings, what only Django's own understands; and no end to waiting.
_PLAIN: Final[Mapping[str, Any]] = {
    "options": "-c lock_timeout=0",
    "cursor_factory": psycopg.Cursor,
}


def _migrate() -> None:
    """All that is new in one transaction: a change that fails leaves everything as it was. Raises
    CommandError."""
    loader = MigrationLoader(connection)
    unknown = {
        f"{app} {name}"
        for app, name in loader.applied_migrations.keys() - loader.disk_migrations.keys()
        if app in loader.migrated_apps
    }
    if unknown:
        raise CommandError(
            "This database was last used by a newer Lauf than this one "
            f"({', '.join(sorted(unknown))}). Start that one; nothing was changed."
        )
    if loader.applied_migrations.keys() >= loader.disk_migrations.keys():
        return
    try:
        with transaction.atomic(), connection.cursor() as cursor:
            # Rows that wait for a check at the end would keep their table from being changed.
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            if not connection.introspection.table_names(cursor):
                # An empty database begins with the tables as they are now; migrations that are not
                # in them yet follow.
                cursor.execute(_SCHEMA.read_text())
            call_command("migrate", verbosity=0)
    except (DatabaseError, InconsistentMigrationHistory) as error:
        raise CommandError(
            f"The database could not be brought to this version: {_first_line(error)}. Everything "
            "in it is as it was: go on with the version that you had, and have this looked at."
        ) from error


def _first_line(error: BaseException) -> str:
    return str(error).strip().split("\n", 1)[0]
