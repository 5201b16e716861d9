"""When it is enough: the precision reached while fishing, against what the plan wanted, over sites as findings are.

Fish of one site are alike, so the interval is that of the finding over sites. Whoever looks after each site and stops at the
first narrow interval stops a little too often by chance: it is reached where the upper 80 % limit of the half width is within
what was wanted, from five whole sites on. How often the interval then still holds the truth: ``core/tests/plan/test_enough.py``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.by_site import share_by_site
from nailwright_core.common.checks import finite, numbers, whole_counts
from nailwright_core.common.clusters import numbered
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import SizeCategories

#: Fewer say nothing of how precise they are (common practice, no source).
FEWEST_FISH, FEWEST_SITES = 20, 5
#: The half width that is held against what was wanted is its upper limit at this level: looking often costs the rest.
LIMIT_LEVEL = 0.8
#: So many sites more are looked ahead for, and no more.
_MOST_SITES = 2000


@dataclass(frozen=True)
class Enough:
    """Whether the wanted precision is reached, how many more sites it takes by those seen so far (None: not to be said yet), and that
    in words."""

    reached: bool
    more: int | None
    words: str


def size_structure_so_far(
    length_mm: ArrayLike,
    sites: ArrayLike,
    categories: SizeCategories | None,
    within: float = 8.0,
    past_icc: float | None = None,
    laid_out: int | None = None,
) -> Enough | None:
    """Size structure: PSD within so many points, of lengths measured at sites that were fished to their end.

    Args:
        length_mm: of the fish measured so far, shape (n,), mm.
        sites: label of the site of each fish, shape (n,).
        categories: of the species.
        within: half-width that is wanted, percentage points.
        past_icc: intraclass correlation of stock-length fish of one site on past visits, for what can be said before there are
            enough sites; None where nothing is known.
        laid_out: sites that are laid out and not fished yet; None where it is not known.

    Returns:
        None for a species without size categories.

    Raises:
        CoreError: ``width_out_of_range``, ``lengths_differ``.
    """
    if categories is None:
        return None
    if not 1 <= finite(within, "within") < 50:
        raise CoreError(
            "width_out_of_range", f"Expected a half width of 1 to below 50 points; got {within:g}.", "within"
        )
    lengths = numbers(length_mm, "length_mm")
    number, n_sites = numbered(sites, lengths.size)
    of = np.bincount(number[lengths >= categories.stock], minlength=n_sites)
    hits = np.bincount(number[lengths >= categories.quality], minlength=n_sites)
    hits, of = hits[of > 0], of[of > 0]
    stock, n = int(of.sum()), int(of.size)
    if stock < FEWEST_FISH:
        return Enough(False, None, f"{stock} of stock length or more: how precise the size structure is can be said from {FEWEST_FISH} on.")  # fmt: skip
    if n < FEWEST_SITES:
        return Enough(False, None, _before_sites(hits, of, past_icc))
    psd, _ = share_by_site(hits, of)
    half = 100 * (psd.upper - psd.lower) / 2
    most = half * upper_factor(n)
    sentence = (
        f"Size structure: PSD {100 * psd.value:.0f} ± {half:.0f} by the {n} sites so far ({stock} of stock length)"
    )
    if most <= within:
        return Enough(True, 0, f"{sentence}, within {within:g} by the sites so far: reached. Count the rest.")
    more = _more_sites(half, n, within)
    if more is None:
        return Enough(False, None, f"{sentence}; sites like these will not bring it within {within:g}.")
    return Enough(
        False, more, f"{sentence}; about {_sites(more)} like these to be within {within:g}{_of_those(more, laid_out)}."
    )


def _of_those(more: int, laid_out: int | None) -> str:
    """What is to be said where fewer sites are left than it takes."""
    if laid_out is None or laid_out >= more:
        return ""
    if not laid_out:
        return ", and all sites here are fished"
    return f", and {_sites(laid_out, 'site')} {'is' if laid_out == 1 else 'are'} left here"


def _before_sites(hits: NDArray[np.int64], of: NDArray[np.int64], past_icc: float | None) -> str:
    stock, n = int(of.sum()), int(of.size)
    share = float(hits.sum()) / stock
    sentence = f"Size structure: PSD {100 * share:.0f} of {stock} of stock length at {_sites(n, 'site')}"
    if past_icc is None:
        return f"{sentence}; how precise that is of the water can be said from {FEWEST_SITES} sites on."
    effect = max(1.0, 1 + (float((of * of).sum()) / stock - 1) * min(max(past_icc, 0.0), 1.0))
    z = 1.96
    # Wilson's half width for as many independent fish as tell as much
    as_many = stock / effect
    half = 100 * z / (1 + z * z / as_many) * math.sqrt(share * (1 - share) / as_many + z * z / (4 * as_many**2))
    return f"{sentence}: ± {half:.0f} by how alike fish of one site were on past visits; it can be reached from {FEWEST_SITES} sites on."


def upper_factor(sites: int) -> float:
    """By how much the upper 80 % limit of a half width over sites exceeds it: sqrt((G - 1) / chi2 of its lower fifth).

    Args:
        sites: 2 or more.

    Raises:
        CoreError: ``too_few_sites``.
    """
    if sites < 2:
        raise CoreError("too_few_sites", f"Expected 2 sites or more; got {sites}.", "sites")
    df = sites - 1
    return math.sqrt(df / float(special.chdtri(df, LIMIT_LEVEL)))


def _more_sites(half: float, n: int, wanted: float) -> int | None:
    """Sites more until the upper limit of a half width is within what is wanted, where they are like those so far."""
    t = float(special.stdtrit(n - 1, 0.975))
    for total in range(n + 1, n + _MOST_SITES):
        wide = half * math.sqrt(n / total) * float(special.stdtrit(total - 1, 0.975)) / t * upper_factor(total)
        if wide <= wanted:
            return total - n
    return None


def _sites(n: int, what: str = "more site") -> str:
    return f"{n} {what}{'' if n == 1 else 's'}"


def catch_rate_so_far(
    fish: ArrayLike, effort: ArrayLike, cv: float = 0.2, frame_size: int | None = None, laid_out: int | None = None
) -> Enough:
    """Catch rate: the CV of its mean over sites that were fished to their end.

    Equal catches are no certainty: the variance is never taken below that of a Poisson count.

    Args:
        fish: caught at each site, shape (n,).
        effort: spent there, in the gear's unit, shape (n,).
        cv: coefficient of variation that is wanted.
        frame_size: sites that could be fished; None: without end.
        laid_out: as in ``size_structure_so_far``.

    Raises:
        CoreError: ``cv_out_of_range``, ``count_out_of_range``, ``effort_out_of_range``.
    """
    if not 0.001 <= finite(cv, "cv") <= 1:
        raise CoreError("cv_out_of_range", f"Expected a CV of 0.001 to 1; got {cv:g}.", "cv")
    caught, spent = whole_counts(fish, "fish"), numbers(effort, "effort")
    if caught.size != spent.size or (spent <= 0).any():
        raise CoreError("effort_out_of_range", "Expected an effort above 0 for each site.", "effort")
    n = int(caught.size)
    rates = caught / spent
    if n < FEWEST_SITES or not rates.sum() > 0:
        return Enough(
            False,
            None,
            f"{_sites(n, 'site')} fished: how precise the catch rate is can be said from {FEWEST_SITES} sites with fish on.",
        )
    mean = float(rates.mean())
    left = 1.0 if frame_size is None else max(1 - n / frame_size, 0.0)
    if left == 0.0:
        return Enough(True, 0, f"Catch rate: all {n} sites are fished; what is left is how the catch itself varies.")
    variance = max(float(rates.var(ddof=1)) / n, float((caught / spent**2).sum()) / n**2) * left
    now = math.sqrt(variance) / mean
    sentence = f"Catch rate: CV {now:.0%} of the mean over the {n} sites so far"
    if now * upper_factor(n) <= cv:
        return Enough(True, 0, f"{sentence}, within {cv:.0%} by the sites so far: reached.")
    more = _more_sites_for_cv(now / math.sqrt(left), n, cv, frame_size)
    if more is None:
        return Enough(False, None, f"{sentence}; sites like these will not bring it to {cv:.0%}.")
    return Enough(False, more, f"{sentence}; about {_sites(more)} like these for {cv:.0%}{_of_those(more, laid_out)}.")


def _more_sites_for_cv(cv_now: float, n: int, wanted: float, frame_size: int | None) -> int | None:
    for total in range(n + 1, min(n + _MOST_SITES, frame_size or n + _MOST_SITES) + 1):
        left = 1.0 if frame_size is None else max(1 - total / frame_size, 0.0)
        if cv_now * math.sqrt(n / total * left) * upper_factor(total) <= wanted:
            return total - n
    return None
