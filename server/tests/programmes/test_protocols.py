"""What a programme decides, in versions; an outing keeps the one it was made under."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Outing, Run
from nailwright.programmes.models import Change, Programme, ProtocolVersion

Client = Callable[[str], APIClient]
HANDS = {"species": "", "from_mm": 0, "where": "aboard", "how": ""}


@pytest.fixture
def weighed(run: Run) -> None:
    Capture.objects.bulk_create(
        Capture(
            programme=run.outing.programme, run=run, species="wal", length_mm=float(mm), length_type="TL", length_basis="measured",
            mass_g=0.75e-5 * mm**3, mass_basis="measured", recorder=run.recorder,
        )
        for mm in range(300, 500, 10)
    )  # fmt: skip


def decide(client: APIClient, programme: Programme, based_on: int = 1, why: str = "new permit", **sections: Any) -> Any:
    body = {"id": str(new_id()), "based_on": based_on, "why": why, "sections": sections}
    return client.post(f"/api/v1/programmes/{programme.pk}/protocol", body, format="json")


def opened(client: APIClient, programme: Programme, water: object) -> Outing:
    body = {"id": str(new_id()), "water": str(water), "date": "2026-10-13", "gear": "angling"}
    assert client.post(f"/api/v1/programmes/{programme.pk}/outings", body, format="json").status_code == 201
    return Outing.objects.get(pk=body["id"])


def test_what_ships_holds_until_somebody_decides(lead: APIClient, programme: Programme) -> None:
    told = lead.get(f"/api/v1/programmes/{programme.pk}/protocol").data
    assert (told["number"], told["standing"], told["versions"][0]["why"]) == (1, True, "as it ships")
    assert [row["code"] for row in told["values"]["fates"]] == ["released", "dead", "kept", "escaped", "taken"]
    assert {each["code"] for each in told["sections"]} == set(told["values"])


def test_an_outing_keeps_the_version_it_was_made_under(lead: APIClient, programme: Programme, outing: Outing) -> None:
    first = opened(lead, programme, outing.water_id)
    assert decide(lead, programme, boarding=[HANDS]).data["number"] == 2
    second = opened(lead, programme, outing.water_id)
    decks = [lead.get(f"/api/v1/outings/{each.pk}/deck").data["protocol"] for each in (first, second, outing)]
    assert [each["number"] for each in decks] == [1, 2, 0]  # that of before there were any: as it ships
    assert [len(each["values"]["boarding"]) for each in decks] == [0, 1, 0]
    # it is told on Today, and goes by the new one when somebody says so; what it went by stands in the history
    waiting = lead.get(f"/api/v1/programmes/{programme.pk}/today").data["waiting"]
    assert [each["outing"] for each in waiting if each["code"] == "protocol_older"] == [str(first.pk)]
    assert lead.post(f"/api/v1/outings/{first.pk}/protocol").data["protocol"] == 2
    change = Change.objects.get(row=first.pk)
    assert list(change.after) == ["protocol"] and change.before["protocol"] == str(
        ProtocolVersion.objects.get(number=1).pk
    )
    assert lead.post(f"/api/v1/outings/{first.pk}/protocol").status_code == 200 and Change.objects.count() == 1
    # an earlier version is there as it was
    old = lead.get(f"/api/v1/programmes/{programme.pk}/protocol?number=1").data
    assert old["values"]["boarding"] == [] and not old["standing"] and old["versions"][1]["outings"] == 0
    assert lead.get(f"/api/v1/programmes/{programme.pk}/protocol?number=9").status_code == 404


def test_a_closed_outing_goes_by_what_it_went_by(lead: APIClient, programme: Programme, outing: Outing) -> None:
    first = opened(lead, programme, outing.water_id)
    Outing.objects.filter(pk=first.pk).update(state="closed")
    decide(lead, programme, boarding=[HANDS])
    refused = lead.post(f"/api/v1/outings/{first.pk}/protocol")
    assert (refused.status_code, refused.data["code"]) == (422, "outing_closed")


def test_two_who_decide_at_once_do_not_undo_each_other(
    lead: APIClient, client_as: Client, programme: Programme
) -> None:
    other = client_as("biologist")
    assert decide(lead, programme, boarding=[HANDS]).status_code == 201
    # another section: both stand
    assert decide(other, programme, bins=[{"species": "wal", "bin_mm": 20}]).data["number"] == 3
    # the same one: told who was there before
    refused = decide(other, programme, boarding=[])
    assert (refused.status_code, refused.data["code"]) == (
        422,
        "protocol_changed",
    ) and "Where a fish is handled" in refused.data["message"]
    now = lead.get(f"/api/v1/programmes/{programme.pk}/protocol").data["values"]
    assert now["boarding"] == [HANDS | {"from_mm": 0.0}] and now["bins"][0]["bin_mm"] == 20


def test_a_decision_sent_twice_is_one_and_one_that_changes_nothing_is_none(
    lead: APIClient, programme: Programme
) -> None:
    body = {
        "id": str(new_id()),
        "based_on": 1,
        "why": "girth, too",
        "sections": {"bins": [{"species": "wal", "bin_mm": 20}]},
    }
    lead.get(f"/api/v1/programmes/{programme.pk}/protocol")
    answers = [
        lead.post(f"/api/v1/programmes/{programme.pk}/protocol", body, format="json").data["number"] for _ in range(2)
    ]
    assert answers == [2, 2]
    assert decide(lead, programme, 2, bins=[{"species": "wal", "bin_mm": 20.0}]).data["number"] == 2


@pytest.mark.parametrize(
    ("sections", "code", "field"),
    [
        ({"bins": [{"species": "wal", "bin_mm": -1}]}, "number_out_of_range", "bins.0.bin_mm"),
        ({"bins": [{"species": "lng", "bin_mm": 5}]}, "not_a_choice", "bins.0.species"),
        ({"moon": []}, "section_unknown", "values"),
        ({"fates": []}, "rows_are_fixed", "fates"),
        ({"lanes": [{"code": "net", "word": {"a": 1}, "most_min": 1}]}, "not_a_text", "lanes.0.word"),
    ],
)
def test_what_cannot_hold_is_refused_by_its_place(
    lead: APIClient, programme: Programme, sections: Any, code: str, field: str
) -> None:
    refused = decide(lead, programme, **sections)
    assert (refused.status_code, refused.data["code"], refused.data["field"]) == (422, code, field)
    assert decide(lead, programme, why=" ", bins=[]).data["code"] == "reason_missing"
    assert programme.protocols.count() <= 1


def test_findings_read_bins_and_benchmark_of_the_programme(
    lead: APIClient, programme: Programme, run: Run, weighed: None
) -> None:
    decide(
        lead, programme, bins=[{"species": "wal", "bin_mm": 40}], benchmarks=[{"species": "wal", "low": 70, "high": 80}]
    )
    asked = f"/api/v1/programmes/{programme.pk}/findings"
    size = lead.get(f"{asked}/size?species=wal").data
    assert size["frequency"]["bin_mm"] == 40
    assert lead.get(f"{asked}/size?species=wal&bin_mm=10").data["frequency"]["bin_mm"] == 10
    condition = lead.get(f"{asked}/condition?species=wal").data
    assert condition["benchmark"] == [70, 80] and "the benchmark of 70 to 80" in condition["sentence"]


def test_lines_of_ones_own_are_signed_with_ours(lead: APIClient, programme: Programme, outing: Outing) -> None:
    decide(lead, programme, checklist_lines=[{"checklist": "boat", "line": "The kill switch is round the wrist."}])
    angling = opened(lead, programme, outing.water_id)
    (boat,) = lead.get(f"/api/v1/outings/{angling.pk}/deck").data["checklists"]
    assert boat["lines"][-1] == "The kill switch is round the wrist." and len(boat["lines"]) == 5
    row = {"outing": str(angling.pk), "checklist": "boat", "name": "Mara", "note": "", "signed": True}
    entry = {"id": str(new_id()), "kind": "checklist.sign", "device_time": "2026-10-13T08:00:00Z", "row": row}
    assert (
        lead.post(f"/api/v1/programmes/{programme.pk}/sync", {"operations": [entry]}, format="json").status_code == 200
    )
    assert angling.signatures.get().lines == boat["lines"]
    # another version does not change what was signed
    decide(lead, programme, 2, checklist_lines=[])
    assert lead.get(f"/api/v1/outings/{angling.pk}/deck").data["checklists"][0]["lines"] == boat["lines"]


def test_addresses_of_those_who_are_told_are_for_those_who_decide(
    lead: APIClient, client_as: Client, programme: Programme, outing: Outing
) -> None:
    told = [{"species": "wal", "person": "Ida Brekke", "email": "ida@example.org"}]
    assert decide(lead, programme, told=told).status_code == 201
    Outing.objects.update(protocol=programme.protocols.first())
    for role, address in (("lead", "ida@example.org"), ("crew", ""), ("viewer", "")):
        client = client_as(role)
        values = client.get(f"/api/v1/programmes/{programme.pk}/protocol").data["values"]
        assert values["told"] == [{**told[0], "email": address}], role
        assert "ida@example.org" not in client.get(f"/api/v1/outings/{outing.pk}/deck").content.decode()
