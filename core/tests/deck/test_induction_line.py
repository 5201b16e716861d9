"""Induction time by strength: against other libraries, and by simulated evenings with baths that differ and fish seen up to the end."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from bench.size import some
from nailwright_core.common.errors import CoreError
from nailwright_core.deck.baths import induction_line
from nailwright_core.fitting.censored import censored_line
from nailwright_core.fitting.least_squares import least_squares

SLOPE, GOAL_S = -1.2, 180.0
TRUTH = 10 ** ((4.4 - np.log10(GOAL_S)) / 1.2)


def evenings(rng, baths, watched_s, between=0.04, within=0.08):
    """Baths of 2 to 14 fish at four strengths; who does not lie still while watched is seen up to the end."""
    strength = rng.permutation(np.resize([50.0, 65.0, 80.0, 100.0], baths))
    bath = np.repeat(np.arange(baths), rng.integers(2, 15, baths))
    time = 10 ** (4.4 + SLOPE * np.log10(strength) + rng.normal(0, between, baths))[bath] * 10 ** rng.normal(
        0, within, len(bath)
    )
    until = watched_s * 10 ** rng.normal(0, 0.05, len(bath))
    return strength[bath], np.minimum(time, until), time <= until, bath


def line_of(fish):
    return induction_line(*fish, np.full(len(fish[0]), np.nan), GOAL_S, 40, 150)


def test_without_clusters_the_censored_mean_is_that_of_scipy():
    """One value a cluster leaves no cluster to tell: SciPy's fit of a normal to right-censored data is the same likelihood."""
    rng = np.random.default_rng(6)
    y = rng.normal(5, 0.4, 80)
    reached = y <= 5.2
    y = np.minimum(y, 5.2)
    mean, sd = stats.norm.fit(stats.CensoredData.right_censored(y, ~reached))
    found = censored_line(np.ones((80, 1)), y, reached, np.arange(80))
    assert found.params == pytest.approx([mean], abs=1e-3)
    between = found.residual_sd**2
    assert between <= sd**2 + 1e-3


def test_clusters_alike_in_size_all_reached_are_least_squares_on_their_means():
    rng = np.random.default_rng(1)
    at = np.linspace(0, 1, 6)
    bath = np.repeat(np.arange(6), 8)
    y = 2 - 0.5 * at[bath] + rng.normal(0, 0.1, 6)[bath] + rng.normal(0, 0.1, 48)
    found = censored_line(np.column_stack([np.ones(48), at[bath]]), y, np.ones(48), bath).estimate(1)
    wanted = least_squares(np.column_stack([np.ones(6), at]), np.bincount(bath, y) / 8).estimate(1)
    assert (found.value, found.lower, found.upper) == pytest.approx(
        (wanted.value, wanted.lower, wanted.upper), abs=1e-5
    )


@pytest.mark.parametrize(("baths", "watched_s"), some([(6, 200.0), (5, 1e9), (12, 150.0)], 1))
def test_the_interval_holds_what_it_says_where_baths_differ_and_fish_are_seen_up_to_the_end(baths, watched_s):
    """Seeded simulation: at least 95 % hold the true slope, within what 60 tries can tell (3 SE = 8 %; in full: bin/bench coverage); with few baths more, since an
    effect of the bath that cannot be told from none is given its degrees of freedom all the same."""
    rng = np.random.default_rng(11)
    found = [line_of(evenings(rng, baths, watched_s)).slope for _ in range(60)]
    assert np.mean([each.lower <= SLOPE <= each.upper for each in found]) > 0.95 - 0.08
    assert np.median([each.value for each in found]) == pytest.approx(SLOPE, abs=0.08)


def test_the_suggestion_does_not_fall_short_where_many_were_seen_up_to_the_end():
    """Fish that never lay still, left out, would suggest too weak a bath: here by a tenth and more."""
    rng = np.random.default_rng(8)
    strength, seconds, lay, bath = evenings(rng, 40, 190.0)
    assert line_of((strength, seconds, lay, bath)).suggest_mg_l == pytest.approx(TRUTH, rel=0.04)
    left_out = line_of((strength[lay], seconds[lay], lay[lay], bath[lay])).suggest_mg_l
    assert left_out is None or left_out < 0.9 * TRUTH


def test_no_suggestion_where_strength_is_not_seen_to_matter():
    rng = np.random.default_rng(8)
    strength, _, lay, bath = evenings(rng, 5, 1e9)
    found = line_of((strength, 10 ** rng.normal(2.2, 0.3, len(bath)), lay, bath))
    assert found.suggest_mg_l is None and found.per_degree is None  # nobody read the temperature


@pytest.mark.parametrize(
    ("change", "code"),
    [(lambda x, y, lay, bath: (x[:5], y[:5], lay[:5], bath[:5]), "too_few_fish"), (lambda x, y, lay, bath: (x, y, lay, bath * 0), "too_few_fish"),
     (lambda x, y, lay, bath: (x, y, ~lay, bath), "too_few_fish"), (lambda x, y, lay, bath: (x, y * 0, lay, bath), "strength_out_of_range")],
    ids=["few fish", "one bath", "none lay still", "no times"],
)  # fmt: skip
def test_what_it_refuses(change, code):
    with pytest.raises(CoreError) as refused:
        line_of(change(*evenings(np.random.default_rng(4), 6, 1e9)))
    assert refused.value.code == code


def test_temperature_is_taken_in_where_it_was_read_and_differs():
    rng = np.random.default_rng(3)
    strength, seconds, lay, bath = evenings(rng, 16, 1e9, between=0.01, within=0.02)
    degrees = rng.uniform(8, 16, 16)[bath]
    found = induction_line(strength, seconds * 10 ** (-0.02 * degrees), lay, bath, degrees, GOAL_S, 40, 150)
    assert found.per_degree is not None and found.per_degree.value == pytest.approx(-0.02, abs=0.004)
    assert found.slope.value == pytest.approx(SLOPE, abs=0.1)
