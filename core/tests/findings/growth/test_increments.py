"""Growth of fish that were measured twice."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy import optimize, stats

from bench.size import some
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.growth.increments import (
    Increments,
    expected,
    fit_increments,
    growth_by_increments,
    growth_sentence,
)

#: Growth in a year at two lengths, mm: truth of what is made up here.
G = (80.0, 25.0, 280.0, 460.0)
L_INFINITY, K = 280 + 80 / (55 / 180), -math.log1p(-55 / 180)


def made_up(rng: np.random.Generator, n: int, skewed: bool = False) -> Increments:
    x, years = rng.uniform(250, 500, n), rng.choice([0.5, 1, 1, 2, 3], n) * rng.uniform(0.9, 1.1, n)
    mean = expected(*G, x, years)
    own = rng.gamma(1 / 0.09, 0.09, n) if skewed else 1 + 0.3 * rng.standard_normal(n)
    return Increments(x, np.round(mean * own + rng.normal(0, 2.5, n)), years)


def test_the_mean_as_francis_has_it() -> None:
    """Growth of 30 at 250 mm and 10 at 450: L 550, K 0.10536; from 300 mm in a year and a half 36.546 mm (Francis 1988, worked for the handbook)."""
    assert expected(30, 10, 250, 450, [300], [1.5])[0] == pytest.approx(36.546, abs=5e-4)
    # the curve's own form, by definition
    k = -math.log1p((30 - 10) / (250 - 450))
    assert k == pytest.approx(0.10536, abs=5e-6)
    assert (550 - 300) * -math.expm1(-1.5 * k) == pytest.approx(36.546, abs=5e-4)
    assert expected(30, 30, 250, 450, [300], [1.5])[0] == pytest.approx(45)


def test_the_likelihood_as_francis_has_it() -> None:
    """Grown 45 mm, nu 0.3, s 4, p 0.02 over a range of 120: ln L -3.6521 (worked for the handbook)."""
    sd = math.hypot(0.3 * 36.546, 4)
    assert sd == pytest.approx(11.671, abs=1e-3)
    assert math.log(0.98 * stats.norm.pdf(45, 36.546, sd) + 0.02 / 120) == pytest.approx(-3.6521, abs=1e-4)
    # ours: of two fish of which one is that one and the other gives the range
    found = Increments(np.array([300.0, 300.0]), np.array([45.0, 165.0]), np.array([1.5, 1.5]))
    model = fit_increments(found, 250, slips=True).model
    at = np.array([30.0, 10.0, 0.3, 4.0, 0.02])
    other = math.log(0.98 * stats.norm.pdf(165, 36.54625, sd) + 0.02 / 120)
    assert model.log_likelihood(at) - other == pytest.approx(-3.6521, abs=2e-4)


def test_the_gradient_is_that_of_the_likelihood() -> None:
    model = fit_increments(made_up(np.random.default_rng(1), 60), 350, slips=True).model
    assert model.gradient is not None
    for at in ([70.0, 30.0, 0.4, 3.0, 0.03], [50.0, -10.0, 0.2, 5.0, 0.1], [60.0, 0.0, 0.3, 4.0, 0.05]):
        steps = optimize.approx_fprime(np.array(at), model.log_likelihood, 1e-6)
        assert model.gradient(np.array(at)) == pytest.approx(steps, rel=2e-3, abs=2e-2)


def test_the_maximum_is_that_of_another_optimiser() -> None:
    found = made_up(np.random.default_rng(3), 120)
    fit = fit_increments(found, 350)

    def fall(at: np.ndarray) -> float:
        g, slower, nu, s = at
        mean = expected(g, g - slower, 350, 450, found.length_mm, found.years)
        return -float(stats.norm.logpdf(found.grown_mm, mean, np.hypot(nu * mean, max(s, 2.0))).sum())

    other = optimize.minimize(
        fall, (60, 20, 0.4, 4), method="Nelder-Mead", options={"maxiter": 4000, "xatol": 1e-6, "fatol": 1e-9}
    )
    assert fit.log_likelihood == pytest.approx(-other.fun, abs=1e-3)
    assert fit.values[:3] == pytest.approx(other.x[:3], rel=2e-3)


@pytest.mark.parametrize(("n", "skewed"), some([(20, False), (60, True)], 1))
def test_intervals_hold_also_where_fish_differ_askew(n: int, skewed: bool) -> None:
    """25 seeded studies: growth at two lengths, length without end and K; bin/bench has more."""
    rng = np.random.default_rng(n)
    held = np.zeros(4)
    for _ in range(25):
        told = growth_by_increments(made_up(rng, n, skewed), [300, 400])
        for place, (mm, each) in enumerate(told.at):
            held[place] += each.lower <= 80 - (mm - 280) * 55 / 180 <= each.upper
        held[2] += told.l_infinity is None or told.l_infinity.lower <= L_INFINITY <= told.l_infinity.upper
        held[3] += told.k is None or told.k.lower <= K <= told.k.upper
    assert (held >= 21).all(), held


def test_slips_are_looked_for_and_named() -> None:
    found = made_up(np.random.default_rng(5), 80)
    fine = growth_by_increments(found)
    assert fine.assumptions[0].verdict == "not refuted"
    grown = found.grown_mm.copy()
    grown[:6] += 250  # another fish's length
    slipped = growth_by_increments(Increments(found.length_mm, grown, found.years))
    assert slipped.assumptions[0].verdict == "doubtful"
    assert 0.03 < slipped.slips < 0.15


def test_an_error_that_is_known_is_held() -> None:
    found = made_up(np.random.default_rng(6), 60)
    assert growth_by_increments(found, error_mm=6.0).error_mm == 6.0
    assert "Held at 6.0 mm" in growth_by_increments(found, error_mm=6.0).assumptions[1].detail


def test_what_is_said() -> None:
    told = growth_by_increments(made_up(np.random.default_rng(7), 80), [300])
    assert told.in_a_year([300.0, 400.0]) == pytest.approx(
        [told.at[0][1].value, told.at[0][1].value - told.slows.value]
    )
    details = growth_sentence(told, "pike", 80, 12)
    assert details.startswith("Pike grow in a year, in mm, by length: 300 mm ")
    assert details.endswith("Growth slows with length.")
    rng = np.random.default_rng(8)
    x = rng.uniform(250, 500, 40)
    level = Increments(x, 60 * (1 + 0.3 * rng.standard_normal(40)), np.ones(40))
    assert "is not shown" in growth_sentence(growth_by_increments(level, [300]), "pike", 40, 12)


def test_what_says_nothing_is_refused() -> None:
    few = np.full(5, 300.0)
    with pytest.raises(CoreError, match="10 fish"):
        growth_by_increments(Increments(few, few, few))
    alike = np.full(20, 300.0)
    with pytest.raises(CoreError, match="one length"):
        growth_by_increments(Increments(alike, alike / 10, np.ones(20)))
    with pytest.raises(CoreError, match="above 0"):
        growth_by_increments(Increments(np.linspace(200, 400, 20), alike / 10, np.zeros(20)))
