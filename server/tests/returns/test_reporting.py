"""A finder without an account reports a tag, and what they are answered."""

from __future__ import annotations

import base64
import io
from collections.abc import Callable
from typing import Any

import pytest
from PIL import Image
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture
from nailwright.programmes.models import Programme
from nailwright.returns.models import Finder, PublicPage, Return, ReturnPhoto
from nailwright.tags.models import Encounter, Tag, TagBatch
from nailwright.waters.models import Water
from nailwright_core.common import species
from nailwright_core.common.species_values import species_values
from server.tests.returns.conftest import PAGE, TAGGED, later, report

Send = Callable[..., Any]


def test_the_page_says_whose_it_is(finder: APIClient, page: PublicPage) -> None:
    shown = finder.get(PAGE).data
    assert shown["programme"] == "Tarn study" and shown["telephone"] == "+00 555 0100"
    assert {"code": "wal", "name": "walleye", "scientific": "Sander vitreus"} in [
        dict(each) for each in shown["species"]
    ]
    assert shown["languages"][0] == "en" and len(shown["languages"]) >= 2


def test_a_closed_page_is_not_there(finder: APIClient, page: PublicPage) -> None:
    PublicPage.objects.update(open=False)
    assert finder.get(PAGE).status_code == 404
    assert finder.post(PAGE, report(), format="json").status_code == 404


def test_the_story_comes_at_once(send: Send, tagged: Capture) -> None:
    answer = send(lat=44.99, lon=-31.6, length="47.1 cm")
    assert answer.status_code == 201, answer.data
    story = answer.data["story"]
    assert (story["species"], story["tagged_on"], story["length_mm"]) == ("walleye", str(TAGGED), 463.0)
    assert (story["place"], story["water"], story["days"], story["growth_mm"]) == ("K15", "Ketterwick River", 0, 8)
    # 0.09 degrees of latitude: 10.0 km by GeographicLib's inverse on WGS84, rounded to 100 m
    assert story["distance_m"] == 10_000
    row = Return.objects.get()
    assert (row.state, row.told, row.length_mm, row.length_text) == ("matched", True, 471.0, "47.1 cm")
    assert not Encounter.objects.filter(kind="return").exists()  # not before somebody has verified it


def test_the_answer_can_be_seen_again_by_its_link(send: Send, finder: APIClient, tagged: Capture) -> None:
    key = send().data["key"]
    again = finder.get(f"/api/v1/public/reports/{key}")
    assert again.data["story"]["species"] == "walleye"
    french = finder.get(f"/api/v1/public/reports/{key}", {"language": "fr"}).data["story"]["lines"]
    assert french[1] == "Il mesurait alors 46,3 cm." and len(french) == len(again.data["story"]["lines"])
    assert finder.get(f"/api/v1/public/reports/{key[:-1]}").status_code == 404
    assert finder.get(f"/api/v1/public/reports/{Return.objects.get().pk.hex}").status_code == 404


@pytest.mark.parametrize("number", ["w 1207", "W-1207", "Wl207", "WI2O7", "#w12o7"])
def test_what_looks_alike_is_understood(send: Send, tagged: Capture, number: str) -> None:
    assert send(number=number).data["story"]["species"] == "walleye"
    assert Return.objects.get().number_text == number  # as they read it


def test_number_alone_is_enough(finder: APIClient, page: PublicPage, tagged: Capture) -> None:
    answer = finder.post(PAGE, {"id": str(new_id()), "number": "W1207"}, format="json")
    assert answer.status_code == 201 and answer.data["story"]["days"] is None


def test_sent_twice_it_is_one_report_and_one_answer(finder: APIClient, page: PublicPage, tagged: Capture) -> None:
    body = report()
    first, second = (finder.post(PAGE, body, format="json") for _ in range(2))
    assert first.data == second.data and Return.objects.count() == 1


def test_the_key_of_another_programme_is_no_answer(finder: APIClient, page: PublicPage, tagged: Capture) -> None:
    body = report()
    finder.post(PAGE, body, format="json")
    other = Programme.objects.create(name="Fjord study")
    PublicPage.objects.create(programme=other, address="fjord", open=True)
    answer = finder.post("/api/v1/public/pages/fjord", body, format="json")
    assert (answer.status_code, answer.data["code"]) == (422, "report_elsewhere")


@pytest.mark.parametrize(
    "number", ["W1219", "Z9999", "W12?7", "W1207W1207"], ids=["in stock", "never issued", "half read", "no such"]
)
def test_a_number_that_is_in_no_fish_goes_to_a_person(send: Send, tagged: Capture, number: str) -> None:
    answer = send(number=number)
    assert answer.status_code == 201 and answer.data["story"] is None and answer.data["state"] == "waiting"
    assert Return.objects.get().state == "received"


def test_answers_without_a_story_are_alike(send: Send, tagged: Capture) -> None:
    """A number in stock, one that was never issued and one of another species: the same words, but for the number and the key."""

    def bare(answer: Any) -> Any:
        return {name: value for name, value in answer.data.items() if name not in ("key", "number")}

    told = [bare(send(number="W1219")), bare(send(number="Z9999")), bare(send(species="nop"))]
    assert told[0] == told[1] == told[2]


def test_a_photo_stands_for_the_number(send: Send, tagged: Capture) -> None:
    image = io.BytesIO()
    Image.new("RGB", (3000, 2000), "green").save(image, "JPEG", exif=b"Exif\0\0camera")
    answer = send(number="", photo=base64.b64encode(image.getvalue()).decode())
    assert answer.status_code == 201 and answer.data["story"] is None
    kept = bytes(ReturnPhoto.objects.get().jpeg)
    assert Image.open(io.BytesIO(kept)).size == (1600, 1067) and b"camera" not in kept


