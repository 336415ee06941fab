"""Write what is made from the API and its files, and check that nothing of it is out of date."""

from __future__ import annotations

import json
import subprocess
import tempfile
from pathlib import Path
from typing import Any, Final

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from lauf.api.vocabulary import as_typescript
from lauf.exchange.games import schema as games_schema
from lauf.web.api import api

_FRONT_END: Final = settings.ROOT / "frontend"
_MADE: Final = _FRONT_END / "src" / "api"


class Command(BaseCommand):
    help = "Make the front end's types and vocabulary from the API; with --check only compare."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true")

    def handle(self, *_: Any, check: bool, **__: Any) -> None:
        made = {
            _MADE / "schema.d.ts": _types(),
            _MADE / "vocabulary.ts": _vocabulary(),
            settings.ROOT / "docs" / "formats" / "games.schema.json": games_schema(),
        }
        if not check:
            for path, text in made.items():
                path.write_text(text)
        elif any(not path.exists() or path.read_text() != text for path, text in made.items()):
            raise CommandError(
                "frontend/src/api or docs/formats is out of date: run manage.py api_schema."
            )


def _types() -> str:
    with tempfile.TemporaryDirectory() as folder:
        description = Path(folder) / "openapi.json"
        description.write_text(json.dumps(api.get_openapi_schema(), indent=1))
        return _run("openapi-typescript", str(description))


def _vocabulary() -> str:
    return _run("prettier", "--stdin-filepath", str(_MADE / "vocabulary.ts"), stdin=as_typescript())


def _run(program: str, *words: str, stdin: str = "") -> str:
    command = [str(_FRONT_END / "node_modules" / ".bin" / program), *words]
    done = subprocess.run(command, cwd=_FRONT_END, input=stdin, capture_output=True, text=True)
    if done.returncode:
        raise CommandError(f"{program} did not work:\n{done.stderr[-2000:]}")
    return done.stdout
