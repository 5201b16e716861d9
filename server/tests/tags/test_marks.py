"""Marks: scanning, placing, meeting again, releasing."""

from __future__ import annotations

import threading
from collections.abc import Callable
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest
from django.core.management import call_command
from django.db import connection
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.handling.releases import count_aboard
from nailwright.deck.models import Capture, Outing, Release, Run
from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Encounter, Fish, Placement, Scan, Tag, TagKind
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]
PIT, OTHER = "999000000000101", "999000000000102"


@pytest.fixture(autouse=True)
def stock(programme: Programme) -> list[Tag]:
    kinds = ((TagKind.PIT, PIT), (TagKind.PIT, OTHER), (TagKind.T_BAR, "W1001"))
    return [Tag.objects.create(programme=programme, kind=kind, number=number) for kind, number in kinds]


@pytest.fixture
def tagged(sync: Send, called: Called) -> Capture:
    """A walleye that was scanned, found bare, and given the first PIT tag."""
    fish = called(scanned="none")
    assert sync(fish, place(fish, PIT)).status_code == 200
    return Capture.objects.get()


def place(capture: dict[str, Any], number: str, kind: str = "pit") -> dict[str, Any]:
    return operation("tag.place", capture=capture["id"], kind=kind, number=number)


def test_a_scanned_fish_gets_a_tag_and_is_known_from_then_on(tagged: Capture, sync: Send, called: Called) -> None:
    assert tagged.scanned == "none" and tagged.fish is not None
    assert Tag.objects.get(number=PIT).state == "placed"
    again = called(length="480", scanned="number", scan="999 000000000101")
    assert sync(again).status_code == 200
    met = Capture.objects.get(pk=again["id"])
    assert (met.fish_id, met.scanned, Scan.objects.get(source_id=met.pk).number) == (tagged.fish_id, "known", PIT)


def test_placing_twice_changes_nothing(sync: Send, called: Called) -> None:
    fish = called(scanned="none")
    placing = place(fish, PIT)
    sync(fish, placing)
    assert sync(placing).data["results"][0]["state"] == "already"
    assert Placement.objects.count() == Fish.objects.count() == 1


def test_no_fish_is_given_a_tag_that_was_not_scanned_first(sync: Send, called: Called) -> None:
    fish = called()
    response = sync(fish, place(fish, PIT))
    assert (response.status_code, response.data["code"]) == (422, "not_scanned")
    assert Capture.objects.count() == 1 and Placement.objects.count() == 0


def test_a_number_sits_in_one_living_fish_only(tagged: Capture, sync: Send, called: Called) -> None:
    second = called(scanned="none")
    assert sync(second, place(second, PIT)).data["code"] == "tag_in_fish"
    assert Tag.objects.get(number=PIT).placements.count() == 1


def test_a_fish_gets_no_second_tag_of_a_kind_but_one_of_another(tagged: Capture, sync: Send) -> None:
    capture = {"id": str(tagged.pk)}
    assert sync(place(capture, OTHER)).data["code"] == "fish_has_tag"
    assert sync(place(capture, "#w1001", "tbar")).status_code == 200
    assert tagged.fish is not None and tagged.fish.placements.count() == 2


@pytest.mark.parametrize(
    ("kind", "number", "code"),
    [
        ("pit", "99900000000010", "pit_length"),
        ("pit", "123000000000101", "pit_country"),
        ("pit", "999000000000999", "tag_not_in_stock"),
        ("pit", "", "pit_empty"),
        ("tbar", "!", "tag_number_unreadable"),
        ("brand", "1", "tag_kind_unknown"),
    ],
)
def test_numbers_that_cannot_be_placed(sync: Send, called: Called, kind: str, number: str, code: str) -> None:
    fish = called(scanned="none")
    assert sync(fish, place(fish, number, kind)).data["code"] == code


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ({"scanned": "maybe"}, "not_a_choice"),
        ({"scanned": "number", "scan": "99900000000010"}, "pit_length"),
        ({"scanned": "number", "scan": "000000000000101"}, "pit_country"),
        ({"scanned": "number", "scan": ""}, "pit_empty"),
        ({"scanned": "number", "scan": PIT, "count": 4, "length": "", "mass": ""}, "count_with_mark"),
    ],
)
def test_scans_that_cannot_be_read(sync: Send, called: Called, row: dict[str, Any], code: str) -> None:
    assert sync(called(**row)).data["code"] == code


