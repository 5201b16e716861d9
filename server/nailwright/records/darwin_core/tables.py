"""Which terms stand in which file of a Darwin Core archive.

Source: Darwin Core List of Terms and Text Guide (https://dwc.tdwg.org/list/, https://dwc.tdwg.org/text/).
"""

from __future__ import annotations

from dataclasses import dataclass

DARWIN_CORE = "http://rs.tdwg.org/dwc/terms/"
DUBLIN_CORE = "http://purl.org/dc/terms/"
#: These are Dublin Core's; all others are Darwin Core's own.
_OF_DUBLIN_CORE = frozenset(("license", "bibliographicCitation"))


@dataclass(frozen=True)
class Table:
    """One file: its rows' class and its columns, the event's key first, by which rows of the extensions belong to the core."""

    file: str
    of: str
    columns: tuple[str, ...]

    @property
    def row_type(self) -> str:
        return f"{DARWIN_CORE}{self.of}"

    @property
    def terms(self) -> tuple[str, ...]:
        """The address of each column's term."""
        return tuple(f"{DUBLIN_CORE if each in _OF_DUBLIN_CORE else DARWIN_CORE}{each}" for each in self.columns)


EVENTS = Table(
    "event.csv",
    "Event",
    (
        "eventID", "parentEventID", "eventDate", "samplingProtocol", "samplingEffort", "sampleSizeValue", "sampleSizeUnit",
        "waterBody", "locality", "decimalLatitude", "decimalLongitude", "geodeticDatum", "coordinateUncertaintyInMeters",
        "informationWithheld", "license", "bibliographicCitation",
    ),
)  # fmt: skip
OCCURRENCES = Table(
    "occurrence.csv",
    "Occurrence",
    (
        "eventID", "occurrenceID", "basisOfRecord", "occurrenceStatus", "kingdom", "scientificName", "vernacularName",
        "individualCount", "sex", "organismID",
    ),
)  # fmt: skip
MEASUREMENTS = Table(
    "measurement.csv",
    "MeasurementOrFact",
    (
        "eventID", "measurementID", "occurrenceID", "measurementType", "measurementValue", "measurementUnit",
        "measurementMethod",
    ),
)  # fmt: skip
EXTENSIONS = (OCCURRENCES, MEASUREMENTS)
