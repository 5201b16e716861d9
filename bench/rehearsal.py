"""Rehearsed surveys per second, against a plain loop over one survey at a time with the same estimator."""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor

import numpy as np

from bench.size import size
from bench.timing import seconds, show
from nailwright_core.findings.abundance import petersen
from nailwright_core.plan.rehearsal import MarksDesign, rehearse

ALIKE = MarksDesign(population=5000, marks=300, catch=400)
UNLIKE = MarksDesign(population=5000, marks=300, catch=400, heterogeneity=0.5)


def loop(n: int, heterogeneity: float) -> None:
    """The survey as one would write it down first: fish by fish drawn, one survey after the other."""
    rng = np.random.default_rng(1)
    for _ in range(n):
        catchability = np.exp(rng.normal(0, heterogeneity, 5000))
        share = catchability / catchability.sum()
        marked = set(rng.choice(5000, 300, replace=False, p=share).tolist())
        caught = rng.choice(5000, 400, replace=False, p=share).tolist()
        petersen(300, 400, sum(fish in marked for fish in caught))


def measure() -> None:
    for design, heterogeneity, n in ((ALIKE, 0.0, size(20_000, 200)), (UNLIKE, 0.5, size(4000, 100))):
        ours = seconds(lambda each, times: rehearse(each, times), 3, design, n) / n
        plain = seconds(lambda spread: loop(100, spread), 3, heterogeneity) / 100
        what = "fish alike" if heterogeneity == 0 else "fish unlike"
        show(
            f"rehearsal of marks, {what}, one process",
            f"{1 / ours:,.0f} /s",
            f"plain loop {1 / plain:,.0f} /s: {plain / ours:.0f} x",
        )
    with ProcessPoolExecutor(2) as processes:
        two = seconds(lambda: rehearse(UNLIKE, 4000, executor=processes), 3) / 4000
    show(
        "rehearsal of marks, fish unlike, two processes",
        f"{1 / two:,.0f} /s",
        f"one process {1 / ours:,.0f} /s: {ours / two:.1f} x",
    )
