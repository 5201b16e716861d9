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
from nailwright.findings.asking import ask
from nailwright.findings.models import FindingAnswer
from nailwright.findings.queries import pairs_of
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Person, Programme
from nailwright_core.common import species
from nailwright_core.findings.condition import fit_length_mass, summarise_relative_weight
from nailwright_core.findings.size_structure import (
    compare_lengths,
    fit_cohorts,
    length_frequency,
    proportional_size_distribution,
)


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
    _numpy_alone(pairs.length_mm, pairs.mass_g)


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


def _numpy_alone(length: np.ndarray, mass: np.ndarray) -> None:
    kind = species.get(SPECIES)
    assert kind.size_categories is not None
    categories = kind.size_categories
    x, y = np.log10(length), np.log10(mass)

    def bare_line() -> None:
        dx = x - x.mean()
        slope = float(dx @ y) / float(dx @ dx)
        rest = y - y.mean() - slope * dx
        float(rest @ rest)

    parts: dict[str, tuple[Callable[[], Any], Callable[[], Any]]] = {
        "length-mass line": (lambda: fit_length_mass(length, mass), bare_line),
        "relative weight": (
            lambda: summarise_relative_weight(kind, length, mass),
            lambda: (100 * mass / 10 ** (-5.0 + 3.1 * np.log10(length))).mean(),
        ),
        "length frequency": (lambda: length_frequency(length, 20), lambda: np.bincount((length // 20).astype(int))),
        "size categories": (
            lambda: proportional_size_distribution(length, categories),
            lambda: [(length >= mm).sum() for _, mm in categories],
        ),
    }
    for what, (ours, bare) in parts.items():
        took, alone = seconds(ours), seconds(bare)
        show(f"{what} of {length.size:,} fish", f"{1000 * took:,.1f} ms", f"bare NumPy: {took / alone:.1f} x")
    few = length[:20_000]
    theirs = seconds(lambda: GaussianMixture(3, n_init=1, random_state=0).fit(few[:, None]), 3)
    took = seconds(lambda: fit_cohorts(few, k=3), 3)
    show("three cohorts in 20,000 fish", f"{1000 * took:,.0f} ms", f"scikit-learn: {took / theirs:.1f} x")
    half = length.size // 2
    took = seconds(lambda: compare_lengths(length[:half], length[half:]), 3)
    show(f"two samples of {half:,} lengths compared", f"{1000 * took:,.0f} ms")
