"""Two records that are one fish, one that is two; and every way back, to the last row."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from django.db import models
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Change, Programme
from nailwright.tags.models import Encounter, Fish, Placement, Scan, Tag
from server.tests.conftest import operation

Send = Callable[..., Any]


@pytest.fixture
def biologist(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("biologist")


@pytest.fixture
def stock(programme: Programme) -> None:
    numbers = (("tbar", "W1207"), ("tbar", "W1300"), ("dart", "D12"))
    Tag.objects.bulk_create([Tag(programme=programme, kind=kind, number=number) for kind, number in numbers])


@pytest.fixture
def two(stock: None, called: Send, sync: Send, run: Run) -> tuple[Fish, Fish]:
    """Two walleye, each tagged and let go; the first was met again once."""
    first, second = called(scanned="none"), called(scanned="none", length="470")
    again = called(length="466", scanned="number", scans=[{"kind": "tbar", "number": "W1207"}])
    done = sync(
        first, operation("tag.place", capture=first["id"], kind="tbar", number="W1207"), operation("release.set", captures=[first["id"]], fate="released"),
        second, operation("tag.place", capture=second["id"], kind="dart", number="D12"), operation("release.set", captures=[second["id"]], fate="released"),
        again,
    )  # fmt: skip
    assert {each["state"] for each in done.data["results"]} == {"stored"}, done.data
    fish = {capture.pk: capture.fish for capture in Capture.objects.select_related("fish")}
    one, other = (next(f for key, f in fish.items() if str(key) == each["id"]) for each in (first, second))
    assert one and other and one != other and Encounter.objects.filter(fish=one).count() == 2
    return one, other


def rows() -> dict[str, list[Any]]:
    """Everything that names a fish, and the fish."""
    found: dict[str, list[Any]] = {}
    for model in (Fish, Placement, Scan, Capture, Encounter):
        names = [field.attname for field in model._meta.concrete_fields if not isinstance(field, models.JSONField)]
        found[model.__name__] = sorted(model._base_manager.values_list(*names), key=str)
    return found


@pytest.fixture
def ask(biologist: APIClient) -> Send:
    def post(fish: Fish, what: str, client: APIClient = biologist, **told: Any) -> Any:
        return client.post(
            f"/api/v1/fish/{fish.pk}/{what}", {"reason": "both tags were read on it", **told}, format="json"
        )

    return post


def test_merged_all_is_one_fishs_and_taken_back_all_is_as_before(
    two: tuple[Fish, Fish], ask: Send, biologist: APIClient
) -> None:
    one, other = two
    before = rows()
    told = ask(one, "merged", other=str(other.pk)).data
    assert told["id"] == str(one.pk) and len(told["encounters"]) == 3
    assert {each["number"] for each in told["marks"]} == {"W1207", "D12"}
    assert not Encounter.objects.filter(fish=other).exists() and rebuild_encounters() == 0
    assert biologist.get(f"/api/v1/fish/{other.pk}").data["id"] == str(one.pk)  # its old address leads there
    assert [(each["what"], each["fish"]) for each in told["joined"]] == [("merged", str(other.pk))]
    back = ask(other, "taken-back", reason="they were two after all")
    assert back.status_code == 200, back.data
    assert back.data["joined"] == [] and rows() == before and rebuild_encounters() == 0
    assert ask(other, "taken-back").data["code"] == "nothing_to_take_back"


def test_what_came_since_stays(two: tuple[Fish, Fish], ask: Send, called: Send, sync: Send) -> None:
    one, other = two
    ask(one, "merged", other=str(other.pk))
    sync(called(length="475", scanned="number", scans=[{"kind": "dart", "number": "D12"}]))
    assert Encounter.objects.filter(fish=one).count() == 4
    ask(other, "taken-back")
    # what was called by its tag meanwhile was the one fish's; a person may split it off
    assert (Encounter.objects.filter(fish=one).count(), Encounter.objects.filter(fish=other).count()) == (3, 1)
    assert rebuild_encounters() == 0


def test_split_the_chosen_meetings_are_a_new_fishs_and_taken_back(
    two: tuple[Fish, Fish], ask: Send, biologist: APIClient
) -> None:
    one, _ = two
    before = rows()
    again = Encounter.objects.filter(fish=one).latest("at")
    told = ask(one, "split", meetings=[str(again.source_id)]).data
    new = Fish.objects.get(pk=told["id"])
    assert len(told["encounters"]) == 1 and new.split_from_id == one.pk and new.species == one.species
    assert Capture.objects.get(pk=again.source_id).fish == new and rebuild_encounters() == 0
    assert (
        Placement.objects.get(tag__number="W1207").fish == one
    )  # the tag stays with the meeting at which it was placed
    story = biologist.get(f"/api/v1/fish/{one.pk}").data
    assert [(each["what"], each["fish"]) for each in story["joined"]] == [("split", str(new.pk))]
    assert ask(new, "taken-back").status_code == 200
    after = rows()
    assert {name: each for name, each in after.items() if name != "Fish"} == {
        name: each for name, each in before.items() if name != "Fish"
    }
    assert biologist.get(f"/api/v1/fish/{new.pk}").data["id"] == str(one.pk)
    assert biologist.get(f"/api/v1/fish/{one.pk}").data["joined"] == []


def test_a_tag_goes_with_the_meeting_at_which_it_was_placed(two: tuple[Fish, Fish], ask: Send) -> None:
    one, _ = two
    first = Encounter.objects.filter(fish=one).earliest("at")
    new = ask(one, "split", meetings=[str(first.source_id)]).data
    assert [each["number"] for each in new["marks"]] == ["W1207"]


def test_what_cannot_be_is_refused_and_changes_nothing(
    two: tuple[Fish, Fish], ask: Send, crew: APIClient, programme: Programme, sync: Send
) -> None:
    one, other = two
    met = [str(key) for key in Encounter.objects.filter(fish=one).values_list("source_id", flat=True)]
    stranger = Fish.objects.create(programme=programme, species="bur")
    before = rows()
    refused = {
        "fish_same": ask(one, "merged", other=str(one.pk)),
        "fish_species_differ": ask(one, "merged", other=str(stranger.pk)),
        "reason_missing": ask(one, "merged", other=str(other.pk), reason="x"),
        "split_nothing": ask(one, "split", meetings=[]),
        "split_all": ask(one, "split", meetings=met),
        "meeting_unknown": ask(one, "split", meetings=[str(new_id())]),
        "nothing_to_take_back": ask(one, "taken-back"),
        "role_may_not": ask(one, "merged", client=crew, other=str(other.pk)),
        "not_found": ask(one, "merged", other=str(new_id())),
    }
    assert {code: answer.data["code"] for code, answer in refused.items()} == {code: code for code in refused}
    assert rows() == before and not Change.objects.filter(table="fish").exists()
    dead = Encounter.objects.filter(fish=other)
    dead.update(disposition="dead")
    assert ask(one, "merged", other=str(other.pk)).data["code"] == "fish_ended"
    dead.update(disposition="released")
    ask(one, "merged", other=str(other.pk))
    assert ask(one, "merged", other=str(other.pk)).data["code"] == "fish_merged"
