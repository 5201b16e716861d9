"""What the record counts in SQL is what core's rule counts, fish by fish."""

from __future__ import annotations

from typing import Any

import pytest

from core.tests.deck.test_counted import SHARED
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Release, Run
from nailwright.deck.outing.today import count_done
from nailwright.deck.tagging.quotas import in_quota
from nailwright.permits.counting import COUNTS
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.waters.models import Site
from nailwright.waters.zones import zone_called


@pytest.fixture
def called(run: Run) -> dict[Any, str]:
    """Each fish of the shared cases as a capture; its name by its key."""
    names = {}
    for number, (name, fish) in enumerate(SHARED["fish"].items()):
        site = Site.objects.create(
            water=run.outing.water, name=f"S{number}", zone=zone_called(run.outing.water, fish["zone"])
        )
        at = Run.objects.create(
            outing=run.outing,
            site=site,
            number=10 + number,
            gear=run.gear,
            started_at=run.started_at,
            recorder=run.recorder,
        )
        capture = Capture.objects.create(
            programme=run.outing.programme, run=at, species=fish["species"], length_mm=fish["length_mm"], mass_g=fish["mass_g"],
            length_basis="" if fish["length_mm"] is None else "measured" if fish["measured"] else "estimated",
            recorder=run.recorder,
        )  # fmt: skip
        if fish["marked"]:
            tag = Tag.objects.create(programme=run.outing.programme, kind="tbar", number=f"W{number}")
            known = Fish.objects.create(programme=run.outing.programme, species=fish["species"])
            Placement.objects.create(capture_id=capture.pk, tag=tag, fish=known, recorder=run.recorder)
        if fish["fate"]:
            Release.objects.create(id=new_id(), capture=capture, fate=fish["fate"], recorder=run.recorder)
        names[capture.pk] = name
    return names


def found(called: dict[Any, str], captures: Any) -> list[str]:
    there = set(captures.values_list("pk", flat=True))
    return [name for key, name in called.items() if key in there]


def test_against_permits(called: dict[Any, str]) -> None:
    for case in SHARED["for_permit"]:
        captures = Capture.present.filter(
            COUNTS[case["what"]], **({"species": case["species"]} if case["species"] else {})
        )
        assert found(called, captures) == case["counts"], case


def test_towards_targets(called: dict[Any, str]) -> None:
    for case in SHARED["towards_target"]:
        done = count_done(Capture.present.all(), case["species"], case["what"], case["from_mm"], case["zone"])
        assert done == len(case["counts"]), case


def test_within_quotas(called: dict[Any, str]) -> None:
    for case in SHARED["within_quota"]:
        assert (
            found(
                called, in_quota(Capture.present.all(), case["species"], case["zone"], case["from_mm"], case["to_mm"])
            )
            == case["counts"]
        ), case
