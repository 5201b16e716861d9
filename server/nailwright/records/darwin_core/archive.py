"""The archive: a zip of the tables, a description of their columns (meta.xml) and of the data (eml.xml).

Source: Darwin Core Text Guide (https://dwc.tdwg.org/text/); Ecological Metadata Language 2.2 (https://eml.ecoinformatics.org).
"""

from __future__ import annotations

import csv
import zipfile
from collections.abc import Iterable, Iterator
from typing import Any
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from django.utils import timezone

from nailwright.common.spreadsheets import harmless
from nailwright.programmes.models import Programme
from nailwright.programmes.places import public_places
from nailwright.records.csv_rows import Line
from nailwright.records.darwin_core.events import events_of
from nailwright.records.darwin_core.fish import measurement_rows, occurrence_rows
from nailwright.records.darwin_core.tables import EVENTS, EXTENSIONS, MEASUREMENTS, OCCURRENCES, Table
from nailwright.records.zip_stream import PIECE, Sink

_SIGNS = {
    "encoding": "UTF-8", "fieldsTerminatedBy": ",", "linesTerminatedBy": "\\n", "fieldsEnclosedBy": '"', "ignoreHeaderLines": "1",
}  # fmt: skip


def darwin_core_archive(programme: Programme) -> Iterator[bytes]:
    """The zip, piece by piece, with places as everybody may see them: an archive is made to be handed on."""
    events = events_of(programme, public_places(programme))
    sink = Sink()
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("meta.xml", _meta())
        archive.writestr("eml.xml", _about(programme))
        tables: tuple[tuple[Table, Iterable[dict[str, Any]]], ...] = (
            (EVENTS, events.rows),
            (OCCURRENCES, occurrence_rows(programme, events)),
            (MEASUREMENTS, measurement_rows(programme, events)),
        )
        for table, rows in tables:
            with archive.open(table.file, "w") as file:
                for line in _lines(table, rows):
                    file.write(line.encode())
                    if len(sink.getbuffer()) > PIECE:
                        yield sink.taken()
    yield sink.taken()


def _lines(table: Table, rows: Iterable[dict[str, Any]]) -> Iterator[str]:
    writer = csv.writer(Line(), lineterminator="\n")
    yield writer.writerow(table.columns)
    for row in rows:
        yield writer.writerow([_cell(row.get(name, "")) for name in table.columns])


def _cell(value: Any) -> Any:
    """Of one line, and no formula; figures are told as text and stay as they are."""
    text = " ".join(str(value).split())
    return text if text.lstrip("-").replace(".", "", 1).isdigit() else harmless(text)


def _meta() -> bytes:
    top = Element("archive", {"xmlns": "http://rs.tdwg.org/dwc/text/", "metadata": "eml.xml"})
    for table in (EVENTS, *EXTENSIONS):
        core = table is EVENTS
        part = SubElement(top, "core" if core else "extension", {**_SIGNS, "rowType": table.row_type})
        SubElement(SubElement(part, "files"), "location").text = table.file
        SubElement(part, "id" if core else "coreid", {"index": "0"})
        for place, term in enumerate(table.terms):
            if core or place:
                SubElement(part, "field", {"index": str(place), "term": term})
    return _written(top)


def _about(programme: Programme) -> bytes:
    top = Element(
        "eml:eml",
        {"xmlns:eml": "https://eml.ecoinformatics.org/eml-2.2.0", "packageId": str(programme.pk), "system": "uuid"},
    )
    data = SubElement(top, "dataset")
    SubElement(data, "title").text = f"{programme.name}: fish sampled and met again"
    SubElement(SubElement(data, "creator"), "organizationName").text = programme.name
    SubElement(data, "pubDate").text = timezone.now().date().isoformat()
    SubElement(data, "language").text = "en"
    SubElement(SubElement(data, "abstract"), "para").text = (
        "Events are outings, their runs at sites, and meetings with marked fish by volunteers and finders; occurrences the fish, measurements "
        "their lengths and masses and figures of the water. Places of protected species are withheld."
    )
    if programme.licence or programme.citation:
        rights = " ".join(each for each in (programme.licence, programme.citation) if each)
        SubElement(SubElement(data, "intellectualRights"), "para").text = rights
    SubElement(SubElement(data, "contact"), "organizationName").text = programme.name
    return _written(top)


def _written(top: Element) -> bytes:
    indent(top)
    text: bytes = tostring(top, encoding="UTF-8", xml_declaration=True)
    return text
