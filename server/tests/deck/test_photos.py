"""Photos: kept with their fish, made smaller, without what a camera writes into them."""

from __future__ import annotations

import base64
import csv
import io
import zipfile
from collections.abc import Callable
from typing import Any

import pytest
from django.core import mail
from PIL import ExifTags, Image
from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Outing, Photo
from nailwright.deck.tasks import tell_of_photo
from nailwright.programmes.models import Change, Programme, ProgrammeSpecies
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


def picture(width: int = 2400, height: int = 1200, kind: str = "JPEG", **more: Any) -> str:
    out = io.BytesIO()
    Image.linear_gradient("L").resize((width, height)).convert("RGB").save(out, kind, **more)
    return base64.b64encode(out.getvalue()).decode()


def as_a_camera_writes() -> str:
    """Lying on its side, with a position and a maker's name."""
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = 6
    exif[ExifTags.Base.Make] = "A Camera"
    exif.get_ifd(ExifTags.IFD.GPSInfo)[ExifTags.GPS.GPSLatitude] = (44.0, 54.0, 0.0)
    return picture(exif=exif)


@pytest.fixture
def fish(sync: Send, called: Called) -> dict[str, Any]:
    row = called()
    assert sync(row).status_code == 200
    return row


def photo(outing: Outing, fish: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    about = {"capture": fish["id"]} if fish else {}
    return operation("photo.add", outing=str(outing.pk), **{"shows": "fish", "jpeg": picture(), **about, **more})


def test_a_photo_is_kept_with_its_fish(sync: Send, crew: APIClient, outing: Outing, fish: dict[str, Any]) -> None:
    entry = photo(outing, fish, jpeg=as_a_camera_writes(), note="scar behind the gill")
    assert sync(entry).status_code == 200
    (told,) = crew.get(f"/api/v1/outings/{outing.pk}/deck").data["photos"]
    assert (str(told["id"]), str(told["capture"]), told["shows"]) == (entry["id"], fish["id"], "fish")
    answer = crew.get(f"/api/v1/photos/{entry['id']}.jpg")
    with Image.open(io.BytesIO(answer.content)) as kept:
        assert kept.format == "JPEG" and kept.size == (800, 1600)  # upright, its longest side 1600 px
        assert not kept.getexif() and b"A Camera" not in answer.content
    with Image.open(io.BytesIO(crew.get(f"/api/v1/photos/{entry['id']}.jpg?small=true").content)) as small:
        assert small.size == (160, 320)
    assert sync(entry).data["results"][0]["state"] == "already" and Photo.objects.count() == 1


def test_one_field_is_put_right_and_it_is_taken_out(
    sync: Send, crew: APIClient, outing: Outing, fish: dict[str, Any]
) -> None:
    entry = photo(outing, fish, note="torn fin")
    sync(entry)
    sync(operation("photo.edit", photo=entry["id"], shows="mouth"))
    row = Photo.objects.get()
    assert (row.shows, row.note) == ("mouth", "torn fin")
    assert Change.objects.get(table="photo").before == {"shows": "fish"}
    sync(operation("photo.edit", photo=entry["id"], deleted=True))
    assert crew.get(f"/api/v1/photos/{entry['id']}.jpg").status_code == 404
    assert crew.get(f"/api/v1/outings/{outing.pk}/deck").data["photos"] == []
    sync(operation("photo.edit", photo=entry["id"], deleted=False))
    assert crew.get(f"/api/v1/photos/{entry['id']}.jpg").status_code == 200


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ({"jpeg": "no picture"}, "picture_unreadable"),
        ({"jpeg": base64.b64encode(b"GIF89a").decode()}, "picture_unreadable"),
        ({"jpeg": None}, "picture_unreadable"),
        ({"jpeg": "A" * 7_100_000}, "picture_too_large"),
        ({"shows": "cat"}, "not_a_choice"),
        ({"lat": 44.9}, "position_half"),
        ({"note": "x" * 121}, "text_too_long"),
        ({"capture": "01900000-0000-7000-8000-000000000001"}, "capture_unknown"),
    ],
    ids=["no-base64", "no-picture", "none", "too-large", "shows", "half-a-position", "long-note", "no-fish"],
)
def test_refused_in_words(sync: Send, outing: Outing, row: dict[str, Any], code: str) -> None:
    (result,) = sync(photo(outing, **row)).data["results"]
    assert result["error"]["code"] == code
    assert not Photo.objects.exists()


