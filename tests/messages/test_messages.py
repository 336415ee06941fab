"""Every text that a person reads stands in a catalogue, is short and plain, and translatable."""

from __future__ import annotations

import ast
import json
import os
import re
import statistics
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Final

import pytest
import textstat

from tests.support.catalogue import BACKEND, LIST, SAID_BY, as_text, constants_of, messages
from tests.support.messages import CATALOGUE
from tests.support.pseudo import pseudo_language
from tests.support.served import ROOT

MOST_WORDS: Final = 20
#: Words that a colleague would not say; the glossary of the house has others.
NOT_SAID: Final = re.compile(
    r"\b(whoever|nought|anew|meanwhile|shut out|let in|as you left it|by your word|of now|such a"
    r"|variants?|somebody|(?:take|taken|took|takes) (?:it )?(?:back|away))\b",
    re.IGNORECASE,
)
#: Its one name for what statistics call a band; a colleague hears it as one word.
THE_BAND: Final = re.compile("day-to-day variation", re.IGNORECASE)
#: What is no text of a page, by file: why.
NOT_A_TEXT: Final = {
    "demo/": "a made-up school",
    "api/vocabulary.py": "comments of a generated file",
    "catalogue/actions/ready.py": "names in published tables",
    "exchange/lists/columns.py": "what others write above their columns",
    "exchange/lists/dates.py": "names of months in five languages",
    "exchange/lists/roster.py": "columns of a published format",
    "exchange/paper/lane.py": "drawings",
    "exchange/paper/render.py": "fonts and frames",
    "command.py": "for who looks after the machine",
    "schools.py": "for who looks after the machine",
    "keeping/": "for who looks after the machine",
    "serving/": "for who looks after the machine",
    "web/configuration.py": "for who looks after the machine",
    "web/variables.py": "for who looks after the machine",
    "web/checks.py": "for who looks after the machine",
    "web/watching.py": "for who looks after the machine",
    "web/guesses.py": "for developers",
    "web/models.py": "for developers",
    "people/models/counted.py": "for developers",
    "web/management/": "for developers",
    "web/urls.py": "for developers",
    "web/settings.py": "for developers",
    "web/asgi.py": "a warning of Django's",
    "compiled.py": "for developers",
}
#: Classes of errors that nobody but a developer sees, and logs.
_FOR_DEVELOPERS: Final = ("AssertionError", "RuntimeError", "TypeError", "warning", "compile")
#: What is read by a machine: SQL, drawings, formats, patterns of what is typed, names of systems.
_PLAIN: Final = re.compile(
    r"[^a-zA-Z]*|<.*|(?:SELECT|SET|LOCK|COPY|CREATE|INSERT|DROP|FORMAT|LAUF1) .*|.*charset=.*"
    r"|attachment; .*|.*\(\?P<.*|[a-z |?]+\?|Mac OS|games result|.*\(left out\)|.*: %s"
    r"|Every error says `.*",
    re.DOTALL,
)


def sentences(message: str) -> list[str]:
    """Of a message, what stands in braces one word."""
    return re.split(r"(?<=[.!?])\s+", re.sub(r"\{[^}]*\}", "six", message))


def texts() -> Iterator[str]:
    """Every message of both catalogues, each of its plurals."""
    for one in messages():
        yield from (one.id if isinstance(one.id, tuple) else (one.id,))
    for file in sorted(CATALOGUE.glob("*.json")):
        for message in json.loads(file.read_text()).values():
            yield from message.split(" | ")


def test_the_list_of_messages_is_that_of_the_code() -> None:
    assert LIST.read_text() == as_text(messages()), "run python -m tests.support.catalogue"


def test_messages_are_short_and_in_a_colleagues_words() -> None:
    def faults(message: str) -> list[str]:
        long = [
            one for one in sentences(message) if len(re.findall(r"[\w’'+-]+", one)) > MOST_WORDS
        ]
        said = [found[0] for found in NOT_SAID.finditer(" ".join(sentences(message)))]
        return [*long, *said, *(";" for _ in range(message.count(";")))]

    assert {text: found for text in texts() if (found := faults(text))} == {}


def test_messages_read_easily() -> None:
    """Flesch's reading ease, by a library: 60 and more is plain English (Flesch 1948)."""
    eases = {}
    for text in texts():
        words = re.sub(r"[^\w\s.,?!’'-]", " ", THE_BAND.sub("the band", " ".join(sentences(text))))
        if len(re.findall(r"[A-Za-z]{2,}", words)) >= 6:
            eases[text] = textstat.flesch_reading_ease(words)
    assert len(eases) > 800
    assert statistics.mean(eases.values()) > 85
    assert {text: ease for text, ease in eases.items() if ease < 40} == {}


