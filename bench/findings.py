"""A finding over 200,000 captures, against its NumPy part alone."""

from __future__ import annotations

import numpy as np
from django.db import connection
from sklearn.mixture import GaussianMixture

from bench.timing import seconds, show
from nailwright.common.rows import new_id
from nailwright.deck.models import Capture, Run
from nailwright.findings.registry import finding_kinds
from nailwright.findings.selections import Selection
from nailwright.programmes.models import Programme
from nailwright_core.common import species
from nailwright_core.findings.condition import fit_length_mass, summarise_relative_weight
from nailwright_core.findings.size_structure import (
    compare_lengths,
    fit_cohorts,
    length_frequency,
    proportional_size_distribution,
)

N = 200_000


def grow(programme: Programme, n: int = N) -> tuple[np.ndarray, np.ndarray]:
    """Adds walleye until there are ``n`` weighed ones in a run of their own species group."""
    rng = np.random.default_rng(7)
    run = Run.objects.order_by("started_at").first()
    assert run is not None
    length = rng.gamma(9, 42, n).clip(90, 830).round()
    mass = (10 ** (-5.468 + 3.18 * np.log10(length) + rng.normal(0, 0.04, n))).round(1)
    rows = (
        Capture(id=new_id(), programme=programme, run=run, species="bur", length_mm=mm, length_type="TL",
                length_basis="measured", mass_g=g, mass_basis="measured", recorder=run.recorder)
        for mm, g in zip(length, mass, strict=True)
    )  # fmt: skip
    Capture.objects.bulk_create(rows, batch_size=2000)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE TABLE deck_capture")
    return length, mass


def measure() -> None:
    programme = Programme.objects.get()
    kind = species.get("bur")
    length, mass = grow(programme)
    selection = Selection("bur")

    def numpy_size() -> None:
        length_frequency(length, 20)
        proportional_size_distribution(length, kind.size_categories)  # type: ignore[arg-type]

    def numpy_condition() -> None:
        fit_length_mass(length, mass)
        summarise_relative_weight(kind, length, mass)

    def compute(name: str) -> None:
        kind_of = finding_kinds()[name]
        question = kind_of.question({"level": 0.95})
        kind_of.compute(selection, kind_of.rows(programme, selection, question), question)

    size, size_alone = seconds(lambda: compute("size")), seconds(numpy_size)
    show(
        f"size finding over {N:,} captures",
        f"{1000 * size:,.0f} ms",
        f"NumPy alone {1000 * size_alone:,.0f} ms: {size / size_alone:.1f} x",
    )
    theirs = seconds(lambda: GaussianMixture(3, n_init=1, random_state=0).fit(length[:20_000, None]), 3)
    ours = seconds(lambda: fit_cohorts(length[:20_000], k=3), 3)
    show(
        "three cohorts in 20,000 fish",
        f"{1000 * ours:,.0f} ms",
        f"scikit-learn {1000 * theirs:,.0f} ms: {ours / theirs:.1f} x",
    )
    half = N // 2
    compared = seconds(lambda: compare_lengths(length[:half], length[half:]), 3)
    show(
        f"two samples of {half:,} lengths compared", f"{1000 * compared:,.0f} ms", "1,999 permutations, 2,000 resamples"
    )
    whole, alone = seconds(lambda: compute("condition")), seconds(numpy_condition)
    show(
        f"condition finding over {N:,} captures",
        f"{1000 * whole:,.0f} ms",
        f"NumPy alone {1000 * alone:,.0f} ms: {whole / alone:.1f} x",
    )
