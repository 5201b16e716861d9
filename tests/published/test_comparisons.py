"""EM, Kolmogorov-Smirnov, shifts, lines, sites and Holm against scikit-learn, SciPy and statsmodels."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pandas as pd
import pytest
import statsmodels.api as sm
import statsmodels.formula.api as smf
from scipy import stats
from sklearn.mixture import GaussianMixture
from statsmodels.stats.multitest import multipletests

from nailwright_core.common.by_site import mean_by_site
from nailwright_core.common.multiple import holm
from nailwright_core.findings.condition import fit_length_mass
from nailwright_core.findings.line_comparison import compare_lines
from nailwright_core.findings.selectivity import relative_selectivity
from nailwright_core.findings.shift import shift
from nailwright_core.findings.size_structure import compare_lengths, fit_cohorts
from nailwright_core.findings.value_comparison import compare_values, mean_difference


def cohorts(seed: int) -> np.ndarray:
    rng = np.random.default_rng(seed)
    return np.concatenate([rng.normal(150, 12, 400), rng.normal(240, 16, 250), rng.normal(320, 20, 150)])


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize(
    ("k", "spread", "covariance"), [(2, "free", "full"), (3, "free", "full"), (3, "equal_sd", "tied")]
)
def test_em_on_raw_lengths_against_scikit_learn(seed: int, k: int, spread: str, covariance: str) -> None:
    lengths = cohorts(seed)
    theirs = GaussianMixture(
        k, covariance_type=covariance, tol=1e-10, max_iter=5000, n_init=10, reg_covar=0, random_state=0
    )
    theirs.fit(lengths[:, None])
    ours = fit_cohorts(lengths, k=k, spread=spread)  # type: ignore[arg-type]
    order = np.argsort(theirs.means_.ravel())
    assert ours.means == pytest.approx(theirs.means_.ravel()[order], rel=2e-3)
    assert ours.shares == pytest.approx(theirs.weights_[order], abs=2e-3)
    variances = (
        theirs.covariances_.ravel()[order] if covariance == "full" else np.repeat(theirs.covariances_.ravel(), k)
    )
    assert ours.sds == pytest.approx(np.sqrt(variances), rel=5e-3)
    assert ours.log_likelihood == pytest.approx(theirs.score(lengths[:, None]) * lengths.size, abs=0.05)
    assert ours.bic == pytest.approx(theirs.bic(lengths[:, None]), abs=0.1)


@pytest.mark.parametrize(("n_a", "n_b", "shift"), [(2, 3, 60), (35, 45, 22), (200, 150, 9), (900, 1300, 6)])
def test_ks_distance_and_p_against_scipy(n_a: int, n_b: int, shift: float) -> None:
    """Without ties the counted permutations give SciPy's exact p."""
    rng = np.random.default_rng(7)
    a, b = rng.normal(300, 40, n_a), rng.normal(300 + shift, 40, n_b)
    theirs = stats.ks_2samp(a, b, method="exact")
    ours = compare_lengths(a, b)
    assert ours.ks == pytest.approx(theirs.statistic)
    assert ours.ks_p == pytest.approx(theirs.pvalue, rel=1e-6) and not ours.ks_p_at_most


def test_ks_with_ties_against_every_permutation() -> None:
    """Few enough fish to write all permutations down."""
    a, b = [300.0, 300, 310, 320, 320], [310.0, 320, 320, 330, 330, 330]
    pooled = np.array([*a, *b])
    values = np.unique(pooled)

    def distance(chosen: tuple[int, ...]) -> float:
        first = np.zeros(pooled.size, dtype=bool)
        first[list(chosen)] = True
        return float(max(abs(np.mean(pooled[first] <= v) - np.mean(pooled[~first] <= v)) for v in values))

    seen = distance(tuple(range(len(a))))
    every = [distance(chosen) for chosen in combinations(range(pooled.size), len(a))]
    assert compare_lengths(a, b).ks_p == pytest.approx(np.mean([each >= seen - 1e-12 for each in every]), abs=1e-12)


def test_ks_with_ties_against_scipys_permutation_test() -> None:
    rng = np.random.default_rng(8)
    a, b = rng.normal(300, 40, 40).round(-1), rng.normal(318, 40, 50).round(-1)
    theirs = stats.permutation_test(
        (a, b),
        lambda x, y: stats.ks_2samp(x, y, method="asymp").statistic,
        n_resamples=999,
        alternative="greater",
        rng=rng,
    )
    assert compare_lengths(a, b).ks_p == pytest.approx(theirs.pvalue, abs=0.05)


