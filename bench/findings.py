"""Findings of 250,000 fish among a million captures, against a notebook over the same rows and their NumPy parts alone."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from django.http import QueryDict
from sklearn.mixture import GaussianMixture

from bench import notebook
from bench.million import SPECIES, grow
from bench.timing import seconds, show
from nailwright.deck.models import Capture
from nailwright.findings.computing import ask
from nailwright.findings.models import FindingAnswer
from nailwright.findings.queries import pairs_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Person, Programme
from nailwright_core.common import species
from nailwright_core.common.by_site import median_by_site
from nailwright_core.findings.catches.catch_per_effort import trend_many
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.relative_weight import summarise_relative_weight
from nailwright_core.findings.size_structure import (
    compare_lengths,
    fit_cohorts,
    length_frequency,
    proportional_size_distribution,
)
from nailwright_core.movements.journeys import Encounters, journeys
from nailwright_core.waters.geodesics import geodesic_m


def measure() -> None:
    programme, person = Programme.objects.get(), Person.objects.get(username="demo-biologist")
    grow(programme)

    def look(kind: str, **asked: str) -> Any:
        query = QueryDict(mutable=True)
        query.update({"species": SPECIES, **asked})
        return ask(person, programme, kind, query)

    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "captures.parquet"
        notebook.write(file)
        _against_the_notebook("size", lambda: look("size"), lambda: notebook.size(file))
        _against_the_notebook("condition", lambda: look("condition"), lambda: notebook.condition(file))

    def five_years() -> None:
        FindingAnswer.objects.all().delete()
        look("size-compared", by="year")

    show(f"size of five years compared, {SPECIES}", f"{1000 * seconds(five_years, 3):,.0f} ms", "goal under 1 s")
    pairs = pairs_of(programme, Selection(SPECIES))
    _numpy_alone(np.tile(pairs.length_mm, 4), np.tile(pairs.mass_g, 4), np.tile(pairs.sites, 4))
    _other_parts()


def _against_the_notebook(name: str, look: Callable[[], Any], notebook_s: Callable[[], Any]) -> None:
    some = iter(Capture.objects.filter(species=SPECIES).values_list("pk", flat=True)[:20])

    def changed() -> None:
        Capture.objects.filter(pk=next(some)).update(mass_g=412.5)
        look()

    theirs = seconds(notebook_s)
    show(f"{name} of 250,000 fish, notebook in polars", f"{1000 * theirs:,.0f} ms")
    for when, again in (("nothing changed", look), ("one capture changed", changed)):
        took = seconds(again)
        show(f"{name} of 250,000 fish, {when}", f"{1000 * took:,.0f} ms", f"{took / theirs:.1f} x the notebook")


def _numpy_alone(length: np.ndarray, mass: np.ndarray, sites: np.ndarray) -> None:
    """Core's functions of a million fish against what of them NumPy does at the least: the goal is 3 x."""
    kind = species.get(SPECIES)
    assert kind.size_categories is not None
    categories = kind.size_categories
    fish, n_sites = length.size, int(sites.max()) + 1

    def bare_line() -> Any:
        x, y = np.log10(length), np.log10(mass)
        dx = x - x.mean()
        sxx = float(dx @ dx)
        slope = float(dx @ y) / sxx
        rest = y - y.mean() - slope * dx
        sd = np.sqrt(float(rest @ rest) / (fish - 2))
        return rest / (sd * np.sqrt(1 - 1 / fish - dx * dx / sxx))

    def sums_over_sites(*columns: np.ndarray) -> list[np.ndarray]:
        return [np.bincount(sites, column, n_sites) for column in columns]

    def bare_wr() -> Any:
        wr = 100 * mass / 10 ** (-5.0 + 3.1 * np.log10(length))
        np.bincount(np.searchsorted([mm for _, mm in categories], length), wr)
        dx = length - length.mean()
        return wr - wr.mean() - float(dx @ wr) / float(dx @ dx) * dx

    half = fish // 2
    pair, at = (length[:half], length[half:]), (sites[:half], sites[half:])
    groups = {name: (length[part], mass[part]) for name, part in (("a", slice(half)), ("b", slice(half, None)))}

    def bare_lines() -> None:
        for mm, g in groups.values():
            x, y = np.log10(mm), np.log10(g)
            dx = x - x.mean()
            rest = y - y.mean() - float(dx @ y) / float(dx @ dx) * dx
            (rest * rest) @ np.stack([np.ones_like(dx), dx, dx * dx]).T

    parts: dict[str, tuple[Callable[[], Any], Callable[[], Any]]] = {
        "length-mass line": (lambda: fit_length_mass(length, mass), bare_line),
        "length-mass line over sites": (
            lambda: fit_length_mass(length, mass, sites=sites),
            lambda: (bare_line(), sums_over_sites(length, mass, length, mass, length)),
        ),
        "relative weight": (lambda: summarise_relative_weight(kind, length, mass), bare_wr),
        "relative weight over sites": (
            lambda: summarise_relative_weight(kind, length, mass, sites=sites),
            lambda: (bare_wr(), sums_over_sites(length, mass, length, mass, length)),
        ),
        "length frequency": (lambda: length_frequency(length, 20), lambda: np.bincount((length // 20).astype(int))),
        "size categories": (
            lambda: proportional_size_distribution(length, categories),
            lambda: [(length >= mm).sum() for _, mm in categories],
        ),
        "size categories over sites": (
            lambda: proportional_size_distribution(length, categories, sites=sites),
            lambda: [np.bincount(sites, length >= mm) for _, mm in categories],
        ),
        "median over sites": (
            lambda: median_by_site(length, sites),
            lambda: (np.sort(length), sums_over_sites(length)),
        ),
        "two lines": (lambda: compare_lines(groups), bare_lines),
    }
    for what, (ours, bare) in parts.items():
        took, alone = seconds(ours, 3), seconds(bare, 3)
        show(f"{what} of {fish:,} fish", f"{1000 * took:,.1f} ms", f"bare NumPy: {took / alone:.1f} x")
    few = length[:20_000]
    theirs = seconds(lambda: GaussianMixture(3, n_init=1, random_state=0).fit(few[:, None]), 3)
    took = seconds(lambda: fit_cohorts(few, k=3), 3)
    show("three cohorts in 20,000 fish", f"{1000 * took:,.0f} ms", f"scikit-learn: {took / theirs:.1f} x")
    shuffled = seconds(lambda: [np.random.default_rng(1).permutation(length) for _ in range(3)], 1) / 3
    for what, asked in (("over fish", None), ("over sites", at)):
        took = seconds(lambda given: compare_lengths(*pair, sites=given), 3, asked)
        told = f"{took / shuffled:,.1f} of the 1,999 shuffles that the test stands for"
        show(f"two samples of {half:,} lengths compared, {what}", f"{1000 * took:,.0f} ms", told)


def _other_parts() -> None:
    rng = np.random.default_rng(1)
    counts = rng.negative_binomial(1, 1 / 6, (100, 2000, 40))
    drawn = seconds(lambda: rng.negative_binomial(1, 1 / 6, (100, 2000, 40)), 1)
    took = seconds(lambda: trend_many(counts, None, np.arange(40.0), 0.95), 1)
    show(
        "trend of 2,000 sites x 40 years, 100 surveys", f"{1000 * took:,.0f} ms", f"drawing them: {took / drawn:.1f} x"
    )
    n = 100_000
    lat, lon, nothing = rng.uniform(10, 11, n), rng.uniform(10, 11, n), np.full(n, np.nan)
    at = np.datetime64("2026-01-01") + rng.integers(0, 10**8, n).astype("timedelta64[s]")
    met = Encounters(rng.integers(0, 20_000, n), at, lat, lon, nothing, rng.uniform(200, 500, n), np.full(n, 100.0))
    took, alone = (
        seconds(lambda: journeys(met), 3),
        seconds(lambda: geodesic_m(lat[1:], lon[1:], lat[:-1], lon[:-1]), 3),
    )
    show(f"journeys between {n:,} encounters", f"{1000 * took:,.0f} ms", f"their geodesics: {took / alone:.1f} x")
