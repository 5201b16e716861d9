"""Reports of tags as CSV: what was said and what became of it, without whoever said it."""

from __future__ import annotations

import csv
from collections.abc import Iterator

from nailwright.common.spreadsheets import harmless
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.csv_rows import Line, utc_text
from nailwright.records.licence import in_each_line

#: Name, type and what it is, in order.
COLUMNS = (
    ("return_id", "string", "Key of the report"),
    ("received_utc", "datetime", "When it came in (UTC)"),
    ("channel", "string", "web, telephone, letter or person"),
    ("state", "string", "received, matched, asked, verified or rejected; only those verified are encounters"),
    ("number_as_read", "string", "As the finder read it"),
    ("tag", "string", "Kind and number of the tag that it was matched with"),
    ("fish_id", "string", "Key of the fish that carries it"),
    ("species", "string", "Scientific name, as the finder had it"),
    ("found_on", "date", "Day"),
    ("found_within_days", "integer", "How far that may be off, days"),
    ("latitude", "number", "Degrees, WGS 84"),
    ("longitude", "number", "Degrees, WGS 84"),
    ("position_error_m", "number", "m"),
    ("place", "string", "In the finder's words"),
    ("length_mm", "number", "mm"),
    ("length_estimated", "boolean", "By eye"),
    ("mass_g", "number", "g"),
    ("means", "string", "How it was found: rod, net, trap, dead, market or other"),
    ("fish_fate", "string", "released, kept or dead"),
    ("tag_fate", "string", "left in the fish or removed"),
    ("decided_utc", "datetime", "When a person decided of it (UTC)"),
)


def return_csv(programme: Programme, species: str = "") -> Iterator[str]:
    """Lines of the CSV, oldest report first; of a species (code), or of all."""
    table, stands = species_of(programme), in_each_line(programme)
    writer = csv.writer(Line())
    yield writer.writerow([*(name for name, *_ in COLUMNS), *stands])
    rows = programme.returns.select_related("tag").order_by("received_at", "id")
    for each in (rows.filter(species=species) if species else rows).iterator(chunk_size=2000):
        told = (
            str(each.pk),
            utc_text(each.received_at),
            each.channel,
            each.state,
            each.number_text,
            f"{each.tag.kind} {each.tag.number}" if each.tag else None,
            each.fish_id and str(each.fish_id),
            table[each.species].scientific_name if each.species else None,
            each.found_on,
            each.found_within_days,
            each.lat,
            each.lon,
            each.error_m,
            " ".join(each.place_text.split()),
            each.length_mm,
            str(each.length_estimated).lower(),
            each.mass_g,
            each.means,
            each.fish_fate,
            each.tag_fate,
            utc_text(each.decided_at) if each.decided_at else None,
        )
        yield writer.writerow(["" if value is None else harmless(value) for value in (*told, *stands.values())])