def test_a_cut_off_picture(sync: Send, outing: Outing) -> None:
    whole = base64.b64decode(picture(kind="PNG"))
    assert (
        sync(photo(outing, jpeg=base64.b64encode(whole[: len(whole) // 2]).decode())).data["code"]
        == "picture_unreadable"
    )


def test_before_its_fish_and_after_the_outing_closed(sync: Send, called: Called, outing: Outing) -> None:
    row = called()
    early = photo(outing, row)
    assert sync(early).data["results"][0]["state"] == "failed"
    sync(row)
    assert sync(early).status_code == 200
    Outing.objects.update(state="closed")
    assert sync(photo(outing, row)).data["code"] == "outing_closed"
    assert sync(operation("photo.edit", photo=early["id"], deleted=True)).data["code"] == "outing_closed"


@pytest.mark.parametrize("role", ["viewer", "crew"])
def test_of_species_whose_places_are_hidden(
    client_as: Any, sync: Send, programme: Programme, outing: Outing, fish: dict[str, Any], role: str
) -> None:
    entry = photo(outing, fish)
    sync(entry)
    hidden = {**species_values(species.get("wal")), "places_hidden": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=hidden)
    Programme.objects.update(species_revision=9)
    client = client_as(role)
    shown = role == "crew"
    assert client.get(f"/api/v1/photos/{entry['id']}.jpg").status_code == (200 if shown else 404)
    assert len(client.get(f"/api/v1/outings/{outing.pk}/deck").data["photos"]) == shown


def test_of_a_rare_fish_it_goes_to_whom_the_protocol_names(
    sync: Send,
    programme: Programme,
    outing: Outing,
    fish: dict[str, Any],
    settings: Any,
    django_capture_on_commit_callbacks: Any,
    person_as: Any,
) -> None:
    settings.EMAIL_HOST = "mail.example"
    lead = person_as("lead")
    lead.email = "lead@example.org"
    lead.save()
    rare = {**species_values(species.get("wal")), "special_interest": True}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=rare)
    Programme.objects.update(species_revision=10)
    with django_capture_on_commit_callbacks() as later:
        sync(photo(outing, fish, note="by the weir"))
    assert len(later) == 1
    assert tell_of_photo.call(str(Photo.objects.get().pk)) == 1
    (letter,) = mail.outbox
    assert "by the weir" in letter.body and letter.attachments[0][0] == "wal-fish.jpg"
    with Image.open(io.BytesIO(letter.attachments[0][1])) as sent:
        assert sent.format == "JPEG"
    sync(operation("photo.edit", photo=str(Photo.objects.get().pk), deleted=True))
    assert tell_of_photo.call(str(Photo.objects.get().pk)) == 0  # taken out before the letter was written


def test_it_is_in_the_archive(sync: Send, client_as: Any, programme: Programme, outing: Outing) -> None:
    sync(photo(outing, shows="place"))
    answer = client_as("lead").get(f"/api/v1/programmes/{programme.pk}/archive.zip")
    archive = zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))
    csv.field_size_limit(4 * 1024 * 1024)
    (row,) = csv.DictReader(io.TextIOWrapper(archive.open("photo_files.csv"), "utf-8"))
    with Image.open(io.BytesIO(base64.b64decode(row["jpeg"]))) as kept:
        assert kept.size == (1600, 800)
    assert Capture.objects.count() == 0