def test_a_mark_nobody_here_gave_out_is_kept_with_the_fish(sync: Send, called: Called) -> None:
    sync(called(scanned="number", scan="900000000000007"))
    fish = Capture.objects.get()
    assert (fish.scanned, Scan.objects.get().number) == ("foreign", "900000000000007")
    assert fish.fish is not None and not Placement.objects.exists()


def test_a_foreign_tag_read_twice_is_one_fish_met_twice(
    sync: Send, called: Called, client_as: Callable[[str], APIClient], programme: Programme, outing: Outing
) -> None:
    def foreign(number: str = "Q77", **more: Any) -> dict[str, Any]:
        return called(scanned="number", scans=[{"kind": "tbar", "number": number}], **more)

    first, second = foreign(), foreign(length="471")
    other, yellow = foreign("Q78"), foreign(species="yep", length="210", mass="110")
    sync(first, other)
    sync(second, yellow)  # from another tablet, later
    rows = {str(each.pk): each for each in Capture.objects.all()}
    met = rows[first["id"]].fish_id
    assert met == rows[second["id"]].fish_id
    assert len({each.fish_id for each in rows.values()}) == 3  # another number, and the number on another species
    assert Encounter.objects.filter(fish=met).count() == 2
    assert {each.scanned for each in rows.values()} == {"foreign"}
    # seen by whoever looks: on the deck, in the story, by a part of its number
    lead = client_as("lead")
    (known,) = [
        each for each in lead.get(f"/api/v1/outings/{outing.pk}/deck").data["marks"]["fish"] if each["id"] == str(met)
    ]
    assert known["times_met"] == 2 and known["marks"] == [{"kind": "tbar", "number": "Q77", "unknown": True}]
    found = lead.get(f"/api/v1/programmes/{programme.pk}/tags", {"number": "q7"}).data
    assert {(each["number"], each["state"]) for each in found} == {("Q77", "elsewhere"), ("Q78", "elsewhere")}
    story = lead.get(f"/api/v1/fish/{met}").data
    bare = {"kind": "tbar", "number": "Q77", "placed_at": None, "state": "elsewhere", "body_site": "", "quality": ""}
    assert len(story["encounters"]) == 2 and story["marks"][0] == bare
    # the second was misread: corrected in that alone, and back
    sync(operation("capture.edit", capture=second["id"], scanned="number", scans=[{"kind": "tbar", "number": "Q78"}]))
    assert Capture.objects.get(pk=second["id"]).fish_id == rows[other["id"]].fish_id
    assert Encounter.objects.filter(fish=met).count() == 1
    sync(operation("capture.edit", capture=second["id"], scanned="number", scans=[{"kind": "tbar", "number": "Q77"}]))
    assert Capture.objects.get(pk=second["id"]).fish_id == met and Encounter.objects.filter(fish=met).count() == 2
    sync(operation("capture.edit", capture=second["id"], scanned="none"))
    assert Capture.objects.get(pk=second["id"]).fish_id is None
    # taken back, and restored
    sync(operation("capture.delete", capture=first["id"]))
    assert Encounter.objects.filter(fish=met).count() == 0
    sync(operation("capture.restore", capture=first["id"]))
    assert Encounter.objects.filter(fish=met).count() == 1


def test_readings_of_before_are_linked_by_the_command(
    sync: Send, called: Called, capsys: pytest.CaptureFixture[str]
) -> None:
    sync(*[called(scanned="number", scans=[{"kind": "tbar", "number": "Q77"}]) for _ in range(2)])
    Encounter.objects.all().delete()
    Scan.objects.update(fish=None)
    Capture.objects.update(fish=None)
    call_command("rebuild_encounters")
    assert "2 captures with another programme's tag" in capsys.readouterr().out
    assert len(set(Capture.objects.values_list("fish", flat=True))) == 1 and Encounter.objects.count() == 2
    call_command("rebuild_encounters")
    assert capsys.readouterr().out.strip() == "All encounters and occasions are true."


def test_a_fish_with_a_foreign_tag_is_given_one_of_ours_and_known_by_both(
    sync: Send, called: Called, programme: Programme
) -> None:
    Tag.objects.create(programme=programme, kind="tbar", number="W5")
    first = called(scanned="number", scans=[{"kind": "pit", "number": "900000000000007"}])
    sync(first, operation("tag.place", capture=first["id"], kind="tbar", number="W5"))
    by_ours = called(scanned="number", scans=[{"kind": "tbar", "number": "W5"}])
    by_theirs = called(scanned="number", scans=[{"kind": "pit", "number": "900000000000007"}])
    both = called(
        scanned="number", scans=[{"kind": "pit", "number": "900000000000007"}, {"kind": "tbar", "number": "W5"}]
    )
    sync(by_ours, by_theirs, both)
    scanned = dict(Capture.objects.values_list("pk", "scanned"))
    assert len(set(Capture.objects.values_list("fish", flat=True))) == 1
    assert [scanned[UUID(each["id"])] for each in (by_ours, by_theirs, both)] == ["known", "foreign", "known"]


