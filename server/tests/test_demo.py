"""The demo's findings against the truth it was made from."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from django.db import transaction
from django.utils import timezone

from demo.fish import catch
from demo.load import load
from demo.season import BOAT, ROUND
from demo.three_passes import FISH_PER_100_M
from demo.truth import CONDITION, LOWER_RIVER, SEED, SPECIES, STRONG_YEAR_CLASS, YEARS
from nailwright.deck.models import Capture, CaptureTally, Outing, Run
from nailwright.findings.kinds import abundance_removal, catch_rate, recapture_growth
from nailwright.findings.kinds.abundance_removal import RemovalQuestion
from nailwright.findings.kinds.catch_rate import CatchQuestion
from nailwright.findings.kinds.recapture_growth import GrowthQuestion
from nailwright.findings.queries import lengths_of, pairs_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Membership, Person, Programme
from nailwright.programmes.record.removal import take_out_demo
from nailwright.waters.models import Site, Water
from nailwright_core.common import species
from nailwright_core.common.species import LengthMassLine
from nailwright_core.deck.plausibility import check_capture
from nailwright_core.findings.condition import fit_length_mass, relative_condition

WALLEYE = species.get("wal")


@pytest.fixture(scope="module")
def demo(django_db_setup: None, django_db_blocker: Any) -> Any:
    """Loaded once for this file and rolled back after it."""
    with django_db_blocker.unblock():
        atomic = transaction.atomic()
        atomic.__enter__()
        yield load()
        transaction.set_rollback(True)
        atomic.__exit__(None, None, None)


@pytest.mark.django_db
def test_size_of_the_demo(demo: Programme) -> None:
    assert Capture.objects.filter(programme=demo).count() >= 12_000
    assert Outing.objects.values("date__year").distinct().count() == len(YEARS)
    tonight = Outing.objects.get(state=Outing.State.OPEN)
    assert tonight.runs.filter(ended_at=None).count() == 1 and tonight.runs.count() > 1
    for water in Water.objects.all():
        assert water.geometry["type"] in ("LineString", "Polygon") and water.geometry["coordinates"]
    assert all(site.geometry["type"] == "Point" for site in Site.objects.all())


@pytest.mark.django_db
def test_the_length_mass_line_is_the_true_one(demo: Programme) -> None:
    pairs = pairs_of(demo, Selection("yep"))
    fit = fit_length_mass(pairs.length_mm, pairs.mass_g)
    truth = SPECIES["yep"]
    assert fit.b.value == pytest.approx(truth.b, abs=4 * fit.b.se)
    assert fit.predict(200.0).mass_g == pytest.approx(10 ** (truth.log10_a + truth.b * np.log10(200)), rel=0.02)


@pytest.mark.django_db
def test_condition_falls_in_the_lower_river_as_it_truly_does(demo: Programme) -> None:
    truth = SPECIES["wal"]
    line = LengthMassLine(truth.log10_a, truth.b, truth.mass_sd)
    for year in YEARS:
        lower = Selection("wal", zone=(LOWER_RIVER,), first=f"{year}-01-01", last=f"{year}-12-31")  # type: ignore[arg-type]
        pairs = pairs_of(demo, lower)
        median = float(np.median(relative_condition(pairs.length_mm, pairs.mass_g, line)))
        assert median == pytest.approx(CONDITION[LOWER_RIVER, year], abs=0.02)


@pytest.mark.django_db
def test_the_strong_year_class_passes_through(demo: Programme) -> None:
    """In its third autumn the class stands where growth puts it, well above its neighbours."""
    truth = SPECIES["wal"]
    year = STRONG_YEAR_CLASS + 2
    autumn = Selection("wal", first=f"{year}-09-01", last=f"{year}-11-30")  # type: ignore[arg-type]
    mm = lengths_of(demo, autumn).length_mm
    expected = truth.l_infinity * (1 - np.exp(-truth.k * (2.4 - truth.t_zero)))
    near = np.abs(mm - expected) < 40
    above = np.abs(mm - expected - 80) < 40
    assert near.sum() > 1.5 * above.sum()


@pytest.mark.django_db
def test_what_is_caught_in_an_hour_is_what_the_waters_hold(demo: Programme) -> None:
    """Fish a run as in the yearly round, over runs of 800 s of current on the average."""
    question = CatchQuestion("boat_electrofishing", "zone", "effort", "effort", None)
    told = catch_rate.compute(Selection("yep"), catch_rate.rows(demo, Selection("yep"), question), question)
    rates = {each["name"].split(",")[0]: each["rate"] for each in told["groups"]}
    for reach in (LOWER_RIVER, "North arm"):
        means = [visit.means["yep"] for visit in ROUND if visit.reach == reach and visit.gear == BOAT]
        truth = float(np.mean(means)) / 800 * 3600
        assert rates[reach]["lower"] < truth < rates[reach]["upper"]


@pytest.mark.django_db
def test_burbot_by_passes_are_as_many_as_the_becks_hold(demo: Programme) -> None:
    question = RemovalQuestion()
    told = abundance_removal.compute(
        Selection("bur"), abundance_removal.rows(demo, Selection("bur"), question), question
    )
    assert [len(each["catches"]) for each in told["sites"]] == [3] * 6
    assert told["density"]["lower"] < float(np.mean(FISH_PER_100_M)) < told["density"]["upper"]


@pytest.mark.django_db
def test_marked_walleye_grow_as_they_truly_do(demo: Programme) -> None:
    question = GrowthQuestion(90, "sex", None)
    told = recapture_growth.compute(Selection("wal"), recapture_growth.rows(demo, Selection("wal"), question), question)
    truth = SPECIES["wal"]
    middle = told["at"][1]
    length = float(middle["name"].split()[0])
    grows = (truth.l_infinity - length) * (1 - np.exp(-truth.k))
    # fish have lengths without end of their own, not below their length at tagging: the mean is a little above that of the mean fish
    assert middle["lower"] < grows * 1.03 and grows * 0.97 < middle["upper"]


@pytest.mark.django_db
def test_nearly_every_demo_fish_is_believable(demo: Programme) -> None:
    doubted = sum(
        bool(check_capture(*row)) for row in Capture.objects.values_list("species", "length_mm", "mass_g")[:3000]
    )
    assert doubted < 60


def test_the_same_seed_gives_the_same_fish() -> None:
    first, second = (
        catch(np.random.default_rng(SEED), SPECIES["wal"], 50, LOWER_RIVER, 2025, 290, 0.8) for _ in range(2)
    )
    assert first.length_mm.tolist() == second.length_mm.tolist()
    assert np.array_equal(first.mass_g, second.mass_g, equal_nan=True)


@pytest.mark.django_db
def test_the_demo_is_taken_out_and_nothing_else(demo: Programme) -> None:
    own = Programme.objects.create(name="Tarn study")
    lead = Person.objects.create(username="ragna", name="Ragna Holt")
    both = Person.objects.get(username="demo-viewer")  # somebody let one of the made-up people in
    for person in (lead, both):
        Membership.objects.create(programme=own, person=person, role="lead")
    water = Water.objects.create(programme=own, name="Upper Tarn", kind="lake")
    outing = Outing.objects.create(programme=own, water=water, name="First", date="2026-10-12", gear="angling")
    site = Site.objects.create(water=water, name="Inlet")
    run = Run.objects.create(
        outing=outing, site=site, number=1, gear="angling", started_at=timezone.now(), recorder=lead
    )
    fish = Capture.objects.create(programme=own, run=run, species="yep", length_mm=210, recorder=lead)
    point = transaction.savepoint()
    assert take_out_demo() == [demo.name] and take_out_demo() == []
    assert list(Programme.objects.all()) == [own] and list(Capture.objects.all()) == [fish]
    assert {each.username for each in Person.objects.all()} == {"ragna", "demo-viewer"}
    assert CaptureTally.objects.exclude(programme_id=own.pk).filter(present__gt=0).count() == 0
    transaction.savepoint_rollback(point)
    assert Capture.objects.count() > 12_000
