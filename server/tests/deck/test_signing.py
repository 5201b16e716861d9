"""Checklists on the deck: signed by name, passed over with a reason, asked for again on Today."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.models import Gear, Outing, Run, Signature
from nailwright.deck.outing.checklists import CHECKLISTS, needed_for
from nailwright.programmes.models import Change, Programme
from nailwright.waters.models import Site
from server.tests.conftest import operation

pytestmark = pytest.mark.django_db


@pytest.fixture
def sign(sync: Any, outing: Outing) -> Any:
    """Signs as the crew does, and gives what the server answered."""

    def do(checklist: str, key: object = None, **row: object) -> dict[str, Any]:
        made = operation("checklist.sign", **{"outing": str(outing.pk), "checklist": checklist, "name": "Ada", **row})
        made |= {"device_time": "2026-10-12T21:30:00Z", "id": str(key or made["id"])}
        return dict(sync(made).data["results"][0])

    return do


def test_each_gear_asks_for_its_lists() -> None:
    assert needed_for(Gear.BACKPACK) == ("electrofishing",)
    assert set(needed_for(Gear.BOAT, near_dam=True, bath=True)) >= {
        "electrofishing",
        "boat",
        "night",
        "dam",
        "needles_drugs",
    }
    assert needed_for(Gear.ANGLING, surgery=True) == ("boat", "surgery")
    assert all(code == each.code and each.lines for code, each in CHECKLISTS.items())


def test_a_signature_keeps_the_words_that_were_signed(sign: Any, outing: Outing) -> None:
    assert sign("electrofishing")["state"] == "stored"
    kept = Signature.objects.get()
    assert kept.signed and kept.name == "Ada" and kept.outing == outing
    assert kept.lines == list(CHECKLISTS["electrofishing"].lines)
    assert kept.at.isoformat() == "2026-10-12T21:30:00+00:00"


def test_a_list_that_changes_later_does_not_change_what_was_signed(
    sign: Any, crew: APIClient, outing: Outing, monkeypatch: pytest.MonkeyPatch
) -> None:
    Outing.objects.filter(pk=outing.pk).update(checklists=["electrofishing", "boat"])
    sign("boat")
    for code in ("electrofishing", "boat"):
        newer = replace(CHECKLISTS[code], version=2, lines=("Something new.",))
        monkeypatch.setitem(CHECKLISTS, code, newer)
    shown = {each["code"]: each for each in crew.get(f"/api/v1/outings/{outing.pk}/deck").data["checklists"]}
    assert shown["boat"]["version"] == 1 and "Life jackets" in shown["boat"]["lines"][0]
    assert (shown["electrofishing"]["version"], shown["electrofishing"]["lines"]) == (2, ["Something new."])


def test_signing_twice_changes_nothing(sign: Any) -> None:
    key = new_id()
    assert [sign("boat", key)["state"], sign("boat", key)["state"], sign("boat", name="Bo")["state"]] == [
        "stored",
        "already",
        "already",
    ]
    assert Signature.objects.get().name == "Ada"


@pytest.mark.parametrize(
    ("checklist", "row", "code"),
    [
        ("other", {}, "checklist_unknown"),
        ("boat", {"name": "  "}, "name_missing"),
        ("boat", {"name": ["Ada"]}, "not_a_text"),
        ("boat", {"name": "A" * 81}, "text_too_long"),
        ("boat", {"note": "n" * 301}, "text_too_long"),
        ("dam", {}, "note_missing"),
        ("boat", {"signed": False}, "note_missing"),
        ("boat", {"outing": "tonight"}, "key_unreadable"),
    ],
)
def test_what_is_no_signature_is_refused_in_words(sign: Any, checklist: str, row: dict[str, Any], code: str) -> None:
    result = sign(checklist, **row)
    assert (result["state"], result["error"]["code"]) == ("refused", code)
    assert not Signature.objects.exists()


def test_a_list_passed_over_may_be_signed_later_and_its_reason_stays(sign: Any) -> None:
    assert sign("boat", signed=False, note="engine already running, read at the landing")["state"] == "stored"
    assert not Signature.objects.get().signed
    assert sign("boat", signed=False, note="again")["state"] == "already"
    assert sign("boat", name="Bo")["state"] == "stored"
    kept = Signature.objects.get()
    assert kept.signed and kept.name == "Bo"
    change = Change.objects.get(table="signature")
    assert change.before["note"].startswith("engine") and change.before["signed"] is False


def test_today_names_an_outing_that_fished_unsigned(
    sign: Any, crew: APIClient, outing: Outing, run: Run, programme: Programme
) -> None:
    def waiting() -> list[str]:
        answer = crew.get(f"/api/v1/programmes/{programme.pk}/today").data
        return [each["text"] for each in answer["waiting"] if each["code"] == "checklists_unsigned"]

    Outing.objects.filter(pk=outing.pk).update(checklists=["electrofishing", "boat"])
    assert waiting() == []  # nothing has flowed
    Run.objects.filter(pk=run.pk).update(current_on_s=30)
    assert len(waiting()) == 1 and "2 checklists unsigned" in waiting()[0]
    sign("electrofishing")
    assert "1 checklist unsigned" in waiting()[0]
    sign("boat", signed=False, note="no boat, from the bank")
    assert waiting() == []


def test_an_outing_opened_without_a_plan_asks_for_its_gears_lists(
    crew: APIClient, programme: Programme, site: Site
) -> None:
    key = str(new_id())
    body = {"id": key, "water": str(site.water_id), "date": "2026-10-12", "gear": "backpack_electrofishing"}
    assert crew.post(f"/api/v1/programmes/{programme.pk}/outings", body, format="json").status_code == 201
    deck = crew.get(f"/api/v1/outings/{key}/deck").data
    assert [each["code"] for each in deck["checklists"]] == ["electrofishing"] and deck["orders"] is None
