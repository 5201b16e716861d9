"""A correction changes only what was sent as changed; of two corrections of one field the later word stands."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, CaptureTally, Event, Outing, Release, Run
from nailwright.programmes.models import Change
from server.tests.conftest import only_capture, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def desk(client_as: Callable[[str], APIClient]) -> Callable[..., Any]:
    """Corrects the only fish from the desk and gives back the response."""
    lead = client_as("lead")

    def correct(reason: str = "digits swapped", **fields: Any) -> Any:
        body = {"id": str(new_id()), "reason": reason, **fields}
        return lead.post(f"/api/v1/captures/{only_capture().pk}", body, format="json")

    return correct


def all_but(*names: str) -> dict[str, Any]:
    """The fields of the only fish, without those named."""
    return {name: value for name, value in Capture.objects.values().get().items() if name not in names}


def test_a_fish_called_in_inches_stays_when_its_note_is_put_right(
    sync: Send, called: Called, outing: Outing, desk: Callable[..., Any]
) -> None:
    outing.length_unit = "in"
    outing.save()
    sync(called(length="18 1/4", mass="~1085"))
    before = all_but("note")
    assert before["length_mm"] == 463.6 and before["length_unit"] == "in"
    Outing.objects.update(length_unit="mm")  # as where it was brought in elsewhere
    assert desk(note="scar on the left side").status_code == 200
    assert all_but("note") == before and only_capture().note == "scar on the left side"


@pytest.mark.parametrize(
    ("field", "value"),
    [("sex", "f"), ("note", "scar"), ("sex_evidence", "pressure"), ("length_type", "FL"), ("count", 1)],
)
def test_one_field_changes_and_no_other(
    sync: Send, called: Called, desk: Callable[..., Any], field: str, value: Any
) -> None:
    sync(called(length="~18 1/4 in", mass="9000", questions=[{"code": "mass_far", "answer": "kept as called"}]))
    before = all_but(field)
    assert before["length_basis"] == "estimated" and before["questions"]
    assert desk(**{field: value}).status_code == 200
    assert all_but(field) == before and getattr(only_capture(), field) == value


def test_texts_sent_again_unchanged_are_no_correction(sync: Send, called: Called) -> None:
    """As tablets of before send it: the whole call, read in the outing's unit."""
    sync(called(length="18.5 in", mass="1085", sex="m"))
    Capture.objects.update(length_text="18.5", length_unit="in", length_basis="estimated")
    fish = only_capture()
    before = all_but("sex")
    whole = {"species": "wal", "count": 1, "length": "18.5", "length_type": "", "mass": "1085", "sex": "f",
             "sex_evidence": "", "note": "", "questions": []}  # fmt: skip
    assert sync(operation("capture.edit", capture=str(fish.pk), **whole)).status_code == 200
    assert all_but("sex") == before and only_capture().sex == "f"


def test_a_length_put_right_keeps_its_kind_and_is_read_in_the_unit_beside_it(sync: Send, called: Called) -> None:
    sync(called(length="440", length_type="FL"))
    key = str(only_capture().pk)
    sync(operation("capture.edit", capture=key, length="17 1/4", length_unit="in"))
    fish = only_capture()
    assert (fish.length_mm, fish.length_type, fish.length_unit, fish.length_text) == (438.1, "FL", "in", "17 1/4")
    sync(operation("capture.edit", capture=key, mass="2.4", mass_unit="lb"))
    fish = only_capture()
    assert (fish.mass_g, fish.mass_unit, fish.length_mm) == (1088.62, "lb", 438.1)


def test_answered_doubts_stay_until_the_figure_changes(sync: Send, called: Called, desk: Callable[..., Any]) -> None:
    sync(called(length="463", mass="9000", questions=[{"code": "mass_far_heavy", "answer": "kept as called"}]))
    Capture.objects.update(questions=[{"code": "mass_far_heavy", "answer": "kept as called"}])
    desk(sex="m")
    assert only_capture().questions == [{"code": "mass_far_heavy", "answer": "kept as called"}]
    desk(mass="1085")
    assert only_capture().questions == []


def test_a_doubt_is_answered_at_the_desk(
    sync: Send, called: Called, desk: Callable[..., Any], crew: APIClient, outing: Outing
) -> None:
    sync(called(length="463", mass="9000"))
    (doubt,) = only_capture().questions
    assert doubt["answer"] == "not asked"
    today = f"/api/v1/programmes/{outing.programme_id}/today"
    Outing.objects.update(date=timezone.now().date())
    assert "doubt_unasked" in [each["code"] for each in crew.get(today).data["waiting"]]
    before = all_but("questions")
    answered = desk("weighed twice", questions=[{"code": doubt["code"], "answer": "kept as called"}])
    assert answered.status_code == 200 and all_but("questions") == before
    assert only_capture().questions == [{"code": doubt["code"], "answer": "kept as called"}]
    assert "doubt_unasked" not in [each["code"] for each in crew.get(today).data["waiting"]]


