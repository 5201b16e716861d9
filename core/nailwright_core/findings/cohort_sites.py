"""Means and shares of cohorts over sites: how they move where one site after the other is left out.

Fish of one site are alike, and a site may hold mostly one year-class: shares vary several times more than those of fish drawn one by one.
The jackknife by sites (Miller 1974, Biometrika 61, 1-15, from memory); many sites are dealt out into groups of them.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.findings.mixture import Mixture, Readings, Spread, climb_to_peak

#: So many are left out in turn at most: each costs a fit.
MOST_GROUPS = 25
#: Fewer say nothing of how sites differ.
FEWEST_SITES = 3


def spread_over_sites(
    data: Readings, lengths: Floats, group: NDArray[np.int64], best: Mixture, spread: Spread
) -> tuple[Floats, Floats]:
    """Standard errors of the means (mm) and of the logits of the shares, each of shape (k,).

    Args:
        data: all readings, fitted by ``best``. lengths: of each fish, mm. group: number of the group of each fish, from 0 on.
        spread: how the spreads of cohorts hang together.
    """
    between = (data.x[1:] + data.x[:-1]) / 2
    reading = np.searchsorted(between, lengths)
    n_groups = int(group.max()) + 1
    held = np.bincount(group * data.x.size + reading, minlength=n_groups * data.x.size).reshape(n_groups, -1)
    means, logits = [], []
    for each in held:
        left = climb_to_peak(Readings(data.x, data.weight - each, data.step), best, spread).mixture
        order = np.argsort(left.means)
        means.append(left.means[order])
        logits.append(special.logit(np.clip(left.shares[order], 1e-9, 1 - 1e-9)))
    return _se(np.array(means)), _se(np.array(logits))


def _se(left_out: Floats) -> Floats:
    groups = len(left_out)
    return np.asarray(np.sqrt((groups - 1) / groups * ((left_out - left_out.mean(axis=0)) ** 2).sum(axis=0)))


def groups_of(site: NDArray[np.int64], n_sites: int, rng: np.random.Generator) -> NDArray[np.int64]:
    """Which group is left out with each fish: its site, or one of ``MOST_GROUPS`` into which sites are dealt.

    Args:
        site: number of the site of each fish, from 0 on. n_sites: how many there are.
        rng: deals them out.
    """
    if n_sites <= MOST_GROUPS:
        return site
    return np.asarray(rng.permutation(np.arange(n_sites) % MOST_GROUPS)[site])
