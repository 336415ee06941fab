"""Each fact stands in one place: names, fields, kinds and words are declared once."""

from __future__ import annotations

import inspect
import re
import sys
import tomllib
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import is_dataclass
from pathlib import Path

import pytest
from django.test import Client
from pydantic import BaseModel
from typing_extensions import is_typeddict

import lauf
from lauf.catalogue.models import ProtocolVersion
from lauf.catalogue.protocol import Protocol
from lauf.rules.planning.block_kinds import BLOCK_KINDS
from lauf.rules.planning.blocks import SETTINGS, BlockKind
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import Kind
from lauf.web.api import api

HOUSE = Path(inspect.getfile(lauf)).parent


def shapes() -> Iterator[type]:
    """Every class of Lauf's own that can be a shape of the API."""
    for name, module in sorted(sys.modules.items()):
        if name.startswith("lauf."):
            for one in vars(module).values():
                if isinstance(one, type) and one.__module__ == name:
                    answers = is_dataclass(one) and name.startswith("lauf.progress.")
                    if issubclass(one, BaseModel) or is_typeddict(one) or answers:
                        yield one


def test_every_shape_of_the_api_has_a_name_of_its_own() -> None:
    """Two alike make one of them stand for both in the generated types."""
    described = set(api.get_openapi_schema()["components"]["schemas"])
    places = defaultdict(set)
    for shape in shapes():
        if shape.__name__ in described:
            places[shape.__name__].add(shape.__module__)
    assert len(places) > 250
    assert {name: where for name, where in places.items() if len(where) > 1} == {}


def test_a_protocol_is_all_of_its_model_but_what_a_version_is() -> None:
    kept = {field.name for field in ProtocolVersion._meta.concrete_fields}
    assert set(Protocol.model_fields) == kept - {"id", "test", "number", "meaning", "changed"}


def test_every_kind_of_block_begins_with_settings_of_its_own() -> None:
    for kind, one in BLOCK_KINDS.items():
        assert one.new["kind"] is kind
        assert set(one.new) - {"kind", "label"} <= set(SETTINGS[kind])


#: What is JSON before it is read, or is written as JSON: files, columns, another process.
JSON_BORDER = {
    "catalogue/norm_files.py": "answers from a process of its own",
    "catalogue/ready/__init__.py": "files of ready tests",
    "challenges/queries/games.py": "sums as a file of games says them",
    "compiled.py": "columns of JSON",
    "demo/games.py": "files of schools far away",
    "exchange/games/files.py": "files of games, as they were signed",
    "exchange/games/signing.py": "what is signed, byte for byte",
    "exchange/lists/in_process.py": "answers from a process of its own",
    "exchange/package/tables.py": "a package's description",
    "exchange/package/unpack.py": "a package's description",
    "exchange/package/write.py": "a package's description",
    "exchange/queries/pupil_archive.py": "a child's own file",
    "sandbox/child.py": "answers to another process",
}


def test_nothing_but_json_at_its_border_is_without_a_shape() -> None:
    untyped, border = set(), set()
    for path in HOUSE.rglob("*.py"):
        text, name = path.read_text(), path.relative_to(HOUSE).as_posix()
        if "migrations/" in name or name == "plain_json.py":
            continue
        if re.search(r"[dD]ict\[str, Any\]", text):
            untyped.add(name)
        if "JsonObject" in text:
            border.add(name)
    assert untyped == set()
    assert border == set(JSON_BORDER)


def test_every_kind_is_registered() -> None:
    assert set(KINDS) == set(Kind)
    assert set(BLOCK_KINDS) == set(BlockKind)


def test_history_imports_no_rules() -> None:
    """A migration that took today's rule along would change what it did when the rule changes."""
    for path in HOUSE.glob("*/migrations/*.py"):
        imported = re.findall(r"^\s*(?:from|import) (lauf\S*)", path.read_text(), re.MULTILINE)
        assert imported == [], path


@pytest.mark.django_db
def test_versions_have_dates_and_the_one_served_is_the_newest() -> None:
    root = HOUSE.parents[1]
    told = (root / "CHANGELOG.md").read_text()
    released = re.findall(r"^## (\d+)\.(\d+)\.(\d+), (\d{4}-\d\d-\d\d)$", told, re.MULTILINE)
    assert len(released) == told.count("\n## ") - 1, "beside what is not released yet"
    versions = [tuple(map(int, one[:3])) for one in released]
    assert versions == sorted(versions, reverse=True)
    assert [one[3] for one in released] == sorted((one[3] for one in released), reverse=True)
    assert [int(one) for one in re.findall(r"\d+", lauf.__version__)] > [*versions[0]]
    assert tomllib.loads((root / "pyproject.toml").read_text())["project"]["version"] == (
        lauf.__version__
    )
    assert Client().get("/api/health").json()["version"] == lauf.__version__
