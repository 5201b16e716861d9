"""Cells of a spreadsheet that are only text."""

from __future__ import annotations

from typing import Any

#: A spreadsheet runs a cell that starts with one of these as a formula; some take the full-width signs of East Asian keyboards for
#: the same (U+FF1D, U+FF0B, U+FF0D, U+FF20).
FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n", "\uff1d", "\uff0b", "\uff0d", "\uff20")


def harmless(value: Any) -> Any:
    """A cell that no spreadsheet runs as a formula."""
    return f"'{value}" if isinstance(value, str) and value.startswith(FORMULA) else value
