"""Cohorts by EM."""

from __future__ import annotations

import itertools
from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import norm

from bench.size import some
from nailwright_core.common.errors import CoreError
from nailwright_core.findings import cohorts
from nailwright_core.findings.board_steps import board_step_mm, heaped_step_mm
from nailwright_core.findings.mixture import Spread
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


def log_likelihood(fit: cohorts.CohortFit, lengths: np.ndarray, step: float) -> float:
    """By SciPy's normal distribution, each reading standing for its step; per mm, as the fit tells it."""
    cuts = np.stack([lengths - step / 2, lengths + step / 2])
    low, high = (fit.shares @ norm.cdf(cut, fit.means[:, None], fit.sds[:, None]) for cut in cuts)
    return float(np.log((high - low) / step).sum())


@pytest.mark.parametrize("spread", ["free", "equal_sd", "constant_cv"])
@pytest.mark.parametrize("step", [1.0, 10.0])
def test_the_end_is_a_maximum_of_the_likelihood_of_intervals(spread: Spread, step: float) -> None:
    lengths = np.round(made_up(800) / step) * step
    fit = fit_cohorts(lengths, k=3, spread=spread)
    assert fit.step_mm == step and fit.converged
    best = log_likelihood(fit, lengths, step)
    assert fit.log_likelihood == pytest.approx(best, abs=1e-3)
    for place in range(3):
        for change in (-0.4, 0.4):
            moved = replace(fit, means=fit.means + change * (np.arange(3) == place))
            assert log_likelihood(moved, lengths, step) < best
            if spread == "free":
                wider = replace(fit, sds=fit.sds + change / 2 * (np.arange(3) == place))
                assert log_likelihood(wider, lengths, step) < best


@pytest.mark.parametrize("step", some([12.7, 10.0, 25.4], 1))
def test_a_coarse_board_invents_no_cohorts(step: float) -> None:
    """One true normal, 200 fish: taken for points, an inch board gave more than one cohort in 97 to 100 of 100."""
    rng = np.random.default_rng(3)
    chosen = [fit_cohorts(np.round(rng.normal(300, 40, 200) / step) * step).k for _ in range(5)]
    assert sum(k > 1 for k in chosen) <= 1


def test_three_cohorts_are_found_on_a_centimetre_board() -> None:
    """Taken for points, in 20 to 38 of 100."""
    fits = [fit_cohorts(np.round(made_up(400, seed) / 10) * 10) for seed in range(4)]
    assert sum(fit.k == 3 for fit in fits) >= 3
    assert all(fit.step_mm == 10 and fit.sds.min() >= 10 for fit in fits)


def test_classes_of_a_frequency_table_are_taken_as_they_are() -> None:
    raw = made_up(3000)
    middles = np.floor(raw / 20) * 20 + 10
    fit = fit_cohorts(middles, k=3, step_mm=20)
    assert fit.step_mm == 20 and fit.means == pytest.approx(fit_cohorts(raw, k=3).means, abs=3)


@pytest.mark.parametrize(
    ("lengths", "step"),
    [
        (np.arange(100, 400.0), 1.0), (np.arange(100, 400.0, 5), 5.0), (np.arange(10, 40.0) * 25.4, 25.4),
        ((np.arange(10, 40.0) * 25.4).round(1), 25.4), (np.arange(20, 80.0) * 12.7, 12.7),
        (np.append(np.arange(100, 900.0, 10), 333), 10.0), (np.random.default_rng(1).uniform(100, 400, 200), 0.0),
    ],
)  # fmt: skip
def test_the_step_of_a_board_is_found(lengths: np.ndarray, step: float) -> None:
    assert board_step_mm(lengths) == step


def test_a_cohort_more_is_never_less_likely_and_starts_say_whether_they_agree() -> None:
    lengths = made_up(1500, 5)
    fits = [fit_cohorts(lengths, k=k) for k in range(1, 5)]
    told = [fit.log_likelihood for fit in fits]
    assert all(more >= fewer - 1e-3 for fewer, more in itertools.pairwise(told))
    assert all(1 <= fit.agree <= fit.starts for fit in fits)


