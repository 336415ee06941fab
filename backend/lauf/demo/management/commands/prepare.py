"""What `./lauf start` runs once the tables are there; it prints what a person needs to begin."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.utils import timezone

from lauf.demo import school as demo
from lauf.people.models import School


class Command(BaseCommand):
    help = "Load the demo school into an empty database, or say how to create the first school."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--no-demo", action="store_true")

    def handle(self, *_: Any, no_demo: bool, **__: Any) -> None:
        school = School.objects.first()
        if no_demo:
            if School.objects.filter(is_demo=True).exists():
                raise CommandError(
                    "This database holds the demo school, whose passwords are known to everybody. "
                    "Use another database for a real school."
                )
            if school is None:
                self.stdout.write(
                    f"create your school in the browser; the set-up code is {settings.SETUP_CODE}"
                )
            return
        today = timezone.localdate()
        if school is None:
            demo.load(today)
        elif school.is_demo:
            demo.keep_up(school, today)
        else:
            raise CommandError("This database holds a real school: start with --no-demo.")
        for entry in demo.DEMO_SIGN_INS:
            self.stdout.write(
                f"demo sign-in: {entry['username']} / {entry['password']}  ({entry['who']})"
            )
