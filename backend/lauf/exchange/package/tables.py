"""The tables of a data package: which, with which columns, described for whoever reads them.

A package holds every row of a school but what only this Lauf can use: passwords, sessions, links,
second factors, the key it signs with, and sums that are made anew. After the Data Package
specification, version 1 (frictionless standards: Tabular Data Package, Table Schema).
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from typing import Any, Final

from django.apps import apps
from django.contrib.sessions.models import Session
from django.db import models
from django.db.models import QuerySet

from lauf.exchange.package.meanings import TABLES, meaning
from lauf.people.models import School, SignIn
from lauf.plain_json import JsonObject

_PARTS: Final = ("people", "catalogue", "lessons", "records", "challenges")
#: What lets somebody in, or signs: it goes along where a school moves, and in no other file.
_SECRET: Final = {
    "invitation", "ownpage", "secondfactor", "signin", "gameskey", "helpercode", "challengecode",
}  # fmt: skip
#: Sums that are made anew, and what is of several schools.
_LEFT_OUT: Final = {"repeatsummary", "countedgroup", "trust", "secondpost"}
_SECRET_COLUMNS: Final = {
    "staff": {"password", "last_login", "sessions_from", "calendar_proof"},
    "helper": {"proof"},
    "slip": {"code"},
}
#: What the Lauf that a school is on says of it.
_COLUMNS_LEFT_OUT: Final = {
    "staff": {"at_office"},
    "school": {"is_demo", "trust", "most_children", "most_staff", "paused_at"},
}
#: Columns that always hold a list and have no default that says so.
_LISTS: Final = {"entries", "blocks", "rows", "percentiles"}
_TYPES: Final[list[tuple[type[models.Field[Any, Any]], dict[str, str]]]] = [
    (models.UUIDField, {"type": "string", "format": "uuid"}),
    (models.BooleanField, {"type": "boolean"}),
    (models.DateTimeField, {"type": "datetime"}),
    (models.DateField, {"type": "date"}),
    (models.TimeField, {"type": "time"}),
    (models.FloatField, {"type": "number"}),
    (models.IntegerField, {"type": "integer"}),
    (models.JSONField, {"type": "object"}),
    (models.CharField, {"type": "string"}),
]


@dataclass(frozen=True, slots=True)
class Table:
    """One table of the package; `moving`: with what lets people in."""

    model: type[models.Model]
    moving: bool = False

    @property
    def name(self) -> str:
        return str(self.model._meta.db_table)

    @property
    def is_of_a_list(self) -> bool:
        """Whether it only says which rows of two tables belong together."""
        return bool(self.model._meta.auto_created)

    @property
    def file(self) -> str:
        return f"data/{self.name}.csv"

    @property
    def fields(self) -> list[models.Field[Any, Any]]:
        named = str(self.model._meta.model_name)
        out = set(_COLUMNS_LEFT_OUT.get(named, ()))
        if not self.moving:
            out |= _SECRET_COLUMNS.get(named, set())
        return [one for one in self.model._meta.concrete_fields if one.name not in out]

    @property
    def columns(self) -> list[str]:
        return [str(one.column) for one in self.fields]

    @property
    def description(self) -> str:
        return TABLES[str(self.model._meta.model_name)]

    def rows(self, school: School) -> QuerySet[Any]:
        """The school's rows, always in the same order."""
        way = _way_to_school(self.model)
        found = self.model._default_manager.filter(**{way: school.pk}) if way else (
            self.model._default_manager.filter(pk=school.pk)
        )  # fmt: skip
        return found.order_by("pk")

    def lines(self, school: School) -> Iterator[list[str]]:
        """The cells of each row, as they are written. One query."""
        names = [one.attname for one in self.fields]
        for row in self.rows(school).values_list(*names).iterator(chunk_size=2000):
            yield [written(cell) for cell in row]

    def schema(self) -> JsonObject:
        """The Table Schema of its file."""
        own = self.model._meta
        keys = [
            {
                "fields": [one.column],
                "reference": {
                    "resource": "" if one.related_model is self.model
                    else one.related_model._meta.db_table,
                    "fields": [one.target_field.column],
                },
            }
            for one in self.fields
            if isinstance(one, models.ForeignKey) and getattr(one, "db_constraint", True)
        ]  # fmt: skip
        described = {
            "fields": [self._described(one) for one in self.fields],
            "missingValues": [""],
            "primaryKey": [own.pk.column],
        }
        return {**described, "foreignKeys": keys} if keys else described

    def _described(self, field: models.Field[Any, Any]) -> JsonObject:
        described: JsonObject = {"name": field.column, **type_of(field)}
        described["description"] = meaning(str(self.model._meta.model_name), str(field.column))
        constraints: JsonObject = {}
        if not field.null and not is_text(field):
            constraints["required"] = True
        if field.primary_key:
            constraints["unique"] = True
        return {**described, "constraints": constraints} if constraints else described


class _Sessions(Table):
    """Those of a school's staff; a session knows nothing of it."""

    def rows(self, school: School) -> QuerySet[Any]:
        keys = SignIn.objects.filter(staff__school=school).values("session_key")
        return Session.objects.filter(session_key__in=keys).order_by("pk")


def tables(*, moving: bool = False) -> list[Table]:
    """Every table of a package; `moving`: with those that let people in."""
    out = _LEFT_OUT if moving else _LEFT_OUT | _SECRET
    return [
        Table(model, moving)
        for part in _PARTS
        for model in apps.get_app_config(part).get_models(include_auto_created=True)
        if model._meta.model_name not in out
    ]


def type_of(field: models.Field[Any, Any]) -> dict[str, str]:
    """The Table Schema type of a column."""
    plain = field.target_field if isinstance(field, models.ForeignKey) else field
    if isinstance(plain, models.JSONField) and (plain.default is list or plain.name in _LISTS):
        return {"type": "array"}
    return next(described for kind, described in _TYPES if isinstance(plain, kind))


def sessions() -> Table:
    """Who is signed in: goes along with a school that moves, so that its devices go on."""
    return _Sessions(Session, moving=True)


def is_text(field: models.Field[Any, Any]) -> bool:
    """Whether an empty cell of the column is an empty text, not nothing."""
    return isinstance(field, models.CharField) and not field.null


def written(cell: Any) -> str:
    """A cell as it stands in a file."""
    match cell:
        case None:
            return ""
        case bool():
            return "true" if cell else "false"
        case datetime():
            return cell.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")
        case date():
            return cell.isoformat()
        case time():
            return cell.strftime("%H:%M:%S")
        case dict() | list():
            return json.dumps(cell, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
        case float():
            return repr(cell)
        case _:
            return str(cell)


def _way_to_school(model: type[models.Model]) -> str:
    """The shortest way from a row to its school, by keys that are never empty; "" for the school
    itself."""
    if model is School:
        return ""
    ways: list[tuple[type[models.Model], str]] = [(model, "")]
    while True:
        following: list[tuple[type[models.Model], str]] = []
        for here, way in ways:
            for field in here._meta.concrete_fields:
                if not isinstance(field, models.ForeignKey) or field.null:
                    continue
                if field.related_model is School:
                    return f"{way}{field.name}"
                following.append((field.related_model, f"{way}{field.name}__"))
        ways = following
