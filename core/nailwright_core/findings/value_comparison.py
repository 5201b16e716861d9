"""Do values, such as relative weights, differ between groups? Pairs, each with a difference that belongs to its test.

Fish independent: Mann and Whitney (1947) with the shift of Hodges and Lehmann (1963). Where sites are told: means, by t over
sites on the degrees of freedom of both groups' sites (``common/few_clusters``); a permutation of the handful of sites of one reach could refute nothing.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.by_site import no_surer_than_fish, t_interval
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.clusters import jackknife, numbered, sums_by_site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.few_clusters import satterthwaite_df
from nailwright_core.findings.shift import shift

Sites = Mapping[str, ArrayLike]


@dataclass(frozen=True)
class ValuePair:
    """By how much the second group's values lie above those of the first, and the p of the same test (nan: too few sites)."""

    first: str
    second: str
    difference: Estimate
    p: float


def compare_values(
    groups: Mapping[str, ArrayLike], level: float = 0.95, sites: Sites | None = None
) -> tuple[ValuePair, ...]:
    """Compare values of two or more groups, pair by pair.

    Args:
        groups: name -> values, shape (n,), nan left out.
        sites: name -> site of each, labels of one numbering; without it each fish stands for itself.

    Raises:
        CoreError: ``too_few_groups``, ``too_few_fish`` for a group with none.
    """
    check_level(level)
    if len(groups) < 2:
        raise CoreError("too_few_groups", f"A comparison needs at least two groups; got {len(groups)}.", "groups")
    data: dict[str, tuple[Floats, NDArray[np.int64] | None]] = {}
    for name, values in groups.items():
        given = np.asarray(values, dtype=np.float64).ravel()
        known = ~np.isnan(given)
        data[name] = given[known], None if sites is None else np.asarray(sites[name]).ravel()[known]
        if not known.any():
            raise CoreError("too_few_fish", f"Group {name} holds no fish with a value. Widen the selection.", "groups")
    pairs = []
    for a, b in combinations(data, 2):
        (first, at_first), (second, at_second) = data[a], data[b]
        if at_first is None or at_second is None:
            pairs.append(ValuePair(a, b, *shift(first, second, level)))
        else:
            pairs.append(ValuePair(a, b, *mean_difference(first, second, level, (at_first, at_second))))
    return tuple(pairs)


def mean_difference(
    a: ArrayLike, b: ArrayLike, level: float = 0.95, sites: tuple[ArrayLike, ArrayLike] | None = None
) -> tuple[Estimate, float]:
    """Mean of the second less that of the first and its p, by Welch's t, or by t over sites where they are told.

    p is nan, and the interval without ends, where there is one site, or one fish on a side.

    Args:
        a: values of the first group, shape (n,).
        b: values of the second, shape (m,).
        level: of the interval, between 0 and 1.
        sites: site of each value of both groups; None: fish are taken as independent.

    Raises:
        CoreError: ``no_data``, ``level_out_of_range``.
    """
    check_level(level)
    first, second = numbers(a, "a"), numbers(b, "b")
    if not first.size or not second.size:
        raise CoreError(
            "no_data", "A difference needs values on both sides; got none on one.", "a" if second.size else "b"
        )
    n = first.size + second.size
    value = float(second.mean() - first.mean())
    if sites is not None:
        number, n_sites = numbered(np.concatenate([np.asarray(each).ravel() for each in sites]), n)
        at_first, at_second = np.split(number, [first.size])
        sums = np.concatenate(
            [sums_by_site(at_first, n_sites, first), sums_by_site(at_second, n_sites, second)], axis=1
        )
        _, variance = jackknife(sums, lambda s: (s[..., 3] / s[..., 2] - s[..., 1] / s[..., 0])[..., None])
        df = satterthwaite_df(sums[:, [0, 2]])
        found = t_interval(value, float(variance[0, 0]), n_sites, level, n, df)
        if math.isnan(found.se):
            return found, math.nan
        of_fish = math.sqrt(_within(first, at_first, n_sites) + _within(second, at_second, n_sites))
        p_over_fish = _two_sided(value, of_fish, math.inf) if of_fish else 0.0
        return no_surer_than_fish(found, of_fish), max(_two_sided(value, found.se, df), p_over_fish)
    if min(first.size, second.size) < 2:
        return Estimate(value, math.nan, math.nan, math.nan, level, "one fish", n), math.nan
    parts = [float(each.var(ddof=1)) / each.size for each in (first, second)]
    se = math.sqrt(sum(parts))
    if se == 0:
        return Estimate(value, 0.0, value, value, level, "Welch's t", n), 1.0 if value == 0 else 0.0
    df = sum(parts) ** 2 / sum(part * part / (each.size - 1) for part, each in zip(parts, (first, second), strict=True))
    half = float(special.stdtrit(df, 0.5 + level / 2)) * se
    return Estimate(value, se, value - half, value + half, level, "Welch's t", n), _two_sided(value, se, df)


def _within(values: Floats, site: NDArray[np.int64], n_sites: int) -> float:
    """Variance of a mean by how fish differ within sites."""
    n, off = np.bincount(site, minlength=n_sites), values - values.mean()
    sums = np.bincount(site, off, n_sites)[n > 0]
    left = float(off @ off) - float((sums**2 / n[n > 0]).sum())
    return max(left, 0.0) / max(values.size - int(np.count_nonzero(n)), 1) / values.size


def _two_sided(value: float, se: float, df: float) -> float:
    if se == 0:
        return 1.0 if value == 0 else 0.0
    return float(2 * special.stdtr(df, -abs(value) / se))
