"""What the tablet looks up of marked fish: distances between sites, spans of time, seasons as groups."""

from __future__ import annotations

import math
from datetime import timedelta

import pytest
from django.utils import timezone

from nailwright.deck.encounters import rebuild_encounters
from nailwright.deck.models import Capture, Run
from nailwright.findings.fingerprints import rows_fingerprint
from nailwright.findings.groups import season_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright.tags.models import Fish, Placement, Tag
from nailwright.tags.queries import marks_for_deck
from nailwright.waters.models import Site, Water
from nailwright_core.movements.journeys import DAYS_PER_MONTH, geodesic_m


@pytest.fixture
def marked(programme: Programme, run: Run) -> Fish:
    """A fish tagged 100 days ago and met again ten days ago without being measured."""
    fish = Fish.objects.create(programme=programme, species="wal")
    tag = Tag.objects.create(programme=programme, kind="pit", number="999000000000101", state="placed")
    now = timezone.now()
    captures = [
        Capture.objects.create(programme=programme, run=run, species="wal", fish=fish, length_mm=mm, length_basis=basis, length_type="TL",
                               recorder=run.recorder, device_time=now - timedelta(days=days))
        for days, mm, basis in ((100, 400.0, "measured"), (10, 470.0, "estimated"))
    ]  # fmt: skip
    Placement.objects.create(tag=tag, fish=fish, capture_id=captures[0].pk, living_tag=tag.pk, recorder=run.recorder)
    rebuild_encounters()
    return fish


def test_distances_on_the_tablet_are_cores(programme: Programme, site: Site) -> None:
    places = {"K15": (44.9, -31.6), "K40": (45.1, -31.5)}
    site.geometry = {"type": "Point", "coordinates": [-31.6, 44.9]}
    site.save()
    Site.objects.create(water=site.water, name="K40", geometry={"type": "Point", "coordinates": [-31.5, 45.1]})
    Site.objects.create(water=site.water, name="nowhere")
    other = Water.objects.create(programme=programme, name="Other", kind="lake")
    Site.objects.create(water=other, name="O1", geometry={"type": "Point", "coordinates": [-31.5, 45.1]})
    rows = {each["name"]: each for each in marks_for_deck(programme, site.water)["sites"]}
    wanted = float(geodesic_m(*places["K15"], *places["K40"]))
    apart = math.hypot(rows["K15"]["east_m"] - rows["K40"]["east_m"], rows["K15"]["north_m"] - rows["K40"]["north_m"])
    assert apart == pytest.approx(wanted, abs=1.5)
    assert rows["nowhere"]["east_m"] is None and "O1" not in rows  # no fish was met there


def test_a_fish_from_another_water_names_its_site(programme: Programme, marked: Fish) -> None:
    other = Water.objects.create(programme=programme, name="Other", kind="lake")
    (place,) = marks_for_deck(programme, other)["sites"]
    assert (place["name"], place["water"], place["east_m"]) == ("K15", "Ketterwick River", None)


def test_growth_counts_from_the_last_measured_length(programme: Programme, marked: Fish) -> None:
    (fish,) = marks_for_deck(programme, Water.objects.get())["fish"]
    assert fish["times_met"] == 2
    assert fish["last"]["days"] == pytest.approx(10, abs=0.05)
    assert fish["last"]["length_mm"] == 400 and fish["last"]["months"] == pytest.approx(100 / DAYS_PER_MONTH, abs=0.01)


def test_a_tag_taken_from_its_fish_is_known_no_more(programme: Programme, marked: Fish) -> None:
    Placement.objects.update(living_tag=None)
    assert marks_for_deck(programme, Water.objects.get())["fish"] == []


@pytest.mark.parametrize("geometry", [None, {}, {"type": "LineString", "coordinates": [[1, 2], [3, 4]]}])
def test_a_site_with_no_point_has_no_position(geometry: object) -> None:
    assert Site(geometry=geometry).position == (None, None)


def test_every_month_has_its_season() -> None:
    seasons = [season_of(month) for month in range(1, 13)]
    assert seasons == ["winter"] * 2 + ["spring"] * 3 + ["summer"] * 3 + ["autumn"] * 3 + ["winter"]


def test_the_mark_of_no_rows_is_a_mark_too(programme: Programme, marked: Fish) -> None:
    nothing, something = rows_fingerprint(programme, Selection("yep")), rows_fingerprint(programme, Selection("wal"))
    assert nothing.startswith("0-0-") and something.startswith("2-") and something != nothing
