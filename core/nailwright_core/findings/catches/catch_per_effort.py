"""Catch per unit of effort: over sites, over strata, changed between two visits, and its trend over many.

Sites are drawn, so every interval is over sites. Design-based estimates: Cochran (1977), Sampling Techniques; from memory.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.clusters import jackknife
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import exact_binomial

#: Correlations of a year with the one before over which a trend is averaged (ours, no source).
ALIKE = (0.0, 0.2, 0.4, 0.6)
#: Fewer years say little of a trend, however many sites.
FEW_YEARS = 5
_NEWTON_STEPS = 60


def cpue(
    counts: ArrayLike,
    effort: ArrayLike,
    weights: ArrayLike | None = None,
    level: float = 0.95,
    sites_in_all: int | None = None,
) -> Estimate:
    """Catch per unit of effort over sites (not over fish).

    The ratio of sums with its design-based variance; the interval by t on the log scale, which covers 93-95 of 100 from three
    sites on where a percentile bootstrap covers 47 to 87. Where nothing was caught the upper end is exact for a Poisson catch.

    Args:
        counts: fish at each site, shape (n,).
        effort: of each site in one unit (hours with current on, rod-hours), shape (n,).
        weights: of each site, for instance its length; without them the ratio of sums is taken.
        sites_in_all: sites that there are, for the finite correction.

    Raises:
        CoreError: ``no_data``, ``number_out_of_range``, ``count_out_of_range``, ``level_out_of_range``.

    Source: Cochran (1977), section 6.4 for the variance of a ratio (from memory); Garwood (1936) for the Poisson bound.
    """
    check_level(level)
    k, f = numbers(counts, "counts"), numbers(effort, "effort")
    w = f if weights is None else numbers(weights, "weights")
    if k.size == 0 or not k.shape == f.shape == w.shape:
        raise CoreError(
            "no_data", f"Expected counts and effort of the same sites; got {k.size} and {f.size}.", "counts"
        )
    if (k < 0).any() or not (f > 0).all() or not (w > 0).all():
        raise CoreError(
            "count_out_of_range", "Expected counts of 0 or more and effort above 0 at every site.", "effort"
        )
    n = int(k.size)
    if sites_in_all is not None and sites_in_all < n:
        raise CoreError("count_out_of_range", f"Expected {n} sites or more in all; got {sites_in_all}.", "sites_in_all")
    rate = k / f
    value = float((w * rate).sum() / w.sum())
    if value == 0:
        return Estimate(0.0, math.nan, 0.0, -math.log1p(-level) / float(f.sum()), level, "exact Poisson bound", n)
    if n < 2:
        return Estimate(value, math.nan, math.nan, math.nan, level, "one site", 1)
    left = 1.0 if sites_in_all is None else 1 - n / sites_in_all
    off = w * (rate - value)
    # sites of which all caught alike are no certainty: a count varies by chance, also where every site was fished
    chance = math.sqrt(float(((w / f) ** 2 * k).sum())) / float(w.sum())
    between = math.sqrt(left * float((off**2).sum()) / (n - 1) / n) / float(w.mean())
    se, half = max(between, chance), _wider(between, n - 1, chance, level)
    factor = math.exp(half / value)
    return Estimate(value, se, value / factor, value * factor, level, "t over sites, log scale", n)


def _wider(between: float, df: int, chance: float, level: float) -> float:
    """Half the width of an interval: t times the error over sites, or the normal quantile times that of Poisson counts where it is more."""
    upper = 0.5 + level / 2
    return max(float(special.stdtrit(df, upper)) * between, float(special.ndtri(upper)) * chance)


def cpue_stratified(
    counts: ArrayLike,
    effort: ArrayLike,
    strata: ArrayLike,
    shares: Mapping[str, float],
    level: float = 0.95,
    sites_in_all: Mapping[str, int] | None = None,
) -> Estimate:
    """Catch per unit of effort over strata, each weighted by its share of the water.

    Args:
        counts, effort: as ``cpue``. strata: name of each site's stratum, shape (n,).
        shares: stratum -> its length or area, in any one unit.
        sites_in_all: stratum -> sites that there are, for the finite correction.

    Raises:
        CoreError: ``no_data`` where a stratum has no share or fewer than two sites, and as ``cpue``.

    Source: Cochran (1977), chapter 5; degrees of freedom after Satterthwaite (1946). Where nothing was caught at all the upper
    end is exact for Poisson catches: the largest weighted sum of densities that such a catch does not refute.
    """
    check_level(level)
    k, f = numbers(counts, "counts"), numbers(effort, "effort")
    names = np.asarray(strata).ravel()
    if not k.size or not k.size == f.size == names.size:
        raise CoreError(
            "no_data",
            f"Expected counts, effort and stratum of the same sites; got {k.size}, {f.size}, {names.size}.",
            "strata",
        )
    whole = sum(shares.values())
    value = variance = spread = 0.0
    most = 0.0
    for name in dict.fromkeys(names.tolist()):
        here = names == name
        if not (shares.get(name, 0) > 0 and math.isfinite(whole)) or here.sum() < 2:
            raise CoreError(
                "no_data",
                f"Stratum {name} needs a share above 0 and two sites or more; got {shares.get(name, 0):g} and {here.sum()}.",
                "shares",
            )
        weight = shares[name] / whole
        found = cpue(k[here], f[here], None, level, None if sites_in_all is None else sites_in_all[name])
        part = 0.0 if math.isnan(found.se) else (weight * found.se) ** 2
        value, variance = value + weight * found.value, variance + part
        spread += part * part / (int(here.sum()) - 1)
        most = max(most, weight / float(f[here].sum()))
    left_out = sorted(set(shares) - set(names.tolist()))
    if left_out:
        raise CoreError(
            "no_data", f"No site was sampled in {', '.join(left_out)}; leave it out of the shares.", "shares"
        )
    if value == 0:
        return Estimate(0.0, math.nan, 0.0, -math.log1p(-level) * most, level, "exact Poisson bound", int(k.size))
    se = math.sqrt(variance)
    half = float(special.stdtrit(variance * variance / spread, 0.5 + level / 2)) * se / value if spread else 0.0
    return Estimate(
        value, se, value * math.exp(-half), value * math.exp(half), level, "t over strata, log scale", int(k.size)
    )


def cpue_change(
    first: tuple[ArrayLike, ArrayLike], second: tuple[ArrayLike, ArrayLike], level: float = 0.95
) -> Estimate:
    """Catch per effort of a second visit over that of a first one at the same sites, less one (-0.2: a fifth fewer).

    Args:
        first, second: (counts, effort) at each site, shapes (n,), sites in one order.

    Returns:
        Interval by t over sites on the log scale, leaving out one site after the other, so that what sites have for themselves
        goes out. Where one visit caught nothing: exact for Poisson catches, with no end above where it was the first.

    Raises:
        CoreError: ``no_data`` with fewer than two sites or no catch at all, and as ``cpue``.
    """
    check_level(level)
    sums = np.column_stack(
        [numbers(each, name) for pair, name in ((first, "first"), (second, "second")) for each in pair]
    )
    k1, f1, k2, f2 = sums.sum(axis=0)
    n = len(sums)
    if n < 2 or k1 + k2 == 0:
        raise CoreError(
            "no_data", f"Expected two sites or more and a catch; got {n} sites and {k1 + k2:g} fish.", "first"
        )
    if (sums[:, [0, 2]] < 0).any() or not (sums[:, [1, 3]] > 0).all():
        raise CoreError("count_out_of_range", "Expected counts of 0 or more and effort above 0 at every site.", "first")
    if k1 == 0 or k2 == 0:
        # of all fish caught, the share of the second visit is binomial with the odds of the densities
        low, high = exact_binomial(round(k2), round(k1 + k2), level)
        odds = [share / (1 - share) * f1 / f2 - 1 if share < 1 else math.inf for share in (low, high)]
        return Estimate(math.inf if k1 == 0 else -1.0, math.nan, odds[0], odds[1], level, "exact, Poisson catches", n)
    value, variance = jackknife(sums, lambda s: np.log(s[..., 2:3] / s[..., 3:4] / s[..., 0:1] * s[..., 1:2]))
    ratio, spread = math.exp(float(value[0])), float(variance[0, 0])
    if not math.isfinite(spread):  # all of a visit's fish came from one site
        return Estimate(ratio - 1, math.nan, math.nan, math.nan, level, "one site", n)
    chance = math.sqrt(1 / float(k1) + 1 / float(k2))  # what counts vary by chance
    factor = math.exp(_wider(math.sqrt(spread), n - 1, chance, level))
    spread = max(spread, chance**2)
    return Estimate(
        ratio - 1, ratio * math.sqrt(spread), ratio / factor - 1, ratio * factor - 1, level, f"t over {n} sites", n
    )


@dataclass(frozen=True)
class CatchTrend:
    """Yearly change of catch per effort (-0.1: a tenth fewer each year).

    ``of_years`` is the share of its variance that comes from years in which all sites were better or worse together.
    """

    change: Estimate
    of_years: float
    assumptions: tuple[Assumption, ...]


def cpue_trend(counts: ArrayLike, effort: ArrayLike, years: ArrayLike, level: float = 0.95) -> CatchTrend:
    """Trend over visits: log-linear with an effect for each site, so that which sites were visited does not tilt it.

    Args:
        counts, effort: shape (sites, visits); effort of 0 where a site was not visited.
        years: of each visit, shape (visits,).

    Raises:
        CoreError: ``no_data`` with fewer than two sites or three visits or no catch, ``count_out_of_range``.
    """
    check_level(level)
    k, f, when = numbers(counts, "counts", 2), numbers(effort, "effort", 2), numbers(years, "years")
    if k.shape != f.shape or k.shape[1] != when.size or k.shape[0] < 2 or np.unique(when).size < 3 or not k.any():
        raise CoreError(
            "no_data", f"Expected at least 2 sites, 3 years and a catch; got sites by visits {k.shape}.", "counts"
        )
    if (k < 0).any() or (f < 0).any() or (k[f == 0] > 0).any():
        raise CoreError(
            "count_out_of_range", "Expected counts and effort of 0 or more, and no fish without effort.", "effort"
        )
    value, se, lower, upper, of_years = (float(each[0]) for each in trend_many(k[None], f, when, level))
    name = "site effects, t over sites and years"
    return CatchTrend(
        Estimate(value, se, lower, upper, level, name, int(k.shape[0])),
        of_years,
        (
            Assumption(
                "Sites change alike",
                "not checked",
                "One trend for all; a reach that falls while another rises is not seen.",
            ),
            Assumption(
                "A year may resemble the one before",
                "doubtful" if np.unique(when).size < FEW_YEARS else "not checked",
                f"Averaged over correlations of {ALIKE[0]:g} to {ALIKE[-1]:g} from year to year, as likely as each other."
                + (
                    f" {np.unique(when).size} years leave too little to tell years from a trend: 89 to 96 of 100 such intervals hold it."
                    if np.unique(when).size < FEW_YEARS
                    else ""
                ),
            ),
            Assumption(
                "Fish were as easy to catch in every year",
                "not checked",
                "Flow, temperature and crew change catchability; years that were better or worse for all sites widen the interval, "
                "a drift over years does not.",
            ),
        ),
    )


def trend_many(
    counts: NDArray[np.float64] | NDArray[np.int64], effort: Floats | None, years: Floats, level: float
) -> tuple[Floats, Floats, Floats, Floats, Floats]:
    """``cpue_trend`` of many surveys at once.

    Args:
        counts: shape (surveys, sites, visits). effort: shape (sites, visits), or None where it is the same everywhere.

    Returns:
        Yearly change, its standard error, lower and upper end, and the share of years in its variance, each of shape
        (surveys,); nan where nothing was caught or a survey says nothing of the trend.

    Given what a site caught in all years, its catches over years are multinomial with one unknown, the trend (the conditional
    likelihood of Poisson counts with site effects; McCullagh and Nelder 1989, section 6.4.2, from memory). Their variance is
    that of leaving out one site after the other, to one step; years that differ for all sites together add theirs, found
    by moments from the residuals of the years' totals less what counts vary by chance, as if each year resembled the one before
    (ours, no source). Degrees of freedom after Satterthwaite (1946).
    """
    _, sites, visits = counts.shape
    time = years - years.mean()
    of_site = counts.sum(axis=2)
    beta, share, mean = _slope(counts, of_site, None if effort is None else effort, time)
    variance = _time_variance(share, time, mean)
    information = (of_site * variance).sum(axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        off = counts @ time - of_site * mean
        within = (sites - 1) / sites * ((off / (information[:, None] - of_site * variance)) ** 2).sum(axis=1)
        expected = of_site[:, :, None] * share
        of_year = expected.sum(axis=1)
        residual = counts - expected
        together = np.where(of_year > 0, residual.sum(axis=1) / of_year, 0.0)
        apart = np.where(of_year > 0, (residual**2).sum(axis=1) / of_year**2, 0.0)
        free = max(visits - 2, 1)
        spread, by_chance = (together**2).sum(axis=1), apart.sum(axis=1) * free / visits
        between = np.maximum(spread - by_chance, 0.0) / free
        moment = (of_site[:, :, None] * share * (time - mean[..., None])).sum(axis=1)
        pull = ((moment / information[:, None]) ** 2).sum(axis=1)
        seen = between * pull
        of_years = seen * _if_alike(years)
        whole = within + of_years
        df = whole**2 / (within**2 / (sites - 1) + of_years**2 / free)
        half = np.where(whole > 0, special.stdtrit(df, 0.5 + level / 2) * np.sqrt(whole), 0.0)
        # what counts vary by chance: equal catches at all sites are no certainty
        half = np.maximum(half, special.ndtri(0.5 + level / 2) / np.sqrt(information))
        whole = np.maximum(whole, np.where(information > 0, 1 / information, 0.0))
    known = (information > 0) & np.isfinite(half)
    blank = np.where(known, 1.0, np.nan)
    return (
        np.expm1(beta) * blank, np.exp(beta) * np.sqrt(whole) * blank, np.expm1(beta - half) * blank,
        np.expm1(beta + half) * blank, np.where(known, seen / np.where(within + seen > 0, within + seen, 1.0), np.nan),
    )  # fmt: skip


def _if_alike(years: Floats) -> float:
    """By how much the variance of a slope over years is more than their scatter says where each resembles the one before: the mean
    over correlations of ``ALIKE`` a year, as likely as each other (they cannot be told from so few years)."""
    time = years - years.mean()
    line = np.column_stack([np.ones_like(time), time])
    rest = np.eye(time.size) - line @ np.linalg.pinv(line)
    free = max(time.size - 2, 1)
    grown = []
    for alike in ALIKE:
        together = np.where(time[:, None] == time, 1.0, alike ** np.abs(time[:, None] - time))
        scatter = float(np.trace(rest @ together)) / free
        grown.append(float(time @ together @ time / (time @ time)) / scatter if scatter > 1e-12 else 1.0)
    return float(np.mean(grown))


def _slope(
    counts: NDArray[np.float64] | NDArray[np.int64], of_site: NDArray[np.float64], effort: Floats | None, time: Floats
) -> tuple[Floats, Floats, Floats]:
    """Newton's steps to the slope of each survey; shares of a site's catch by visit, and their mean time."""
    surveys = len(counts)
    weight = np.ones((1, 1, time.size)) if effort is None else np.where(effort > 0, effort, 0.0)[None]
    beta = np.zeros(surveys)
    reached = (counts.sum(axis=1) * time).sum(axis=1)
    span = float(time.max() - time.min())
    for _ in range(_NEWTON_STEPS):
        grown = weight * np.exp(beta[:, None] * time)[:, None, :]
        with np.errstate(divide="ignore", invalid="ignore"):
            share = np.nan_to_num(grown / grown.sum(axis=2, keepdims=True))
        mean = share @ time
        information = (of_site * _time_variance(share, time, mean)).sum(axis=1)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = np.where(information > 0, (reached - (of_site * mean).sum(axis=1)) / information, 0.0)
        step = np.clip(step, -3 / span, 3 / span)
        beta = np.clip(beta + step, -20 / span, 20 / span)
        if np.abs(step).max() < 1e-10 / span:
            break
    return beta, share, mean


def _time_variance(share: Floats, time: Floats, mean: Floats) -> Floats:
    return np.asarray(share @ (time * time) - mean * mean)
