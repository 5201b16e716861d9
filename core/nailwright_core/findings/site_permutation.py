"""Do two groups of fish differ, where fish of one site are alike?

Not fish but sites are permuted. A site that holds fish of both groups keeps them together: there the two labels change
places; sites of one group only change labels among each other. Under "the group makes no difference" all those labellings are
as likely as the one that was seen (Good 2005, Permutation, Parametric and Bootstrap Tests, from memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations, product

import numpy as np
from numpy.typing import NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.clusters import numbered
from nailwright_core.common.estimate import Estimate
from nailwright_core.findings.shift import middle_difference

Whole = NDArray[np.int64]
#: Up to this many labellings all are tried; of more, so many are drawn.
_EVERY = 4_096
_DRAWN = 1_999
#: More different values than this are told to a part of their range.
_VALUES = 4_096
_BISECTIONS = 25
#: So many lines of a board beyond an end are looked at.
_HEAPED = 10
_CHUNK = 500


@dataclass(frozen=True)
class SitePermutation:
    """Two groups as cells, each the fish of one group at one site.

    Attributes:
        values: different values, shape (v,), in order.
        counts: fish of each value in each cell, shape (cells, v).
        second: whether a cell is of the second group.
        labellings: shape (labellings, cells), the one that was seen first; True where a cell counts to the second group.
        every: whether they are all that there are.
        sites: how many sites there are in all.
    """

    values: Floats
    counts: Floats
    second: NDArray[np.bool_]
    labellings: NDArray[np.bool_]
    every: bool
    sites: int

    @property
    def least_p(self) -> float:
        """The smallest p that so few sites can give."""
        return 1 / len(self.labellings)

    @cached_property
    def _shown(self) -> Floats:
        return self.labellings.astype(np.float64)

    def p_of(self, statistic: Floats) -> float:
        """Share of labellings whose statistic is as large as that of the first."""
        return float(np.mean(statistic >= statistic[0] - 1e-9 * max(abs(float(statistic[0])), 1.0)))

    def ks(self) -> tuple[float, float]:
        """Largest distance of the cumulative curves, and its p."""
        whole = self.counts.sum(axis=0)
        distance = np.empty(len(self.labellings))
        for start in range(0, distance.size, _CHUNK):
            below = np.cumsum(self._shown[start : start + _CHUNK] @ self.counts, axis=1)
            n_second = below[:, -1:]
            apart = np.abs(below / n_second - (np.cumsum(whole) - below) / (whole.sum() - n_second))
            distance[start : start + _CHUNK] = apart.max(axis=1)
        return float(distance[0]), self.p_of(distance)

    def chi2(self, category: Whole) -> tuple[float, float] | None:
        """Pearson's chi-square of a table of categories, one for each value, and its p; None with one category."""
        table = np.zeros((len(self.counts), int(category.max()) + 1))
        np.add.at(table.T, category, self.counts.T)
        table = table[:, table.sum(axis=0) > 0]
        if table.shape[1] < 2:
            return None
        whole = table.sum(axis=0)
        second = self._shown @ table
        share = second.sum(axis=1, keepdims=True) / whole.sum()
        found = ((second - whole * share) ** 2 / (whole * share * (1 - share))).sum(axis=1)
        return float(found[0]), self.p_of(found)

    def shift(self, level: float) -> tuple[Estimate, float]:
        """The shift of the second group, the interval of those that the test of mean ranks does not refute, and its p."""
        n = int(self.counts.sum())
        if self.values.size < 2:
            return Estimate(0.0, math.nan, 0.0, 0.0, level, "all alike", n), 1.0
        width = float(self.values[-1] - self.values[0])
        first, second = (
            np.repeat(self.values, self.counts[group].sum(axis=0).astype(np.int64))
            for group in (~self.second, self.second)
        )
        middle = middle_difference(first, second)
        low, high = (self._end(middle, sign * 1.01 * width, 1 - level) for sign in (-1, 1))
        if step := _step(self.values):
            # equal readings are ties only where the shift is a whole number of steps, and a tie refutes less: ends are sought among those,
            # and what was read to a step may be half of one off
            low, high = (self._end_on_grid(end, sign, step, 1 - level) for end, sign in ((low, -1), (high, 1)))
        name = f"Hodges-Lehmann over {self.sites} sites"
        return Estimate(middle, math.nan, low, high, level, name, n), self.p_of(self._ranks(0.0))

    def _end(self, inside: float, outside: float, refuted: float) -> float:
        """The shift nearest to ``outside`` that is not refuted; infinite where not even that one is."""
        if self.p_of(self._ranks(outside)) > refuted:
            return math.copysign(math.inf, outside)
        for _ in range(_BISECTIONS):
            between = (inside + outside) / 2
            if self.p_of(self._ranks(between)) > refuted:
                inside = between
            else:
                outside = between
        return inside

    def _end_on_grid(self, end: float, sign: int, step: float, refuted: float) -> float:
        """The outermost whole number of steps near an end that is not refuted, with half a step more; the end itself where it is farther
        out. Boards are heaped on every fifth or tenth line too: so many are looked at."""
        if math.isinf(end):
            return end
        first = math.floor(abs(end) / step) * math.copysign(1, end) * sign
        for lines in range(_HEAPED, -2, -1):
            at = sign * step * (first + lines)
            if self.p_of(self._ranks(at)) > refuted:
                return sign * max(sign * at + step / 2, sign * end)
        return end

    def _ranks(self, by: float) -> Floats:
        """Distance of the mean ranks of the groups under each labelling, the second group moved back by a shift."""
        moved = self.values - by
        together = np.concatenate([self.values, moved]).round(9)
        different, place = np.unique(together, return_inverse=True)
        v = self.values.size
        n = np.bincount(
            place.ravel(),
            np.concatenate([self.counts[~self.second].sum(axis=0), self.counts[self.second].sum(axis=0)]),
            different.size,
        )
        rank = (np.cumsum(n) - (n - 1) / 2)[place.ravel()]
        ranks = np.where(self.second, self.counts @ rank[v:], self.counts @ rank[:v])
        size = self.counts.sum(axis=1)
        of_second, n_second = self._shown @ ranks, self._shown @ size
        return np.asarray(np.abs(of_second / n_second - (ranks.sum() - of_second) / (size.sum() - n_second)))


