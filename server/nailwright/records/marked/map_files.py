"""Encounters of marked fish for other maps: KML 2.2 (OGC 07-147r2) and GPX 1.1, a point each; what has no position is in neither."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from xml.sax.saxutils import escape

from nailwright.programmes.models import Programme
from nailwright.records.marked.encounters import COLUMNS, encounter_rows

_NAMES = tuple(name for name, *_ in COLUMNS)
_HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'


def encounter_kml(programme: Programme, species: str = "") -> Iterator[str]:
    """Pieces of a KML document: placemarks with their time, all else as extended data.

    Args:
        species: a code, or every species.
    """
    name = escape(programme.name)
    yield f'{_HEAD}<kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>{name}</name>'
    for told in _placed(programme, species):
        data = "".join(
            f'<Data name="{column}"><value>{escape(str(value))}</value></Data>' for column, value in told.items()
        )
        yield (
            f"<Placemark><name>{escape(_title(told))}</name><TimeStamp><when>{told['eventDate']}</when></TimeStamp>"
            f"<ExtendedData>{data}</ExtendedData>"
            f"<Point><coordinates>{told['decimalLongitude']},{told['decimalLatitude']}</coordinates></Point></Placemark>"
        )
    yield "</Document></kml>"


def encounter_gpx(programme: Programme, species: str = "") -> Iterator[str]:
    """Pieces of a GPX file: waypoints with their time; in the description the fish, how it was met and how far the place may be off.

    Args:
        species: a code, or every species.
    """
    name = escape(programme.name)
    yield f'{_HEAD}<gpx version="1.1" creator="Nailwright" xmlns="http://www.topografix.com/GPX/1/1"><metadata><name>{name}</name></metadata>'
    for told in _placed(programme, species):
        off = told.get("coordinateUncertaintyInMeters")
        about = [f"fish {told['organismID']}", str(told["encounter"]), *([f"within {off:g} m"] if off else [])]
        yield (
            f'<wpt lat="{told["decimalLatitude"]}" lon="{told["decimalLongitude"]}"><time>{told["eventDate"]}</time>'
            f"<name>{escape(_title(told))}</name><desc>{escape('; '.join(about))}</desc></wpt>"
        )
    yield "</gpx>"


def _title(told: dict[str, Any]) -> str:
    return " ".join(str(each) for each in (told["vernacularName"], told.get("tags")) if each)


def _placed(programme: Programme, species: str) -> Iterator[dict[str, Any]]:
    """What is known of each encounter that has a position, by column."""
    for row in encounter_rows(programme, species):
        told = {name: value for name, value in zip(_NAMES, row, strict=True) if value is not None and value != ""}
        if "decimalLatitude" in told and "decimalLongitude" in told:
            yield told
