"""Entries about events as releases before 0.11 sent them."""

from __future__ import annotations

from nailwright.programmes.record.operations import Row


def with_details(row: Row) -> Row:
    """The details of an event were called ``said``."""
    if "said" not in row:
        return row
    rest = {name: value for name, value in row.items() if name != "said"}
    return {"details": row["said"], **rest}
