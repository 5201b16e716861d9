"""Tag loss and reporting, against closed forms, worked figures and likelihoods by brute force."""

import math

import numpy as np
import pytest
from scipy import stats

from nailwright_core.common.errors import CoreError
from nailwright_core.tags.retention import (
    double_tag_retention,
    reporting_rate,
    retention_curve,
    unlike_tag_retention,
)


def test_double_tags_worked_by_hand() -> None:
    """40 fish with both, 10 with one: x = .8, r = 1.6/1.8; SE 2/1.8^2 sqrt(.16/50). The binomial of 90 tags, which is wrong, has .0331."""
    found = double_tag_retention(40, 10)
    assert found.value == pytest.approx(1.6 / 1.8) and found.se == pytest.approx(0.0349, abs=5e-5)
    assert (found.lower, found.upper) == (pytest.approx(0.797, abs=5e-4), pytest.approx(0.947, abs=5e-4))
    assert found.n == 50
    assert (1 - found.value) ** 2 == pytest.approx(0.0123, abs=5e-5)  # lost both


def test_double_tags_against_a_likelihood_by_brute_force() -> None:
    """The share of fish with both among those seen is r^2 / (r^2 + 2 r (1 - r)): the most likely r on a fine grid is the closed form."""
    grid = np.linspace(0.001, 0.999, 99_801)
    x = grid**2 / (grid**2 + 2 * grid * (1 - grid))
    best = grid[np.argmax(stats.binom.logpmf(37, 52, x))]
    assert double_tag_retention(37, 15).value == pytest.approx(best, abs=2e-5)


def test_all_kept_and_all_lost_have_intervals_of_width() -> None:
    kept, lost = double_tag_retention(20, 0), double_tag_retention(0, 20)
    assert kept.value == 1 and kept.lower < 0.92 and lost.value == 0 and lost.upper > 0.2


def test_unlike_tags_worked_by_hand() -> None:
    a, b = unlike_tag_retention(40, 12, 4)
    assert (a.value, b.value) == (pytest.approx(0.9091, abs=5e-5), pytest.approx(0.7692, abs=5e-5))
    exact = stats.binomtest(40, 44).proportion_ci(method="exact")
    assert (a.lower, a.upper) == (pytest.approx(exact.low), pytest.approx(exact.high))


def test_reporting_worked_by_hand() -> None:
    """24 of 400 ordinary and 15 of 100 high rewards: .400, profile .220 to .752."""
    found = reporting_rate(24, 400, 15, 100)
    assert found.value == pytest.approx(0.4)
    assert (found.lower, found.upper) == (pytest.approx(0.220, abs=5e-4), pytest.approx(0.752, abs=5e-4))


def test_reporting_never_exceeds_one() -> None:
    found = reporting_rate(50, 100, 10, 100)
    assert found.value == found.upper == 1.0 and found.lower > 0.5