def test_equal_starting_means_give_two_cohorts() -> None:
    fit = fit_cohorts(made_up(), start_means_mm=[200, 200])
    assert fit.means[1] - fit.means[0] > 50


def test_many_fish_do_not_stop_short_of_the_maximum() -> None:
    """The tolerance is absolute: a million fish once stopped 1.25 SE away and said that they had converged."""
    rng = np.random.default_rng(2)
    lengths = np.round(np.concatenate([rng.normal(300, 25, 600_000), rng.normal(350, 30, 400_000)]))
    fit, far = fit_cohorts(lengths, k=2), fit_cohorts(lengths, start_means_mm=[250, 420])
    assert fit.converged and far.converged
    assert np.abs(fit.means - far.means).max() < 0.1 * fit.mean_estimates[0].se


def test_constrained_spreads_are_constrained() -> None:
    equal = fit_cohorts(made_up(), k=3, spread="equal_sd")
    assert equal.sds == pytest.approx(equal.sds[0])
    cv = fit_cohorts(made_up(), k=3, spread="constant_cv")
    assert cv.sds / cv.means == pytest.approx((cv.sds / cv.means)[0])
    free = fit_cohorts(made_up(), k=3)
    assert free.log_likelihood >= max(equal.log_likelihood, cv.log_likelihood)


def test_interval_of_a_mean_covers_as_often_as_it_says() -> None:
    hits = 0
    for seed in range(20):
        fit = fit_cohorts(made_up(600, seed), k=3, start_means_mm=[160, 260, 350])
        hits += fit.mean_estimates[0].lower <= 160 <= fit.mean_estimates[0].upper
    assert 0.85 <= hits / 20 <= 1  # Monte Carlo error 5 %: a smoke; bin/bench coverage has more


def test_interval_of_a_mean_covers_where_cohorts_overlap() -> None:
    """Two cohorts 2.2 SD apart, 400 fish: the normal interval covered 63 to 92 of 100. 20 runs: a smoke; bin/bench coverage has more."""
    held, placed = [], []
    for seed in range(20):
        rng = np.random.default_rng(seed)
        lengths = np.round(np.concatenate([rng.normal(300, 20, 240), rng.normal(344, 20, 160)]))
        fit = fit_cohorts(lengths, start_means_mm=[300, 344], spread="equal_sd")
        for truth, each in zip((300, 344), fit.mean_estimates, strict=True):
            placed.append(np.isfinite([each.lower, each.upper]).all())
            # an end that cannot be placed rules nothing out on its side
            held.append(not each.lower > truth and not each.upper < truth)
    assert 0.91 <= np.mean(held) <= 0.99 and np.mean(placed) > 0.9


def test_a_mean_that_cannot_be_placed_says_so() -> None:
    rng = np.random.default_rng(2)
    fit = fit_cohorts(np.round(rng.normal(300, 30, 60)), k=3)
    named = {each.name: each for each in fit.assumptions}["Each mean can be placed"]
    lost = [each for each in fit.mean_estimates if np.isnan(each.lower) or np.isnan(each.upper)]
    assert (named.verdict == "fails") is bool(lost) and lost


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
        ([300.0, 310.0], {"step_mm": -1}, "step_out_of_range"),
        ([300.0, 310.0], {"step_mm": float("nan")}, "step_out_of_range"),
        ([300.0, 310.0], {"level": 1.0}, "level_out_of_range"),
    ],
)
def test_bad_input_is_refused(lengths: list[float], options: dict[str, object], code: str) -> None:
    with pytest.raises(CoreError) as refused:
        fit_cohorts(lengths, **options)  # type: ignore[arg-type]
    assert refused.value.code == code


