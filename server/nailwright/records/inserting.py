"""Storing the captures of a file."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from nailwright.common.below_orm import insert_rows
from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Person
from nailwright.records.models import Import
from nailwright.records.reading import FileFish


def insert_captures(row: Import, person: Person, now: datetime, fish: Sequence[tuple[FileFish, Run]]) -> None:
    """One insert for all; the database still refuses what does not fit."""
    same = {"programme_id": row.programme_id, "recorder_id": person.pk, "server_time": now, "brought_in_id": row.pk}
    insert_rows(
        Capture,
        [same | each.values | {"id": each.key, "run_id": run.pk, "device_time": each.at} for each, run in fish],
    )