@pytest.mark.parametrize(
    ("given", "code"),
    [
        ((5, 4, 1, 10), "more_returned_than_released"),
        ((1, 10, 0, 10), "no_high_returns"),
        ((1, 0, 1, 10), "more_returned_than_released"),
    ],
)
def test_what_cannot_be_told_is_refused(given: tuple[int, int, int, int], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        reporting_rate(*given)
    assert refused.value.code == code


def test_no_fish_is_refused() -> None:
    with pytest.raises(CoreError):
        double_tag_retention(0, 0)


def test_the_interval_of_double_tags_covers() -> None:
    """2,000 seeded programmes of 40 fish, r = .85: exact intervals are conservative (at least 93.5 of 100 within binomial error)."""
    rng = np.random.default_rng(3)
    held = 0
    for _ in range(2000):
        tags = rng.random((40, 2)) < 0.85
        kept = tags.sum(axis=1)
        found = double_tag_retention(int((kept == 2).sum()), int((kept == 1).sum()))
        held += found.lower <= 0.85 <= found.upper
    assert held / 2000 > 0.935


def test_the_curve_finds_what_the_fish_were_made_with() -> None:
    rng = np.random.default_rng(1)
    days = rng.uniform(20, 900, 2000)
    shed = rng.random(2000) > 0.93 * np.exp(-0.2 * days / 365.25)
    found = retention_curve(days, shed)
    rho, loss = found.rho, found.loss
    assert rho.lower < 0.93 < rho.upper and loss.lower < 0.2 < loss.upper
    assert rho.upper - rho.lower < 0.1 and loss.upper - loss.lower < 0.12


def test_the_curve_against_a_grid() -> None:
    rng = np.random.default_rng(8)
    days = rng.uniform(30, 700, 120)
    shed = rng.random(120) > 0.9 * np.exp(-0.4 * days / 365.25)
    found = retention_curve(days, shed)
    rho, loss = found.rho, found.loss
    grid_rho, grid_loss = np.meshgrid(np.linspace(0.5, 0.9999, 300), np.linspace(0, 1.5, 300), indexing="ij")
    kept = grid_rho[..., None] * np.exp(-grid_loss[..., None] * days / 365.25)
    log = np.where(shed, np.log1p(-kept), np.log(kept)).sum(axis=-1)
    place = np.unravel_index(np.argmax(log), log.shape)
    assert rho.value == pytest.approx(grid_rho[place], abs=0.004) and loss.value == pytest.approx(
        grid_loss[place], abs=0.01
    )
    drop = stats.chi2.ppf(0.95, 1) / 2
    inside = grid_loss[(log >= log.max() - drop)]
    assert math.isclose(loss.lower, inside.min(), abs_tol=0.02) and math.isclose(loss.upper, inside.max(), abs_tol=0.02)
    year = found.kept_at(365.25)
    shares = (grid_rho * np.exp(-grid_loss))[log >= log.max() - drop]
    assert math.isclose(year.lower, shares.min(), abs_tol=0.01) and math.isclose(year.upper, shares.max(), abs_tol=0.01)


def test_loss_between_two_sightings_is_told_from_loss_before_the_first() -> None:
    """A fish seen with its tag a month before it was seen without says that the tag held until then."""
    days = np.array([400.0] * 12)
    shed = np.array([True] * 6 + [False] * 6)
    early = retention_curve(days, shed).kept_at(200)
    late = retention_curve(days, shed, seen_with=np.where(shed, 370.0, 0.0)).kept_at(200)
    assert late.value > early.value and late.lower > early.lower + 0.2


def met_again(rng: np.random.Generator, n: int, rho: float, rate: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Fish each met one to three times, with days to the telling sighting, whether the tag was gone, and the last sighting with it."""
    days, gone, seen_with = np.zeros(n), np.zeros(n, dtype=bool), np.zeros(n)
    for fish in range(n):
        lost_at = 0.0 if rng.random() > rho else rng.exponential(1 / rate) * 365.25
        times = np.sort(rng.uniform(20, 1100, rng.integers(1, 4)))
        with_tag, without = times[times < lost_at], times[times >= lost_at]
        gone[fish] = without.size > 0
        days[fish] = without[0] if without.size else with_tag[-1]
        seen_with[fish] = with_tag[-1] if with_tag.size and without.size else 0
    return days, gone, seen_with


def test_intervals_hold_the_truth_with_few_fish() -> None:
    """Coverage over 80 seeded surveys of 40 fish, standard error 2.5 points."""
    rng, held = np.random.default_rng(28), np.zeros(2)
    truth = 0.92 * math.exp(-0.25)
    for _ in range(80):
        found = retention_curve(*met_again(rng, 40, 0.92, 0.25))
        year = found.kept_at(365.25)
        held += (year.lower <= truth <= year.upper, found.loss.lower <= 0.25 <= found.loss.upper)
    assert (held / 80 > 0.88).all(), held / 80
