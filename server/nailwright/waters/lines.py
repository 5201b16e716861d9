"""Lines from files: GeoJSON, GPX, KML, and CSV with longitude and latitude. Any of them may be a centre-line or a shore."""

from __future__ import annotations

import csv
import io
import json
import math
from collections.abc import Iterator
from typing import Any
from xml.etree.ElementTree import Element

import defusedxml.ElementTree as SafeTree
from defusedxml.common import DefusedXmlException

from nailwright_core.common.errors import CoreError

Points = list[tuple[float, float]]
MAX_BYTES = 32 * 1024 * 1024


def line_from(content: bytes) -> Points:
    """Points (longitude, latitude) of the one line in a file; of several pieces, joined in their order.

    Raises:
        CoreError: ``line_unreadable``, ``xml_unsafe``, ``file_too_large``; field ``file``.
    """
    if len(content) > MAX_BYTES:
        raise CoreError(
            "file_too_large", f"A line's file may have {MAX_BYTES // 1024 // 1024} MB; thin it out.", "file"
        )
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise _unreadable("it is not text") from error
    start = text.lstrip()[:1]
    points = _geojson(text) if start in ("{", "[") else _xml(text) if start == "<" else _csv(text)
    if not all(math.isfinite(lon) and math.isfinite(lat) for lon, lat in points):
        raise _unreadable("a point is no number that could be a place")
    return points


def _geojson(text: str) -> Points:
    try:
        found = [point for line in _coordinates(json.loads(text)) for point in line]
        return [(float(point[0]), float(point[1])) for point in found]
    except (ValueError, TypeError, KeyError, IndexError, OverflowError, RecursionError) as error:
        raise _unreadable("the GeoJSON holds no line of longitude and latitude") from error


def _coordinates(shape: Any) -> Iterator[Any]:
    kind = shape["type"]
    if kind == "FeatureCollection":
        for feature in shape["features"]:
            yield from _coordinates(feature)
    elif kind == "Feature":
        yield from _coordinates(shape["geometry"])
    elif kind == "LineString":
        yield shape["coordinates"]
    elif kind == "MultiLineString":
        yield from shape["coordinates"]
    elif kind == "Polygon":
        yield shape["coordinates"][0]
    elif kind == "Point":
        yield [shape["coordinates"]]
    else:
        raise ValueError(kind)


def _xml(text: str) -> Points:
    try:
        root = SafeTree.fromstring(text.encode(), forbid_dtd=True)
    except DefusedXmlException as error:
        raise CoreError(
            "xml_unsafe",
            "The file declares entities or a document type, which may hide anything; it was not read.",
            "file",
        ) from error
    except SafeTree.ParseError as error:
        raise _unreadable(f"its XML is broken ({error})") from error
    name = _name(root)
    try:
        if name == "gpx":
            points = [
                (float(each.attrib["lon"]), float(each.attrib["lat"]))
                for each in root.iter()
                if _name(each) in ("trkpt", "rtept")
            ] or [
                (float(each.attrib["lon"]), float(each.attrib["lat"])) for each in root.iter() if _name(each) == "wpt"
            ]
        elif name == "kml":
            texts = [each.text or "" for each in root.iter() if _name(each) == "coordinates"]
            points = [
                (float(parts[0]), float(parts[1]))
                for words in texts
                for parts in (word.split(",") for word in words.split())
            ]
        else:
            raise _unreadable(f"its XML is '{name}', neither GPX nor KML")
    except (ValueError, KeyError, IndexError) as error:
        raise _unreadable(f"a point of the {name.upper()} has no readable longitude and latitude") from error
    if not points:
        raise _unreadable(f"the {name.upper()} holds no track, route or line")
    return points


def _name(element: Element) -> str:
    return element.tag.rsplit("}", 1)[-1].lower()


_LON, _LAT = ("lon", "longitude", "long", "x"), ("lat", "latitude", "y")


def _csv(text: str) -> Points:
    try:
        rows = list(csv.reader(io.StringIO(text), delimiter=";" if text.count(";") > text.count(",") else ","))
    except csv.Error as error:
        raise _unreadable(f"the CSV has a cell that is too long, or a quotation mark never closed ({error})") from error
    header = [cell.strip().lower() for cell in rows[0]] if rows else []
    lon = next((place for place, cell in enumerate(header) if cell in _LON), None)
    lat = next((place for place, cell in enumerate(header) if cell in _LAT), None)
    if lon is None or lat is None:
        raise _unreadable("a CSV needs columns called lon and lat")
    points = []
    for number, row in enumerate(rows[1:], 2):
        if not any(row):
            continue
        try:
            points.append((float(row[lon].replace(",", ".")), float(row[lat].replace(",", "."))))
        except (ValueError, IndexError) as error:
            raise _unreadable(f"line {number} has no readable longitude and latitude") from error
    return points


def _unreadable(why: str) -> CoreError:
    return CoreError("line_unreadable", f"Expected a line as GeoJSON, GPX, KML or CSV (lon, lat): {why}.", "file")
