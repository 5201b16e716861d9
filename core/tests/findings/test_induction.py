"""Induction time by temperature, and least squares against statsmodels."""

from __future__ import annotations

import numpy as np
import pytest
from statsmodels.api import OLS, add_constant

from nailwright_core.common.errors import CoreError
from nailwright_core.findings.induction import induction_by_temperature, induction_sentence
from nailwright_core.fitting.least_squares import least_squares


def test_least_squares_against_statsmodels():
    rng = np.random.default_rng(5)
    x = add_constant(rng.normal(size=(20, 2)))
    y = x @ [1.0, 2.0, -0.5] + rng.normal(0, 0.3, 20)
    found, wanted = least_squares(x, y), OLS(y, x).fit()
    assert found.params == pytest.approx(wanted.params)
    assert found.residual_sd == pytest.approx(np.sqrt(wanted.mse_resid))
    for place in range(3):
        assert (found.estimate(place, 0.9).lower, found.estimate(place, 0.9).upper) == pytest.approx(
            tuple(wanted.conf_int(0.1)[place])
        )
    at = np.array([[1.0, 0.2, 0.3], [1.0, -2.0, 0.0]])
    frame = wanted.get_prediction(at).summary_frame(alpha=0.05)
    for mine, name in zip(found.mean_at(at), ("mean", "mean_ci_lower", "mean_ci_upper"), strict=True):
        assert mine == pytest.approx(frame[name].to_numpy())


@pytest.mark.parametrize(("design", "code"), [(np.ones((2, 2)), "too_few_rows"), (np.ones((5, 2)), "columns_alike")])
def test_what_cannot_be_fitted(design, code):
    with pytest.raises(CoreError) as refused:
        least_squares(design, np.arange(len(design), dtype=float))
    assert refused.value.code == code


PER_10C = 0.55


def evening_after_evening(rng, baths):
    """Baths of unlike temperature and very unlike numbers of fish, each with a hand of its own."""
    fish = rng.integers(1, 25, baths)
    at = rng.uniform(4, 18, baths)
    bath = np.repeat(np.arange(baths), fish)
    log = 2.3 + np.log10(PER_10C) / 10 * at + rng.normal(0, 0.08, baths)
    seconds = np.maximum(1, np.round(10 ** (log[bath] + rng.normal(0, 0.12, len(bath)))))
    return seconds, np.ones(len(bath), bool), at[bath], np.full(len(bath), 60.0), bath


def test_the_interval_holds_what_it_says_where_baths_differ():
    """Seeded simulation with 4 to 12 baths of 1 to 24 fish: 95 % hold the truth within what 200 tries can tell (3 SE = 4.7 %)."""
    rng = np.random.default_rng(17)
    found = []
    while len(found) < 200:
        evening = evening_after_evening(rng, int(rng.integers(4, 13)))
        if np.ptp(evening[2]) >= 2:
            found.append(induction_by_temperature(*evening).per_10c)
    assert np.mean([each.lower <= PER_10C <= each.upper for each in found]) == pytest.approx(0.95, abs=0.047)


def test_more_fish_of_the_same_baths_say_hardly_more():
    evening = evening_after_evening(np.random.default_rng(2), 6)
    at, bath = evening[2], evening[4]
    once = induction_by_temperature(*evening)
    many = induction_by_temperature(*(np.concatenate([each] * 10) for each in evening))
    assert many.per_10c.upper / many.per_10c.lower > 0.8 * once.per_10c.upper / once.per_10c.lower
    assert many.n == 10 * once.n
    coldest_first = np.argsort([at[bath == each][0] for each in range(6)])
    assert [each.n for each in once.baths] == [int(np.sum(bath == each)) for each in coldest_first]
    assert sorted(each.temperature_c for each in once.baths) == [each.temperature_c for each in once.baths]


def test_it_says_what_it_found_and_what_it_could_not():
    rng = np.random.default_rng(3)
    found = induction_by_temperature(*evening_after_evening(rng, 12))
    assert "times as long" in induction_sentence(
        found, "surgery"
    ) and f"{found.n} fish in 12 baths" in induction_sentence(found, "surgery")
    assert found.assumptions[0].verdict == "not refuted"
    _, lay, at, _, bath = evening_after_evening(rng, 5)
    flat = induction_by_temperature(
        np.where(bath % 2, 90.0, 150.0) + bath, lay, at, np.where(bath % 2, 60.0, 100.0), bath
    )
    assert "do not show yet" in induction_sentence(flat, "surgery") and flat.assumptions[0].verdict == "doubtful"


@pytest.mark.parametrize(
    ("change", "code"),
    [(lambda s, u, t, m, b: (s, u, t, m, b * 0), "too_few_baths"), (lambda s, u, t, m, b: (s, u, t * 0, m, b), "temperatures_alike"),
     (lambda s, u, t, m, b: (s * 0, u, t, m, b), "times_out_of_range"), (lambda s, u, t, m, b: (s, ~u, t, m, b), "too_few_baths"),
     (lambda s, u, t, m, b: (s, u, t * np.nan, m, b), "number_out_of_range")],
)  # fmt: skip
def test_what_it_refuses(change, code):
    with pytest.raises(CoreError) as refused:
        induction_by_temperature(*change(*evening_after_evening(np.random.default_rng(4), 6)))
    assert refused.value.code == code


def test_a_bath_in_which_half_were_seen_up_to_the_end_has_no_median():
    seconds, lay, at, mg_l, bath = evening_after_evening(np.random.default_rng(9), 6)
    biggest = int(np.argmax(np.bincount(bath)))
    lay = lay & ~((bath == biggest) & (np.arange(len(bath)) % 4 > 0))
    found = induction_by_temperature(seconds, lay, at, mg_l, bath)
    ours = next(each for each in found.baths if each.n == np.bincount(bath)[biggest])
    assert ours.median_s is None and ours.still_up == found.still_up == np.sum(~lay)
    assert f"{found.still_up} of them still upright when last seen" in induction_sentence(found, "surgery")
