"""Reads whose SQL is worked out once.

Building and compiling an ORM query costs more than PostgreSQL needs to answer it. A `Compiled`
read is still written with the ORM; its SQL is kept and only the values are put in anew.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from json import loads
from typing import Any
from uuid import UUID

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Model, QuerySet

from lauf.plain_json import JsonObject

_marks = itertools.count(1)
#: Lengths of lists that one read keeps its SQL for: what a busy school asks for at a time.
_MOST_FORMS = 100
#: Objects of fewer letters repeat from row to row, such as a test's usual conditions.
_SHORT = 120


@lru_cache(maxsize=512)
def _short(text: str) -> JsonObject:
    found: JsonObject = loads(text)
    return found


def _mark(kind: type) -> Any:
    """A value of the kind that stands in no real query: where it turns up, a value belongs."""
    number = next(_marks)
    if kind is UUID:
        return UUID(int=(0xFEED << 112) + number)
    if kind is date:
        return date(1, 1, 1) + timedelta(days=number)
    if kind is datetime:
        return datetime(1, 1, 1, tzinfo=UTC) + timedelta(minutes=number)
    raise TypeError(f"no mark for {kind.__name__}")


#: A kind of value, or a list of one kind, such as `[UUID]`.
Kind = type | list[type]
_Form = tuple[str, list[tuple[int, int] | None], tuple[Any, ...]]


class Compiled:
    """A query of fixed form: `build` makes the queryset from values of the given kinds.

    Each value must reach the database as it is (UUIDs, dates, times), in plain filters; a list of
    them in an `__in`, which has one form for each length. Rows come as tuples in the order of the
    queryset's `values_list`.
    """

    def __init__(self, build: Callable[..., QuerySet[Any, Any]], *kinds: Kind) -> None:
        self._build = build
        self._kinds = kinds
        self._forms: dict[tuple[int, ...], _Form] = {}

    def rows(self, *values: Any) -> list[tuple[Any, ...]]:
        """The rows for these values; none, without asking, where a list is empty. One query."""
        held = [
            list(dict.fromkeys(value)) if isinstance(kind, list) else [value]
            for kind, value in zip(self._kinds, values, strict=True)
        ]
        counts = tuple(map(len, held))
        if 0 in counts:
            return []
        if counts not in self._forms:
            if len(self._forms) == _MOST_FORMS:
                self._forms.clear()
            self._forms[counts] = self._compile(counts)
        sql, places, given = self._forms[counts]
        asked = [
            kept if place is None else held[place[0]][place[1]]
            for place, kept in zip(places, given, strict=True)
        ]
        return _fetched(sql, asked)

    @staticmethod
    def json(value: Any) -> Any:
        """A JSON column as the database gives it: text, in rows that no model has read."""
        if value == "{}":  # most of them
            return {}
        if not isinstance(value, str):
            return value
        return dict(_short(value)) if value[0] == "{" and len(value) < _SHORT else loads(value)

    def _compile(self, counts: tuple[int, ...]) -> _Form:
        marks = [
            [_mark(kind[0] if isinstance(kind, list) else kind) for _ in range(count)]
            for kind, count in zip(self._kinds, counts, strict=True)
        ]
        sql, given = self._build(
            *(
                mine if isinstance(kind, list) else mine[0]
                for kind, mine in zip(self._kinds, marks, strict=True)
            )
        ).query.sql_with_params()
        place_of = {
            mark: (value, number)
            for value, mine in enumerate(marks)
            for number, mark in enumerate(mine)
        }
        places = [
            place_of.get(value) if isinstance(value, UUID | date) else None for value in given
        ]
        if missing := sorted(set(place_of.values()) - set(places)):
            raise ValueError(f"values {missing} do not reach the query as they are")
        return sql, places, tuple(given)


def plain_rows(found: QuerySet[Any, Any]) -> list[tuple[Any, ...]]:
    """The rows of a `values_list` as `Compiled` gives them, of a query whose form changes: what
    Django does to every cell takes longer than the rest of a long read. One query."""
    try:
        sql, given = found.query.sql_with_params()
    except EmptyResultSet:
        return []
    return _fetched(sql, given)


def _fetched(sql: str, values: Sequence[Any]) -> list[tuple[Any, ...]]:
    with connection.cursor() as cursor:
        cursor.execute(sql, values)
        rows: list[tuple[Any, ...]] = cursor.fetchall()
    return rows


class CompiledModel:
    """As `Compiled`, for model instances with their related ones, as `select_related` gives them.

    `build` makes the queryset, `related` names the forward relations to bring along.
    """

    def __init__(
        self,
        model: type[Model],
        build: Callable[..., QuerySet[Any, Any]],
        *kinds: Kind,
        related: tuple[str, ...] = (),
    ) -> None:
        self._models: dict[str, type[Model]] = {"": model}
        for path in related:
            above, _, name = path.rpartition("__")
            self._models[path] = self._models[above]._meta.get_field(name).related_model  # type: ignore[assignment]
        self._fields = {path: found._meta.concrete_fields for path, found in self._models.items()}
        names = [
            f"{path}__{field.attname}" if path else field.attname
            for path, fields in self._fields.items()
            for field in fields
        ]
        self._read = Compiled(lambda *marks: build(*marks).values_list(*names), *kinds)

    def first(self, *values: Any) -> Any:
        """The first instance for these values, or None. One query."""
        return next(map(self._made, self._read.rows(*values)), None)

    def all(self, *values: Any) -> list[Any]:
        """The instances for these values. One query."""
        return [self._made(row) for row in self._read.rows(*values)]

    def _made(self, row: tuple[Any, ...]) -> Any:
        cells = iter(row)
        made: dict[str, Model | None] = {}
        for path, fields in self._fields.items():
            names = [field.attname for field in fields]
            values = [_from_db(field, next(cells)) for field in fields]
            above, _, name = path.rpartition("__")
            # A relation that leads nowhere: its columns are of an outer join.
            there = not path or getattr(made[above], f"{name}_id", None) is not None
            made[path] = one = (
                self._models[path].from_db(connection.alias, names, values) if there else None
            )
            if path and made[above] is not None:
                setattr(made[above], name, one)
        return made[""]


def _from_db(field: Any, value: Any) -> Any:
    convert = getattr(field, "from_db_value", None)
    return convert(value, None, connection) if convert else value