def test_categories_against_scipy() -> None:
    a, b = np.repeat([200.0, 300, 400], [10, 20, 30]), np.repeat([200.0, 300, 400], [20, 20, 20])
    wanted = stats.chi2_contingency([[10, 20, 30], [20, 20, 20]], correction=False)
    ours = compare_lengths(a, b, categories={"stock": 250, "quality": 380})
    assert (ours.category_chi2, ours.category_p) == pytest.approx((wanted.statistic, wanted.pvalue))


@pytest.mark.parametrize(("n_a", "n_b"), [(5, 6), (12, 9), (3, 20)])
def test_shift_by_brute_force_and_against_scipys_exact_test(n_a: int, n_b: int) -> None:
    """The median of all differences; and a shift lies in the interval just as long as SciPy's exact test does not refute it."""
    rng = np.random.default_rng(9)
    a, b = rng.normal(300, 40, n_a), rng.normal(330, 40, n_b)
    ours, p = shift(a, b)
    every = np.sort(np.subtract.outer(b, a).ravel())
    assert ours.value == pytest.approx(np.median(every))
    assert p == pytest.approx(stats.mannwhitneyu(a, b, method="exact").pvalue)
    for end, outward in ((ours.lower, -1e-6), (ours.upper, 1e-6)):
        inside, outside = (stats.mannwhitneyu(a, b - end + sign * outward, method="exact").pvalue for sign in (1, -1))
        assert outside <= 0.05 < inside


def test_too_few_fish_refute_no_shift() -> None:
    """Three against three give no exact p below 0.1."""
    ours, p = shift([300.0, 310, 320], [400.0, 410, 430])
    assert (ours.lower, ours.upper) == (-np.inf, np.inf)
    assert p == pytest.approx(stats.mannwhitneyu([300, 310, 320], [400, 410, 430], method="exact").pvalue)


def test_shift_of_many_tied_lengths_by_brute_force() -> None:
    rng = np.random.default_rng(10)
    a, b = rng.normal(300, 40, 1400).round(), rng.normal(306, 40, 1100).round()
    ours, p = shift(a, b)
    every = np.subtract.outer(b, a).ravel()
    assert ours.value == np.median(every)
    assert p == pytest.approx(stats.mannwhitneyu(a, b, method="asymptotic").pvalue)
    for end, outward in ((ours.lower, -1.0), (ours.upper, 1.0)):
        inside, outside = (
            stats.mannwhitneyu(a, b - end - step, method="asymptotic").pvalue for step in (-outward, 1.5 * outward)
        )
        assert outside <= 0.05 < inside
    assert 4 < ours.upper - ours.lower < 8


def groups(slope: float) -> dict[str, tuple[np.ndarray, np.ndarray]]:
    rng = np.random.default_rng(11)
    made = {}
    for place, (name, factor, n) in enumerate((("a", 1.0, 40), ("b", 0.93, 55), ("c", 1.02, 30))):
        mm = rng.uniform(180 + 20 * place, 560, n)
        made[name] = mm, factor * 10 ** (-5.2 + (3.1 + slope * place) * np.log10(mm) + rng.normal(0, 0.03, n))
    return made


@pytest.mark.parametrize("slope", [0.0, 0.12])
def test_lines_against_statsmodels_hc3(slope: float) -> None:
    made = groups(slope)
    ours = compare_lines(made)
    centre = np.log10(ours.at_mm[1])
    table = pd.concat(
        pd.DataFrame({"g": name, "x": np.log10(mm) - centre, "y": np.log10(mass)}) for name, (mm, mass) in made.items()
    )
    for name, rows in table.groupby("g"):
        theirs = smf.ols("y ~ x", rows).fit(cov_type="HC3")
        assert (ours.slopes[name].value, ours.slopes[name].se) == pytest.approx((theirs.params["x"], theirs.bse["x"]))
        middle = ours.masses[name][1]
        assert (np.log10(middle.value), middle.se / middle.value / np.log(10)) == pytest.approx(
            (theirs.params["Intercept"], theirs.bse["Intercept"])
        )
    pair = next(each for each in ours.pairs if (each.first, each.second) == ("a", "b"))
    two = table[table.g.isin(["a", "b"])]
    wald = (
        smf.ols("y ~ x * C(g)", two)
        .fit(cov_type="HC3")
        .wald_test("C(g)[T.b] = 0, x:C(g)[T.b] = 0", scalar=True, use_f=True)
    )
    freedom = pair.df[1] + 1
    assert pair.f * freedom / (freedom - 1) == pytest.approx(wald.statistic)  # Hotelling's factor for few fish


def sites_of(n: int, many: int) -> np.ndarray:
    return np.random.default_rng(14).integers(0, many, n)


