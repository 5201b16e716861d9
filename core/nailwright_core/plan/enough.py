"""When it is enough: the precision reached while fishing, against what the plan wanted, by the plan's own formulas.

Whoever stops as soon as an interval is narrow enough stops a little too often by chance: ``core/tests/test_enough.py`` tries how
often the interval then still holds the truth.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.checks import finite, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.species import SizeCategories
from nailwright_core.findings.size_structure import proportional_size_distribution
from nailwright_core.plan.effort import sites_for_cv
from nailwright_core.plan.sample_size import fish_for_proportion

#: Fewer say nothing of how precise they are (common practice, no source).
FEWEST_FISH, FEWEST_SITES = 20, 3


@dataclass(frozen=True)
class Enough:
    """Whether the wanted precision is reached, how many more fish or sites it takes by what was seen so far (None: not to be said
    yet), and that in words."""

    reached: bool
    more: int | None
    words: str


def size_structure_so_far(
    length_mm: ArrayLike, categories: SizeCategories | None, within: float = 8.0
) -> Enough | None:
    """Size structure: PSD within so many points, of measured lengths, shape (n,), mm.

    Args:
        length_mm: of the fish measured so far, shape (n,), mm.
        categories: of the species.
        within: half-width that is wanted, percentage points.

    Returns:
        None for a species without size categories.

    Raises:
        CoreError: ``width_out_of_range``.
    """
    if categories is None:
        return None
    if not 1 <= finite(within, "within") < 50:
        raise CoreError(
            "width_out_of_range", f"Expected a half width of 1 to below 50 points; got {within:g}.", "within"
        )
    lengths = numbers(length_mm, "length_mm")
    stock = int(np.sum(lengths >= categories.stock))
    if stock < FEWEST_FISH:
        return Enough(False, None, f"{stock} of stock length or more: how precise the size structure is can be said from {FEWEST_FISH} on.")  # fmt: skip
    psd = proportional_size_distribution(lengths, categories).psd
    half = (psd.upper - psd.lower) / 2
    said = f"Size structure: PSD {psd.value:.0f} ± {half:.0f} of {stock} of stock length"
    if half <= within:
        return Enough(True, 0, f"{said}, within {within:g}: reached. Count the rest.")
    share = min(max(psd.value / 100, 0.02), 0.98)
    more = max(fish_for_proportion(share, within / 100) - stock, 1)
    return Enough(False, more, f"{said}; about {more} more of stock length to be within {within:g}.")


def catch_rate_so_far(rates: ArrayLike, cv: float = 0.2, frame_size: int | None = None) -> Enough:
    """Catch rate: the CV of its mean over sites, from one rate for each site fished, shape (n,).

    Args:
        rates: catch rate at each site, shape (n,).
        cv: coefficient of variation that is wanted.
        frame_size: sites that could be fished; None: without end.

    Raises:
        CoreError: ``cv_out_of_range``.
    """
    found = numbers(rates, "rates")
    n = len(found)
    if n < FEWEST_SITES or not found.mean() > 0:
        return Enough(
            False,
            None,
            f"{n} sites fished: how precise the catch rate is can be said from {FEWEST_SITES} sites with fish on.",
        )
    mean, variance = float(found.mean()), float(found.var(ddof=1))
    now = math.sqrt(variance / n) / mean
    needed = sites_for_cv(mean, variance, cv, frame_size)
    said = f"Catch rate: CV {now:.0%} of {n} sites"
    if now <= cv:
        return Enough(True, 0, f"{said}, wanted {cv:.0%}: reached.")
    more = max(needed - n, 1)
    return Enough(False, more, f"{said}; about {more} more {'site' if more == 1 else 'sites'} for {cv:.0%}.")
