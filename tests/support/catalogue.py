"""What Lauf's Python says to people, gathered from its code; `python -m tests.support.catalogue`
writes the list of it anew."""

from __future__ import annotations

import ast
import io
import re
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Final

from babel.messages.catalog import Catalog
from babel.messages.pofile import write_po

from tests.support.served import ROOT

BACKEND: Final = ROOT / "backend/lauf"
LIST: Final = BACKEND / "locale/lauf.pot"
#: What a message is given to, as its first argument.
SAID_BY: Final = ("say", "mark", "Unreadable", "ask")
#: A message in a template of paper.
_IN_TEMPLATES: Final = re.compile(r'\{% say "([^"]*)"')


@cache
def messages() -> Catalog:
    """Every message of the code with the files it stands in."""
    found = Catalog(project="Lauf", charset="utf-8", fuzzy=False)
    for path in sorted(BACKEND.rglob("*.py")):
        where = [(path.relative_to(BACKEND).as_posix(), 0)]
        for message in said_in(ast.parse(path.read_text())):
            found.add(message, locations=where)
    for path in sorted(BACKEND.rglob("templates/*.html")):
        where = [(path.relative_to(BACKEND).as_posix(), 0)]
        for message in _IN_TEMPLATES.findall(path.read_text()):
            found.add(message, locations=where)
    return found


def said_in(code: ast.AST) -> Iterator[str | tuple[str, str]]:
    """The messages of some code; one that is chosen by a condition is two."""
    for call in ast.walk(code):
        if not isinstance(call, ast.Call) or not isinstance(call.func, ast.Name):
            continue
        if call.func.id in SAID_BY:
            yield from constants_of(call.args[0])
        elif call.func.id == "say_many":
            (one,), (many,) = map(constants_of, call.args[:2])
            yield one, many


def constants_of(argument: ast.expr) -> list[str]:
    """The texts that an argument may be."""
    if isinstance(argument, ast.IfExp):
        return [*constants_of(argument.body), *constants_of(argument.orelse)]
    if isinstance(argument, ast.Constant) and isinstance(argument.value, str):
        return [argument.value]
    return []


def as_text(catalogue: Catalog) -> str:
    """A catalogue as gettext's own file."""
    held = io.BytesIO()
    write_po(held, catalogue, sort_by_file=True, include_lineno=False, omit_header=True, width=100)
    return held.getvalue().decode()


if __name__ == "__main__":
    Path(LIST).parent.mkdir(exist_ok=True)
    Path(LIST).write_text(as_text(messages()))
