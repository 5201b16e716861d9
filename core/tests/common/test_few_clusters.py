"""Degrees of freedom over few sites: the table of the inference chapter (computed for it with NumPy), and brute force."""

import numpy as np
import pytest

from nailwright_core.common.clusters import jackknife, sums_by_site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.few_clusters import satterthwaite_df


def nested(first, second):
    return [(n, 0) for n in first] + [(0, n) for n in second]


@pytest.mark.parametrize(
    ("fish", "df"),
    [
        (nested([20] * 3, [20] * 7), 3.429),
        (nested([20] * 5, [20] * 5), 8),
        (nested([20] * 2, [20] * 10), 1.233),
        ([80, 10, 10, 10, 10], 1.300),
        ([100, 20, 20, 20, 20, 10, 10, 10], 2.268),
        ([7] * 9, 8),
    ],
)
def test_the_table_of_the_chapter(fish, df):
    assert satterthwaite_df(fish) == pytest.approx(df, abs=5e-4)


def test_it_is_twice_the_squared_mean_over_the_variance_of_the_jackknifes_variance():
    """df = 2 E(V)^2 / var(V) for independent fish, by 40,000 simulated surveys; sites hold fish of both groups here."""
    rng = np.random.default_rng(4)
    fish = np.array([(12, 3), (4, 9), (0, 6), (15, 0), (5, 5)])
    site = [np.repeat(np.arange(5), fish[:, k]) for k in (0, 1)]
    found = []
    for _ in range(40_000):
        sums = np.concatenate([sums_by_site(s, 5, rng.normal(size=s.size)) for s in site], axis=1)
        found.append(jackknife(sums, lambda s: (s[..., 3] / s[..., 2] - s[..., 1] / s[..., 0])[..., None])[1][0, 0])
    assert 2 * np.mean(found) ** 2 / np.var(found) == pytest.approx(satterthwaite_df(fish), rel=0.05)


def test_one_site_tells_no_variance():
    assert satterthwaite_df([(20, 0), (0, 5), (0, 9)]) == 0
    for bad in ([[3, -1], [2, 2]], [[0, 1], [0, 2]], [float("nan"), 2]):
        with pytest.raises(CoreError):
            satterthwaite_df(bad)
