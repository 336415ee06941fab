"""Reads whose SQL is worked out once.

Building and compiling an ORM query costs more than PostgreSQL needs to answer it. A `Compiled`
read is still written with the ORM; its SQL is kept and only the values are put in anew.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from datetime import UTC, date, datetime, timedelta
from json import loads
from typing import Any
from uuid import UUID

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Model, QuerySet

_marks = itertools.count(1)


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


class Compiled:
    """A query of fixed form: `build` makes the queryset from values of the given kinds.

    Each value must reach the database as it is (UUIDs, dates, times), in plain filters. Rows come
    as tuples in the order of the queryset's `values_list`.
    """

    def __init__(self, build: Callable[..., QuerySet[Any, Any]], *kinds: type) -> None:
        self._build = build
        self._kinds = kinds
        self._form: tuple[str, list[int | None], tuple[Any, ...]] | None = None

    def rows(self, *values: Any) -> list[tuple[Any, ...]]:
        """The rows for these values. One query."""
        if self._form is None:
            self._form = self._compile()
        sql, places, given = self._form
        asked = [
            kept if place is None else values[place]
            for place, kept in zip(places, given, strict=True)
        ]
        return _fetched(sql, asked)

    @staticmethod
    def json(value: Any) -> Any:
        """A JSON column as the database gives it: text, in rows that no model has read."""
        if value == "{}":  # most of them
            return {}
        return loads(value) if isinstance(value, str) else value

    def _compile(self) -> tuple[str, list[int | None], tuple[Any, ...]]:
        marks = [_mark(kind) for kind in self._kinds]
        sql, given = self._build(*marks).query.sql_with_params()
        places = [marks.index(value) if value in marks else None for value in given]
        if missing := set(range(len(marks))) - set(places):
            raise ValueError(f"values {sorted(missing)} do not reach the query as they are")
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


class CompiledOne:
    """As `Compiled`, for one model instance with its related ones, as `select_related` gives it.

    `build` makes the queryset, `related` names the forward relations to bring along.
    """

    def __init__(
        self,
        model: type[Model],
        build: Callable[..., QuerySet[Any, Any]],
        *kinds: type,
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
        rows = self._read.rows(*values)
        if not rows:
            return None
        cells = iter(rows[0])
        made: dict[str, Model] = {}
        for path, fields in self._fields.items():
            names = [field.attname for field in fields]
            made[path] = self._models[path].from_db(
                connection.alias, names, [_from_db(field, next(cells)) for field in fields]
            )
            if path:
                above, _, name = path.rpartition("__")
                setattr(made[above], name, made[path])
        return made[""]


def _from_db(field: Any, value: Any) -> Any:
    convert = getattr(field, "from_db_value", None)
    return convert(value, None, connection) if convert else value