def test_taking_a_fish_out_puts_its_tag_back_and_restoring_takes_it_again(tagged: Capture, sync: Send) -> None:
    sync(operation("capture.delete", capture=str(tagged.pk)))
    assert Tag.objects.get(number=PIT).state == "stock" and Placement.present.count() == 0
    sync(operation("capture.restore", capture=str(tagged.pk)))
    assert Tag.objects.get(number=PIT).state == "placed" and Placement.present.count() == 1


def test_a_restored_fish_does_not_take_a_tag_that_another_has_meanwhile(
    tagged: Capture, sync: Send, called: Called
) -> None:
    sync(operation("capture.delete", capture=str(tagged.pk)))
    second = called(scanned="none")
    sync(second, place(second, PIT))
    assert sync(operation("capture.restore", capture=str(tagged.pk))).data["code"] == "tag_in_fish"
    assert Capture.present.count() == 1


def test_a_fish_called_again_keeps_what_the_reader_said(tagged: Capture, sync: Send) -> None:
    sync(operation("capture.edit", capture=str(tagged.pk), species="wal", length="470"))
    tagged.refresh_from_db()
    assert (tagged.length_mm, tagged.scanned) == (470, "none") and tagged.fish is not None


def test_a_known_fish_is_not_unlinked_by_a_number_nobody_carries(tagged: Capture, sync: Send) -> None:
    again = operation(
        "capture.edit", capture=str(tagged.pk), species="wal", length="470", mass="1085", scanned="number",
        scan="900000000000007",
    )  # fmt: skip
    refused = sync(again).data["results"][0]
    assert (refused["state"], refused["error"]["code"]) == ("refused", "mark_not_of_fish")
    tagged.refresh_from_db()
    assert tagged.fish is not None and tagged.length_mm == 463


def test_the_story_of_a_fish(tagged: Capture, sync: Send, called: Called, crew: APIClient, run: Run) -> None:
    Capture.objects.filter(pk=tagged.pk).update(device_time=timezone.now() - timedelta(days=91.3125))
    assert rebuild_encounters() == 2  # one row as it was, one as it is
    sync(called(length="487", scanned="number", scan=PIT))
    story = crew.get(f"/api/v1/fish/{tagged.fish_id}").data
    assert [each["number"] for each in story["marks"]] == [PIT]
    first, second = story["encounters"]
    assert first["journey"] is None
    assert second["journey"]["growth_mm"] == 24 and second["journey"]["growth_mm_month"] == pytest.approx(8, abs=0.01)


def test_the_deck_knows_every_number(tagged: Capture, crew: APIClient, outing: Outing) -> None:
    marks = crew.get(f"/api/v1/outings/{outing.pk}/deck").data["marks"]
    assert [(each["kind"], each["number"]) for each in marks["stock"]] == [("pit", OTHER), ("tbar", "W1001")]
    (fish,) = marks["fish"]
    assert fish["marks"] == [{"kind": "pit", "number": PIT, "unknown": False}] and fish["last"]["length_mm"] == 463
    assert marks["sites"][0]["name"] == "K15"


def test_releases_empty_the_live_well_and_can_be_taken_back(sync: Send, called: Called, outing: Outing) -> None:
    fish = [called(), called(), called(species="yep", length="", mass="", count=7)]
    sync(*fish)
    assert count_aboard(outing) == 9
    alive = operation("release.set", captures=[each["id"] for each in fish], code="alive")
    assert sync(alive).status_code == 200 and count_aboard(outing) == 0
    assert sync(alive).data["results"][0]["state"] == "already"
    sync(operation("release.set", captures=[fish[0]["id"]], code="dead"))
    assert Release.objects.get(capture=fish[0]["id"]).fate == "dead" and Change.objects.count() == 1
    sync(operation("release.set", captures=[fish[0]["id"]], code=None))
    assert count_aboard(outing) == 1


