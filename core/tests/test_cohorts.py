"""Cohorts by EM."""

from __future__ import annotations

import numpy as np
import pytest

from nailwright_core.common.errors import CoreError
from nailwright_core.findings import cohorts
from nailwright_core.findings.size_structure import fit_cohorts

TRUE = ((160.0, 12.0, 0.5), (260.0, 18.0, 0.3), (350.0, 24.0, 0.2))


def made_up(n: int = 3000, seed: int = 1) -> np.ndarray:
    rng = np.random.default_rng(seed)
    parts = [rng.normal(mean, sd, round(n * share)) for mean, sd, share in TRUE]
    return np.concatenate(parts).round()


def test_true_cohorts_are_found_and_counted_by_bic() -> None:
    fit = fit_cohorts(made_up())
    assert fit.k == 3 and fit.converged and fit.separated.all()
    assert fit.means == pytest.approx([mean for mean, _, _ in TRUE], abs=3)
    assert fit.sds == pytest.approx([sd for _, sd, _ in TRUE], rel=0.12)
    assert fit.shares == pytest.approx([share for _, _, share in TRUE], abs=0.03)
    assert fit.n_each.sum() == pytest.approx(fit.n)
    assert min(fit.bic_by_k, key=lambda k: fit.bic_by_k[k]) == 3 and set(fit.bic_by_k) == {1, 2, 3, 4, 5, 6}


@pytest.mark.parametrize("spread", ["free", "equal_sd", "constant_cv"])
def test_the_likelihood_never_falls(spread: str) -> None:
    x, counts = np.unique(made_up(400), return_counts=True)
    weight = counts.astype(float)
    mixture = cohorts._initial(x, weight, np.array([180.0, 220.0, 400.0]))
    before = -np.inf
    for _ in range(60):
        density = cohorts._weighted_density(x, mixture)
        now = float(weight @ np.log(density.sum(axis=0)))
        assert now >= before - 1e-8 * abs(now)
        before = now
        mixture = cohorts._maximise(x, density / density.sum(axis=0) * weight, mixture, spread)


def test_constrained_spreads_are_constrained() -> None:
    equal = fit_cohorts(made_up(), k=3, spread="equal_sd")
    assert equal.sds == pytest.approx(equal.sds[0])
    cv = fit_cohorts(made_up(), k=3, spread="constant_cv")
    assert cv.sds / cv.means == pytest.approx((cv.sds / cv.means)[0])
    free = fit_cohorts(made_up(), k=3)
    assert free.log_likelihood >= max(equal.log_likelihood, cv.log_likelihood)


def test_interval_of_a_mean_covers_as_often_as_it_says() -> None:
    hits = 0
    for seed in range(150):
        fit = fit_cohorts(made_up(600, seed), k=3, start_means_mm=[160, 260, 350])
        hits += fit.mean_estimates[0].lower <= 160 <= fit.mean_estimates[0].upper
    assert 0.90 <= hits / 150 <= 0.99


def test_same_seed_same_answer_and_dragged_starts_are_taken() -> None:
    lengths = made_up(800)
    assert fit_cohorts(lengths, seed=4).means.tolist() == fit_cohorts(lengths, seed=4).means.tolist()
    dragged = fit_cohorts(lengths, start_means_mm=[350, 155])
    assert dragged.k == 2 and dragged.means[0] < dragged.means[1]


def test_modes_that_cannot_be_told_apart_are_named() -> None:
    rng = np.random.default_rng(2)
    blurred = np.concatenate([rng.normal(300, 30, 500), rng.normal(330, 30, 500)])
    fit = fit_cohorts(blurred, k=2, spread="equal_sd")
    assert not fit.separated[0] and fit.assumptions[0].verdict == "doubtful"


def test_density_integrates_to_the_shares() -> None:
    fit = fit_cohorts(made_up(), k=3)
    at = np.linspace(1, 700, 7000)
    assert np.trapezoid(fit.density(at), at, axis=1) == pytest.approx(fit.shares, abs=1e-4)


@pytest.mark.parametrize(
    ("lengths", "options", "code"),
    [
        ([], {}, "no_lengths"),
        ([100.0, -1.0], {}, "length_not_positive"),
        ([100.0, np.nan], {}, "length_not_positive"),
        ([300.0] * 50, {}, "lengths_all_equal"),
        ([300.0, 310.0], {"k": 2}, "too_few_lengths"),
        ([300.0, 310.0], {"k": 0}, "cohorts_out_of_range"),
        ([300.0, 310.0], {"k": 7}, "cohorts_out_of_range"),
        ([300.0, 310.0], {"spread": "wide"}, "spread_unknown"),
    ],
)
def test_bad_input_is_refused(lengths: list[float], options: dict[str, object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        fit_cohorts(lengths, **options)  # type: ignore[arg-type]
    assert refused.value.code == code
