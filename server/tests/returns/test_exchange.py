"""Marks at large between programmes: out of one, into another, told where a number is none of ours, and never doubled."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import frictionless
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from nailwright.deck.models import Capture
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.returns.models import PublicPage, Return
from nailwright.tags.models import ForeignMark, Tag
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values

Send = Callable[..., Any]


@pytest.fixture
def neighbour(programme: Programme) -> tuple[Programme, APIClient]:
    """Another programme on this installation, and its lead."""
    other = Programme.objects.create(name="Fjord study")
    person = Person.objects.create(username="fjord-lead", name="Fjord Lead")
    Membership.objects.create(programme=other, person=person, role="lead")
    client = APIClient()
    client.force_authenticate(person)
    return other, client


def out(client: APIClient, programme: Programme, form: str = "csv") -> bytes:
    response = client.get(f"/api/v1/programmes/{programme.pk}/marks-at-large.{form}")
    assert response.status_code == 200
    return b"".join(response.streaming_content)


def take(client: APIClient, programme: Programme, content: bytes, name: str = "marks.csv") -> Any:
    file = {"file": SimpleUploadedFile(name, content)}
    return client.post(f"/api/v1/programmes/{programme.pk}/foreign-marks", file, format="multipart")


def figures(answer: Any) -> tuple[int, int, int, int]:
    assert answer.status_code == 200, answer.data
    return tuple(answer.data[name] for name in ("new", "changed", "same", "unread_n"))  # type: ignore[return-value]


def test_out_of_one_and_into_another_once(
    lead: APIClient, programme: Programme, tagged: Capture, page: PublicPage, neighbour: Any, tmp_path: Path
) -> None:
    other, client = neighbour
    told = out(lead, programme)
    assert (
        b"Tarn study,tbar,W1207," in told
        and b"Sander vitreus" in told
        and b",44.9,-31.6,+00 555 0100" in told.replace(b"'", b"")
    )
    assert figures(take(client, other, told)) == (1, 0, 0, 0)
    assert figures(take(client, other, told)) == (0, 0, 1, 0)
    package = out(lead, programme, "zip")
    assert figures(take(client, other, package, "marks.zip")) == (0, 0, 1, 0)
    assert figures(take(client, other, told.replace(b"Sander vitreus", b"Sander lucioperca"))) == (0, 1, 0, 0)
    mark = ForeignMark.objects.get()
    assert (mark.owner, mark.kind, mark.number, mark.lat, mark.species) == (
        "Tarn study",
        "tbar",
        "W1207",
        44.9,
        "Sander lucioperca",
    )
    assert ForeignMark.objects.filter(programme=programme).count() == 0
    with zipfile.ZipFile(io.BytesIO(package)) as files:
        files.extractall(tmp_path)
    report = frictionless.validate(str(tmp_path / "datapackage.json"))
    assert report.valid, report.flatten(["fieldName", "type", "message"])[:5]
    owners = client.post(
        f"/api/v1/programmes/{other.pk}/foreign-marks/forgotten", {"owner": "Tarn study"}, format="json"
    )
    assert owners.data == [] and not ForeignMark.objects.exists()


def test_whose_a_reported_number_is_is_told_to_those_who_decide(
    crew: APIClient, programme: Programme, page: PublicPage, send: Send
) -> None:
    told = b"programme,kind,number,contact,colour\nFjord study,tbar,F7701,tell@fjord.example,green\n"
    assert figures(take(crew, programme, told)) == (1, 0, 0, 0)
    answer = send(number="F7701")
    assert "Fjord" not in str(answer.data)  # the public is told of nobody's numbers
    (whose,) = crew.get(f"/api/v1/returns/{Return.objects.get().pk}").data["whose"]
    assert (whose["owner"], whose["contact"], whose["colour"]) == ("Fjord study", "tell@fjord.example", "green")


def test_whose_the_tag_of_a_fish_in_hand_is(crew: APIClient, programme: Programme, called: Send, sync: Send) -> None:
    take(crew, programme, b"programme,kind,number,contact\nFjord study,pit,999000000000777,tell@fjord.example\n")
    sync(called(scanned="number", scan="999 000000000777"))
    fish = Capture.objects.get().fish_id
    assert [each["owner"] for each in crew.get(f"/api/v1/fish/{fish}").data["whose"]] == ["Fjord study"]


def test_a_messy_file_is_answered_line_by_line(crew: APIClient, programme: Programme, stock: Any) -> None:
    lines = [
        "Programme;Kind;Number;placed_on;latitude", "Fjord study;tbar;F7701;2026-05-01;44.9", ";tbar;F7702;;", "Tarn study;tbar;W1201;;",
        "Fjord study;string;F7703;;", "Fjord study;pit;12;;", "Fjord study;tbar;F7704;in May;", "Fjord study;tbar;F7705;;nan", "Fjord study;tbar;F7706;;991",
        "", "Fjord study;TBAR;f7701;;", "Fj\u00f6rd study;tbar;F7701;;",
    ]  # fmt: skip
    answer = take(crew, programme, "\n".join(lines).encode())
    assert figures(answer) == (2, 0, 0, 7)
    assert [each["text"] for each in answer.data["unread"]] == [f"line {n}" for n in (3, 4, 5, 6, 7, 8, 9)]
    assert ForeignMark.objects.get(owner__contains="Fjord ").placed_on is None  # the last line of a number stands
    missing = take(crew, programme, b"owner,code\nFjord study,F7701\n")
    assert (
        missing.status_code == 422
        and missing.data["code"] == "columns_missing"
        and "Records, Export" in missing.data["message"]
    )
    assert take(crew, programme, b"\x89PNG\r\n\x1a\n0000").data["code"] == "file_no_table"
    assert Tag.objects.filter(number="F7701").count() == 0


def test_places_of_protected_species_stay_at_home_and_leads_alone_give_numbers_out(
    lead: APIClient, crew: APIClient, programme: Programme, tagged: Capture
) -> None:
    programme.species.filter(code="wal").update(own={**species_values(species.get("wal")), "places_hidden": True})
    Programme.objects.update(species_revision=9)
    told = out(lead, programme)
    assert b"W1207" in told and b"44.9" not in told
    assert crew.get(f"/api/v1/programmes/{programme.pk}/marks-at-large.csv").status_code == 403
