"""Many rows at once below the ORM: building models and preparing each value took longer than all else (bin/bench)."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Mapping, Sequence
from datetime import UTC, datetime
from functools import cache
from itertools import repeat
from typing import Any
from uuid import UUID

from django.core.exceptions import EmptyResultSet
from django.db import connection, models
from django.db.models import Func, QuerySet


def insert_rows(model: type[models.Model], rows: Sequence[Mapping[str, Any]]) -> None:
    """One INSERT for all rows; the database still refuses what does not fit.

    Args:
        rows: values by the names of columns ("run_id", not "run"); what a row does not name is the field's default.

    Raises:
        django.db.IntegrityError, django.db.DataError: as the ORM would.
    """
    if not rows:
        return
    columns: list[Iterable[str]] = []
    connection.ensure_connection()
    text = connection.connection.string_literal  # the driver's own quoting, as it knows the connection's letters
    for column, default in _columns(model):
        values = [row.get(column, default) for row in rows]
        # most columns say the same in every row, and are quoted once
        first = values[0]
        same = all(each is first or (type(each) is type(first) and each == first) for each in values)
        columns.append(repeat(_quoted(first, text)) if same else [_quoted(each, text) for each in values])
    listed = ", ".join(f"`{column}`" for column, _ in _columns(model))
    lines = "), (".join(", ".join(cells) for _, *cells in zip(rows, *columns, strict=False))
    with connection.cursor() as cursor:
        cursor.execute(f"INSERT INTO {model._meta.db_table} ({listed}) VALUES ({lines})")


def read_rows(wanted: QuerySet[Any, Any]) -> list[tuple[Any, ...]]:
    """Rows of a ``values_list`` as the database gives them: keys and JSON as text, times in UTC without saying so.

    None where the filter can match nothing.
    """
    try:
        statement = wanted.query.sql_with_params()
    except EmptyResultSet:
        return []
    with connection.cursor() as cursor:
        cursor.execute(*statement)
        return list(cursor.fetchall())


class Moment(Func):
    """A time as text in UTC, ``2026-06-01T21:30:00.000000Z``, put together by the database."""

    function = "DATE_FORMAT"
    template = "%(function)s(%(expressions)s, '%%%%Y-%%%%m-%%%%dT%%%%H:%%%%i:%%%%s.%%%%fZ')"
    output_field = models.CharField()


@cache
def _columns(model: type[models.Model]) -> tuple[tuple[str, Any], ...]:
    """Columns with what is stored where nothing is said; what every row has to say has none."""
    return tuple(
        (str(field.column), None if field.has_default() and _made_anew(field.default) else field.get_default())
        for field in model._meta.concrete_fields
    )


def _made_anew(default: Any) -> bool:
    """Whether each row would have one of its own, such as a key or the time."""
    return callable(default) and default is not list


def _quoted(value: Any, text: Callable[[str], bytes]) -> str:
    """A value as the statement holds it: times in UTC without saying so, keys and lists as text."""
    if value is None:
        return "NULL"
    if isinstance(value, str):
        return text(value).decode()
    if isinstance(value, int | float):  # true is 1
        return repr(value + 0)
    if isinstance(value, UUID):
        return f"'{value}'"
    if isinstance(value, datetime):
        return f"'{value.astimezone(UTC):%Y-%m-%d %H:%M:%S.%f}'"
    return text(json.dumps(value)).decode()
