"""Histories of marked fish as CSV of 0 and 1, for notebooks."""

from __future__ import annotations

import csv
from collections.abc import Iterator

from nailwright.common.spreadsheets import harmless
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.csv_rows import Line
from nailwright.records.licence import in_each_line
from nailwright.tags.histories import histories_of


def history_csv(programme: Programme, species: str, by: str) -> Iterator[str]:
    """Lines of CSV: a fish each, a column for each occasion (1: met), ``lost`` 1 where it did not go back after its last encounter.

    Args:
        species: a code. by: how days that were fished are put together, one of ``GROUPINGS``.
    """
    found, stands = histories_of(programme, species, by), in_each_line(programme)
    name = species_of(programme)[species].scientific_name
    writer = csv.writer(Line())
    yield writer.writerow(["organismID", "scientificName", *found.labels, "history", "lost", *stands])
    last = [harmless(each) for each in stands.values()]
    for fish, met, lost in zip(found.fish, found.x, found.lost, strict=True):
        cells = [str(each) for each in met]
        # behind a letter: a spreadsheet would read so many figures as a number
        yield writer.writerow([str(fish), name, *cells, f"h{''.join(cells)}", int(lost), *last])
