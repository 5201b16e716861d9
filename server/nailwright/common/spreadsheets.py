"""Cells of a spreadsheet that are only text."""

from __future__ import annotations

from typing import Any

#: A spreadsheet runs a cell that starts with one of these as a formula.
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def harmless(value: Any) -> Any:
    """A cell that no spreadsheet runs as a formula."""
    return f"'{value}" if isinstance(value, str) and value.startswith(FORMULA) else value