def _step(values: Floats) -> float:
    """To what values, in order, were read: they all lie on lines so far apart; 0 where they lie on none."""
    step = float(np.diff(values).min())
    lines = (values - values[0]) / step
    return step if np.abs(lines - lines.round()).max() < 1e-3 else 0.0


def by_site(a: Floats, b: Floats, sites_a: Whole, sites_b: Whole, rng: np.random.Generator) -> SitePermutation:
    """Two groups with the site of each fish, labels of one numbering, ready to be permuted.

    Args:
        a: values of one group, shape (n,).
        b: values of the other, shape (m,).
        sites_a: site of each value of ``a``, shape (n,).
        sites_b: site of each value of ``b``, shape (m,).
        rng: which permutations are drawn.
    """
    pooled = np.concatenate([a, b])
    if np.unique(pooled).size > _VALUES:
        step = (pooled.max() - pooled.min()) / _VALUES
        pooled = pooled.min() + np.rint((pooled - pooled.min()) / step) * step
    values, place = np.unique(pooled, return_inverse=True)
    site, n_sites = numbered(np.concatenate([sites_a, sites_b]), pooled.size)
    group = np.repeat([0, 1], [a.size, b.size])
    cell, code = np.unique(site * 2 + group, return_inverse=True)
    counts = np.bincount(code.ravel() * values.size + place.ravel(), minlength=cell.size * values.size)
    second = cell % 2 == 1
    labellings, every = _labellings(cell // 2, second, rng)
    return SitePermutation(
        values, counts.reshape(cell.size, values.size).astype(np.float64), second, labellings, every, n_sites
    )


def _labellings(site: Whole, second: NDArray[np.bool_], rng: np.random.Generator) -> tuple[NDArray[np.bool_], bool]:
    """Every labelling, or as many as are drawn; the one that was seen first."""
    shared = np.flatnonzero(site[1:] == site[:-1])  # cells are in order of site: the first of two at one site
    alone = np.setdiff1d(np.arange(site.size), [*shared, *(shared + 1)])
    of_second = int(second[alone].sum())
    many = 2 ** min(shared.size, 60) * math.comb(alone.size, of_second)
    if many <= _EVERY:
        rows = []
        for swaps in product((False, True), repeat=shared.size):
            for chosen in combinations(alone, of_second):
                row = np.zeros(site.size, dtype=bool)
                row[list(chosen)] = True
                row[shared + 1 - np.asarray(swaps, dtype=int)] = True
                rows.append(row)
        found = np.array(rows)
        seen = np.flatnonzero((found == second).all(axis=1))[0]
        found[[0, seen]] = found[[seen, 0]]
        return found, True
    found = np.zeros((1 + _DRAWN, site.size), dtype=bool)
    found[:, alone] = second[alone]
    found[1:, alone] = rng.permuted(found[1:, alone], axis=1)
    swapped = rng.random((1 + _DRAWN, shared.size)) < 0.5
    swapped[0] = False
    found[:, shared], found[:, shared + 1] = swapped, ~swapped
    return found, False
