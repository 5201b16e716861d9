"""Tags kept, asked over HTTP: from a tag that is placed, read, and said to be gone."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Run
from nailwright.programmes.models import Person, Programme
from nailwright.programmes.record.audit import Act
from nailwright.tags.actions import shed_tag
from nailwright.tags.models import Fish, Placement, Scan, Tag, TagBatch

Ask = Callable[..., Any]


@pytest.fixture
def ask(client_as: Callable[[str], APIClient], programme: Programme) -> Ask:
    def get(**asked: Any) -> Any:
        return client_as("biologist").get(
            f"/api/v1/programmes/{programme.pk}/findings/retention", {"species": "wal", **asked}
        )

    return get


class River:
    """Fish with a PIT and a T-bar, and crews that meet them again."""

    def __init__(self, programme: Programme, run: Run) -> None:
        self.programme, self.run, self.n = programme, run, 0
        self.batches = {
            kind: TagBatch.objects.create(programme=programme, kind=kind, name=f"first {kind}")
            for kind in ("pit", "tbar")
        }

    def capture(self, fish: Fish, days: float) -> Capture:
        return Capture.objects.create(
            programme=self.programme, run=self.run, species="wal", fish=fish, length_mm=420, length_type="TL", length_basis="measured",
            recorder=self.run.recorder, device_time=self.run.started_at + timedelta(days=days), scanned="known",
        )  # fmt: skip

    def tagged(self, *kinds: str) -> Fish:
        fish = Fish.objects.create(programme=self.programme, species="wal")
        capture = self.capture(fish, 0)
        for kind in kinds or ("pit", "tbar"):
            self.n += 1
            tag = Tag.objects.create(
                programme=self.programme,
                kind=kind,
                number=f"{kind[:1].upper()}{100 + self.n}",
                batch=self.batches[kind],
                state="placed",
            )
            Placement.objects.create(
                tag=tag,
                fish=fish,
                capture_id=capture.pk,
                living_tag=tag.pk,
                recorder=self.run.recorder,
                device_time=capture.device_time,
                quality="good",
            )
        return fish

    def met(self, fish: Fish, days: float, *read: str) -> Capture:
        capture = self.capture(fish, days)
        for placement in fish.placements.filter(tag__kind__in=read):
            Scan.objects.create(
                programme=self.programme, source_id=capture.pk, kind=placement.tag.kind, number=placement.tag.number, result="known", fish=fish,
                recorder=self.run.recorder, device_time=capture.device_time,
            )  # fmt: skip
        rebuild_encounters()
        return capture

    def gone(self, person: Person, fish: Fish, days: float) -> None:
        tag = fish.placements.get(tag__kind="tbar").tag
        at = self.run.started_at + timedelta(days=days)
        shed_tag(Act(new_id(), person, at), self.programme, fish.pk, {"kind": "tbar", "number": tag.number})


@pytest.fixture
def river(programme: Programme, run: Run) -> River:
    return River(programme, run)


def test_only_fish_known_by_another_mark_tell_and_all_others_are_counted(
    river: River, ask: Ask, person_as: Callable[[str], Person]
) -> None:
    kept, lost, unsaid, itself = (river.tagged() for _ in range(4))
    river.tagged()  # never met again
    river.met(kept, 90, "pit", "tbar")
    river.met(lost, 60, "pit", "tbar")
    river.met(lost, 200, "pit")
    river.gone(person_as("crew"), lost, 200)
    river.met(unsaid, 30, "pit")
    river.met(itself, 30, "tbar")
    told = ask().data
    assert (told["tag"], told["n"], told["kept"]["kept"]["value"]) == ("tbar", 2, 50.0)
    assert told["kept"]["median_days"] == pytest.approx((90 + 200) / 2)
    assert {each["reason"]: each["n"] for each in told["left_out"]} == {
        "not met again by a crew": 1, "known by this tag alone": 1, "met, and nobody said whether it was there": 1,
    }  # fmt: skip
    assert [each["name"] for each in told["groups"]] == ["first tbar"] and told["lost_a_year"] is None
    assert "1 still carried their T-bar: 50 %" in told["sentence"]
    assert ask(by="quality").data["groups"][0]["name"] == "Good" and ask(by="year").data["groups"][0]["kept"]["n"] == 2
    assert ask(tag="disc").data["code"] == "no_fish"


def test_a_loss_that_was_taken_back_changes_the_answer_at_once(
    river: River, ask: Ask, person_as: Callable[[str], Person]
) -> None:
    fish, crew = river.tagged(), person_as("crew")
    river.met(fish, 60, "pit", "tbar")
    river.met(fish, 200, "pit")
    river.gone(crew, fish, 200.2)
    assert ask().data["kept"]["kept"]["value"] == 0
    tag = fish.placements.get(tag__kind="tbar").tag
    at = river.run.started_at + timedelta(days=201)
    shed_tag(Act(new_id(), crew, at), river.programme, fish.pk, {"kind": "tbar", "number": tag.number}, shed=False)
    told = ask().data
    assert told["kept"]["kept"]["value"] == 100 and told["kept"]["median_days"] == pytest.approx(60)


def test_a_tag_read_later_was_there_before(river: River, ask: Ask) -> None:
    fish = river.tagged()
    river.met(fish, 30, "pit", "tbar")
    river.met(fish, 60, "pit")
    river.met(fish, 90, "pit", "tbar")
    read = ask().data["read"]
    assert (read["value"], read["n"]) == (50.0, 2)


def test_many_fish_give_a_curve(river: River, ask: Ask, person_as: Callable[[str], Person]) -> None:
    for n in range(12):
        fish = river.tagged()
        river.met(fish, 100 + 40 * n, "pit", *(["tbar"] if n % 4 else []))
        if not n % 4:
            river.gone(person_as("crew"), fish, 100 + 40 * n)
    told = ask().data
    assert len(told["at_days"]) == len(told["mean"]) == 12 and told["lost_a_year"]["n"] == 12
    assert told["mean"] == sorted(told["mean"], reverse=True) and "After a year" in told["sentence"]


def test_without_tags_or_meetings_it_says_what_is_missing(ask: Ask, river: River) -> None:
    assert ask().data["code"] == "no_tags"
    river.tagged("tbar")
    refused = ask()
    assert (
        refused.status_code == 422
        and refused.data["code"] == "no_fish"
        and "1 not met again" in refused.data["message"]
    )


def test_a_loss_without_a_meeting_is_neither_kept_nor_lost(
    river: River, ask: Ask, person_as: Callable[[str], Person]
) -> None:
    """Read with its PIT at the last meeting, and said to be gone later at the desk: no meeting tells when."""
    told, unclear = river.tagged(), river.tagged()
    river.met(told, 90, "pit", "tbar")
    river.met(unclear, 60, "pit")
    river.met(unclear, 200, "pit", "tbar")
    river.gone(person_as("crew"), unclear, 300)
    answer = ask().data
    assert (answer["n"], answer["kept"]["kept"]["value"]) == (1, 100.0)
    assert {each["reason"] for each in answer["left_out"]} == {"met, and nobody said whether it was there"}
