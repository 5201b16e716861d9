"""Which outing and run a fish of a file belongs to."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest

from nailwright.deck.models import Outing, Run
from nailwright.programmes.models import Person, Programme
from nailwright.records.places import Places
from nailwright.records.reading import FileFish, Place
from nailwright.waters.models import Site
from nailwright_core.common.errors import CoreError

DAY = date(2024, 5, 3)
NOON = datetime(2024, 5, 3, 12, tzinfo=UTC)


@pytest.fixture
def fish(site: Site) -> Callable[..., FileFish]:
    def make(at: datetime = NOON, given: dict[str, Any] | None = None, **place: Any) -> FileFish:
        where = {"water": str(site.water_id), "site": "K15", "day": DAY, "gear": "angling", "outing": "", "run": None}
        return FileFish(2, [], uuid4(), Place(**{**where, **place}), at, {}, (), given or {})

    return make


@pytest.fixture
def places(programme: Programme, person_as: Callable[[str], Person]) -> Callable[..., Places]:
    person = person_as("biologist")
    return lambda new_sites=True: Places(programme, person, new_sites)


def stored(places: Places) -> None:
    places.store_new()
    places.store_times()


def test_one_outing_a_day_water_and_gear_and_one_run_a_site(fish: Any, places: Any) -> None:
    now = places()
    runs = [
        now.run_for(fish(**place))
        for place in (
            {},
            {"site": "K22"},
            {"site": "k15"},
            {"gear": "boat_electrofishing"},
            {"day": DAY + timedelta(1)},
        )
    ]
    assert runs[0] is runs[2] and len({run.pk for run in runs}) == 4
    assert runs[0].outing is runs[1].outing and (runs[0].number, runs[1].number) == (1, 2)
    assert now.counts == {"sites": 1, "outings": 3, "runs": 4}
    stored(now)
    assert Outing.objects.count() == 3 and all(outing.state == "closed" for outing in Outing.objects.all())


def test_a_run_lasts_from_its_first_fish_to_its_last(fish: Any, places: Any) -> None:
    now = places()
    for minutes in (30, 0, 90):
        now.run_for(fish(at=NOON + timedelta(minutes=minutes)))
        now.store_new()
    now.store_times()
    run = Run.objects.get()
    assert (run.started_at, run.ended_at) == (NOON, NOON + timedelta(minutes=90))


def test_what_is_there_is_used_again(fish: Any, places: Any) -> None:
    first = places()
    before = first.run_for(fish())
    stored(first)
    again = places()
    assert again.run_for(fish(at=NOON + timedelta(hours=5))).pk == before.pk
    assert again.counts == {"sites": 0, "outings": 0, "runs": 0}
    stored(again)
    assert Run.objects.get().ended_at == NOON  # a run that was there keeps its times


def test_outings_by_name_where_a_file_names_them(fish: Any, places: Any) -> None:
    now = places()
    night, day = (now.run_for(fish(outing=name)) for name in ("Night", "Day"))
    assert night.outing.pk != day.outing.pk and night.outing.name == "Night"
    stored(now)
    later = places()
    assert later.run_for(fish(outing="Night")).outing_id == night.outing.pk


def test_run_numbers_of_the_file_are_kept_and_hold_to_one_site(fish: Any, places: Any) -> None:
    now = places()
    assert now.run_for(fish(run=7)).number == 7
    assert now.run_for(fish(site="K22")).number == 8
    with pytest.raises(CoreError) as refused:
        now.run_for(fish(site="K30", run=7))
    assert refused.value.code == "run_elsewhere"


def test_unknown_sites_are_made_only_where_that_is_meant(fish: Any, places: Any) -> None:
    with pytest.raises(CoreError) as refused:
        places(new_sites=False).run_for(fish(site="K99"))
    assert (refused.value.code, refused.value.field) == ("site_unknown", "site")
    made = places().run_for(fish(site="K99", given={"zone": "Upper", "river_km": 99.0})).site
    assert (made.name, made.zone_name, made.river_km) == ("K99", "Upper", 99.0)


def test_an_outing_that_is_open_on_the_deck_is_left_alone(fish: Any, places: Any, outing: Outing) -> None:
    place = {"day": outing.date, "gear": outing.gear}
    with pytest.raises(CoreError) as refused:
        places().run_for(fish(**place))
    assert refused.value.code == "outing_open"
    Outing.objects.update(state=Outing.State.CLOSED)
    assert places().run_for(fish(**place)).outing_id == outing.pk


def test_effort_is_said_once_for_a_run(fish: Any, places: Any) -> None:
    now = places()
    for _ in range(2):
        run = now.run_for(fish(given={"current_on_s": 840.0}))
    assert run.current_on_s == 840
    with pytest.raises(CoreError) as refused:
        now.run_for(fish(given={"current_on_s": 900.0}))
    assert "840 s by an earlier line; got 900 s" in refused.value.message
