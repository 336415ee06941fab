"""Write the API's description, and check that the front end's types were made from it."""

from __future__ import annotations

import json
import subprocess
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from lauf.api.vocabulary import as_typescript
from lauf.web.api import api


class Command(BaseCommand):
    help = "Make the front end's types and vocabulary from the API; with --check only compare."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true")

    def handle(self, *_: Any, check: bool, **__: Any) -> None:
        front_end = settings.ROOT / "frontend"
        description = settings.ROOT / ".lauf" / "openapi.json"
        description.write_text(json.dumps(api.get_openapi_schema(), indent=1))
        made = [front_end / "src" / "api" / name for name in ("schema.d.ts", "vocabulary.ts")]
        before = [one.read_text() if one.exists() else "" for one in made]
        made[1].write_text(as_typescript())
        subprocess.run(
            ["npm", "run", "-s", "types"], cwd=front_end, check=True, stdout=subprocess.DEVNULL
        )
        after = [one.read_text() for one in made]
        if check and before != after:
            for one, text in zip(made, before, strict=True):
                one.write_text(text)
            raise CommandError("frontend/src/api is out of date: run manage.py api_schema.")