def test_a_release_that_came_late_does_not_undo_a_later_one(sync: Send, called: Called) -> None:
    fish = called()
    sync(fish)
    early = operation("release.set", captures=[fish["id"]], code="alive")
    late = operation("release.set", captures=[fish["id"]], code="dead")
    early["device_time"] = (timezone.now() - timedelta(minutes=5)).isoformat()
    sync(late)
    sync(early)
    assert Release.objects.get().fate == "dead"


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ({"captures": [], "code": "alive"}, "captures_unreadable"),
        ({"captures": "all", "code": "alive"}, "captures_unreadable"),
        ({"captures": ["7"], "code": "alive"}, "captures_unreadable"),
        ({"captures": [str(new_id())], "code": "eaten"}, "release_unknown"),
    ],
)
def test_releases_that_cannot_be(sync: Send, outing: Outing, row: dict[str, Any], code: str) -> None:
    assert sync(operation("release.set", **row)).data["code"] == code


@pytest.mark.django_db(transaction=True)
def test_two_tablets_placing_one_number_at_once(
    run: Run, called: Called, sync: Send, client_as: Callable[[str], APIClient]
) -> None:
    """Two real connections to MariaDB: one places the tag, the other is told that it is in a fish."""
    fish = [called(scanned="none"), called(scanned="none")]
    sync(*fish)
    clients = [client_as("crew"), client_as("crew")]
    barrier, answers = threading.Barrier(2), []

    def send(client: APIClient, capture: dict[str, Any]) -> None:
        try:
            barrier.wait(10)
            answers.append(sync(place(capture, PIT), client=client))
        finally:
            connection.close()

    threads = [threading.Thread(target=send, args=pair) for pair in zip(clients, fish, strict=True)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    codes = sorted(answer.data.get("code", "stored") for answer in answers)
    assert codes == ["stored", "tag_in_fish"]
    assert Placement.objects.count() == 1


def test_where_a_tag_sits_is_said_later_and_put_right(
    sync: Send, called: Called, programme: Programme, outing: Outing, crew: Any
) -> None:
    fish = called(scanned="none")
    sync(fish, operation("tag.place", capture=fish["id"], kind="pit", number=PIT, body_site="dorsal"))
    about = {"capture": fish["id"], "kind": "pit", "number": PIT}
    sync(operation("tag.describe", quality="second", **about))
    sync(operation("tag.describe", body_site="cheek", **about))
    told = crew.get(f"/api/v1/outings/{outing.pk}/deck").data["captures"][0]["placed"]
    assert told == [{"kind": "pit", "number": PIT, "body_site": "cheek", "quality": "second"}]
    assert [change.before for change in Change.objects.filter(table="placement").order_by("device_time")] == [
        {"quality": ""},
        {"body_site": "dorsal"},
    ]
    for row, code in (
        ({**about, "number": "999000000000777"}, "placement_unknown"),
        ({**about, "quality": "splendid"}, "not_a_choice"),
    ):
        assert sync(operation("tag.describe", **row)).data["code"] == code


def test_a_tag_is_spoiled_before_it_goes_in(
    sync: Send, called: Called, programme: Programme, outing: Outing, crew: Any
) -> None:
    about = {"outing": str(outing.pk), "kind": "pit", "number": PIT}
    spoil = operation("tag.spoil", **about)
    for _ in range(2):  # the second is the same touch sent again
        assert sync(spoil).data.get("code") is None
    stock = [each["number"] for each in crew.get(f"/api/v1/outings/{outing.pk}/deck").data["marks"]["stock"]]
    assert PIT not in stock and Tag.objects.get(number=PIT).state == "spoiled"
    (change,) = Change.objects.filter(table="tag")
    assert (change.before, change.after) == ({"state": "stock"}, {"state": "spoiled"})
    fish = called(scanned="none")
    assert sync(fish, place(fish, PIT)).data["code"] == "tag_not_in_stock"
    sync(operation("tag.spoil", spoiled=False, **about))
    assert Tag.objects.get(number=PIT).state == "stock"
    sync(place(fish, PIT))
    # in a fish it is not spoiled any more, nor put back into stock by a late touch
    assert sync(operation("tag.spoil", **about)).data["code"] == "tag_state"
    sync(operation("tag.spoil", spoiled=False, **about))
    assert Tag.objects.get(number=PIT).state == "placed"
    assert sync(operation("tag.spoil", **{**about, "number": "999000000000777"})).data["code"] == "tag_not_in_stock"


def test_a_tag_that_was_handed_out_is_known_on_deck(outing: Outing, crew: Any) -> None:
    Tag.objects.filter(number=PIT).update(state="issued")
    assert PIT in [each["number"] for each in crew.get(f"/api/v1/outings/{outing.pk}/deck").data["marks"]["stock"]]
