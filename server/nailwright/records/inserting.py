"""Storing the captures of a file, many at once and below the ORM: building models took longer than all else (bin/bench)."""

from __future__ import annotations

import json
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from django.db import connection

from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Person
from nailwright.records.models import Import
from nailwright.records.reading import FileFish

_FIELDS = {str(field.column): field for field in Capture._meta.concrete_fields}
_COLUMNS = list(_FIELDS)
_INSERT = f"INSERT INTO {Capture._meta.db_table} ({', '.join(f'`{column}`' for column in _COLUMNS)}) VALUES "
_MARKS = f"({', '.join(['%s'] * len(_COLUMNS))})"
_TEXTS = {"id", "programme_id", "run_id", "fish_id", "recorder_id", "brought_in_id"}


def insert_captures(row: Import, person: Person, now: datetime, fish: Sequence[tuple[FileFish, Run]]) -> None:
    """One insert for all; the database still refuses what does not fit."""
    if not fish:
        return
    same: dict[str, Any] = {column: field.get_default() for column, field in _FIELDS.items()} | {
        "programme_id": row.programme_id,
        "recorder_id": person.pk,
        "server_time": _stored(now),
        "brought_in_id": row.pk,
    }
    values: list[Any] = []
    for each, run in fish:
        cells = same | each.values
        cells["id"], cells["run_id"], cells["device_time"] = each.key, run.pk, _stored(each.at)
        cells["questions"] = json.dumps(cells["questions"]) if cells["questions"] else "[]"
        values.extend(
            str(cells[column]) if column in _TEXTS and cells[column] is not None else cells[column]
            for column in _COLUMNS
        )
    with connection.cursor() as cursor:
        cursor.execute(_INSERT + ", ".join([_MARKS] * len(fish)), values)


def _stored(moment: datetime) -> datetime:
    """UTC without saying so, as the database keeps it."""
    return moment.astimezone(UTC).replace(tzinfo=None)
