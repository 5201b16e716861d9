"""Encounters of marked fish as CSV and GeoJSON: captures by crews, cards of volunteers, verified reports of finders.

Column names are Darwin Core's where it has one (https://dwc.tdwg.org/terms/), else ours with their unit.
"""

from __future__ import annotations

import csv
from collections import defaultdict
from collections.abc import Iterator
from typing import Any
from uuid import UUID

import orjson

from nailwright.common.spreadsheets import harmless
from nailwright.programmes.models import Programme
from nailwright.programmes.species.known import species_of
from nailwright.records.csv_rows import Line, utc_text
from nailwright.records.licence import in_each_line
from nailwright.tags.models import Encounter, Placement, Scan

#: Name, type and what it is, in order.
COLUMNS = (
    ("encounterID", "string", "Key of the encounter"),
    ("organismID", "string", "Key of the fish"),
    ("scientificName", "string", "Of its species"),
    ("vernacularName", "string", "Of its species"),
    ("tags", "string", "Every tag that it ever carried, kind and number"),
    ("encounter", "string", "capture by a crew, card of a volunteer, or return: a verified report"),
    ("eventDate", "datetime", "When it was met (UTC)"),
    ("eventDateError_s", "number", "How far that may be off, s"),
    ("waterBody", "string", "Lake, river or coast"),
    ("locality", "string", "Site"),
    ("river_km", "number", "Of the site, km"),
    ("decimalLatitude", "number", "Degrees, WGS 84"),
    ("decimalLongitude", "number", "Degrees, WGS 84"),
    ("coordinateUncertaintyInMeters", "number", "m"),
    ("length_mm", "number", "As measured, mm"),
    ("mass_g", "number", "As weighed, g"),
    ("disposition", "string", "released, retained, dead or lost"),
)
_NAMES = tuple(name for name, *_ in COLUMNS)
_LAT, _LON = _NAMES.index("decimalLatitude"), _NAMES.index("decimalLongitude")


def encounter_rows(programme: Programme, species: str = "") -> Iterator[list[Any]]:
    """Each encounter in the order of ``COLUMNS``, fish by fish in order of time; None where nothing is known.

    Args:
        species: a code, or every species.
    """
    met = Encounter.objects.filter(fish__programme=programme).select_related("fish", "site__water")
    if species:
        met = met.filter(fish__species=species)
    table, tags = species_of(programme), _tags_of(programme)
    for each in met.order_by("fish", "at", "id").iterator(chunk_size=5000):
        kind = table[each.fish.species]
        yield [
            str(each.pk),
            str(each.fish_id),
            kind.scientific_name,
            kind.common_name,
            "; ".join(tags[each.fish_id]),
            each.kind,
            utc_text(each.at),
            each.at_error_s,
            each.site.water.name if each.site else None,
            each.site.name if each.site else None,
            each.site.river_km if each.site else None,
            each.lat,
            each.lon,
            each.error_m,
            each.length_mm,
            each.mass_g,
            each.disposition or None,
        ]


def encounter_csv(programme: Programme, species: str = "") -> Iterator[str]:
    """Lines of the CSV, licence and citation in each where the programme has them."""
    stands = in_each_line(programme)
    writer = csv.writer(Line())
    yield writer.writerow([*_NAMES, *stands])
    for row in encounter_rows(programme, species):
        yield writer.writerow(["" if each is None else harmless(each) for each in (*row, *stands.values())])


def encounter_geojson(programme: Programme, species: str = "") -> Iterator[bytes]:
    """Pieces of a GeoJSON (RFC 7946) feature collection; encounters without a position have no geometry."""
    yield b'{"type":"FeatureCollection","features":['
    for n, row in enumerate(encounter_rows(programme, species)):
        lat, lon = row[_LAT], row[_LON]
        told = {name: value for name, value in zip(_NAMES, row, strict=True) if value is not None}
        at = None if lat is None or lon is None else {"type": "Point", "coordinates": [lon, lat]}
        yield (b"," if n else b"") + orjson.dumps({"type": "Feature", "geometry": at, "properties": told})
    yield b"]}"


def _tags_of(programme: Programme) -> dict[UUID, list[str]]:
    """Every tag that a fish ever carried, in order of their placing; those of other programmes as they were read."""
    found: dict[UUID, list[str]] = defaultdict(list)
    placed = Placement.present.filter(tag__programme=programme).order_by("device_time", "id")
    for fish, kind, number in placed.values_list("fish", "tag__kind", "tag__number"):
        found[fish].append(f"{kind} {number}")
    read = Scan.present.filter(programme=programme, result=Scan.Result.FOREIGN).exclude(fish=None).order_by()
    for key, kind, number in read.values_list("fish", "kind", "number").distinct():
        if key is not None:
            found[key].append(f"{kind} {number}")
    return found
