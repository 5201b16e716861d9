"""A programme's own tags: entered, handed out, found, lost and found again, and which of them a tablet holds."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import Any

import openpyxl
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing
from nailwright.programmes.models import Change, Programme
from nailwright.tags import queries
from nailwright.tags.models import Tag, TagBatch, TagIssue, TagKind
from nailwright.waters.models import Site
from nailwright_core.tags.kinds import TAG_KINDS
from server.tests.conftest import operation

Send = Callable[..., Any]


def batch(**more: Any) -> dict[str, Any]:
    return {"id": str(new_id()), "kind": "tbar", "name": "Yellow 2026", "numbers": "W1001-W1010"} | more


@pytest.mark.parametrize(
    "kind", ["pit", "tbar", "dart", "dart2", "metal", "disc", "acoustic", "radio", "satellite", "archival"]
)
def test_every_kind_comes_into_stock(crew: APIClient, programme: Programme, kind: str) -> None:
    numbers = "999 000000000201 - 999 000000000203" if kind == "pit" else "A201-A203"
    address = f"/api/v1/programmes/{programme.pk}/tags/batches"
    answer = crew.post(address, batch(kind=kind, numbers=numbers, battery_days=400, mass_g=3.1), format="json")
    assert answer.status_code == 201, answer.data
    assert answer.data["taken"]["new"] == 3 and answer.data["batch"]["counts"] == {"stock": 3}
    (told,) = crew.get(address).data
    assert (told["battery_days"], told["mass_g"], told["first_number"][-3:]) == (400, 3.1, "201")


@pytest.fixture
def stocked(crew: APIClient, programme: Programme) -> TagBatch:
    answer = crew.post(f"/api/v1/programmes/{programme.pk}/tags/batches", batch(), format="json")
    assert answer.status_code == 201
    return TagBatch.objects.get()


def test_sent_twice_it_is_entered_once(crew: APIClient, programme: Programme) -> None:
    address, body = f"/api/v1/programmes/{programme.pk}/tags/batches", batch()
    assert crew.post(address, body, format="json").data["taken"]["new"] == 10
    again = crew.post(address, body, format="json")
    assert (again.status_code, again.data["taken"]["new"], again.data["taken"]["known"]) == (201, 0, 10)
    assert Tag.objects.count() == 10 and TagBatch.objects.count() == 1
    named_alike = crew.post(address, batch(name="yellow 2026"), format="json")
    assert (named_alike.status_code, named_alike.data["code"]) == (422, "batch_there")


def test_more_numbers_are_tried_and_added(crew: APIClient, stocked: TagBatch) -> None:
    address = f"/api/v1/tags/batches/{stocked.pk}/numbers"
    tried = crew.post(address, {"numbers": "W1010-W1012, W1012, ?", "only_try": True}, format="json").data["taken"]
    assert (tried["new"], tried["known"], tried["twice"], tried["unread_n"]) == (2, 1, 1, 1)
    assert Tag.objects.count() == 10
    assert crew.post(address, {"numbers": "W1010-W1012"}, format="json").data["batch"]["counts"] == {"stock": 12}


def test_a_tag_of_ones_own_goes_into_a_fish_and_is_met_again(
    crew: APIClient, stocked: TagBatch, sync: Send, called: Callable[..., dict[str, Any]], outing: Outing
) -> None:
    """From an empty stock to a recapture."""
    deck = crew.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert len(deck["marks"]["stock"]) == 10 and deck["marks"]["stock"][0]["batch"] == "Yellow 2026"
    fish = called(scanned="none")
    assert sync(fish, operation("tag.place", capture=fish["id"], kind="tbar", number="W1003")).status_code == 200
    again = called(scanned="number", scans=[{"kind": "tbar", "number": "W1003"}])
    sync(again)
    assert Capture.objects.get(pk=again["id"]).scanned == "known"
    deck = crew.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert len(deck["marks"]["stock"]) == 9 and deck["marks"]["fish"][0]["times_met"] == 2
    (found,) = crew.get(f"/api/v1/programmes/{outing.programme_id}/tags?number=1003").data
    assert found["state"] == "placed" and str(found["fish"]) == str(Capture.objects.get(pk=fish["id"]).fish_id)


def test_a_number_read_on_a_fish_first_is_of_the_batch_once_it_is_entered(
    crew: APIClient, programme: Programme, sync: Send, called: Callable[..., dict[str, Any]]
) -> None:
    fish = called(scanned="none")
    sync(fish, operation("tag.take_in", kind="tbar", number="w1003"))
    sync(operation("tag.take_in", kind="tbar", number="W1003"))  # another tablet read it as well
    assert Tag.objects.count() == 1
    assert Tag.objects.get().batch.name == "Taken in on the Deck"  # type: ignore[union-attr]
    assert sync(operation("tag.place", capture=fish["id"], kind="tbar", number="W1003")).status_code == 200
    Tag.objects.update(batch=None)
    taken = crew.post(f"/api/v1/programmes/{programme.pk}/tags/batches", batch(), format="json").data["taken"]
    assert (taken["new"], taken["elsewhere"]) == (9, 1)
    assert (
        Tag.objects.get(number="W1003").state == "placed"
        and TagBatch.objects.get(name="Yellow 2026").tags.count() == 10
    )


def test_handed_out_to_an_outing_they_are_on_its_tablets_only(
    crew: APIClient,
    programme: Programme,
    stocked: TagBatch,
    outing: Outing,
    site: Site,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    address = f"/api/v1/programmes/{programme.pk}/tags/hand-out"
    body = {"id": str(new_id()), "batch": str(stocked.pk), "how_many": 4, "outing": str(outing.pk)}
    first = crew.post(address, body, format="json")
    assert (first.status_code, first.data["n"], first.data["last"]) == (200, 4, "W1004")
    assert crew.post(address, body, format="json").data == first.data and TagIssue.objects.count() == 4
    other = Outing.objects.create(
        programme=programme, water=site.water, name="Other", date=outing.date, gear=outing.gear
    )

    def on_deck(of: Outing) -> list[str]:
        return [each["number"] for each in crew.get(f"/api/v1/outings/{of.pk}/deck").data["marks"]["stock"]]

    assert len(on_deck(outing)) == 10 and on_deck(other)[0] == "W1005"
    monkeypatch.setattr(queries, "MOST_STOCK", 5)  # a stock that is too large for a tablet
    assert on_deck(outing) == ["W1001", "W1002", "W1003", "W1004"] and on_deck(other) == []
    back = {"id": str(new_id()), "kind": "tbar", "numbers": "W1003-W1004", "back": True}
    assert crew.post(address, back, format="json").data["n"] == 2 and on_deck(outing) == ["W1001", "W1002"]


@pytest.mark.parametrize(
    ("body", "code"),
    [
        ({"kind": "tbar", "numbers": "W1001"}, "issue_to_nobody"),
        ({"kind": "tbar", "numbers": "W9999", "boat": "B"}, "tag_not_in_stock"),
        ({"kind": "tbar", "numbers": "?", "boat": "B"}, "tag_number_unreadable"),
        ({"kind": "tbar", "numbers": "", "boat": "B"}, "tag_numbers_none"),
        ({"batch": str(new_id()), "how_many": 1, "boat": "B"}, "batch_unknown"),
        ({"kind": "tbar", "numbers": "W1001", "outing": str(new_id())}, "outing_unknown"),
        ({"kind": "tbar", "numbers": "W1001", "person": str(new_id())}, "person_unknown"),
    ],
)
def test_handing_out_that_cannot_be(
    crew: APIClient, programme: Programme, stocked: TagBatch, body: dict[str, Any], code: str
) -> None:
    answer = crew.post(f"/api/v1/programmes/{programme.pk}/tags/hand-out", {"id": str(new_id()), **body}, format="json")
    assert (answer.status_code, answer.data["code"]) == (422, code)
    assert not TagIssue.objects.exists()


def test_more_than_there_are_is_said(crew: APIClient, programme: Programme, stocked: TagBatch) -> None:
    body = {"id": str(new_id()), "batch": str(stocked.pk), "how_many": 11, "boat": "B"}
    answer = crew.post(f"/api/v1/programmes/{programme.pk}/tags/hand-out", body, format="json")
    assert answer.data["code"] == "tags_too_few" and "10 are in stock" in answer.data["message"]


@pytest.mark.parametrize(("typed", "found"), [("W10?5", ["W1005"]), ("0?9", ["W1009"]), ("W*010", ["W1010"])])
def test_what_is_left_of_a_worn_legend_finds_it(
    crew: APIClient, programme: Programme, stocked: TagBatch, typed: str, found: list[str]
) -> None:
    answer = crew.get(f"/api/v1/programmes/{programme.pk}/tags", {"number": typed})
    numbers = [each["number"] for each in answer.data]
    assert numbers == found


def test_lost_and_found_with_history(crew: APIClient, programme: Programme, stocked: TagBatch) -> None:
    address = f"/api/v1/programmes/{programme.pk}/tags/move"
    body = {"kind": "tbar", "numbers": "W1001-W1003, W9999", "state": "lost", "reason": "bag went overboard"}
    moved = crew.post(address, body, format="json").data
    assert moved["moved"] == 3 and moved["refused"][0]["text"] == "W9999"
    assert Change.objects.filter(table="tag").count() == 3
    assert crew.post(address, {**body, "numbers": "W1001", "state": "stock"}, format="json").data["moved"] == 1
    refused = crew.post(address, {**body, "reason": ""}, format="json")
    assert refused.status_code == 422
    states = {each["number"]: each["state"] for each in crew.get(f"/api/v1/programmes/{programme.pk}/tags").data}
    assert states["W1001"] == "stock" and states["W1002"] == "lost"


def test_numbers_of_a_file(crew: APIClient, programme: Programme) -> None:
    address = f"/api/v1/programmes/{programme.pk}/tags/file"
    book = openpyxl.Workbook()
    for row in (["Box", "Code"], ["a", "999 000000000301"], ["b", "999000000000302"], ["c", "n/a"]):
        book.active.append(row)
    content = io.BytesIO()
    book.save(content)
    answer = crew.post(
        address, {"kind": "pit", "file": SimpleUploadedFile("tags.xlsx", content.getvalue())}, format="multipart"
    )
    (column,) = answer.data
    assert (column["name"], column["n"], column["unread"]) == ("Code", 2, 1)
    plain = crew.post(
        address,
        {"kind": "pit", "file": SimpleUploadedFile("list.csv", b"999000000000301\n999000000000302\n")},
        format="multipart",
    )
    assert plain.data[0]["n"] == 2  # no line of names: the first number counts as well
    nothing = crew.post(
        address, {"kind": "pit", "file": SimpleUploadedFile("x.csv", b"a,b\n1,2\n")}, format="multipart"
    )
    assert (nothing.status_code, nothing.data["code"]) == (422, "no_numbers")


def test_a_volunteer_keeps_no_stock_and_a_stranger_sees_none(
    client_as: Callable[[str], APIClient], programme: Programme, stocked: TagBatch
) -> None:
    address = f"/api/v1/programmes/{programme.pk}/tags/batches"
    assert client_as("volunteer").post(address, batch(), format="json").status_code == 403
    assert client_as("stranger").get(address).status_code == 404
    assert (
        client_as("stranger").post(f"/api/v1/tags/batches/{stocked.pk}/numbers", {"numbers": "W1"}).status_code == 404
    )


def test_a_batch_is_described_anew_with_history(crew: APIClient, stocked: TagBatch) -> None:
    told = crew.post(f"/api/v1/tags/batches/{stocked.pk}", {"name": "Yellow", "colour": "yellow"}, format="json").data
    assert (told["name"], told["colour"], told["counts"]) == ("Yellow", "yellow", {"stock": 10})
    assert set(Change.objects.get().after) == {"name", "colour"}


def test_tags_come_by_pages(crew: APIClient, programme: Programme) -> None:
    crew.post(f"/api/v1/programmes/{programme.pk}/tags/batches", batch(numbers="W1001-W1150"), format="json")
    address = f"/api/v1/programmes/{programme.pk}/tags"
    page = crew.get(address).data
    rest = crew.get(f"{address}?after={page[-1]['kind']} {page[-1]['number']}").data
    assert (len(page), len(rest), rest[0]["number"]) == (100, 50, "W1101")


def test_a_tag_that_was_lost_and_is_in_stock_again_is_with_nobody(
    crew: APIClient, programme: Programme, stocked: TagBatch, outing: Outing, site: Site, sync: Send
) -> None:
    """Found at the desk or on the Deck, it can go to another outing, and is on that one's tablets."""
    base = f"/api/v1/programmes/{programme.pk}/tags"
    body = {"kind": "tbar", "numbers": "W1001, W1002"}
    crew.post(f"{base}/hand-out", {"id": str(new_id()), **body, "outing": str(outing.pk)}, format="json")
    crew.post(f"{base}/move", {**body, "state": "lost", "reason": "bag went overboard"}, format="json")
    crew.post(f"{base}/move", {"kind": "tbar", "numbers": "W1001", "state": "stock", "reason": "found"}, format="json")
    sync(operation("tag.take_in", kind="tbar", number="W1002"))
    assert set(Tag.objects.filter(number__in=("W1001", "W1002")).values_list("state", flat=True)) == {"stock"}
    assert not TagIssue.objects.filter(returned_at=None).exists()
    other = Outing.objects.create(
        programme=programme, water=site.water, name="Other", date=outing.date, gear=outing.gear
    )
    crew.post(f"{base}/hand-out", {"id": str(new_id()), **body, "outing": str(other.pk)}, format="json")
    there = crew.get(f"/api/v1/outings/{other.pk}/deck").data["marks"]["stock"]
    assert {"W1001", "W1002"} <= {each["number"] for each in there}


def test_a_question_that_cannot_be_read_is_refused(crew: APIClient, programme: Programme) -> None:
    for wrong in ("batch=none", "state=sold", f"number={'9' * 41}"):
        assert crew.get(f"/api/v1/programmes/{programme.pk}/tags?{wrong}").status_code == 422


def test_the_protocol_knows_the_kinds_of_the_stock() -> None:
    assert [(code, str(word)) for code, word in TagKind.choices] == list(TAG_KINDS)
