"""What estimators share, tried on models whose answers are known by other ways."""

from __future__ import annotations

import math

import numpy as np
import pytest
import statsmodels.api as sm
from scipy import optimize, special, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.fitting.binomial import fit_binomial
from nailwright_core.fitting.comparison import aicc, bic, model_table
from nailwright_core.fitting.coverage import coverage, of_model
from nailwright_core.fitting.maximum import Fit, maximise
from nailwright_core.fitting.model import Model, Parameter
from nailwright_core.fitting.profile import ends_of_one, profile_interval


def share(hits: int, n: int, gradient: bool = True) -> Model:
    """A chance from hits of n."""
    return Model(
        "one chance",
        (Parameter("chance", 0, 1, "logit"),),
        lambda v: float(special.xlogy(hits, v[0]) + special.xlogy(n - hits, 1 - v[0])),
        starts=((0.3,), (0.7,)),
        n=n,
        gradient=(lambda v: np.array([hits / v[0] - (n - hits) / (1 - v[0])])) if gradient else None,
        simulate=lambda v, rng: share(int(rng.binomial(n, v[0])), n),
    )


def normal(values: np.ndarray, common_sd: float | None = None) -> Model:
    """Mean and SD of values, or the mean alone with a known SD."""

    def log_likelihood(v: np.ndarray) -> float:
        return float(stats.norm.logpdf(values, v[0], common_sd or v[1]).sum())

    both = (Parameter("mean"), Parameter("SD", 0, math.inf, "log"))
    some = both[:1] if common_sd else both
    start = (float(values[0]), 1.0)[: len(some)]
    return Model("known SD" if common_sd else "mean and SD", some, log_likelihood, (start,), values.size)


@pytest.mark.parametrize("gradient", [False, True])
def test_a_chance_has_its_share_and_the_profile_of_the_binomial(gradient: bool) -> None:
    fit = maximise(share(7, 20, gradient))
    assert fit.value("chance") == pytest.approx(0.35, abs=1e-5) and fit.converged and fit.agree == fit.starts == 2
    found = profile_interval(fit, "chance")
    best = stats.binom.logpmf(7, 20, 0.35)

    def off(p: float) -> float:
        return float(2 * (best - stats.binom.logpmf(7, 20, p)) - stats.chi2.ppf(0.95, 1))

    assert (found.lower, found.upper) == pytest.approx(
        (optimize.brentq(off, 0.01, 0.35), optimize.brentq(off, 0.35, 0.99)), abs=2e-3
    )
    assert fit.wald("chance").se == pytest.approx(math.sqrt(0.35 * 0.65 / 20), rel=1e-3)


def test_the_search_of_one_parameter_gives_the_same_ends() -> None:
    fit = maximise(share(7, 20))
    wide = profile_interval(fit, "chance")
    best, low, high = ends_of_one(lambda p: float(stats.binom.logpmf(7, 20, p)), 1e-6, 1 - 1e-6, 0.95)
    assert best == pytest.approx(0.35, abs=1e-4)
    assert low is not None and high is not None
    assert (low, high) == pytest.approx((wide.lower, wide.upper), abs=2e-3)
    assert ends_of_one(lambda p: -p, 1e-6, 1 - 1e-6, 0.95)[1:] == (None, None)  # never falls far enough


@pytest.mark.parametrize(("hits", "end"), [(0, 0), (12, 1)])
def test_a_chance_at_its_bound_is_named_and_keeps_the_other_end(hits: int, end: int) -> None:
    fit = maximise(share(hits, 12))
    assert fit.at_bound == ("chance",) and fit.confounded == ()
    found = profile_interval(fit, "chance")
    assert (found.lower, found.upper)[end] == pytest.approx(end, abs=1e-3)
    # the fall of n ln(1 - p) by half of chi-square
    inner = 1 - math.exp(-stats.chi2.ppf(0.95, 1) / 2 / 12)
    assert abs((found.lower, found.upper)[1 - end] - end) == pytest.approx(inner, abs=3e-3)


def test_two_chances_of_which_only_the_product_is_told_are_named() -> None:
    """As the last survival and the last chance of capture of a series of releases."""

    def log_likelihood(v: np.ndarray) -> float:
        met = v[0] * v[1]
        return float(
            special.xlogy(30, v[2]) + special.xlogy(20, 1 - v[2]) + special.xlogy(18, met) + special.xlogy(32, 1 - met)
        )

    names = ("last survival", "last chance of capture", "survival before")
    model = Model(
        "time on both", tuple(Parameter(name, 0, 1, "logit") for name in names), log_likelihood, ((0.6, 0.5, 0.5),), 100
    )
    fit = maximise(model)
    assert set(fit.confounded) == {"last survival", "last chance of capture"} and fit.at_bound == ()
    assert fit.parameters == 2  # two things are told of three
    assert fit.value("last survival") * fit.value("last chance of capture") == pytest.approx(0.36, abs=1e-3)
    assert math.isnan(fit.wald("last survival").lower) and fit.wald("survival before").lower == pytest.approx(
        0.459, abs=0.002
    )


def test_three_of_which_only_the_product_is_told_cost_one_parameter() -> None:
    names = ("a", "b", "c")

    def log_likelihood(v: np.ndarray) -> float:
        met = float(np.prod(v))
        return float(special.xlogy(18, met) + special.xlogy(32, 1 - met))

    parts = tuple(Parameter(name, 0, 1, "logit") for name in names)
    fit = maximise(Model("product", parts, log_likelihood, ((0.7, 0.7, 0.7),), 50))
    assert set(fit.confounded) == set(names) and (fit.flat, fit.parameters) == (2, 1)


