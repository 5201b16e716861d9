"""When it is enough: over sites as findings are, and how often it is true of those who stop there."""

import numpy as np
import pytest
from scipy import stats

from bench.size import some
from nailwright_core.common import species
from nailwright_core.common.errors import CoreError
from nailwright_core.findings.size_structure import proportional_size_distribution
from nailwright_core.plan.enough import FEWEST_SITES, catch_rate_so_far, size_structure_so_far, upper_factor

WALLEYE = species.get("wal").size_categories


def sample(*sites):
    """Lengths and sites, from (quality, stock) at each site."""
    lengths, labels = [], []
    for place, (quality, stock) in enumerate(sites):
        lengths += [400.0] * quality + [300.0] * (stock - quality)
        labels += [place] * stock
    return lengths, labels


def test_size_structure_as_the_finding_says_over_the_same_sites():
    fish = sample((12, 20), (9, 20), (15, 20), (11, 20), (10, 20), (13, 20))
    found = size_structure_so_far(*fish, WALLEYE)
    psd = proportional_size_distribution(fish[0], WALLEYE, sites=fish[1]).psd
    assert f"PSD {psd.value:.0f} ± {(psd.upper - psd.lower) / 2:.0f} by the 6 sites so far" in found.words
    assert not found.reached and found.more > 0
    alike = sample(*[(12, 20)] * 12)
    reached = size_structure_so_far(*alike, WALLEYE, 12)
    assert reached.reached and "by the sites so far" in reached.words
    assert size_structure_so_far(*fish, None) is None


def test_fish_of_one_site_do_not_make_it_certain():
    """Six hundred fish of three sites would be within 4 over fish; over sites nothing is said before there are five."""
    fish = sample((150, 200), (90, 200), (110, 200))
    found = size_structure_so_far(*fish, WALLEYE)
    assert not found.reached and found.more is None and "from 5 sites on" in found.words
    past = size_structure_so_far(*fish, WALLEYE, past_icc=0.1)
    # design effect 1 + 199 x 0.1 = 20.9: 28.7 fish tell as much, half width of Wilson's interval 17 points
    assert "± 17 by how alike" in past.words and not past.reached
    young = size_structure_so_far([400.0] * 19 + [100.0] * 400, [0] * 419, WALLEYE)
    assert young.more is None and young.words.startswith("19 of stock length")


def test_upper_limit_of_a_spread():
    """sqrt((G - 1) / lower fifth of chi2), against SciPy."""
    for sites in (2, 5, 12, 40):
        assert upper_factor(sites) == pytest.approx(np.sqrt((sites - 1) / stats.chi2.ppf(0.2, sites - 1)), rel=1e-9)
    with pytest.raises(CoreError, match="2 sites"):
        upper_factor(1)


def test_catch_rate_is_reached_by_its_upper_limit_and_never_below_a_poisson_count():
    hours = [1.0] * 5
    found = catch_rate_so_far([10, 22, 13, 31, 18], hours, 0.15)
    assert found.more > 0 and "CV 20%" in found.words  # sd 8.23 / (sqrt 5 x 18.8) = 0.196 by hand
    assert catch_rate_so_far([100, 110, 95, 105, 98, 102], [1.0] * 6).reached
    equal = catch_rate_so_far([4] * 5, hours)  # no spread: 20 fish in all, CV 1 / sqrt 20 = 22 %
    assert "CV 22%" in equal.words and not equal.reached
    for too_few in ([3, 4], [0, 0, 0, 0, 0]):
        assert catch_rate_so_far(too_few, hours[: len(too_few)]).more is None
    assert "all 5 sites are fished" in catch_rate_so_far([10, 22, 13, 31, 18], hours, 0.15, frame_size=5).words


def test_where_fewer_sites_are_left_than_it_takes_that_is_said():
    rates, fish = ([10, 22, 13, 31, 18], [1.0] * 5), sample((12, 20), (9, 20), (15, 20), (11, 20), (10, 20), (13, 20))
    for laid_out, says in (
        (0, ", and all sites here are fished."),
        (1, ", and 1 site is left here."),
        (2, ", and 2 sites are left here."),
    ):
        for found in (
            catch_rate_so_far(*rates, 0.15, laid_out=laid_out),
            size_structure_so_far(*fish, WALLEYE, 6, None, laid_out),
        ):
            assert found.more > 2 and found.words.endswith(says)
    assert "here" not in catch_rate_so_far(*rates, 0.15, laid_out=500).words


def test_so_many_sites_more_bring_it_there():
    found = catch_rate_so_far([10, 22, 13, 31, 18], [1.0] * 5, 0.15)
    again = catch_rate_so_far([10, 22, 13, 31, 18] * 4, [1.0] * 20, 0.15)
    assert again.reached and found.more <= 15


@pytest.mark.parametrize("icc", some([0.1, 0.0], 1))
def test_the_interval_of_those_who_stop_where_it_is_reached(icc):
    """Seeded simulation of 250 surveys at PSD 50, 20 fish a site, that look after each site from five on and stop: by the
    inference chapter's own simulation 93.3 % at an intraclass correlation of 0.1; within what 250 tries can tell (3 SE = 4.7 %).
    By the rule of before (fish by fish, over fish) it was 62 %."""
    rng = np.random.default_rng(21)
    held = stopped = 0
    for _ in range(250):
        shares = np.full(80, 0.5) if icc == 0 else rng.beta(0.5 * (1 / icc - 1), 0.5 * (1 / icc - 1), 80)
        quality = rng.binomial(20, shares)
        for n in range(FEWEST_SITES, 81):
            fish = sample(*zip(quality[:n], [20] * n, strict=True))
            if size_structure_so_far(*fish, WALLEYE).reached:
                psd = proportional_size_distribution(fish[0], WALLEYE, sites=fish[1]).psd
                held += psd.lower <= 50 <= psd.upper
                stopped += 1
                break
    assert stopped > 245
    assert held / stopped >= 0.933 - 0.047


def test_refusals():
    fish = sample((12, 20), (9, 20))
    for bad in (0.5, 50, float("nan")):
        with pytest.raises(CoreError):
            size_structure_so_far(*fish, WALLEYE, bad)
    for caught, spent, cv in (
        ([3, 4, 9], [1.0] * 3, 2),
        ([3, 4], [1.0, 0.0], 0.2),
        ([3, 4], [1.0], 0.2),
        ([3, -4], [1.0] * 2, 0.2),
    ):
        with pytest.raises(CoreError):
            catch_rate_so_far(caught, spent, cv)
