"""When it is enough, told by what the outing has."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from rest_framework.test import APIClient

from nailwright.deck.models import Capture, Gear, Outing, Run, Target
from nailwright.waters.models import Site
from nailwright.waters.zones import zone_called
from nailwright_core.common import species
from nailwright_core.plan.enough import catch_rate_so_far, size_structure_so_far
from server.tests.conftest import BEGAN


def test_size_structure_and_catch_rate_of_the_targets(
    crew: APIClient, outing: Outing, site: Site, person_as: Any
) -> None:
    person = person_as("crew")
    address = f"/api/v1/outings/{outing.pk}/enough"
    assert crew.get(address).data == []
    caught, lengths, sites = [], [], []
    for number, fish in enumerate((12, 20, 16, 25, 14), 1):
        place = Site.objects.create(water=site.water, name=f"S{number}", zone=zone_called(site.water, "r"))
        run = Run.objects.create(
            outing=outing, site=place, number=number, gear=Gear.BOAT, started_at=BEGAN, ended_at=BEGAN + timedelta(hours=1),
            recorder=person, current_on_s=600,
        )  # fmt: skip
        caught.append(fish)
        for n in range(fish):
            lengths.append(300.0 + 10 * n)
            sites.append(str(place.pk))
            Capture.objects.create(
                programme=outing.programme, run=run, species="wal", length_mm=lengths[-1], length_type="TL", length_basis="measured", recorder=person,
            )  # fmt: skip
    told = crew.get(address).data
    structure = size_structure_so_far(lengths, sites, species.get("wal").size_categories, 8, laid_out=1)
    assert structure is not None
    assert [each["words"] for each in told] == [structure.words, catch_rate_so_far(caught, [600] * 5, laid_out=1).words]
    # where a run goes on, that site's fish wait until it has ended
    going = Run.objects.create(
        outing=outing, site=place, number=9, gear=Gear.BOAT, started_at=BEGAN, recorder=person, current_on_s=60
    )
    assert "can be said from 5 sites on" in crew.get(address).data[0]["words"]
    going.delete()
    # what the plan wanted counts, and only its targets are told of
    Target.objects.create(outing=outing, species="wal", what="measured", wanted=100)
    none = {"electro": None, "well": None, "mark_from_mm": None}
    Outing.objects.update(orders={"survey": "Autumn", "lines": [], **none, "enough": {"psd_half": 30.0, "cv": 0.05}})
    structure, rate = crew.get(address).data
    assert structure["reached"] is True and rate["reached"] is False and rate["more"] > 0
    assert "like these for 5%" in rate["words"]


def test_two_gears_at_one_site_are_two_rates(crew: APIClient, outing: Outing, site: Site, person_as: Any) -> None:
    """Fish for a second with current on and fish for a rod-hour add up to nothing."""
    person = person_as("crew")
    number = 0
    for name in ("S1", "S2"):
        place = Site.objects.create(water=site.water, name=name, zone=zone_called(site.water, "r"))
        for gear, figures, fish in ((Gear.BOAT, {"current_on_s": 600}, 12), (Gear.ANGLING, {"rods": 2}, 6)):
            number += 1
            run = Run.objects.create(
                outing=outing, site=place, number=number, gear=gear, started_at=BEGAN, ended_at=BEGAN + timedelta(hours=1),
                recorder=person, **figures,
            )  # fmt: skip
            Capture.objects.create(programme=outing.programme, run=run, species="wal", count=fish, recorder=person)
    # a run whose rods were not written down: its fish belong to no rate
    bare = Run.objects.create(
        outing=outing, site=site, number=9, gear=Gear.ANGLING, started_at=BEGAN, ended_at=BEGAN + timedelta(hours=1), recorder=person,
    )  # fmt: skip
    Capture.objects.create(programme=outing.programme, run=bare, species="wal", count=50, recorder=person)
    words = [each["words"] for each in crew.get(f"/api/v1/outings/{outing.pk}/enough").data]
    assert [each.split(". ")[0] for each in words] == ["Boat electrofishing", "Angling"]
    assert all("2 sites" in each for each in words)