def test_a_board_that_a_part_was_read_coarser_on_invents_no_cohorts():
    """Half of the fish to 10 mm, half to 1 mm: taken as millimetres their heaps were six cohorts."""
    for seed in range(4):
        rng = np.random.default_rng(seed)
        lengths = rng.normal(300, 40, 600)
        read = np.where(rng.random(600) < 0.5, (lengths / 10).round() * 10, lengths.round())
        assert heaped_step_mm(read, 1.0) == 10.0 and heaped_step_mm(lengths.round(), 1.0) == 1.0
        fit = fit_cohorts(read)
        assert (fit.k, fit.step_mm, fit.heaped) == (1, 10.0, True)
        assert fit.means[0] == pytest.approx(300, abs=5) and fit.sds[0] == pytest.approx(40, abs=4)
        assert next(each for each in fit.assumptions if each.name == "Lengths are read evenly").verdict == "fails"
    fives = np.where(rng.random(600) < 0.3, (lengths / 5).round() * 5, lengths.round())
    assert heaped_step_mm(fives, 1.0) == 5.0


def test_a_skewed_cohort_that_two_describe_is_doubted():
    rng = np.random.default_rng(4)
    fit = fit_cohorts((150 + rng.gamma(2.0, 30.0, 900)).round())
    normal = next(each for each in fit.assumptions if each.name == "Lengths within a cohort are normal")
    assert fit.k > 1 and min(fit.icl_by_k, key=lambda k: fit.icl_by_k[k]) < fit.k and normal.verdict == "doubtful"
    apart = fit_cohorts(made_up(), k=None)
    assert min(apart.icl_by_k, key=lambda k: apart.icl_by_k[k]) == apart.k


def at_sites(rng, sites, spread=1.0):
    """Two year-classes; what share of a site's fish are young differs from site to site, and so does growth a little."""
    logit = rng.normal(0, spread, sites)
    lengths, of = [], []
    for site in range(sites):
        n = rng.negative_binomial(3, 3 / 33) + 3
        young = rng.random(n) < 1 / (1 + np.exp(-logit[site]))
        lengths.append(np.where(young, rng.normal(180, 16, n), rng.normal(280, 22, n)) + rng.normal(0, 4))
        of.append(np.full(n, site))
    return np.concatenate(lengths).round(), np.concatenate(of)


@pytest.mark.parametrize("sites", some([6, 15], 1))
def test_intervals_of_shares_and_means_hold_over_sites_that_differ(sites):
    """Seeded simulation: by a multinomial of the fish 40 of 100 intervals of the share held the truth. The share is that of all sites' fish
    (1/2 by symmetry); within what 40 tries can tell (3 SE = 10 %; in full: bin/bench coverage)."""
    rng = np.random.default_rng(sites)
    shares, means, naive = [], [], []
    for _ in range(40):
        lengths, of = at_sites(rng, sites)
        fit = fit_cohorts(lengths, start_means_mm=[180, 280], sites=of)
        share, mean = fit.share_estimates[0], fit.mean_estimates[0]
        shares.append(share.lower <= 0.5 <= share.upper)
        means.append(not mean.lower > 180 and not mean.upper < 180)
        over_fish = fit_cohorts(lengths, start_means_mm=[180, 280]).share_estimates[0]
        naive.append(over_fish.lower <= 0.5 <= over_fish.upper)
    assert np.mean(shares) > 0.85 and np.mean(means) > 0.85
    assert np.mean(naive) < 0.75


def test_shares_of_fish_drawn_one_by_one_and_of_one_cohort():
    rng = np.random.default_rng(2)
    fit = fit_cohorts(np.concatenate([rng.normal(160, 10, 120), rng.normal(300, 12, 380)]).round(), k=2)
    young = fit.share_estimates[0]
    assert young.value == pytest.approx(0.24, abs=0.001) and (young.lower, young.upper) == pytest.approx(
        (0.2045, 0.2794), abs=0.002
    )
    assert fit.sites == 0 and fit_cohorts(rng.normal(300, 12, 50).round(), k=1).share_estimates[0].value == 1
    with pytest.raises(CoreError):
        fit_cohorts(made_up(), sites=[1, 2])
