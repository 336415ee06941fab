"""What is touched by who adds a kind of score, a kind of block, a screen or a rule on a page: each
is added in a copy of the code, and works; the files are those that CONTRIBUTING names."""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Final

import pytest

from tests.support.served import ROOT

LAUF: Final = "backend/lauf"
FUTURE: Final = "from __future__ import annotations\n"


@dataclass(frozen=True)
class Addition:
    """The paragraph of CONTRIBUTING that says what to touch, how many files at most, what is put in
    each in place of what ("": the file is new), and a program that shows that it works."""

    named: str
    most: int
    files: dict[str, tuple[tuple[str, str], ...]]
    works: str


BLOCK: Final = Addition(
    "A kind of block.",
    3,
    {
        f"{LAUF}/rules/planning/blocks.py": (
            ('    REPORT = "report"\n', '    REPORT = "report"\n    SONG = "song"\n'),
            (
                "class CoolDownEntry(",
                "class SongEntry(_Entry):\n    kind: Literal[BlockKind.SONG]\n"
                "    verses: NotRequired[int | None]\n\n\nclass CoolDownEntry(",
            ),
            ("| CoolDownEntry", "| CoolDownEntry | SongEntry"),
        ),
        f"{LAUF}/rules/planning/block_kinds.py": (
            (
                "BLOCK_KINDS: Final",
                "def song_parts(block: Block[Any]) -> Iterable[Part]:\n"
                "    for verse in range(1, (block.entry.get('verses') or 1) + 1):\n"
                "        yield Part(20, block_parts.Phase.OPEN, f'Verse {verse}')\n\n\n"
                "BLOCK_KINDS: Final",
            ),
            (
                "    BlockKind.REPORT: BlockType(",
                '    BlockKind.SONG: BlockType("Song", song_parts,\n'
                '        {"kind": BlockKind.SONG, "label": "Song", "verses": 3}),\n'
                "    BlockKind.REPORT: BlockType(",
            ),
        ),
        "frontend/src/lessons/plan/editors/Song.vue": (
            ("", "<template><p>Verses</p></template>\n"),
        ),
    },
    """
from lauf.api.lessons.plans import Plan
from lauf.api.vocabulary import as_typescript
from lauf.rules.planning.blocks import SETTINGS, Block, BlockKind
from lauf.rules.planning.timeline import timeline
song = {"kind": "song", "label": "Our song", "verses": 2, "steps": 9}
(entry,) = Plan.model_validate({"blocks": [song]}).blocks
assert entry == {"kind": BlockKind.SONG, "label": "Our song", "verses": 2}, entry
assert timeline([Block(entry, "Our song")]).total_ms == 40_000
assert SETTINGS[BlockKind.SONG] == ("verses",)
assert '"code": "song"' in as_typescript()
""",
)
SCORE: Final = Addition(
    "A kind of score.",
    6,
    {
        f"{LAUF}/rules/reading/quantities.py": (
            ('    COUNT = "count"\n', '    COUNT = "count"\n    PACES = "paces"\n'),
        ),
        f"{LAUF}/rules/reading/kinds.py": (
            (FUTURE, f"{FUTURE}\nfrom lauf.rules.reading.readers import paces\n"),
            (
                "    Kind.COUNT: ScoreKind(",
                '    Kind.PACES: ScoreKind("Paces", ("paces",), Dimension.NUMBER, '
                'paces.read_paces,\n        "a number of paces", _number, _number, '
                'words="paces?"),\n    Kind.COUNT: ScoreKind(',
            ),
        ),
        f"{LAUF}/rules/reading/readers/paces.py": (
            (
                "",
                "from fractions import Fraction\n"
                "from lauf.rules.reading.readers.text import Read\n"
                "def read_paces(body, measure):\n"
                "    return Read(Fraction(int(body.removesuffix('paces').strip())))\n",
            ),
        ),
        "tests/rules/reading/entries.py": ((FUTURE, f'{FUTURE}\nPACES = [("12 paces", 12)]\n'),),
    },
    """
from lauf.api.vocabulary import as_typescript
from lauf.rules.reading.entry import entry_words, read_entry
from lauf.rules.reading.quantities import Kind, Measure
measure = Measure(Kind.PACES, unit="paces")
assert read_entry("12 paces", measure).value == 12
assert "12" in entry_words(read_entry("12", measure), measure)
assert '"code": "paces"' in as_typescript()
""",
)
SCREEN: Final = Addition(
    "A screen.",
    4,
    {
        f"{LAUF}/progress/weather.py": (
            (
                "",
                f"{FUTURE}from typing_extensions import TypedDict\n"
                "class Weather(TypedDict):\n    words: str\n"
                "def weather() -> Weather:\n    return {'words': 'dry'}\n",
            ),
        ),
        f"{LAUF}/api/progress/weather.py": (
            (
                "",
                f"{FUTURE}from django.http import HttpRequest\nfrom ninja import Router\n"
                "from lauf.progress.weather import Weather, weather\n"
                "router = Router(tags=['progress'])\n"
                "@router.get('/weather', response=Weather)\n"
                "def get_weather(request: HttpRequest) -> Weather:\n    return weather()\n",
            ),
        ),
        "frontend/src/progress/Weather.vue": (("", "<template><p>dry</p></template>\n"),),
        "frontend/src/app/router.ts": (
            (
                "  routes: [\n",
                '  routes: [\n    { path: "/weather", name: "weather", '
                'component: () => import("../progress/Weather.vue") },\n',
            ),
        ),
    },
    """
from lauf.web.api import api
described = api.get_openapi_schema()
assert "/api/weather" in described["paths"]
assert "Weather" in described["components"]["schemas"]
""",
)
RULE: Final = Addition(
    "A rule.",
    2,
    {
        f"{LAUF}/rules/judging/evenness.py": (
            ("", "def is_even(value: int) -> bool:\n    return value % 2 == 0\n"),
        ),
        f"{LAUF}/judgement/words.py": (
            (FUTURE, f"{FUTURE}\nfrom lauf.rules.judging.evenness import is_even\n"),
            (
                "    words = []\n    if judge.ladders:\n",
                "    words = ['even'] if is_even(row.value) else []\n    if judge.ladders:\n",
            ),
        ),
    },
    """
from lauf.judgement import words
assert words.score_words.__code__.co_names.count("is_even") == 1
""",
)


