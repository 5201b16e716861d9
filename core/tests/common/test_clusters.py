"""Sites and years crossed: degrees of freedom by plain matrices, and how often intervals over both hold the truth."""

from __future__ import annotations

import math

import numpy as np
import pytest

from nailwright_core.common.by_site import mean_by_site, median_by_site, share_by_site
from nailwright_core.common.clusters import cells_of
from nailwright_core.common.few_clusters import satterthwaite_df, satterthwaite_df_of_fit
from nailwright_core.findings.condition import fit_length_mass


def test_degrees_of_freedom_of_a_fit_are_those_of_its_matrices() -> None:
    """Bell and McCaffrey's definition, written out: P of CR3 for each site, D = P'P."""
    rng = np.random.default_rng(3)
    site = np.repeat(np.arange(6), [4, 9, 5, 20, 3, 7])
    x = np.column_stack([np.ones(site.size), rng.uniform(-1, 1, site.size)])
    inverse = np.linalg.inv(x.T @ x)
    rest = np.eye(site.size) - x @ inverse @ x.T
    for wanted in np.eye(2):
        pulls = []
        for each in range(6):
            at = site == each
            pulls.append(rest[:, at] @ np.linalg.inv(rest[np.ix_(at, at)]) @ x[at] @ inverse @ wanted)
        together = np.array(pulls) @ np.array(pulls).T
        plain = np.trace(together) ** 2 / (together**2).sum()
        normal = np.stack([x[site == each].T @ x[site == each] for each in range(6)])
        assert satterthwaite_df_of_fit(normal, wanted) == pytest.approx(plain, rel=1e-9)


def test_a_mean_is_a_fit_of_one_coefficient() -> None:
    fish = np.array([80.0, 10, 10, 10, 10])
    assert satterthwaite_df_of_fit(fish[:, None, None], [1.0]) == pytest.approx(satterthwaite_df(fish))
    assert satterthwaite_df_of_fit(np.array([[[5.0]], [[0.0]]]), [1.0]) == 0  # one site has them all


def _caught(rng: np.random.Generator, years: int, year_sd: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    n = np.maximum(rng.poisson(rng.gamma(4, 5, (8, 1)), (8, years)), 1)
    site, year = (np.repeat(place.ravel(), n.ravel()) for place in np.indices(n.shape))
    of_site, of_year = rng.normal(0, math.sqrt(0.1), 8), rng.normal(0, year_sd, years)
    return of_site[site] + of_year[year] + rng.normal(0, math.sqrt(0.9), site.size), site, year


@pytest.mark.parametrize(("years", "year_sd"), [(3, 0.3), (6, 0.3)])
def test_a_mean_of_any_year_lies_in_its_interval_as_often_as_it_says(years: int, year_sd: float) -> None:
    """Eight sites fished in each of so many years that differ: over sites alone it holds a mean of any year far less often."""
    rng = np.random.default_rng(5)
    both, sites_alone = [], []
    for _ in range(500):
        values, site, year = _caught(rng, years, year_sd)
        for found, crossed in ((both, year), (sites_alone, None)):
            interval = mean_by_site(values, site, 0.95, crossed)[0]
            found.append(interval.lower <= 0 <= interval.upper)
    assert 0.92 <= np.mean(both) <= 0.98  # Monte Carlo error 1 %
    assert np.mean(sites_alone) < 0.9


def test_words_and_what_one_year_can_say() -> None:
    values, site, year = _caught(np.random.default_rng(1), 3, 0.2)
    mean, alike = mean_by_site(values, site, 0.95, year)
    assert (
        mean.interval == "t over 8 sites and 3 years"
        and alike.years == 3
        and "3 years say little" in alike.assumption.detail
    )
    assert median_by_site(values, site, 0.95, year)[0].interval == "Woodruff over 8 sites and 3 years"
    one, details = mean_by_site(values, site, 0.95, np.full(site.size, 2024))
    assert one.interval == "one year" and math.isnan(one.lower)
    assert "nothing of other years" in details.assumption.detail
    assert median_by_site(values, site, 0.95, np.full(site.size, 2024))[0].lower < np.median(values)


def test_a_line_of_any_year_is_wider_where_years_tilt_it() -> None:
    rng = np.random.default_rng(8)
    _, site, year = _caught(rng, 4, 0)
    mm = rng.uniform(200, 600, site.size)
    tilt = rng.normal(0, 0.1, 4)
    mass = 10 ** (-5.4 + (3.1 + tilt[year]) * np.log10(mm) + rng.normal(0, 0.03, site.size))
    over_sites, over_both = (fit_length_mass(mm, mass, sites=site, years=labels) for labels in (None, year))
    assert over_both.b.interval == "t over 8 sites and 4 years" and over_both.b.se > over_sites.b.se
    assert over_both.covariance[0, 0] > 4 * over_sites.covariance[0, 0]  # the height of the line in any year


def test_cells_are_sites_in_years() -> None:
    cell, cells, crossed = cells_of(["b", "a", "b", "b"], [2023, 2024, 2024, 2023], 4)
    assert cells == 3 and crossed is not None
    assert cell.tolist() == [1, 0, 2, 1] and crossed.site.tolist() == [0, 1, 1] and crossed.year.tolist() == [1, 0, 1]
    share, alike = share_by_site([3, 5, 1], [8, 9, 4], crossed=crossed)
    assert share.value == pytest.approx(9 / 21) and (alike.sites, alike.years) == (2, 2)
