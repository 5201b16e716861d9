"""EM, Kolmogorov-Smirnov, ANCOVA, Kruskal-Wallis and Holm against scikit-learn, SciPy and statsmodels."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pandas as pd
import pytest
import statsmodels.formula.api as smf
from scipy import stats
from sklearn.mixture import GaussianMixture
from statsmodels.stats.anova import anova_lm
from statsmodels.stats.multitest import multipletests

from nailwright_core.common.intervals import bootstrap
from nailwright_core.common.multiple import holm
from nailwright_core.findings.condition import compare_lines, compare_values
from nailwright_core.findings.size_structure import compare_lengths, fit_cohorts


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
    assert (ours.category_chi2, ours.category_p, ours.category_df) == pytest.approx(
        (wanted.statistic, wanted.pvalue, 2)
    )


def test_median_difference_against_scipys_bootstrap() -> None:
    rng = np.random.default_rng(9)
    a, b = rng.normal(300, 40, 90).round(), rng.normal(330, 40, 110).round()
    theirs = stats.bootstrap(
        (b, a), lambda x, y, axis: np.median(x, axis=axis) - np.median(y, axis=axis), method="percentile", rng=rng
    )
    ours = compare_lengths(a, b).median_difference
    assert ours.value == np.median(b) - np.median(a)
    assert (ours.lower, ours.upper) == pytest.approx(tuple(theirs.confidence_interval), abs=3)


def test_bootstrap_of_a_mean_against_t() -> None:
    values = np.random.default_rng(10).normal(100, 15, 200)
    low, high = stats.t.interval(0.95, 199, values.mean(), stats.sem(values))
    ours = bootstrap(values, seed=1)
    assert (ours.lower, ours.upper) == pytest.approx((low, high), abs=0.4)


def groups(slope: float) -> dict[str, tuple[np.ndarray, np.ndarray]]:
    rng = np.random.default_rng(11)
    made = {}
    for place, (name, factor, n) in enumerate((("a", 1.0, 40), ("b", 0.93, 55), ("c", 1.02, 30))):
        mm = rng.uniform(180 + 20 * place, 560, n)
        made[name] = mm, factor * 10 ** (-5.2 + (3.1 + slope * place) * np.log10(mm) + rng.normal(0, 0.03, n))
    return made


@pytest.mark.parametrize("slope", [0.0, 0.12])
def test_ancova_against_statsmodels(slope: float) -> None:
    made = groups(slope)
    table = pd.concat(
        pd.DataFrame({"g": name, "x": np.log10(mm), "y": np.log10(mass)}) for name, (mm, mass) in made.items()
    )
    one, parallel, separate = (smf.ols(f"y ~ {right}", table).fit() for right in ("x", "x + C(g)", "x * C(g)"))
    slopes, heights = anova_lm(parallel, separate).iloc[1], anova_lm(one, parallel).iloc[1]
    ours = compare_lines(made)
    assert (ours.slopes_f, ours.slopes_p) == pytest.approx((slopes["F"], slopes["Pr(>F)"]))
    assert ours.slopes_df == (slopes["df_diff"], slopes["df_resid"])
    assert ours.parallel == (slopes["Pr(>F)"] >= 0.05)
    if not ours.parallel:
        return
    assert (ours.heights_f, ours.heights_p) == pytest.approx((heights["F"], heights["Pr(>F)"]))
    assert ours.common_slope is not None
    assert (ours.common_slope.value, ours.common_slope.se) == pytest.approx((parallel.params["x"], parallel.bse["x"]))
    at = parallel.get_prediction(pd.DataFrame({"g": list(made), "x": np.log10(ours.at_mm)})).summary_frame()
    for place, name in enumerate(made):
        adjusted = ours.adjusted_mass_g[name]
        wanted = at.iloc[place]
        assert np.log10([adjusted.value, adjusted.lower, adjusted.upper]) == pytest.approx(
            [wanted["mean"], wanted["mean_ci_lower"], wanted["mean_ci_upper"]]
        )
    pair = next(each for each in ours.pairs if (each.first, each.second) == ("a", "b"))
    assert pair.p == pytest.approx(parallel.pvalues["C(g)[T.b]"])


def test_kruskal_wallis_and_pairs_against_scipy() -> None:
    rng = np.random.default_rng(12)
    made = {"a": rng.normal(95, 8, 30), "b": rng.normal(90, 8, 40), "c": rng.normal(96, 8, 25)}
    ours = compare_values(made)
    wanted = stats.kruskal(*made.values())
    assert (ours.h, ours.p) == pytest.approx((wanted.statistic, wanted.pvalue))
    raw = [each.p for each in ours.pairs]
    assert raw[0] == pytest.approx(stats.mannwhitneyu(made["a"], made["b"], method="asymptotic").pvalue)
    assert [each.p_holm for each in ours.pairs] == pytest.approx(multipletests(raw, method="holm")[1])


def test_holm_against_statsmodels() -> None:
    p = np.random.default_rng(13).uniform(0, 0.3, 12)
    assert holm(p) == pytest.approx(multipletests(p, method="holm")[1])
