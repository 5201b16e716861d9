"""The Darwin Core archive and the package of marks.

Outside checks: python-dwca-reader reads the archive by its own meta.xml, and its list of the published terms (rs.tdwg.org) says whether each
column is one; frictionless reads the package.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import frictionless
import pytest
from django.utils import timezone
from dwca.darwincore.terms import TERMS
from dwca.read import DwCAReader
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Run, WaterReading
from nailwright.programmes.models import Programme
from nailwright.programmes.record.audit import Act
from nailwright.records.darwin_core.tables import EVENTS, EXTENSIONS
from nailwright.returns.deciding import decide
from nailwright.returns.models import Return
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.returns.conftest import later

Send = Callable[..., Any]
#: Terms of the Darwin Core List of Terms that the reader's own list leaves out, from memory.
MORE = {
    f"http://rs.tdwg.org/dwc/terms/{name}"
    for name in (
        "organismID", "MeasurementOrFact", "measurementID", "measurementType", "measurementValue", "measurementUnit", "measurementMethod",
    )
}  # fmt: skip


@pytest.fixture
def told(send: Send, tagged: Capture, programme: Programme, called: Send, sync: Send, person_as: Send) -> Programme:
    """A tagged walleye that a finder reported, a burbot that was counted, and the water at the run."""
    send(lat=44.99, lon=-31.6, length="47.1 cm", fish_fate="released", found_on=str(later(1)), remarks="a\nline")
    decide(Act(new_id(), person_as("biologist"), timezone.now()), Return.objects.get(), "verified")
    answer = sync(called(species="bur", length="", mass="", count=14))
    assert answer.data["results"][0]["state"] == "stored", answer.data
    run = tagged.run
    WaterReading.objects.create(
        outing=run.outing, run=run, temperature_c=11.5, recorder=run.recorder, device_time=run.started_at
    )
    Programme.objects.update(licence="CC-BY-4.0", citation="=Tarn, 2026")
    return programme


def fetched(client: APIClient, programme: Programme, name: str, path: Path) -> Path:
    response = client.get(f"/api/v1/programmes/{programme.pk}/{name}")
    file = path / name
    file.write_bytes(b"".join(response.streaming_content))
    return file


def everything(file: Path) -> tuple[dict[str, Any], list[dict[str, str]], list[dict[str, str]]]:
    """Events by key, occurrences and measurements, as the outside reader has them; terms by their short names."""

    def short(data: dict[str, str]) -> dict[str, str]:
        return {term.rpartition("/")[2]: value for term, value in data.items()}

    with DwCAReader(str(file)) as archive:
        rows = list(archive)
        events = {row.id: short(row.data) for row in rows}
        more = [
            (each.rowtype.rpartition("/")[2], short(each.data) | {"coreid": each.core_id})
            for row in rows
            for each in row.extensions
        ]
    return (
        events,
        [row for kind, row in more if kind == "Occurrence"],
        [row for kind, row in more if kind == "MeasurementOrFact"],
    )


def test_every_column_is_a_published_term() -> None:
    terms = [term for table in (EVENTS, *EXTENSIONS) for term in table.terms]
    assert not {*terms, *(table.row_type for table in (EVENTS, *EXTENSIONS))} - set(TERMS) - MORE
    assert len(set(TERMS) & set(terms)) > 20


def test_another_reader_finds_fish_figures_and_places(
    told: Programme, crew: APIClient, tagged: Capture, tmp_path: Path
) -> None:
    file = fetched(crew, told, "darwin-core.zip", tmp_path)
    events, fish, figures = everything(file)
    run = events[str(tagged.run_id)]
    assert run["parentEventID"] in events and run["locality"] == "K15" and run["informationWithheld"] == ""
    assert (run["decimalLatitude"], run["decimalLongitude"], run["geodeticDatum"]) == (
        "44.900000",
        "-31.600000",
        "EPSG:4326",
    )
    assert run["samplingProtocol"] == "Boat electrofishing" and run["license"] == "CC-BY-4.0"
    assert run["bibliographicCitation"] == "'=Tarn, 2026"  # no spreadsheet runs it
    by_name = {(each["vernacularName"], each["coreid"] == str(tagged.run_id)): each for each in fish}
    walleye, burbot, report = by_name["walleye", True], by_name["burbot", True], by_name["walleye", False]
    assert walleye["scientificName"] == "Sander vitreus" and walleye["organismID"] == report["organismID"] == str(
        tagged.fish_id
    )
    assert burbot["individualCount"] == "14" and burbot["organismID"] == ""
    assert events[report["coreid"]]["samplingProtocol"].startswith("report")
    assert events[report["coreid"]]["decimalLatitude"] == "44.990000"
    lengths = {each["occurrenceID"]: each for each in figures if "length" in each["measurementType"]}
    assert (
        lengths[walleye["occurrenceID"]]["measurementValue"],
        lengths[report["occurrenceID"]]["measurementValue"],
    ) == ("463", "471")
    assert {"water temperature"} == {each["measurementType"] for each in figures if not each["occurrenceID"]}
    everything_said = zipfile.ZipFile(file)
    assert not any("W1207" in everything_said.read(name).decode() for name in everything_said.namelist())
    about = ElementTree.fromstring(everything_said.read("eml.xml"))
    assert "CC-BY-4.0" in (about.findtext("dataset/intellectualRights/para") or "")


def test_keys_are_those_of_their_rows_and_no_key_stands_twice(told: Programme, crew: APIClient, tmp_path: Path) -> None:
    events, fish, figures = everything(fetched(crew, told, "darwin-core.zip", tmp_path))
    keys = [each["occurrenceID"] for each in fish]
    assert len(set(keys)) == len(keys) == Capture.present.count() + 1
    assert {each["occurrenceID"] for each in figures} <= {*keys, ""}
    assert len({each["measurementID"] for each in figures}) == len(figures)
    assert not {each["parentEventID"] for each in events.values()} - {*events, ""}


def test_places_of_protected_species_are_withheld_also_by_keys_and_times(
    told: Programme, client_as: Callable[[str], APIClient], tagged: Capture, tmp_path: Path
) -> None:
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    told.species.filter(code="wal").update(own=hidden)
    Programme.objects.update(species_revision=7)
    lead = client_as("lead")
    events, fish, _ = everything(fetched(lead, told, "darwin-core.zip", tmp_path))
    text = str((events, fish))
    run = Run.objects.get(pk=tagged.run_id)
    for secret in (str(run.pk), str(tagged.pk), "K15", "44.9", "31.6", run.started_at.isoformat()[11:16]):
        assert secret not in text, secret
    withheld = [each for each in events.values() if each["informationWithheld"]]
    assert len(withheld) == 2 and {each["vernacularName"] for each in fish} == {"walleye", "burbot"}


def test_marks_are_a_package_that_a_general_validator_takes(told: Programme, crew: APIClient, tmp_path: Path) -> None:
    with zipfile.ZipFile(io.BytesIO(fetched(crew, told, "marks.zip", tmp_path).read_bytes())) as package:
        package.extractall(tmp_path / "marks")
    report = frictionless.validate(str(tmp_path / "marks" / "datapackage.json"))
    assert report.valid, report.flatten(["name", "rowNumber", "fieldName", "type", "message"])[:5]
    assert {task.name: task.stats["rows"] for task in report.tasks} == {"encounters": 2, "returns": 1}


def test_reports_as_csv_say_nothing_of_who_sent_them(
    send: Send, crew: APIClient, tagged: Capture, programme: Programme
) -> None:
    contact = {"name": "Ada Tarn", "email": "ada@example.org", "consent": True}
    assert send(remarks="=1+1", contact=contact).status_code == 201
    text = b"".join(crew.get(f"/api/v1/programmes/{programme.pk}/returns.csv").streaming_content).decode()
    assert text.count("\n") == 2 and "tbar W1207" in text and "Sander vitreus" in text
    assert "Ada" not in text and "example.org" not in text
    empty = b"".join(crew.get(f"/api/v1/programmes/{programme.pk}/returns.csv", {"species": "bur"}).streaming_content)
    assert empty.count(b"\n") == 1
