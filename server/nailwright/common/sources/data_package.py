"""A Data Package: a zip with a description and a CSV (Frictionless Data, Data Package, version 1)."""

from __future__ import annotations

import json

from nailwright.common.sources import csv_file
from nailwright.common.sources.table import Table
from nailwright.common.sources.zipped import names_in, open_zip, piece_of
from nailwright_core.common.errors import CoreError

NAME = "Data Package"
_DESCRIPTION = "datapackage.json"


def can_open(content: bytes) -> bool:
    """A zip with a description in it."""
    return _DESCRIPTION in names_in(content)


def open_file(content: bytes) -> Table:
    """The package's first resource as a table.

    Raises:
        CoreError: ``package_unreadable``, and as ``open_zip`` and the CSV's decoder.
    """
    package = open_zip(content)
    try:
        path = json.loads(piece_of(package, _DESCRIPTION))["resources"][0]["path"]
        if path not in package.namelist():
            raise KeyError(path)
    except (ValueError, KeyError, IndexError, TypeError, RecursionError) as error:
        raise CoreError(
            "package_unreadable",
            f"Expected {_DESCRIPTION} to name one CSV in the same zip under resources; it does not.",
            "file",
        ) from error
    read = csv_file.open_file(piece_of(package, path))
    return Table(f"{NAME}, {path}", read.headers, read.notices, read.lines, read.about)
