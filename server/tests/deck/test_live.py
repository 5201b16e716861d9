"""Tablets on one outing see each other: whatever one does changes the mark, and nothing else does."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from rest_framework.renderers import JSONRenderer
from rest_framework.test import APIClient

from nailwright.deck.models import Outing, Run
from nailwright.deck.outing import live
from nailwright.deck.serializers.whole import DeckSpeciesSerializer
from nailwright.programmes.models import Programme, ProgrammeSpecies
from nailwright.tags.models import Tag, TagKind
from nailwright_core.common import species as species_table
from nailwright_core.common.species_values import species_values
from server.tests.conftest import BEGAN, operation

Send = Callable[..., Any]
Called = Callable[..., dict[str, Any]]


@pytest.fixture
def ask(crew: APIClient, outing: Outing, run: Run) -> Callable[..., Any]:
    return lambda mark="": crew.get(f"/api/v1/outings/{outing.pk}/live?mark={mark}").data


def test_it_is_told_once_and_then_only_what_is_new(ask: Callable[..., Any], sync: Send, called: Called) -> None:
    first = ask()
    assert first["live"]["captures"] == [] and "live" not in ask(first["mark"])
    sync(called())
    second = ask(first["mark"])
    assert len(second["live"]["captures"]) == 1 and "live" not in ask(second["mark"])


def test_a_deck_that_was_just_read_is_not_told_again(
    ask: Callable[..., Any], crew: APIClient, sync: Send, called: Called, outing: Outing
) -> None:
    deck = crew.get(f"/api/v1/outings/{outing.pk}/deck").data
    assert "live" not in ask(deck["mark"])
    sync(called())
    assert len(ask(deck["mark"])["live"]["captures"]) == 1


def test_the_species_of_a_deck_are_in_the_shape_that_is_promised(
    crew: APIClient, outing: Outing, run: Run, programme: Programme
) -> None:
    """They go out as plain values, past the serializer that the schema is made from; of each part there is one at least."""
    lookalike = {"code": "yep", "check": "the fin", "unsure": "", "photo": True, "picture": ""}
    own = {**species_values(species_table.get("wal")), "lookalikes": [lookalike]}
    ProgrammeSpecies.objects.filter(programme=programme, code="wal").update(own=own)
    Programme.objects.update(species_revision=7)
    species = json.loads(crew.get(f"/api/v1/outings/{outing.pk}/deck").content)["species"]
    assert any(each["lookalikes"] for each in species)
    promised = DeckSpeciesSerializer(species, many=True).data
    for each, other in zip(species, json.loads(JSONRenderer().render(promised)), strict=True):
        assert each == other


def test_every_kind_of_entry_is_seen(
    ask: Callable[..., Any], sync: Send, called: Called, outing: Outing, run: Run, programme: Programme
) -> None:
    Tag.objects.create(programme=programme, kind=TagKind.T_BAR, number="W1001")
    fish = called(scanned="none")
    read = {"ambient_us_cm": 140, "temperature_c": 9}
    details = operation("event.record", what="let_go", capture=fish["id"], details={"words": "by the bank"})
    water = operation("water.record", outing=str(outing.pk), run=None, **read)
    steps = [
        fish,
        operation("capture.edit", capture=fish["id"], length="470"),
        operation("tag.place", capture=fish["id"], kind="tbar", number="W1001"),
        operation("tag.describe", capture=fish["id"], kind="tbar", number="W1001", quality="doubtful"),
        details,
        operation("event.edit", event=details["id"], details={"words": "in the reeds"}),
        operation("release.set", captures=[fish["id"]], fate="released", strength=2),
        operation("release.set", captures=[fish["id"]], strength=3),
        operation("run.edit", run=str(run.pk), current_on_s=120),
        operation("run.edit", run=str(run.pk), ended_at=BEGAN.isoformat()),
        operation(
            "run.start", outing=str(outing.pk), site=str(run.site_id), started_at=BEGAN.isoformat(), current_on_s=0
        ),
        water,
        operation("water.edit", reading=water["id"], temperature_c=10),
        operation("capture.delete", capture=fish["id"]),
        operation("capture.restore", capture=fish["id"]),
    ]
    mark = ask()["mark"]
    for step in steps:
        answer = sync(step)
        assert answer.status_code == 200, (step, answer.data)
        now = ask(mark)
        assert "live" in now, step["kind"]
        mark = now["mark"]


def test_another_number_read_on_a_fish_is_seen(ask: Callable[..., Any], sync: Send, called: Called) -> None:
    fish = called(scanned="number", scans=[{"kind": "tbar", "number": "X1001"}])
    sync(fish)
    mark = ask()["mark"]
    sync(operation("capture.edit", capture=fish["id"], scanned="number", scans=[{"kind": "tbar", "number": "X1007"}]))
    assert "live" in ask(mark)


def test_what_another_outing_does_is_nothing_to_it(
    ask: Callable[..., Any], sync: Send, called: Called, outing: Outing, run: Run
) -> None:
    mark = ask()["mark"]
    other = Outing.objects.create(
        programme=outing.programme, water=outing.water, name="Other", date=outing.date, gear=outing.gear
    )
    there = Run.objects.create(
        outing=other, site=run.site, number=1, gear=run.gear, started_at=BEGAN, recorder=run.recorder
    )
    sync(called(run=str(there.pk)))
    assert "live" not in ask(mark)


def test_of_very_many_fish_it_is_asked_less_often(
    ask: Callable[..., Any], sync: Send, called: Called, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert ask()["again_s"] == live.AGAIN_S
    monkeypatch.setattr(live, "MANY_FISH", 0)
    sync(called())
    assert ask()["again_s"] == live.SELDOM_S


def test_who_may_not_see_a_place_is_not_told_of_it_here(client_as: Callable[[str], APIClient], outing: Outing) -> None:
    assert client_as("stranger").get(f"/api/v1/outings/{outing.pk}/live").status_code == 404
