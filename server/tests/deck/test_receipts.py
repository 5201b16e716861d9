"""Whatever went through once is answered as done; whatever goes wrong with one entry is that entry's alone."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Event, Outing, Release, Run, Signature, WaterReading
from nailwright.plan.models import Unit
from nailwright.programmes.models import Membership, Programme, Receipt
from nailwright.programmes.record.operations import kinds
from nailwright.returns.models import Card
from nailwright.tags.models import Placement, Tag
from nailwright.waters.models import Site
from server.tests.conftest import BEGAN, operation
from server.tests.deck.test_photos import picture

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]
PIT, SPOILED = "999000000000101", "999000000000102"


def states(response: Any) -> list[str]:
    return [each["state"] for each in response.data["results"]]


@pytest.fixture
def evening(outing: Outing, site: Site, programme: Programme, unit: Unit, crew: APIClient) -> list[dict[str, Any]]:
    """One entry of every kind there is, in an order in which each can be done."""
    tagger = Membership.objects.get(programme=programme, person=crew.handler._force_user)  # type: ignore[attr-defined]
    card = operation("card.record", tagger=str(tagger.pk), species="wal", length="41 cm", condition=1)
    card_photo = operation("card_photo.add", card=card["id"], jpeg=picture(8, 8))
    for number in (PIT, SPOILED):
        Tag.objects.create(programme=programme, kind="pit", number=number)
    run = operation("run.start", outing=str(outing.pk), site=str(site.pk), started_at=BEGAN.isoformat())
    fish = operation("capture.record", run=run["id"], species="wal", length="440", mass="900", scanned="none")
    water = operation("water.record", outing=str(outing.pk), temperature_c=9)
    photo = operation("photo.add", outing=str(outing.pk), capture=fish["id"], shows="fish", jpeg=picture(8, 8))
    moved = operation("event.record", capture=fish["id"], what="lane", details={"lane": "table"})
    return [
        operation("checklist.sign", outing=str(outing.pk), checklist="boat", name="Ada"),
        water,
        operation("water.edit", reading=water["id"], temperature_c=10),
        run,
        fish,
        operation("tag.place", capture=fish["id"], kind="pit", number=PIT),
        operation("tag.describe", capture=fish["id"], kind="pit", number=PIT, body_site="dorsal"),
        operation("tag.shed", capture=fish["id"], kind="pit", number=PIT),
        operation("tag.spoil", outing=str(outing.pk), kind="pit", number=SPOILED),
        operation("tag.take_in", kind="tbar", number="W2001"),
        operation("track.add", run=run["id"], fixes=[[BEGAN.timestamp(), 44.9, -31.5]]),
        photo,
        operation("photo.edit", photo=photo["id"], note="scar"),
        operation("capture.edit", capture=fish["id"], length="441"),
        moved,
        operation("event.edit", event=moved["id"], details={"lane": "recovery"}),
        operation("capture.delete", capture=fish["id"]),
        operation("capture.restore", capture=fish["id"]),
        operation("release.set", captures=[fish["id"]], code="alive"),
        operation("run.edit", run=run["id"], current_on_s=700, ended_at=timezone.now().isoformat()),
        card,
        operation("card.edit", card=card["id"], length="42 cm"),
        card_photo,
        operation("card_photo.delete", photo=card_photo["id"]),
        operation("card.delete", card=card["id"]),
        operation("unit.resistance", unit=str(unit.pk), r100_ohm=55),
    ]


def test_the_evening_holds_every_kind(evening: list[dict[str, Any]]) -> None:
    assert {each["kind"] for each in evening} == set(kinds())


def test_all_is_answered_as_done_after_the_outing_closed(
    sync: Send, evening: list[dict[str, Any]], outing: Outing
) -> None:
    assert states(sync(*evening)) == ["stored"] * len(evening)
    Outing.objects.update(state=Outing.State.CLOSED)
    tables = (Capture, Card, Event, Run, Release, Placement, WaterReading, Signature)
    before = [list(model.objects.order_by("pk").values()) for model in tables]
    assert states(sync(*evening)) == ["already"] * len(evening)
    assert states(sync(*reversed(evening))) == ["already"] * len(evening)
    assert [list(model.objects.order_by("pk").values()) for model in tables] == before
    fresh = {**evening[3], "id": str(new_id())}
    assert sync(fresh).data["code"] == "outing_closed"


def test_the_same_key_with_other_content_is_refused_in_words(sync: Send, evening: list[dict[str, Any]]) -> None:
    sync(*evening)
    for entry in evening:
        other = {**entry, "row": {**entry["row"], "note": "something else"}}
        (answer,) = sync(other).data["results"]
        assert (answer["state"], answer["error"]["code"]) == ("refused", "key_used"), entry["kind"]
    assert Receipt.objects.count() == len(evening)


def test_a_colleague_sends_what_the_first_had_sent(
    sync: Send, evening: list[dict[str, Any]], client_as: Callable[[str], APIClient]
) -> None:
    sync(*evening)
    assert states(sync(*evening, client=client_as("lead"))) == ["already"] * len(evening)


def test_whose_entries_they_are_is_asked_before_anything(sync: Send, called: Called, crew: APIClient) -> None:
    fish = called()
    address = f"/api/v1/programmes/{Run.objects.get().outing.programme_id}/sync"
    answer = crew.post(address, {"person": str(new_id()), "operations": [fish]}, format="json")
    assert (answer.status_code, answer.data["code"]) == (409, "other_person")
    assert Capture.objects.count() == 0


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"row": {"note": "cut short\x00"}}, "text_unreadable"),
        ({"device_time": "0001-01-01T00:00:00+14:00"}, "time_unreadable"),
        ({"device_time": "9999-12-31T23:59:59-12:00"}, "time_unreadable"),
    ],
)
def test_known_triggers_are_refused_and_let_the_rest_through(
    sync: Send, called: Called, change: dict[str, Any], code: str
) -> None:
    bad = called()
    bad = {**bad, **change, "row": {**bad["row"], **change.get("row", {})}}
    run = Run.objects.get()
    client = APIClient()
    client.force_authenticate(run.recorder)
    body = json.dumps({"operations": [called(), bad, called()]})
    response = client.post(f"/api/v1/programmes/{run.outing.programme_id}/sync", body, content_type="application/json")
    assert states(response) == ["stored", "refused", "stored"]
    assert response.data["results"][1]["error"]["code"] == code and response.content


def test_half_an_emoji_is_kept_as_a_sign_for_it_and_comes_again_as_the_same(called: Called, run: Run) -> None:
    client = APIClient()
    client.force_authenticate(run.recorder)
    body = json.dumps({"operations": [called(note="scar \ud83d left")]})
    address = f"/api/v1/programmes/{run.outing.programme_id}/sync"
    for state in ("stored", "already"):
        assert states(client.post(address, body, content_type="application/json")) == [state]
    assert Capture.objects.get().note == "scar \ufffd left"


def test_a_signatures_key_used_for_another_list_is_refused(sync: Send, outing: Outing) -> None:
    first = operation("checklist.sign", outing=str(outing.pk), checklist="boat", name="Ada")
    assert states(sync(first)) == ["stored"]
    second = {**first, "row": {**first["row"], "checklist": "dam", "note": "called the operator"}}
    assert sync(second).data["code"] == "key_used"
    Receipt.objects.all().delete()  # as signed before there were receipts
    assert sync(second).data["code"] == "key_taken"


def test_an_unexpected_failure_is_that_entrys_alone_and_goes_through_later(
    sync: Send, called: Called, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    from nailwright.deck.calling import recording

    guilty, others = called(length="333"), [called(), called()]
    after = operation("release.set", captures=[guilty["id"], others[0]["id"]], code="alive")
    tag = operation("capture.edit", capture=guilty["id"], sex="f")
    read = recording.read_call

    def breaks(row: Any, board: Any) -> Any:
        if row["length"] == "333":
            raise ZeroDivisionError("a bug")
        return read(row, board)

    monkeypatch.setattr(recording, "read_call", breaks)
    response = sync(others[0], guilty, others[1], tag, after)
    assert response.status_code == 200  # nothing for a person to do
    assert states(response) == ["stored", "failed", "stored", "failed", "failed"]
    assert "a bug" in caplog.text and Capture.objects.count() == 2
    assert Release.objects.count() == 1  # the fish that is there left; the other is waited for
    monkeypatch.undo()
    assert states(sync(guilty, tag, after)) == ["stored", "stored", "stored"]
    assert Release.objects.count() == 2 and Capture.objects.get(pk=guilty["id"]).sex == "f"


def test_a_refused_fish_goes_through_when_it_is_mended_and_what_belongs_to_it_after_it(
    sync: Send, called: Called, programme: Programme
) -> None:
    Tag.objects.create(programme=programme, kind="pit", number=PIT)
    good, bad = called(), called(length="4400", scanned="none")
    placing = operation("tag.place", capture=bad["id"], kind="pit", number=PIT)
    leaving = operation("release.set", captures=[good["id"], bad["id"]], code="alive")
    assert states(sync(good, bad, placing, leaving)) == ["stored", "refused", "failed", "failed"]
    assert [str(each.capture_id) for each in Release.objects.all()] == [good["id"]]
    mended = {**bad, "row": {**bad["row"], "length": "440"}}
    assert states(sync(mended, placing, leaving)) == ["stored", "stored", "stored"]
    assert Capture.objects.get(pk=bad["id"]).length_mm == 440 and Release.objects.count() == 2


def test_a_tablet_whose_clock_is_behind_has_its_word(sync: Send, called: Called, crew: APIClient) -> None:
    """Its clock is two hours behind: what it says last is still said last."""
    fish = called()
    sync(fish)
    first = operation("release.set", captures=[fish["id"]], code="alive")
    sync(first)
    behind = timezone.now() - timedelta(hours=2)
    second = {**operation("release.set", captures=[fish["id"]], code="dead"), "device_time": behind.isoformat()}
    programme = Capture.objects.get().programme_id
    body = {"operations": [second], "device_now": behind.isoformat()}
    answer = crew.post(f"/api/v1/programmes/{programme}/sync", body, format="json")
    assert states(answer) == ["stored"] and Release.objects.get().fate == "dead"
    assert abs((Release.objects.get().device_time - timezone.now()).total_seconds()) < 60
    offset = Receipt.objects.get(pk=second["id"]).clock_offset_s
    assert offset == pytest.approx(7200, abs=30)
    assert "server_time" in answer.data


def test_an_entry_brings_the_offset_it_was_made_under(sync: Send, called: Called) -> None:
    fish = {**called(), "clock_offset_s": -3600.0}
    fish["device_time"] = (timezone.now() + timedelta(hours=1)).isoformat()
    assert states(sync(fish)) == ["stored"]
    assert abs((Capture.objects.get().device_time - timezone.now()).total_seconds()) < 60
    assert sync({**called(), "clock_offset_s": "late"}).data["code"] == "number_out_of_range"


def test_two_releases_the_later_word_stands_and_the_other_is_in_the_history(
    sync: Send, called: Called, programme: Programme
) -> None:
    fish = called()
    sync(fish)
    early = operation("release.set", captures=[fish["id"]], code="alive")
    late = operation("release.set", captures=[fish["id"]], code="dead")
    early["device_time"] = (timezone.now() - timedelta(minutes=5)).isoformat()
    assert states(sync(late, early)) == ["stored", "stored"]
    assert Release.objects.get().fate == "dead"
    (change,) = programme.changes.filter(table="release")
    assert change.late["fate"] == "released" and change.late["word"] == "alive" and change.after == {}