def test_the_same_correction_twice_is_one_and_another_under_its_key_is_refused(
    sync: Send, called: Called, client_as: Callable[[str], APIClient]
) -> None:
    sync(called())
    lead, address = client_as("lead"), f"/api/v1/captures/{only_capture().pk}"
    body = {"id": str(new_id()), "reason": "digits swapped", "length": "470"}
    assert lead.post(address, body, format="json").status_code == 200
    assert lead.post(address, body, format="json").status_code == 200
    assert Change.objects.count() == 1
    refused = lead.post(address, {**body, "length": "480"}, format="json")
    assert (refused.status_code, refused.data["code"]) == (422, "key_used")
    assert only_capture().length_mm == 470


@pytest.mark.parametrize("late_first", [False, True])
def test_of_two_corrections_of_one_field_the_later_word_stands(
    sync: Send, called: Called, crew: APIClient, late_first: bool
) -> None:
    sync(called(length="440", mass="900"))
    key = str(only_capture().pk)
    early = operation("capture.edit", capture=key, length="441", sex="f")
    late = operation("capture.edit", capture=key, length="442")
    early["device_time"] = (timezone.now() - timedelta(minutes=10)).isoformat()
    for each in (late, early) if late_first else (early, late):
        assert sync(each).data["results"][0]["state"] == "stored"
    fish = only_capture()
    assert (fish.length_mm, fish.length_text, fish.sex) == (442, "442", "f")
    history = {each["id"]: each for each in crew.get(f"/api/v1/captures/{fish.pk}/history").data}
    assert history[early["id"]]["late"].get("length_mm") == (441 if late_first else None)
    waiting = crew.get(f"/api/v1/programmes/{fish.programme_id}/today").data["waiting"]
    assert ("corrections_crossed" in [each["code"] for each in waiting]) == late_first


def test_a_fish_edited_to_none_found_is_no_longer_that_fish(sync: Send, called: Called) -> None:
    from nailwright.tags.models import Encounter, Scan, Tag

    Tag.objects.create(programme_id=Outing.objects.get().programme_id, kind="pit", number="999000000000101")
    first = called(scanned="none")
    placing = operation("tag.place", capture=first["id"], kind="pit", number="999000000000101")
    again = called(scanned="number", scans=[{"kind": "pit", "number": "999000000000101"}])
    assert sync(first, placing, again).status_code == 200
    assert Encounter.objects.count() == 2
    assert sync(operation("capture.edit", capture=again["id"], scanned="none")).status_code == 200
    met = Capture.objects.get(pk=again["id"])
    assert (met.fish, met.scanned) == (None, "none")
    assert Encounter.objects.count() == 1 and Scan.present.count() == 0


def test_the_desk_moves_a_fish_to_another_run_with_all_that_was_said_of_it_and_back(
    sync: Send,
    called: Called,
    desk: Callable[..., Any],
    run: Run,
    outing: Outing,
    client_as: Callable[[str], APIClient],
) -> None:
    """Another run of another outing, after both were closed; nothing else of the fish changes, and back it is as it was."""
    fish = called()
    sync(fish, operation("event.record", what="let_go", capture=fish["id"], details={"words": "in the reeds"}))
    other = Outing.objects.create(
        programme=outing.programme, water=outing.water, name="The day after", date=outing.date, gear=outing.gear
    )
    there = Run.objects.create(
        outing=other, site=run.site, number=1, gear=run.gear, started_at=run.started_at, recorder=run.recorder
    )
    Outing.objects.update(state="closed")
    before, details = all_but(), list(Event.objects.values())
    assert desk(run=str(there.pk), reason="called into the wrong outing").status_code == 200
    assert only_capture().run_id == there.pk and all_but("run_id") == {k: v for k, v in before.items() if k != "run_id"}
    assert Event.objects.get().outing_id == other.pk and rebuild_encounters() >= 0
    # of this programme alone: emptying the tables after another test runs the triggers too, and leaves counts behind
    counts = CaptureTally.objects.filter(programme_id=outing.programme_id)
    tally = {str(each.run_id): each.present for each in counts if each.present}
    assert tally == {str(there.pk): 1}
    (change, *_) = client_as("lead").get(f"/api/v1/captures/{fish['id']}/history").data
    assert (
        change["before"]["caught_in"].startswith("run 1 of Tonight") and "The day after" in change["after"]["caught_in"]
    )
    desk(run=str(run.pk), reason="it was right after all")
    assert all_but() == before and list(Event.objects.values()) == details


def test_the_desk_says_species_time_and_how_it_left(
    sync: Send, called: Called, desk: Callable[..., Any], outing: Outing
) -> None:
    sync(called())
    Outing.objects.update(state="closed")
    earlier = only_capture().device_time - timedelta(minutes=20)
    answer = desk(species="yep", caught_at=earlier.isoformat(), fate="released", strength=2, questions=[])
    assert answer.status_code == 200, answer.data
    fish = only_capture()
    assert (fish.species, fish.device_time, fish.length_mm) == ("yep", earlier, 463)
    assert (Release.objects.get().fate, Release.objects.get().strength) == ("released", 2)
    desk(fate="dead")
    assert Release.objects.get().fate == "dead" and only_capture().device_time == earlier
    desk(fate=None)
    assert Release.objects.get().deleted_at is not None


def test_a_run_of_another_programme_is_none(sync: Send, called: Called, desk: Callable[..., Any]) -> None:
    sync(called())
    refused = desk(run=str(new_id()))
    assert (refused.status_code, refused.data["code"], refused.data["field"]) == (422, "run_unknown", "run")
