"""Estimates whose intervals know that fish of one site are alike.

Sites are drawn, not fish: twelve sites of twenty fish say less than 240 fish from everywhere. Each estimate is a function of
sums over sites; its variance is that of leaving out one site after the other (the jackknife by cluster, which errs to the
safe side with few sites: MacKinnon, Nielsen and Webb 2023, J. Econometrics 232, 272-299, from memory), its interval by t on
the degrees of freedom that this variance has with sites of these sizes (``few_clusters``). A question about the water in any year
draws years too (``clusters``). Shares: Wilson's interval for the number of independent fish that would tell
as much, with t in place of z (Korn and Graubard 1998, Survey Methodology 24, 193-201; Dean and Pagano 2015, J. Surv. Stat.
Methodol. 3, 484-503; both from memory). Quantiles after Woodruff (1952), J. Am. Stat. Assoc. 47, 635-646.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers, whole_counts
from nailwright_core.common.clusters import (
    Crossed,
    cells_of,
    df_of_mean,
    n_years,
    over_clusters,
    put_together,
    some_of,
    sums_by_site,
)
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import median_interval, score_interval

#: With fewer sites than this an interval over sites is wide and leans on them being like any other (ours, no source).
FEW_SITES = 5


#: What is said where intervals and tests are over fish.
INDEPENDENT_FISH = Assumption(
    "Fish are sampled independently",
    "not checked",
    "Fish of one site are alike, which makes an interval over fish too narrow and its p too small.",
)


@dataclass(frozen=True)
class Likeness:
    """How alike fish of one site are.

    Attributes:
        sites: how many sites the fish come from.
        design_effect: by how much the variance of the estimate over sites exceeds that of as many independent fish; nan
            with one site.
        icc: intraclass correlation, the share of a fish's variance that its site explains (below 0 by chance where none).
        years: how many years the intervals are over as well; 0 where the question is about the years that were fished.
    """

    sites: int
    design_effect: float
    icc: float
    years: int = 0

    @property
    def assumption(self) -> Assumption:
        """In words, for the reader of a finding."""
        name = "Fish of one site may be alike"
        if self.sites < 2:
            return Assumption(
                name,
                "not checked",
                "All come from one site: the interval is over its fish and says nothing of other sites.",
            )
        if self.years == 1:
            return Assumption(name, "doubtful", "All come from one year: the interval says nothing of other years.")
        both = f" and {self.years} years" if self.years else ""
        many = f"The intervals are over {self.sites} sites{both}, not over fish"
        few = f"; fewer than {FEW_SITES} sites say little" if self.sites < FEW_SITES else ""
        if 0 < self.years < FEW_SITES:
            few += f"; {self.years} years say little of any year"
        told = ""
        if math.isfinite(self.design_effect):
            icc = "" if self.years else f", intraclass correlation {max(self.icc, 0):.2f}"
            told = f" (design effect {self.design_effect:.1f}{icc})"
        return Assumption(name, "doubtful" if few else "holds", f"{many}{few}{told}.")


def t_interval(value: float, variance: float, sites: int, level: float, n: int, df: float) -> Estimate:
    """An estimate with its interval by t over sites; without ends where there is one site only.

    Args:
        value: the estimate.
        variance: of the estimate, over sites.
        sites: how many sites it is over.
        level: of the interval, between 0 and 1.
        n: fish behind it.
        df: degrees of freedom.
    """
    if sites < 2 or df <= 0 or not math.isfinite(variance):
        return Estimate(value, math.nan, math.nan, math.nan, level, "one site" if sites < 2 else "t over sites", n)
    se = math.sqrt(max(variance, 0.0))
    half = float(special.stdtrit(df, 0.5 + level / 2)) * se
    return Estimate(value, se, value - half, value + half, level, f"t over {sites} sites", n)


def no_surer_than_fish(found: Estimate, se: float) -> Estimate:
    """An interval over sites that is not narrower than it would be were the fish independent: sites whose means are alike by chance
    are no certainty.

    Args:
        found: symmetric about its value. se: standard error over fish, by how they differ within sites.
    """
    half = float(special.ndtri(0.5 + found.level / 2)) * se
    if not half > found.upper - found.value:
        return found
    return replace(found, se=max(found.se, se), lower=found.value - half, upper=found.value + half)


def mean_by_site(
    values: ArrayLike, sites: ArrayLike, level: float = 0.95, years: ArrayLike | None = None
) -> tuple[Estimate, Likeness]:
    """Mean over fish, with an interval over sites.

    Args:
        values: shape (n,). sites: of each fish, shape (n,). years: of each fish, where the question is about any year.

    Raises:
        CoreError: ``no_data``, ``lengths_differ``, ``level_out_of_range``.
    """
    check_level(level)
    data = numbers(values, "values")
    if data.size == 0:
        raise CoreError("no_data", "A mean needs at least one value; got none.", "values")
    number, cells, crossed = cells_of(sites, years, data.size)
    centre = float(data.mean())  # sums of squares about it keep their digits
    off = data - centre
    return mean_of_sums(sums_by_site(number, cells, off), centre, level, float(off @ off), crossed)


def mean_of_sums(
    sums: Floats, centre: float, level: float, squares: float = math.nan, crossed: Crossed | None = None
) -> tuple[Estimate, Likeness]:
    """As ``mean_by_site``, from numbers of fish and sums of values less ``centre`` at each site (or cell), shape (sites, 2).

    Args:
        squares: sum of squares of those differences, for the likeness; sites without fish are left out.
        crossed: where the cells belong, where there are years.
    """
    some = sums[:, 0] > 0
    sums, crossed = sums[some], some_of(crossed, some)
    value, variance, df = over_clusters(sums, lambda s: s[..., 1:] / s[..., :1], crossed, df_of_mean)
    at_sites = sums if crossed is None else put_together(sums, crossed.site)
    n, off, spread = at_sites[:, 0], at_sites[:, 1], float(variance[0, 0])
    total, mean = float(n.sum()), float(value[0])
    within = (squares - float((sums[:, 1] ** 2 / sums[:, 0]).sum())) / max(total - len(sums), 1) / total
    found = _t_over(centre + mean, spread, float(df[0]), sums[:, 0], crossed, level)
    return (
        no_surer_than_fish(found, math.sqrt(max(within, 0.0))) if math.isfinite(within) else found,
        _likeness(n, off - mean * n, squares - mean * mean * total, spread, n_years(crossed)),
    )


def _t_over(value: float, variance: float, df: float, fish: Floats, crossed: Crossed | None, level: float) -> Estimate:
    """By t over what the fish of these cells are alike within; no ends where that is one site, or one year."""
    sites = fish.size if crossed is None else int(crossed.site.max()) + 1
    if sites < 2 or n_years(crossed) == 1:
        how = "one site" if sites < 2 else "one year"
        return Estimate(value, math.nan, math.nan, math.nan, level, how, int(fish.sum()))
    found = t_interval(value, variance, sites, level, int(fish.sum()), df)
    return replace(found, interval=over_words("t", sites, crossed))


def over_words(method: str, sites: int, crossed: Crossed | None) -> str:
    """Name of an interval over sites, and years."""
    return f"{method} over {sites} sites" + (f" and {n_years(crossed)} years" if crossed else "")


def share_by_site(
    hits: ArrayLike, of: ArrayLike, level: float = 0.95, z: float | None = None, crossed: Crossed | None = None
) -> tuple[Estimate, Likeness]:
    """Share of fish, from counts at each site, with an interval over sites.

    Args:
        hits, of: counts at each site (or cell), shape (sites,); sites with none in ``of`` are left out.
        crossed: where the cells belong, where there are years.
        z: normal quantile in place of the level's, where several shares are told at once.

    Returns:
        Estimate from 0 to 1; (0, 1) with no fish at all.

    Raises:
        CoreError: ``count_out_of_range``, ``level_out_of_range``.
    """
    check_level(level)
    k, n = whole_counts(hits, "hits"), whole_counts(of, "of")
    if k.size != n.size or not n.size or (k > n).any():
        raise CoreError(
            "count_out_of_range", "Expected of each site how many of how many fish; got more of fewer.", "hits"
        )
    return _share(k[n > 0], n[n > 0], level, z, some_of(crossed, n > 0))


def _share(
    k: Floats, n: Floats, level: float, z: float | None, crossed: Crossed | None = None
) -> tuple[Estimate, Likeness]:
    total = float(n.sum())
    if total == 0:
        return Estimate(math.nan, math.nan, 0.0, 1.0, level, "Wilson", 0), Likeness(0, math.nan, math.nan)
    sums = np.column_stack([n, k])
    value, variance, df = over_clusters(sums, lambda s: s[..., 1:] / s[..., :1], crossed, df_of_mean)
    share = float(value[0])
    spread = share * (1 - share)  # of a yes or no
    at_sites = sums if crossed is None else put_together(sums, crossed.site)
    off = at_sites[:, 1] - share * at_sites[:, 0]
    alike = _likeness(at_sites[:, 0], off, total * spread, float(variance[0, 0]), n_years(crossed))
    z = float(special.ndtri(0.5 + level / 2)) if z is None else z
    if alike.sites < 2 or alike.years == 1:
        low, high = score_interval(share, total, z)
        how = "Wilson, one site" if alike.sites < 2 else "Wilson, one year"
        return Estimate(share, math.sqrt(spread / total), low, high, level, how, int(total)), alike
    as_many = total / max(alike.design_effect, 1.0) if math.isfinite(alike.design_effect) else total
    t = float(special.stdtrit(float(df[0]), special.ndtr(z)))
    low, high = score_interval(share, as_many * (z / t) ** 2, z)
    se = math.sqrt(max(float(variance[0, 0]), 0.0))
    return Estimate(share, se, low, high, level, over_words("Wilson", alike.sites, crossed), int(total)), alike


def median_by_site(
    values: ArrayLike, sites: ArrayLike, level: float = 0.95, years: ArrayLike | None = None
) -> tuple[Estimate, Likeness]:
    """Median over fish; its ends are the quantiles at the ends of the interval that half of the fish has over sites.

    With one site the interval is over its fish, as that of a share is.

    Args:
        values: of each fish, shape (n,).
        sites: label of the site of each fish, shape (n,).
        level: of the interval, between 0 and 1.
        years: of each fish, where the question is about any year.

    Raises:
        CoreError: as ``mean_by_site``.
    """
    check_level(level)
    data = numbers(values, "values")
    if data.size == 0:
        raise CoreError("no_data", "A median needs at least one value; got none.", "values")
    number, cells, crossed = cells_of(sites, years, data.size)
    median = float(np.median(data))
    # on a board many fish have the median's own length; half of those count as below
    below = (data < median) + 0.5 * (data == median)
    at_cells = sums_by_site(number, cells, below)
    half, alike = _share(at_cells[:, 1], at_cells[:, 0], level, None, crossed)
    if alike.sites < 2 or alike.years == 1:
        return median_interval(data, level), alike
    ordered = np.sort(data)
    ranks = np.array([half.lower, half.upper]) - half.value + 0.5
    low, high = np.clip([math.floor(ranks[0] * data.size) - 1, math.ceil(ranks[1] * data.size)], 0, data.size - 1)
    name = over_words("Woodruff", alike.sites, crossed)
    return Estimate(median, math.nan, float(ordered[low]), float(ordered[high]), level, name, data.size), alike


def _likeness(n: Floats, off: Floats, total: float, variance: float, years: int = 0) -> Likeness:
    """From numbers of fish, sums of what they are off the mean, and the sum of squares of that.

    The intraclass correlation is that of the analysis of variance (Donner 1986, Int. Stat. Rev. 54, 67-82, from memory).
    """
    sites, fish = n.size, float(n.sum())
    if sites < 2 or fish <= sites or not total > 1e-12 * fish:
        return Likeness(sites, math.nan, math.nan, years)
    between = float((off * off / n).sum())
    ms_between, ms_within = between / (sites - 1), max(total - between, 0.0) / (fish - sites)
    size = (fish - float((n * n).sum()) / fish) / (sites - 1)
    spread = ms_between + (size - 1) * ms_within
    icc = (ms_between - ms_within) / spread if spread > 0 else math.nan
    return Likeness(sites, variance / (total / fish / fish), icc, years)