@pytest.mark.parametrize(
    ("told", "code", "field"),
    [
        ({"number": ""}, "report_empty", "number"),
        ({"found_on": str(later(9))}, "day_impossible", "found_on"),
        ({"found_on": "1901-01-01"}, "day_impossible", "found_on"),
        ({"lat": 44.9}, "position_half", "lon"),
        ({"length": "long"}, "length_unreadable", "length"),
        ({"mass": "12 stones"}, "mass_unit", "mass"),
        ({"species": "cat"}, "species_unknown", "species"),
        ({"photo": base64.b64encode(b"%PDF-1.7").decode()}, "picture_unreadable", "photo"),
        ({"photo": "A" * 7_500_000}, "picture_too_large", "photo"),
        ({"contact": {"name": "Orla"}}, "consent_missing", "contact.consent"),
        ({"contact": {"name": "Orla", "consent": True, "under_age": True}}, "guardian_missing", "contact.guardian"),
        ({"remarks": "x" * 1001}, "invalid", "remarks"),
        ({"lat": 95, "lon": 3}, "invalid", "lat"),
    ],
)
def test_what_cannot_be_taken_is_said_at_its_field(
    send: Send, tagged: Capture, told: dict[str, Any], code: str, field: str
) -> None:
    answer = send(**told)
    assert (answer.status_code, answer.data["code"], answer.data["field"]) == (422, code, field)
    assert not Return.objects.exists() and not Finder.objects.exists()


def test_script_in_the_remarks_is_text(send: Send, tagged: Capture) -> None:
    assert send(remarks="<script>alert(1)</script>").status_code == 201
    assert Return.objects.get().remarks == "<script>alert(1)</script>"


def test_contact_is_kept_with_consent_and_erased_on_request(
    send: Send, finder: APIClient, tagged: Capture, contact: dict[str, Any]
) -> None:
    answer = send(contact=contact)
    assert answer.data["contact"] is True and Finder.objects.get().email == "orla@example.org"
    after = finder.post(f"/api/v1/public/reports/{answer.data['key']}/contact/erased")
    assert after.data["contact"] is False
    row = Finder.objects.get()
    assert (row.name, row.email, row.guardian) == ("", "", "") and row.erased_at
    assert Return.objects.count() == 1


def test_an_empty_contact_is_none(send: Send, tagged: Capture) -> None:
    assert send(contact={"name": " ", "email": ""}).data["contact"] is False


def test_where_a_protected_species_was_found_is_not_told(
    send: Send, tagged: Capture, programme: Programme, lead: APIClient
) -> None:
    address = f"/api/v1/programmes/{programme.pk}/species/wal"
    assert (
        lead.post(address, {**species_values(species.get("wal")), "places_hidden": True}, format="json").status_code
        == 200
    )
    story = send(lat=44.99, lon=-31.6).data["story"]
    assert story["water"] == "Ketterwick River" and story["place"] == "" and story["distance_m"] is None
    assert "K15" not in str(story)


def test_enumeration_learns_nothing(finder: APIClient, page: PublicPage, tagged: Capture) -> None:
    """One sender who tries numbers in turn is told no story after three misses, and is refused after sixty reports."""
    answers = [
        finder.post(PAGE, {"id": str(new_id()), "number": f"W{n}"}, format="json", REMOTE_ADDR="198.51.100.9")
        for n in range(1200, 1270)
    ]
    assert [each.data.get("story") for each in answers] == [None] * 70  # W1207 among them
    assert {each.status_code for each in answers[:60]} == {201} and {each.status_code for each in answers[60:]} == {403}
    assert answers[-1].data["code"] == "too_many_reports"
    assert Return.objects.count() == 60


def test_many_senders_are_bounded_in_all(finder: APIClient, page: PublicPage, tagged: Capture) -> None:
    from nailwright.returns.limits import OF_ALL, TOLD_TO_ALL
    from nailwright.returns.models import PublicTry

    PublicTry.objects.bulk_create(
        [PublicTry(programme=page.programme, sender=str(n), told=True) for n in range(TOLD_TO_ALL)]
    )
    answer = finder.post(PAGE, report(), format="json")
    assert answer.status_code == 201 and answer.data["story"] is None  # kept: a person answers
    PublicTry.objects.bulk_create([PublicTry(programme=page.programme, sender=str(n)) for n in range(OF_ALL)])
    assert finder.post(PAGE, report(), format="json").status_code == 403


def test_a_busy_cleaning_table_is_answered(send: Send, tagged: Capture, programme: Programme) -> None:
    """Twelve honest reports from one address in a day are told their stories."""
    assert all(send(address="203.0.113.5").data["story"] for _ in range(12))
    assert send(address="203.0.113.5").data["story"] is None


def test_waters_are_shown_without_sites(
    finder: APIClient, page: PublicPage, tagged: Capture, programme: Programme
) -> None:
    line = [[-31.7, 44.8], [-31.6, 44.9]]
    Water.objects.update(geometry={"type": "LineString", "coordinates": line})
    shown = finder.get(f"{PAGE}/waters").data
    assert [dict(each) for each in shown] == [{"name": "Ketterwick River", "kind": "river", "line": line}]


def test_a_number_of_two_kinds_goes_to_a_person(send: Send, tagged: Capture, stock: TagBatch) -> None:
    Tag.objects.create(programme=stock.programme, kind="disc", number="W1207")
    assert send().data["story"] is None


def test_a_page_that_answers_later_keeps_the_story_back(send: Send, tagged: Capture) -> None:
    PublicPage.objects.update(answers_at_once=False)
    assert send().data["story"] is None
