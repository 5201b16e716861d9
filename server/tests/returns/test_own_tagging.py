"""A tagger's own page: which tags were placed by their hand, and how many of them stayed."""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from rest_framework.test import APIClient
from scipy.stats import binomtest

from nailwright.common.rows import new_id
from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Event, Run
from nailwright.programmes.models import Membership, Programme
from nailwright.returns.models import Card
from nailwright.tags.models import Fish, Placement, Scan, Tag


@pytest.fixture
def crew_member(crew: APIClient, programme: Programme) -> Membership:
    return Membership.objects.get(programme=programme, person=crew.handler._force_user)  # type: ignore[attr-defined]


@pytest.fixture
def tag(programme: Programme, run: Run) -> Callable[..., Placement]:
    """A fish with a T-bar and a PIT, and met again: with the T-bar read or not."""
    made = 0

    def make(recorder: Any, quality: str = "good", again: str = "", capture_id: Any = None) -> Placement:
        nonlocal made
        made += 1
        fish = Fish.objects.create(programme=programme, species="wal")
        first = Capture.objects.create(programme=programme, run=run, species="wal", fish=fish, recorder=recorder)
        bar = Tag.objects.create(programme=programme, kind="tbar", number=f"W{1000 + made}", state="placed")
        shared = {"fish": fish, "recorder": recorder, "device_time": first.device_time}
        placed = Placement.objects.create(
            tag=bar, living_tag=bar.pk, capture_id=capture_id or first.pk, quality=quality, **shared
        )
        if again:
            later = Capture.objects.create(
                programme=programme, run=run, species="wal", fish=fish, recorder=recorder, device_time=first.device_time + timedelta(days=90),
            )  # fmt: skip
            reads = [("pit", f"9990000000{made:05d}")] + ([("tbar", bar.number)] if again == "kept" else [])
            for kind, number in reads:
                Scan.objects.create(
                    programme=programme, source_id=later.pk, kind=kind, number=number, result="known", fish=fish, recorder=recorder,
                    device_time=later.device_time,
                )  # fmt: skip
        return placed

    return make


def told(client: APIClient, member: Membership) -> list[Any]:
    rebuild_encounters(member.programme)
    return list(client.get(f"/api/v1/kits/{member.pk}/summary").data["tagging"])


def test_ones_own_with_the_exact_interval(crew: APIClient, crew_member: Membership, tag: Any) -> None:
    for place in range(9):
        tag(crew_member.person, "good" if place else "doubtful", "kept" if place < 6 else "")
    (own,) = told(crew, crew_member)
    assert [own[name] for name in ("kind", "placed", "good", "doubtful", "second", "seen", "kept")] == [
        "tbar",
        9,
        8,
        1,
        0,
        6,
        6,
    ]
    # outside check: SciPy's Clopper-Pearson
    interval = binomtest(6, 6).proportion_ci(0.95, "exact")
    assert (own["share"], own["lower"], own["upper"]) == (100, pytest.approx(100 * interval.low), 100)


def test_whoever_was_named_tagged_it_and_not_whoever_recorded_it(
    crew: APIClient, crew_member: Membership, run: Run, tag: Any, lead: APIClient
) -> None:
    other = lead.handler._force_user  # type: ignore[attr-defined]
    by_me = tag(other)
    by_other = tag(crew_member.person)
    tag(other)
    for placed, name in ((by_me, "crew"), (by_other, "Lead")):
        Event.objects.create(
            outing=run.outing, run=run, capture_id=placed.capture_id, kind="hands", details={"tagged": name}, recorder=other
        )  # fmt: skip
    assert [each["placed"] for each in told(crew, crew_member)] == [1]
    surgeon = {"surgeon": "Crew"}
    Event.objects.create(
        outing=run.outing, run=run, kind="hands_on", details=surgeon, recorder=other, device_time=run.started_at - timedelta(hours=1)
    )  # fmt: skip
    assert [each["placed"] for each in told(crew, crew_member)] == [
        2
    ]  # of the run, but for the one that names somebody else


def test_of_cards_it_is_their_tagger(
    crew: APIClient, crew_member: Membership, tag: Any, programme: Programme, client_as: Callable[[str], APIClient]
) -> None:
    volunteer = client_as("volunteer")
    member = Membership.objects.get(person=volunteer.handler._force_user)  # type: ignore[attr-defined]
    card = Card.objects.create(id=new_id(), programme=programme, tagger=member.person, recorder=crew_member.person)
    tag(crew_member.person, capture_id=card.pk)
    assert told(crew, crew_member) == []
    (own,) = told(volunteer, member)
    assert (own["placed"], own["seen"], own["share"], own["lower"]) == (1, 0, None, None)
