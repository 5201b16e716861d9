"""Corrections and files never free a number that swims in a fish, and every mark that was read is kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.record.audit import Act
from nailwright.tags.handing_out import To, hand_back, hand_out
from nailwright.tags.models import Encounter, Fish, Placement, Scan, Tag, TagIssue, TagState
from nailwright.tags.states import ALLOWED, change_state
from nailwright_core.common.errors import CoreError
from server.tests.conftest import operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]
PIT, T_BAR = "999000000000101", "W1001"


@pytest.fixture
def stock(programme: Programme) -> None:
    for kind, number in (("pit", PIT), ("tbar", T_BAR)):
        Tag.objects.create(programme=programme, kind=kind, number=number)


@pytest.fixture
def life(stock: None, sync: Send, called: Called) -> list[dict[str, Any]]:
    """A fish marked with two tags, and met again twice: once by both numbers, once by the T-bar alone."""
    first = called(scanned="none")
    places = [
        operation("tag.place", capture=first["id"], kind=kind, number=number, body_site="dorsal", quality="doubtful")
        for kind, number in (("pit", PIT), ("tbar", T_BAR))
    ]
    both = called(scanned="number", scans=[{"kind": "pit", "number": PIT}, {"kind": "tbar", "number": T_BAR}])
    one = called(scanned="number", scans=[{"kind": "tbar", "number": T_BAR, "reader": "by eye"}])
    assert sync(first, *places, both, one).status_code == 200
    return [first, both, one]


def test_every_mark_that_is_read_is_a_row_of_its_own(life: list[dict[str, Any]]) -> None:
    fish = Fish.objects.get()
    assert set(Capture.objects.values_list("fish", flat=True)) == {fish.pk}
    read = Scan.present.filter(source_id=life[1]["id"]).values_list("kind", "number", "result", "fish")
    assert set(read) == {("pit", PIT, "known", fish.pk), ("tbar", T_BAR, "known", fish.pk)}
    assert Scan.present.get(source_id=life[2]["id"]).reader == "by eye"
    assert set(Placement.objects.values_list("body_site", "quality")) == {("dorsal", "doubtful")}
    assert Encounter.objects.filter(fish=fish).count() == 3 and rebuild_encounters() == 0


def test_numbers_of_two_fish_on_one_name_neither_and_ask(
    life: list[dict[str, Any]], sync: Send, called: Called
) -> None:
    Tag.objects.create(programme=Programme.objects.get(), kind="pit", number="999000000000102")
    other = called(scanned="none")
    sync(other, operation("tag.place", capture=other["id"], kind="pit", number="999000000000102"))
    both = called(
        scanned="number", scans=[{"kind": "pit", "number": "999000000000102"}, {"kind": "tbar", "number": T_BAR}]
    )
    sync(both)
    met = Capture.objects.get(pk=both["id"])
    assert met.fish is None and met.questions[-1] == {"code": "marks_disagree", "answer": "not asked"}
    assert Scan.present.filter(source_id=met.pk).count() == 2


def test_taking_out_the_call_that_marked_a_fish_asks_what_is_meant(life: list[dict[str, Any]], sync: Send) -> None:
    taking = operation("capture.delete", capture=life[0]["id"])
    refused = sync(taking)
    assert (refused.data["code"], refused.data["field"]) == ("mark_known_later", "meant")
    assert Capture.present.count() == 3 and Tag.objects.filter(state="placed").count() == 2


def test_the_fish_keeps_its_mark_where_only_the_call_was_wrong(life: list[dict[str, Any]], sync: Send) -> None:
    taking = operation("capture.delete", capture=life[0]["id"], meant="fish_keeps_mark")
    assert sync(taking).status_code == 200
    assert set(Tag.objects.values_list("state", flat=True)) == {"placed"}
    assert {str(each.capture_id) for each in Placement.present.all()} == {life[1]["id"]}
    assert Capture.present.exclude(fish=None).count() == 2 and Encounter.objects.count() == 2
    assert rebuild_encounters() == 0
    sync(operation("capture.restore", capture=life[0]["id"]))
    assert Encounter.objects.count() == 3 and Placement.present.count() == 2


def test_a_number_that_was_read_since_never_returns_to_stock(
    life: list[dict[str, Any]], sync: Send, called: Called
) -> None:
    fish = Capture.objects.get(pk=life[0]["id"]).fish_id
    sync(operation("capture.delete", capture=life[0]["id"], meant="never_marked"))
    assert set(Tag.objects.values_list("state", flat=True)) == {TagState.ELSEWHERE}
    # they are of a fish that nobody here tagged
    assert not Capture.present.filter(fish=fish).exists() and not Encounter.objects.filter(fish=fish).exists()
    assert Encounter.objects.count() == 2 and rebuild_encounters() == 0
    assert set(Scan.present.values_list("result", flat=True)) == {"foreign"}
    second = called(scanned="none")
    placing = operation("tag.place", capture=second["id"], kind="tbar", number=T_BAR)
    assert sync(second, placing).data["code"] == "tag_not_in_stock"
    assert Placement.present.count() == 0


def test_a_tag_that_a_fish_has_lost_is_not_looked_for_on_it(
    life: list[dict[str, Any]], sync: Send, called: Called
) -> None:
    """Met by one tag without the other; said, taken back, said again; the number is none of its own from then on."""
    fish = Capture.objects.get(pk=life[0]["id"]).fish_id
    shed = {"capture": life[2]["id"], "kind": "tbar", "number": T_BAR}
    before = list(Placement.objects.order_by("pk").values())
    assert sync(operation("tag.shed", **shed)).status_code == 200
    assert Tag.objects.get(number=T_BAR).state == "shed"
    assert (
        sync(operation("tag.shed", **shed)).data["results"][0]["state"] == "already"
    )  # said on another tablet as well
    sync(operation("tag.shed", **shed, shed=False))
    assert list(Placement.objects.order_by("pk").values()) == before and Tag.objects.get(number=T_BAR).state == "placed"
    sync(operation("tag.shed", **shed))
    again = called(scanned="number", scans=[{"kind": "tbar", "number": T_BAR}])
    sync(again)
    assert Capture.objects.get(pk=again["id"]).fish_id not in (None, fish)
    others = Placement.present.filter(fish=fish).exclude(living_tag=None)
    assert [each.tag.kind for each in others] == ["pit"] and rebuild_encounters() == 0
    refused = sync(operation("tag.shed", capture=again["id"], kind="tbar", number=T_BAR))
    assert refused.data["code"] == "tag_not_of_fish"


def test_the_desk_asks_the_same(life: list[dict[str, Any]], client_as: Callable[[str], APIClient]) -> None:
    address = f"/api/v1/captures/{life[0]['id']}/deleted"
    body = {"id": str(new_id()), "deleted": True, "reason": "called twice"}
    lead = client_as("lead")
    assert lead.post(address, body, format="json").data["code"] == "mark_known_later"
    assert lead.post(address, {**body, "meant": "fish_keeps_mark"}, format="json").status_code == 200
    assert Capture.present.count() == 2 and set(Tag.objects.values_list("state", flat=True)) == {"placed"}


def test_tag_states_follow_one_table(programme: Programme) -> None:
    assert set(ALLOWED) == set(TagState.values)
    for start in TagState.values:
        for end in TagState.values:
            tag = Tag.objects.create(programme=programme, kind="pit", number=f"{start}-{end}"[:24], state=start)
            if end == start or end in ALLOWED[start]:
                change_state(tag, end)
                assert Tag.objects.get(pk=tag.pk).state == end
            else:
                with pytest.raises(CoreError, match="from there it may become") as refused:
                    change_state(tag, end)
                assert refused.value.code == "tag_state"


def test_a_tag_is_handed_out_and_back(
    stock: None, programme: Programme, person_as: Callable[[str], Person], sync: Send, called: Called
) -> None:
    tag, lead = Tag.objects.get(number=PIT), person_as("lead")

    def act() -> Act:
        return Act(new_id(), lead, timezone.now())

    with pytest.raises(CoreError, match="who takes"):
        hand_out(act(), programme, [tag], To())
    assert hand_out(act(), programme, [tag], To(boat="Boat 2")) == 1
    tag.refresh_from_db()
    assert hand_back(act(), programme, [tag]) == 1
    tag.refresh_from_db()
    assert hand_back(act(), programme, [tag]) == 0
    assert TagIssue.objects.get().returned_at and tag.state == "stock"
    hand_out(act(), programme, [tag], To(person=lead))
    fish = called(scanned="none")
    assert sync(fish, operation("tag.place", capture=fish["id"], kind="pit", number=PIT)).status_code == 200
    assert Placement.objects.get().tag_before == "issued"
    sync(operation("capture.delete", capture=fish["id"]))
    assert Tag.objects.get(pk=tag.pk).state == "issued"