def test_lines_over_sites_against_statsmodels_leaving_out_one_after_the_other() -> None:
    made = groups(0.12)
    sites = {name: sites_of(mm.size, 9) for name, (mm, _) in made.items()}
    table = pd.concat(
        pd.DataFrame({"g": name, "x": np.log10(mm), "y": np.log10(mass), "site": sites[name]})
        for name, (mm, mass) in made.items()
        if name != "c"
    )
    ours = compare_lines(made, sites=sites)
    pair = next(each for each in ours.pairs if (each.first, each.second) == ("a", "b"))

    def difference(rows: pd.DataFrame, at_mm: float) -> float:
        params = smf.ols("y ~ x * C(g)", rows).fit().params
        return float(params["C(g)[T.b]"] + params["x:C(g)[T.b]"] * np.log10(at_mm))

    for at, found in zip(ours.at_mm, pair.differences, strict=True):
        whole = difference(table, at)
        off = np.array([difference(table[table.site != site], at) for site in range(9)]) - whole
        se = np.sqrt(8 / 9 * (off**2).sum())
        half = stats.t.ppf(0.975, 8) * se  # the same nine sites hold fish of both
        assert np.log10(1 + np.array([found.value, found.lower, found.upper]) / 100) == pytest.approx(
            [whole, whole - half, whole + half]
        )
    one = fit_length_mass(*made["a"], sites=sites["a"])
    rows = pd.DataFrame({"x": np.log10(made["a"][0]), "y": np.log10(made["a"][1]), "site": sites["a"]})
    slopes = [smf.ols("y ~ x", rows[rows.site != site]).fit().params["x"] for site in range(9)]
    assert one.b.se == pytest.approx(np.sqrt(8 / 9 * ((np.array(slopes) - one.b.value) ** 2).sum()))
    # one step from statsmodels' own covariance by cluster, which errs to the other side with few of them
    theirs = smf.ols("y ~ x", rows).fit(cov_type="cluster", cov_kwds={"groups": rows.site})
    assert theirs.bse["x"] < one.b.se < 1.6 * theirs.bse["x"]


def test_intraclass_correlation_against_statsmodels_mixed_model() -> None:
    """With as many fish at each site the analysis of variance and REML give the same."""
    rng = np.random.default_rng(15)
    site = np.repeat(np.arange(15), 12)
    values = rng.normal(0, 5, 15)[site] + rng.normal(90, 8, site.size)
    theirs = smf.mixedlm("y ~ 1", pd.DataFrame({"y": values, "site": site}), groups="site").fit(reml=True)
    of_site, of_fish = float(theirs.cov_re.iloc[0, 0]), float(theirs.scale)
    ours, alike = mean_by_site(values, site)
    assert alike.icc == pytest.approx(of_site / (of_site + of_fish), rel=1e-3)
    assert ours.se == pytest.approx(theirs.bse_fe["Intercept"], rel=1e-3)
    assert alike.design_effect == pytest.approx(1 + 11 * alike.icc, rel=0.1)


def test_pairs_of_values_against_scipy() -> None:
    rng = np.random.default_rng(12)
    made = {"a": rng.normal(95, 8, 30), "b": rng.normal(90, 8, 40), "c": rng.normal(96, 8, 25)}
    ours = compare_values(made)
    for pair in ours:
        wanted = stats.mannwhitneyu(made[pair.first], made[pair.second], method="exact")
        assert pair.p == pytest.approx(wanted.pvalue)
    welch = stats.ttest_ind(made["b"], made["a"], equal_var=False)
    low, high = welch.confidence_interval()
    found, p = mean_difference(made["a"], made["b"])
    assert (found.lower, found.upper, p) == pytest.approx((low, high, welch.pvalue))


def test_holm_against_statsmodels() -> None:
    p = np.random.default_rng(13).uniform(0, 0.3, 12)
    assert holm(p) == pytest.approx(multipletests(p, method="holm")[1])


def test_relative_selectivity_against_statsmodels() -> None:
    rng = np.random.default_rng(16)
    lengths = rng.uniform(200, 600, 900)
    of_first = rng.random(900) < 1 / (1 + np.exp(-(lengths - 380) / 70))
    site = rng.integers(0, 10, 900)
    ours = relative_selectivity(lengths[of_first], lengths[~of_first], 2.0, (site[of_first], site[~of_first]))
    assert ours.degree == 3
    low, high = ours.span_mm
    z = 2 * (np.clip(lengths, low, high) - low) / (high - low) - 1
    design = np.polynomial.chebyshev.chebvander(z, 3)
    theirs = sm.GLM(of_first.astype(float), design, sm.families.Binomial(), offset=np.full(900, np.log(2.0))).fit(
        cov_type="cluster", cov_kwds={"groups": site, "use_correction": False}
    )
    assert ours.coefficients == pytest.approx(theirs.params, abs=1e-6)
    assert ours.covariance == pytest.approx(10 / 9 * theirs.cov_params(), rel=1e-5)
