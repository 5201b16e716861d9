"""Removal averaged over how the chance of capture falls: against a plain sum over N and p, and by surveys from its own prior."""

import numpy as np
import pytest
from scipy import special

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.abundance import FALLS, removal, removal_falling, removal_falling_many


def by_plain_sum(catches, falls, most=60_000, points=2000):
    """Median and ends from the likelihood at each N up to ``most`` and at points of p, prior 1/N."""
    counts = np.array(catches, dtype=float)
    total, passes = counts.sum(), counts.size
    # whole numbers near the catch, and further up ever wider steps of which each stands for those it leaves out
    n = np.unique(np.concatenate([np.arange(total, total + 1500), np.geomspace(total + 1500, most, 3000).astype(int)]))
    stands_for = np.diff(np.append(n, most))
    p = (np.arange(points) + 0.5) / points
    found = np.zeros(n.size)
    for fall, weight in falls.items():
        each = p[:, None] * (1 - fall) ** np.arange(passes)
        first = (counts * np.log(each) - np.cumsum(counts) * np.log1p(-each)).sum(axis=1)
        ordered = special.gammaln(n + 1) - special.gammaln(n - total + 1) - np.log(n)
        found += weight * np.exp(ordered[:, None] + first + n[:, None] * np.log1p(-each).sum(axis=1)).sum(axis=1)
    held = np.cumsum(found * stands_for) / (found * stands_for).sum()
    return [float(n[np.searchsorted(held, share)]) for share in (0.5, 0.025, 0.975)]


@pytest.mark.parametrize("catches", [[38, 26, 12], [9, 5, 2], [6, 3, 1, 0], [60, 25, 18, 4, 3]])
def test_it_is_what_a_plain_sum_over_all_numbers_of_fish_gives(catches):
    found = removal_falling(catches).n
    median, low, high = by_plain_sum(catches, FALLS)
    assert found.value == pytest.approx(median, abs=1)
    assert found.lower == pytest.approx(low, abs=1)
    assert found.upper == pytest.approx(high, rel=0.03)


def test_each_fall_alone():
    """38, 26, 12 with a chance that stays: 81 to 154 by sums over a grid of N and p made for this check; more fish the more it falls."""
    by_fall = removal_falling([38, 26, 12]).by_fall
    assert (by_fall[0.0].lower, by_fall[0.0].upper) == (81, 154)
    assert list(by_fall) == list(FALLS)
    assert np.all(np.diff([each.value for each in by_fall.values()]) > 0)
    alone = removal_falling([38, 26, 12], {0.0: 3.0}).n
    assert (alone.value, alone.lower, alone.upper) == (by_fall[0.0].value, 81, 154)


def test_two_passes_are_not_averaged():
    found = removal_falling([57, 31])
    assert found.n is None and found.by_fall[0.3].value > 1.9 * found.by_fall[0.0].value


def test_where_fish_are_many_and_the_chance_stays_it_is_the_likelihoods_interval():
    """Of 10,000 fish and a chance of a half nothing but the prior's spread is left of the difference to the profile."""
    catches = [5000, 2500, 1250, 625]
    alone, profile = removal_falling(catches, {0.0: 1.0}).n, removal(catches).n
    assert alone.value == pytest.approx(profile.value, rel=2e-3)
    assert alone.upper - alone.lower == pytest.approx(profile.upper - profile.lower, rel=0.05)


def test_of_ever_so_many_fish_each_fall_has_its_answer() -> None:
    """Seventy thousand fish leave falls of a third without any likelihood beside the others: alone they have theirs."""
    found = removal_falling([40_000, 20_000, 10_000])
    assert found.n.value == pytest.approx(80_000, rel=2e-3)
    values = [each.value for each in found.by_fall.values()]
    assert np.isfinite(values).all() and np.all(np.diff(values) > 0)


def test_many_surveys_are_one_by_one():
    catches = np.random.default_rng(2).poisson([14, 7, 4], (40, 3))
    catches[7] = 0
    together = np.stack(removal_falling_many(catches))
    assert np.isnan(together[:, 7]).all()
    for at in (0, 3, 20):
        one = removal_falling(list(catches[at])).n
        assert together[:, at].tolist() == pytest.approx([one.value, one.lower, one.upper], rel=2e-4)
    of_two = np.stack(removal_falling_many([[57, 31], [9, 2]]))
    assert of_two[:, 1].tolist() == pytest.approx(removal_falling([9, 2]).reach, rel=2e-4)


@pytest.mark.parametrize("passes", [3, 4])
def test_its_interval_holds_what_it_says_over_its_prior(passes):
    """600 surveys, seeded: falls as its weights have them, p uniform, N from 20 to 400 as likely as 1/N (the prior has no end, which
    is why it is not quite 95). At one fall alone it may hold less or more: docs/methods/abundance.md."""
    rng = np.random.default_rng(9)
    surveys = 600
    n = np.exp(rng.uniform(np.log(20), np.log(400), surveys)).astype(int)
    fall = rng.choice(list(FALLS), surveys, p=list(FALLS.values()))
    p = rng.uniform(0, 1, surveys)
    left, catches = n.copy(), []
    for at in range(passes):
        catches.append(rng.binomial(left, p * (1 - fall) ** at))
        left = left - catches[-1]
    _, low, high = removal_falling_many(np.stack(catches, axis=1))
    caught = np.isfinite(low)
    held = (low <= n) & (n <= high)
    assert caught.mean() > 0.98
    assert 0.93 <= held[caught].mean() <= 0.985


@pytest.mark.parametrize(
    ("catches", "falls", "code"),
    [
        ([4], FALLS, "passes_too_few"),
        ([0, 0, 0], FALLS, "no_fish"),
        ([3, 2, 1.5], FALLS, "count_out_of_range"),
        ([3, 2, 1], {1.0: 1.0}, "falls_out_of_range"),
        ([3, 2, 1], {0.1: -1.0}, "falls_out_of_range"),
        ([3, 2, 1], {}, "falls_out_of_range"),
        ([3, 2, 1], {0.1: np.nan}, None),
    ],
)
def test_refusals(catches, falls, code):
    with pytest.raises(CoreError) as refused:
        removal_falling(catches, falls)
    assert code is None or refused.value.code == code
    with pytest.raises(CoreError, match="two passes"):
        removal_falling_many([[3]])
