"""Each fact stands in one place: names, fields, kinds and words are declared once."""

from __future__ import annotations

import inspect
import re
from collections import defaultdict
from pathlib import Path

import lauf
from lauf.api.catalogue.tests import Protocol
from lauf.api.lessons.plans import BlockEntry
from lauf.api.shape import Schema
from lauf.catalogue.fields import PROTOCOL_FIELDS
from lauf.catalogue.models import ProtocolVersion
from lauf.rules.planning.block_kinds import BLOCK_KINDS, SETTINGS
from lauf.rules.planning.blocks import BlockKind
from lauf.rules.reading.kinds import KINDS
from lauf.rules.reading.quantities import Kind
from lauf.web.api import api

HOUSE = Path(inspect.getfile(lauf)).parent


def schemas(of: type[Schema]) -> list[type[Schema]]:
    found = []
    for one in of.__subclasses__():
        found += [one, *schemas(one)]
    return found


def test_every_schema_of_the_api_has_a_name_of_its_own() -> None:
    """Two alike make one of them stand for both in the generated types."""
    described = set(api.get_openapi_schema()["components"]["schemas"])
    places = defaultdict(set)
    for schema in schemas(Schema):
        if schema.__module__.startswith("lauf.") and schema.__name__ in described:
            places[schema.__name__].add(schema.__module__)
    assert len(places) > 100
    assert {name: where for name, where in places.items() if len(where) > 1} == {}


def test_a_protocols_fields_are_those_of_its_model_at_every_door() -> None:
    assert set(Protocol.model_fields) == set(PROTOCOL_FIELDS)
    kept = {field.name for field in ProtocolVersion._meta.concrete_fields}
    assert set(PROTOCOL_FIELDS) < kept


def test_a_blocks_settings_are_those_that_are_read() -> None:
    who = {"id", "kind", "label", "test_id", "activity_id", "closed"}
    assert set(BlockEntry.model_fields) - who == set(SETTINGS)
    for kind in BLOCK_KINDS.values():
        assert set(kind.defaults) <= set(SETTINGS)


def test_every_kind_is_registered() -> None:
    assert set(KINDS) == set(Kind)
    assert set(BLOCK_KINDS) == set(BlockKind)


def test_history_imports_no_rules() -> None:
    """A migration that took today's rule along would change what it did when the rule changes."""
    for path in HOUSE.glob("*/migrations/*.py"):
        imported = re.findall(r"^\s*(?:from|import) (lauf\S*)", path.read_text(), re.MULTILINE)
        assert imported == [], path