@pytest.mark.parametrize("added", [BLOCK, SCORE, SCREEN, RULE], ids=lambda one: one.named)
def test_an_addition_touches_few_files_and_those_that_are_named(
    added: Addition, tmp_path: Path
) -> None:
    assert len(added.files) <= added.most
    told = (ROOT / "CONTRIBUTING.md").read_text()
    paragraph = told[told.index(f"**{added.named}**") :].split("\n\n")[0]
    places = re.findall(r"`([\w/.<>]+)`", paragraph)
    shutil.copytree(
        ROOT / "backend", tmp_path / "backend", ignore=shutil.ignore_patterns("__pycache__")
    )
    for name, changes in added.files.items():
        assert any(_is_in(name, place) for place in places), f"{name} is not named"
        path = tmp_path / name
        path.parent.mkdir(parents=True, exist_ok=True)
        text = (ROOT / name).read_text() if (ROOT / name).exists() else ""
        for before, after in changes:
            assert text.count(before) == 1 or not before, f"{before!r} in {name}"
            text = text.replace(before, after, 1)
        path.write_text(text)
    program = f"import django\ndjango.setup()\n{added.works}"
    done = subprocess.run(
        [sys.executable, "-c", program], env=_environment(tmp_path), capture_output=True, text=True
    )
    assert done.returncode == 0, done.stderr


def _is_in(name: str, place: str) -> bool:
    """Whether CONTRIBUTING means a file, by its name or its folder, from the room on."""
    return f"/{name}".endswith(f"/{place}") or f"/{place.rstrip('/')}/" in f"/{name}"


def _environment(folder: Path) -> dict[str, str]:
    return {
        "PATH": "/usr/bin:/bin",
        "PYTHONPATH": str(folder / "backend"),
        "DJANGO_SETTINGS_MODULE": "lauf.web.settings",
        "LAUF_DATABASE_URL": "postgres://nobody@127.0.0.1/none",
        "LAUF_SECRET_KEY": "of a copy, 32 letters that nobody has to guess",
    }