def test_no_text_stands_outside_the_list() -> None:
    outside = [
        f"{path.relative_to(BACKEND)}:{line} {text}"
        for path in sorted(BACKEND.rglob("*.py"))
        if "migrations" not in path.parts
        and not path.relative_to(BACKEND).as_posix().startswith(tuple(NOT_A_TEXT))
        for line, text in _prose(ast.parse(path.read_text()))
    ]
    assert outside == []


def test_no_text_of_a_template_stands_outside_the_list() -> None:
    for path in sorted(BACKEND.rglob("templates/*.html")):
        outside = re.sub(r"\{%.*?%\}|\{\{.*?\}\}|<[^>]*>", "", path.read_text())
        assert re.findall(r"[A-Za-z]{2,}", outside) == [], path.name


def _prose(code: ast.Module) -> Iterator[tuple[int, str]]:
    """Texts of two words or more with the lines they stand in, but for those that are said by
    `lauf.messages`, are read or matched, describe the code, or are for developers."""
    passed: set[ast.AST] = set()
    for node in ast.walk(code):
        passed |= set(_not_texts(node))
    for node in ast.walk(code):
        if node in passed or not isinstance(node, ast.Constant | ast.JoinedStr):
            continue
        if isinstance(node, ast.JoinedStr):
            passed.update(ast.walk(node))
            parts = [one.value for one in node.values if isinstance(one, ast.Constant)]
            text = "{}".join(map(str, parts))
        else:
            text = str(node.value)
        if re.search(r"[A-Za-z]{2,}[,:]? [A-Za-z]{2,}", text) and not _PLAIN.fullmatch(text):
            yield node.lineno, text


def _not_texts(node: ast.AST) -> Iterator[ast.AST]:
    match node:
        case ast.Module() | ast.ClassDef() | ast.FunctionDef() | ast.AsyncFunctionDef():
            yield from _of_a_definition(node)
        case ast.Call():
            yield from _of_a_call(node)
        case ast.Assert():
            yield from ast.walk(node)
        case ast.Dict():
            yield from (key for key in node.keys if key is not None)
        case ast.AnnAssign():
            yield from ast.walk(node.annotation)
        case ast.Compare() | ast.Subscript() | ast.Set():
            yield from (leaf for leaf in ast.walk(node) if isinstance(leaf, ast.Constant))


def _of_a_definition(
    node: ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef,
) -> Iterator[ast.AST]:
    """What describes it; all of an enumeration, whose values are codes, and of a row's own name."""
    bases = node.bases if isinstance(node, ast.ClassDef) else []
    named = "" if isinstance(node, ast.Module) else node.name
    if named == "__str__" or any("Enum" in ast.unparse(one) for one in bases):
        yield from ast.walk(node)
    elif ast.get_docstring(node):
        yield from ast.walk(node.body[0])


def _of_a_call(call: ast.Call) -> Iterator[ast.AST]:
    name = ast.unparse(call.func).rpartition(".")[2]
    if name in SAID_BY or name == "say_many":
        yield from (leaf for one in call.args[:2] for leaf in ast.walk(one))
    if name in _FOR_DEVELOPERS:
        yield from ast.walk(call)


def test_what_is_said_is_a_text_that_is_known() -> None:
    """A message is written where it is said, or marked: a variable would be in no list."""
    for path in sorted(BACKEND.rglob("*.py")):
        for call in ast.walk(ast.parse(path.read_text())):
            if isinstance(call, ast.Call) and isinstance(call.func, ast.Name):
                name, argument = call.func.id, call.args[0] if call.args else None
                if name == "say_many":
                    assert all(constants_of(one) for one in call.args[:2]), f"{path}:{call.lineno}"
                if name in ("say", "mark") and not isinstance(argument, ast.Name | ast.Attribute):
                    assert argument and constants_of(argument), f"{path}:{call.lineno}"


@pytest.fixture
def other_language(tmp_path: Path) -> dict[str, str]:
    """The variables of a Lauf in a made-up language."""
    return pseudo_language(tmp_path)


def test_another_language_needs_one_file(other_language: dict[str, str]) -> None:
    code = (
        "from lauf.rules.reading.entry import EntryError, read_entry\n"
        "from lauf.rules.reading.quantities import Kind, Measure\n"
        "try: read_entry('6o', Measure(Kind.COUNT, highest=60))\n"
        "except EntryError as refused: print(refused)"
    )
    done = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True,
        env={**os.environ, **other_language, "PYTHONPATH": str(ROOT / "backend")},
    )  # fmt: skip
    assert "⟦“6o” îs nöt ã cöûnt. ëë ëë⟧" in done.stdout
    assert not re.search(r"\b(is|not|Type|score|estimate)\b", done.stdout), done.stdout