def test_a_parameter_that_the_data_do_not_touch_is_named_and_costs_nothing() -> None:
    told = Model(
        "idle", (Parameter("chance", 0, 1, "logit"), Parameter("idle")),
        lambda v: float(special.xlogy(7, v[0]) + special.xlogy(13, 1 - v[0])), ((0.4, 2.0),), 20,
    )  # fmt: skip
    fit = maximise(told)
    assert fit.confounded == ("idle",) and fit.parameters == 1


def test_a_mean_in_grams_is_not_flat_for_its_unit() -> None:
    values = np.random.default_rng(8).normal(50_000, 20_000, 10)
    fit = maximise(normal(values, 20_000.0))
    assert fit.confounded == () and fit.parameters == 1
    assert fit.wald("mean").se == pytest.approx(20_000 / math.sqrt(10), rel=1e-2)


def test_a_value_at_a_bound_of_its_own_has_that_as_an_end() -> None:
    values = np.array([1.0, 2.0, 3.0])
    model = Model(
        "held", (Parameter("mean", -10, 1.5),), lambda v: float(stats.norm.logpdf(values, v[0], 1).sum()), ((0.0,),), 3
    )
    fit = maximise(model)
    found = profile_interval(fit, "mean")
    assert fit.at_bound == ("mean",) and found.upper == 1.5
    # 3 / 2 ((2 - m)^2 - 0.5^2) = chi-square / 2
    assert found.lower == pytest.approx(2 - math.sqrt(stats.chi2.ppf(0.95, 1) / 3 + 0.25), abs=0.01)


def test_normal_values_have_their_mean_and_the_t_like_profile() -> None:
    values = np.random.default_rng(3).normal(310, 24, 30)
    fit = maximise(normal(values))
    assert (fit.value("mean"), fit.value("SD")) == pytest.approx((values.mean(), values.std()), rel=1e-3)
    found = profile_interval(fit, "mean")
    # exact: n ln(1 + d^2 / s^2) = chi-square
    reach = values.std() * math.sqrt(math.exp(stats.chi2.ppf(0.95, 1) / 30) - 1)
    assert (found.lower, found.upper) == pytest.approx((values.mean() - reach, values.mean() + reach), abs=0.1)


def test_models_are_compared_by_aicc_with_weights() -> None:
    values = np.random.default_rng(4).normal(310, 24, 30)
    wrong, right, wide = maximise(normal(values, 60.0)), maximise(normal(values, 24.0)), maximise(normal(values))
    table = model_table([wrong, right, wide])
    assert [row.name for row in table] == ["known SD", "mean and SD", "known SD"]
    assert table[0].delta == 0 and sum(row.weight for row in table) == pytest.approx(1)
    assert table[1].weight / table[0].weight == pytest.approx(math.exp(-table[1].delta / 2))
    assert aicc(-100.0, 3, 20) == pytest.approx(206 + 24 / 16) and math.isinf(aicc(-1.0, 5, 6))
    assert bic(-100.0, 3, 20) == pytest.approx(200 + 3 * math.log(20))
    with pytest.raises(CoreError, match="same observations"):
        model_table([right, maximise(share(3, 9))])


def test_a_model_that_the_data_contradict_is_refused() -> None:
    never = Model("never", (Parameter("x"),), lambda v: -math.inf, ((0.0,),), 3)
    with pytest.raises(CoreError, match="no start"):
        maximise(never)


def test_binomial_regression_is_that_of_statsmodels() -> None:
    rng = np.random.default_rng(5)
    design = np.column_stack([np.ones(200), rng.normal(size=200)])
    hit = (rng.random(200) < special.expit(0.3 + design @ [0.5, -1.2])).astype(float)
    ours = fit_binomial(design, hit, offset=0.3)
    theirs = sm.GLM(hit, design, family=sm.families.Binomial(), offset=np.full(200, 0.3)).fit()
    assert ours.coefficients == pytest.approx(theirs.params, abs=1e-8)
    assert np.sqrt(np.diag(np.linalg.inv(ours.information))) == pytest.approx(theirs.bse, rel=1e-6)
    assert ours.log_likelihood == pytest.approx(theirs.llf)


def test_coverage_of_the_profile_of_a_chance_is_near_its_level() -> None:
    """The exact coverage at n = 40, p = 0.3 by the sum over all outcomes, beside that by simulation."""
    ends = [profile_interval(maximise(share(hits, 40)), "chance") for hits in range(41)]
    exact = sum(
        float(stats.binom.pmf(hits, 40, 0.3)) for hits, each in enumerate(ends) if each.lower <= 0.3 <= each.upper
    )
    found = coverage(of_model(share(12, 40), [0.3], "chance", profile_interval), 200, np.random.default_rng(6))
    assert 0.93 < exact < 0.97 and found.answered == found.surveys == 200
    assert abs(found.share - exact) < 4 * found.error


def test_a_survey_that_is_refused_does_not_count() -> None:
    def survey(rng: np.random.Generator) -> tuple[float, float, float] | None:
        if rng.random() < 0.5:
            raise CoreError("no_fish", "No fish.")
        return (0.0, 1.0, 0.5) if rng.random() < 0.5 else None

    found = coverage(survey, 100, np.random.default_rng(7))
    assert found.share == 1 and 10 < found.answered < 50


def test_wald_of_a_fit_without_curvature_says_nothing() -> None:
    fit: Fit = maximise(share(7, 20), curvature=False)
    assert np.isnan(fit.covariance).all() and math.isnan(fit.wald("chance").lower)
