"""Write the API's description, and check that the front end's types were made from it."""

from __future__ import annotations

import json
import subprocess
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from lauf.web.api import api


class Command(BaseCommand):
    help = "Regenerate frontend/src/api/schema.d.ts from the API; with --check only compare."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true")

    def handle(self, *_: Any, check: bool, **__: Any) -> None:
        front_end = settings.ROOT / "frontend"
        description = settings.ROOT / ".lauf" / "openapi.json"
        description.write_text(json.dumps(api.get_openapi_schema(), indent=1))
        types = front_end / "src" / "api" / "schema.d.ts"
        before = types.read_text() if types.exists() else ""
        subprocess.run(
            ["npm", "run", "-s", "types"], cwd=front_end, check=True, stdout=subprocess.DEVNULL
        )
        after = types.read_text()
        if check and before != after:
            types.write_text(before)
            raise CommandError("frontend/src/api/schema.d.ts is out of date: run api_schema.")
