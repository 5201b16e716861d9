"""The scale of movement along a water."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from scipy import integrate, optimize, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.movements.kernel import laplace_kernel

EDGES = np.arange(0.0, 31.0, 5.0)
FOUND = np.repeat(np.arange(6), [1, 2, 30, 8, 2, 1])


def test_by_brute_force_with_and_without_effort() -> None:
    """Cells' shares by numerical integration of SciPy's Laplace density, the maximum on a grid: 7.90 km, without effort 2.73."""
    effort = np.array([1, 1, 6, 2, 1, 1.0])

    def fall(scale: float, weights: np.ndarray) -> float:
        cells = [
            integrate.quad(stats.laplace(12.5, scale).pdf, a, b, points=[12.5] if a < 12.5 < b else None)[0]
            for a, b in itertools.pairwise(EDGES)
        ]
        p = weights * cells / (weights @ cells)
        return -float(np.log(p[FOUND]).sum())

    for weights, published in ((effort, 7.90), (np.ones(6), 2.73)):
        brute = optimize.minimize_scalar(lambda s, w=weights: fall(s, w), bounds=(0.5, 40), method="bounded").x
        found = laplace_kernel(np.full(44, 12.5), FOUND, EDGES, weights)
        assert found.scale.value == pytest.approx(brute, rel=1e-3)
        assert found.scale.value == pytest.approx(published, abs=0.005)
        # the ends of the profile
        cut = stats.chi2.ppf(0.95, 1) / 2
        for end in (found.scale.lower, found.scale.upper):
            assert fall(end, weights) - fall(found.scale.value, weights) == pytest.approx(cut, abs=2e-3)
    assert laplace_kernel(np.full(44, 12.5), FOUND, EDGES, effort).unadjusted == pytest.approx(2.73, abs=0.005)


def test_cells_without_effort_are_told() -> None:
    found = laplace_kernel(np.full(42, 12.5), np.repeat([2, 3, 4], [30, 8, 4]), EDGES, [0, 0, 6, 2, 1, 0])
    cells = np.diff(stats.laplace(12.5, found.scale.value).cdf(EDGES))
    assert found.unseen == pytest.approx(1 - cells[2:5].sum(), abs=1e-6)


def test_the_scale_is_covered_where_people_look_unevenly() -> None:
    """300 seeded studies of 60 fish, scale 6 km, effort that differs tenfold between cells."""
    rng = np.random.default_rng(3)
    edges = np.arange(0.0, 82.0, 2.0)
    held = 0
    for _ in range(300):
        effort = rng.uniform(0.3, 3.0, 40)
        released = rng.uniform(10, 70, 400)
        ends = released + rng.laplace(0, 6, 400)
        cell = np.floor(ends / 2).astype(int)
        inside = (cell >= 0) & (cell < 40)
        seen = inside & (rng.random(400) < np.where(inside, effort[np.clip(cell, 0, 39)] / 3 * 0.3, 0))
        told = laplace_kernel(released[seen][:60], cell[seen][:60], edges, effort).scale
        held += told.lower <= 6 <= told.upper
    assert 0.92 <= held / 300 <= 0.98


def test_what_says_nothing_is_refused() -> None:
    with pytest.raises(CoreError, match="10 journeys or more"):
        laplace_kernel([1.0], [0], EDGES, np.ones(6))
    with pytest.raises(CoreError, match="less than a cell"):
        laplace_kernel(np.full(20, 12.5), np.full(20, 2), EDGES, np.ones(6))
    with pytest.raises(CoreError, match="no effort"):
        laplace_kernel(np.full(20, 12.5), np.full(20, 2), EDGES, [1, 1, 0, 1, 1, 1])
    assert math.isinf(laplace_kernel(np.full(12, 12.5), np.arange(12) % 6, EDGES, np.ones(6)).scale.upper)
