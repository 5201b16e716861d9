"""Volunteers' cards from the phone and from paper: what becomes of their tags, and every way back."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.permits.models import Allowance, Permit
from nailwright.programmes.models import Membership, Programme
from nailwright.returns.models import Card, PublicPage
from nailwright.returns.volunteers.encounters import rebuild_cards
from nailwright.tags.models import Encounter, Fish, Placement, Tag, TagBatch
from server.tests.conftest import operation
from server.tests.returns.conftest import later

Send = Callable[..., Any]


@pytest.fixture
def volunteer(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("volunteer")


def member(client: APIClient) -> Membership:
    return Membership.objects.get(person=client.handler._force_user)  # type: ignore[attr-defined]


@pytest.fixture
def kit(crew: APIClient, volunteer: APIClient, stock: TagBatch, programme: Programme) -> Membership:
    """Ten tags handed out to the volunteer, whose number is 17."""
    mine = member(volunteer)
    Membership.objects.filter(pk=mine.pk).update(number="17")
    body = {"id": str(new_id()), "kind": "tbar", "numbers": "W1200-W1209", "person": str(mine.person_id)}
    assert crew.post(f"/api/v1/programmes/{programme.pk}/tags/hand-out", body, format="json").status_code in (200, 201)
    return Membership.objects.get(pk=mine.pk)


@pytest.fixture
def card(kit: Membership) -> Callable[..., dict[str, Any]]:
    def make(number: str = "W1203", **row: Any) -> dict[str, Any]:
        told = {
            "tagger": str(kit.pk),
            "number_text": number,
            "tag_kind": "tbar",
            "species": "wal",
            "length": "41.5 cm",
            "condition": 1,
        }
        return operation("card.record", **{**told, "lat": 44.93, "lon": -31.52, "error_m": 12, **row})

    return make


@pytest.fixture
def sent(sync: Send, volunteer: APIClient) -> Send:
    def send(*operations: dict[str, Any], client: APIClient = volunteer) -> list[Any]:
        return [
            (each["state"], (each["error"] or {}).get("code"))
            for each in sync(*operations, client=client).data["results"]
        ]

    return send


def test_the_kit_holds_what_a_phone_needs(volunteer: APIClient, kit: Membership) -> None:
    told = volunteer.get(f"/api/v1/kits/{kit.pk}").data
    assert (told["tagger_number"], len(told["tags"])) == ("17", 10)
    assert told["species"][0]["code"] == "wal" and told["species"][0]["length_type"] == "TL"
    assert [each["code"] for each in told["conditions"]] == [1, 2, 3, 4]


def test_a_card_tags_a_fish(sent: Send, card: Send, volunteer: APIClient, kit: Membership) -> None:
    assert sent(card()) == [("stored", None)]
    row = Card.objects.get()
    assert (row.length_mm, row.length_type, row.length_basis, row.tagger_number, row.problem) == (
        415.0,
        "TL",
        "measured",
        "17",
        "",
    )
    assert row.caught_on is not None and row.block
    assert Tag.objects.get(number="W1203").state == "placed"
    met = Encounter.objects.get()
    assert (met.kind, met.fish_id, met.length_mm, met.lat, met.error_m, met.disposition) == ("card", row.fish_id, 415.0, 44.93, 12, "released")  # fmt: skip
    told = volunteer.get(f"/api/v1/kits/{kit.pk}").data
    assert len(told["tags"]) == 9 and told["cards"][0]["missing"] == []
    assert rebuild_cards() == 0


def test_sent_again_and_by_a_colleague_it_is_once(sent: Send, card: Send, client_as: Send) -> None:
    entry = card()
    assert sent(entry, entry) == [("stored", None), ("already", None)]
    assert sent(entry, client=client_as("crew")) == [("already", None)]
    assert Card.objects.count() == Fish.objects.count() == Encounter.objects.count() == 1


def test_a_volunteers_fish_reaches_a_finders_answer(
    sent: Send, card: Send, finder: APIClient, programme: Programme
) -> None:
    PublicPage.objects.create(programme=programme, address="tarn", open=True, telephone="555")
    assert sent(card(place_text="old ferry landing")) == [("stored", None)]
    told = {
        "id": str(new_id()),
        "number": "w12o3",
        "found_on": str(later(1)),
        "lat": 44.99,
        "lon": -31.52,
        "length": "43 cm",
    }
    story = finder.post("/api/v1/public/pages/tarn", told, format="json").data["story"]
    assert (story["species"], story["place"], story["length_mm"], story["growth_mm"]) == (
        "walleye",
        "old ferry landing",
        415.0,
        15,
    )
    # 0.06 degrees of latitude: 6.67 km on WGS84 by GeographicLib
    assert story["distance_m"] == 6700


@pytest.mark.parametrize(
    ("number", "words"),
    [("Z9999", "not in this programme's stock"), ("?", "Expected a number")],
    ids=["never issued", "half read"],
)
def test_a_tag_that_cannot_be_placed_keeps_the_card(sent: Send, card: Send, number: str, words: str) -> None:
    assert sent(card(number)) == [("stored", None)]
    row = Card.objects.get()
    assert words in row.problem and row.fish_id is None and not Encounter.objects.exists()


@pytest.mark.parametrize("number", ["w1203", "W-1203", "W 1203", "W12o3", "wl203", "W1 2-O3"])
def test_a_number_that_is_read_another_way_is_the_one_in_the_kit(sent: Send, card: Send, number: str) -> None:
    assert sent(card(number)) == [("stored", None)]
    row = Card.objects.get()
    assert (row.number_text, row.problem) == (number, "") and Tag.objects.get(number="W1203").state == "placed"


def test_a_number_that_may_be_two_is_none_of_them(sent: Send, card: Send, programme: Programme) -> None:
    Tag.objects.bulk_create([Tag(programme=programme, kind="tbar", number=each) for each in ("X1O", "XI0")])
    assert sent(card("X10")) == [("stored", None)]
    assert Card.objects.get().fish_id is None and "not in this programme's stock" in Card.objects.get().problem


def test_a_tag_of_somebody_else_is_placed_and_asked_about(
    sent: Send, card: Send, crew: APIClient, kit: Membership, client_as: Send, programme: Programme
) -> None:
    other = member(client_as("volunteer"))
    body = {"id": str(new_id()), "kind": "tbar", "numbers": "W1215", "person": str(other.person_id)}
    crew.post(f"/api/v1/programmes/{programme.pk}/tags/hand-out", body, format="json")
    sent(card("W1215"))
    assert "handed out to Volunteer" in Card.objects.get().problem and Encounter.objects.count() == 1


def test_the_same_card_on_paper_and_by_phone(
    sent: Send, card: Send, crew: APIClient, kit: Membership, client_as: Send
) -> None:
    sent(card())
    today = Card.objects.get().caught_on
    paper = card(channel="paper", caught_on=str(today), block="morning")
    assert sent(paper, client=crew) == [("refused", "role_may_not")]  # another one's card: a biologist's
    assert sent({**paper, "id": str(new_id())}, client=client_as("biologist")) == [("stored", None)]
    assert "perhaps the same fish told twice" in Card.objects.get(channel="paper").problem
    assert Encounter.objects.count() == 1


def test_met_again_on_another_day_it_is_a_recapture(sent: Send, card: Send) -> None:
    sent(card())
    Placement.objects.update(device_time=timezone.now() - timedelta(days=40))
    sent(card(length="43 cm"))
    assert Fish.objects.count() == 1 and Encounter.objects.count() == 2
    assert set(Card.objects.values_list("problem", flat=True)) == {""}


def test_corrected_in_one_field_only(sent: Send, card: Send) -> None:
    entry = card(remarks="scar", hook_site="lip", fight_s=95)
    sent(entry)
    before = Card.objects.values().get()
    assert sent(operation("card.edit", card=entry["id"], length="16 1/2 in", species="wal")) == [("stored", None)]
    after = Card.objects.values().get()
    changed = {name for name in after if after[name] != before[name]}
    assert changed == {"length_text", "length_mm"} and after["length_mm"] == 419.1
    assert Encounter.objects.get().length_mm == 419.1


def test_a_length_alone_keeps_its_type(sent: Send, card: Send) -> None:
    entry = card()
    sent(entry, operation("card.edit", card=entry["id"], length="42 cm"))
    row = Card.objects.get()
    assert (row.length_mm, row.length_type, row.length_basis) == (420.0, "TL", "measured")


def test_another_day_moves_the_meeting_and_the_placement(sent: Send, card: Send) -> None:
    entry = card()
    sent(entry)
    day = later(-3)
    assert sent(operation("card.edit", card=entry["id"], caught_on=str(day))) == [("stored", None)]
    met = Encounter.objects.get()
    assert (met.at.date(), met.let_go_at, met.at_error_s) == (day, met.at, 43_200.0)
    assert Placement.objects.get().device_time == met.at
    sent(operation("card.edit", card=entry["id"], caught_on=str(later(0))))  # as it was: by the phone's clock again
    assert Encounter.objects.get().at_error_s == 0.0 and rebuild_cards() == 0


def test_another_number_moves_the_tag(sent: Send, card: Send) -> None:
    entry = card("W1204")
    sent(entry)
    assert sent(operation("card.edit", card=entry["id"], number_text="W1205")) == [("stored", None)]
    states = dict(Tag.objects.filter(number__in=["W1204", "W1205"]).values_list("number", "state"))
    assert states == {"W1204": "issued", "W1205": "placed"}
    assert Encounter.objects.count() == 1 and Card.objects.get().fish_id == Encounter.objects.get().fish_id


def test_deleted_and_restored_its_tag_goes_and_comes(sent: Send, card: Send) -> None:
    entry = card()
    sent(entry)
    gone, back = operation("card.delete", card=entry["id"]), operation("card.delete", card=entry["id"], deleted=False)
    assert sent(gone) == [("stored", None)]
    assert Tag.objects.get(number="W1203").state == "issued" and not Encounter.objects.exists()
    assert sent(back) == [("stored", None)]
    assert Tag.objects.get(number="W1203").state == "placed" and Encounter.objects.count() == 1
    assert rebuild_cards() == 0


def test_restored_after_another_number_only_the_last_tag_comes_back(sent: Send, card: Send) -> None:
    entry = card("W1204")
    sent(entry, operation("card.edit", card=entry["id"], number_text="W1205"))
    sent(operation("card.delete", card=entry["id"]), operation("card.delete", card=entry["id"], deleted=False))
    states = dict(Tag.objects.filter(number__in=["W1204", "W1205"]).values_list("number", "state"))
    assert states == {"W1204": "issued", "W1205": "placed"}
    assert list(Placement.present.values_list("tag__number", flat=True)) == ["W1205"]


def test_a_deleted_one_whose_tag_went_elsewhere_is_not_restored(sent: Send, card: Send) -> None:
    first = card()
    sent(first, operation("card.delete", card=first["id"]), card())
    assert sent(operation("card.delete", card=first["id"], deleted=False)) == [("refused", "tag_in_fish")]


def test_a_fish_let_go_without_a_tag(sent: Send, kit: Membership, volunteer: APIClient) -> None:
    told = {"tagger": str(kit.pk), "species": "wal", "length": "~38 cm", "condition": 3, "fight_s": 140, "air_s": 22, "line_kg": 4,
            "hook_kind": "circle", "hook_site": "gill", "bleeding_landed": "much", "bleeding_released": "little"}  # fmt: skip
    assert sent(operation("card.record", **told)) == [("stored", None)]
    row = Card.objects.get()
    assert (row.length_basis, row.air_s, row.hook_site, row.bleeding_landed) == ("estimated", 22.0, "gill", "much")
    assert row.fish_id is None and row.problem == ""
    assert volunteer.get(f"/api/v1/kits/{kit.pk}").data["cards"][0]["missing"] == ["place or position"]


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ({"species": "cat"}, "species_unknown"),
        ({"length": "long"}, "length_unreadable"),
        ({"condition": 5}, "number_out_of_range"),
        ({"caught_on": "2999-01-01"}, "day_impossible"),
        ({"caught_on": "1st May"}, "day_unreadable"),
        ({"lat": 44.9, "lon": None}, "position_half"),
        ({"hook_site": "tail"}, "not_a_choice"),
        ({"air_s": -1}, "number_out_of_range"),
        ({"tagger": str(new_id())}, "tagger_unknown"),
    ],
)
def test_what_cannot_be_is_refused_in_words(sent: Send, card: Send, row: dict[str, Any], code: str) -> None:
    entry = card()
    entry["row"] |= row
    assert sent(entry) == [("refused", code)]
    assert not Card.objects.exists()


def test_one_volunteer_does_not_touch_anothers_cards(sent: Send, card: Send, client_as: Send, kit: Membership) -> None:
    entry = card()
    sent(entry)
    other = client_as("volunteer")
    assert sent(operation("card.delete", card=entry["id"]), client=other) == [("refused", "role_may_not")]
    assert other.get(f"/api/v1/kits/{kit.pk}").status_code == 403


def test_what_became_of_ones_fish_and_how_one_measures(
    sent: Send, card: Send, volunteer: APIClient, kit: Membership
) -> None:
    fives = [
        operation("card.record", tagger=str(kit.pk), species="wal", length=f"{300 + 5 * n} mm", condition=1)
        for n in range(30)
    ]
    sent(card(), *fives)
    told = volunteer.get(f"/api/v1/kits/{kit.pk}/summary").data
    assert (told["cards"], told["fish"], told["returns"], told["measured"]) == (31, 1, 0, 31)
    assert told["digits"]["preferred"] is True and told["digits"]["share_0_5"] == 1.0


def test_cards_that_wait_are_listed(sent: Send, card: Send, crew: APIClient, programme: Programme) -> None:
    sent(card(), card("Z9999"), card("W1206", length=""))
    (told,) = crew.get(f"/api/v1/programmes/{programme.pk}/kits").data
    assert (told["name"], told["number"], told["tags"], told["cards"]) == ("Volunteer", "17", 8, 3)
    assert (told["incomplete"], told["problems"]) == (1, 1)
    lines = {
        each["code"]: each["text"] for each in crew.get(f"/api/v1/programmes/{programme.pk}/today").data["waiting"]
    }
    assert lines["cards_problem"] == "1 card of a volunteer with a tag to look into."


def test_permits_count_volunteers_fish(sent: Send, card: Send, lead: APIClient, programme: Programme) -> None:
    today = timezone.now().date()
    days = {"first": today - timedelta(days=10), "last": today + timedelta(days=10)}
    permit = Permit.objects.create(programme=programme, kind="permit", name="Collecting", **days)
    for what in ("captured", "handled", "tagged", "killed"):
        Allowance.objects.create(permit=permit, species="wal", what=what, most=5, **days)
    entry = card()
    sent(entry, card("Z9999", length=""))
    address = f"/api/v1/programmes/{programme.pk}/allowances"
    assert {each["what"]: each["counted"] for each in lead.get(address).data} == {
        "captured": 2,
        "handled": 1,
        "tagged": 1,
        "killed": 0,
    }
    report = lead.get(f"/api/v1/permits/{permit.pk}/report?form=csv").content.decode()
    assert "Cards of volunteers" in report and report.strip().endswith("2,1,1,0")
    sent(operation("card.delete", card=entry["id"]))
    assert {each["what"]: each["counted"] for each in lead.get(address).data} == {
        "captured": 1,
        "handled": 0,
        "tagged": 0,
        "killed": 0,
    }


def test_two_meetings_of_one_day_are_two_where_somebody_says_so(sent: Send, card: Send) -> None:
    sent(card())
    again = card()
    sent(again)
    told = Card.objects.get(pk=again["id"])
    assert "told twice" in told.problem and Encounter.objects.count() == 1
    edit = {"card": again["id"], "met_again": True}
    assert sent(operation("card.edit", **edit)) == [("stored", None)]
    told.refresh_from_db()
    assert told.problem == "" and told.fish_id and Encounter.objects.filter(fish=told.fish_id).count() == 2
    sent(operation("card.edit", **{**edit, "met_again": False}))  # it was one after all
    told.refresh_from_db()
    assert "told twice" in told.problem and told.fish_id is None and Encounter.objects.count() == 1
