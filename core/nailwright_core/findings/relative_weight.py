"""Relative weight of a sample: its means by size category and over sites, and whether it changes with length."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.by_site import Likeness, mean_of_sums, over_words, t_interval
from nailwright_core.common.clusters import Crossed, cells_of
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.species import Species
from nailwright_core.findings.condition import (
    CATEGORIES,
    _different,
    _mean,
    _over_sites,
    _pairs,
    _t_estimate,
    relative_weight,
)
from nailwright_core.findings.size_structure import categories_of


@dataclass(frozen=True)
class RelativeWeightSummary:
    """Mean Wr by size category and over length.

    ``likeness`` tells of all fish how alike those of one site are; None where sites were not told.

    ``by_category`` maps "under stock", "S-Q", "Q-P", "P-M", "M-T", "T" to a mean with its t interval, only those
    that hold fish; ``overall`` is the mean over all; ``trend`` the change of Wr per 100 mm of length, None where
    fewer than 3 lengths were weighed. ``wr`` is shape (n,), nan where undefined.
    """

    wr: NDArray[np.float64]
    overall: Estimate
    by_category: dict[str, Estimate]
    trend: Estimate | None
    n_undefined: int
    likeness: Likeness | None = None


def summarise_relative_weight(
    species: Species,
    length_mm: ArrayLike,
    mass_g: ArrayLike,
    level: float = 0.95,
    sites: ArrayLike | None = None,
    years: ArrayLike | None = None,
) -> RelativeWeightSummary:
    """Mean Wr by size category with intervals, and whether Wr changes with length.

    Args:
        sites: of each fish, shape (n,): intervals are then over sites (``common/by_site``); without it over fish.
        years: of each fish beside its site, where the question is about any year.

    Raises:
        CoreError: ``no_standard_weight`` for a species with no equation, ``no_relative_weight`` where no fish reaches
            its minimum length, and as ``fit_length_mass`` for the pairs.
    """
    if species.standard_weight is None:
        raise CoreError(
            "no_standard_weight", f"No standard-weight equation is known for {species.common_name}.", "species"
        )
    length, mass, site, year = _pairs(length_mm, mass_g, sites, years)
    wr = relative_weight(species, length, mass)
    defined = ~np.isnan(wr)
    if not defined.any():
        raise CoreError(
            "no_relative_weight",
            f"The equation for {species.common_name} starts at {species.standard_weight.min_mm:g} mm; no weighed fish "
            "is that long.",
            "length_mm",
        )
    n_undefined = int(defined.size - np.count_nonzero(defined))
    values = wr
    if n_undefined:
        length, values = length[defined], wr[defined]
        site, year = (None if labels is None else labels[defined] for labels in (site, year))
    likeness, cells = None, None
    if site is not None:
        cells = cells_of(site, year, values.size)
        overall, by_category, likeness = _means_over_sites(species, length, values, *cells, level)
    if likeness is None or likeness.sites == 1 or likeness.years == 1:  # its fish, told as such by the likeness
        cells, overall, by_category = None, _mean(values, level), _by_category(species, length, values, level)
    trend = _trend(length, values, level, cells)
    return RelativeWeightSummary(wr, overall, by_category, trend, n_undefined, likeness)


def _means_over_sites(
    species: Species,
    length: NDArray[np.float64],
    wr: NDArray[np.float64],
    at: NDArray[np.int64],
    n_cells: int,
    crossed: Crossed | None,
    level: float,
) -> tuple[Estimate, dict[str, Estimate], Likeness]:
    """Mean of all and of each category, from one table of sums."""
    category = _categories(species, length)
    centre = float(wr.mean())
    off = wr - centre
    cell = at * len(CATEGORIES) + category
    cells = n_cells * len(CATEGORIES)
    sums = np.stack([np.bincount(cell, minlength=cells), np.bincount(cell, off, cells)], axis=-1)
    table = sums.reshape(n_cells, len(CATEGORIES), 2).astype(np.float64)
    overall, likeness = mean_of_sums(table.sum(axis=1), centre, level, float(off @ off), crossed)
    if species.size_categories is None:
        return overall, {}, likeness
    each = {
        name: mean_of_sums(table[:, place], centre, level, crossed=crossed)[0]
        for place, name in enumerate(CATEGORIES)
        if table[:, place, 0].any()
    }
    return overall, each, likeness


def _by_category(
    species: Species, length: NDArray[np.float64], wr: NDArray[np.float64], level: float
) -> dict[str, Estimate]:
    if species.size_categories is None:
        return {}
    category = _categories(species, length)
    found = {}
    for place, name in enumerate(CATEGORIES):
        chosen = wr[category == place]
        if chosen.size:
            found[name] = _mean(chosen, level)
    return found


def _categories(species: Species, length: NDArray[np.float64]) -> NDArray[np.int8]:
    return categories_of(length, [limit for _, limit in species.size_categories or ()])


def _trend(
    length: NDArray[np.float64],
    wr: NDArray[np.float64],
    level: float,
    cells: tuple[NDArray[np.int64], int, Crossed | None] | None,
) -> Estimate | None:
    if _different(length) < 3:
        return None
    dx = (length - length.mean()) / 100
    sxx = float(dx @ dx)
    slope = float(dx @ wr) / sxx
    if cells is not None:
        covariance, df = _over_sites(dx, wr - wr.mean(), *cells)
        sites = cells[1] if cells[2] is None else int(cells[2].site.max()) + 1
        found = t_interval(slope, float(covariance[1, 1]), sites, level, wr.size, df)
        return replace(found, interval=over_words("t", sites, cells[2]))
    residual = wr - wr.mean() - slope * dx
    sd = math.sqrt(float(residual @ residual) / (wr.size - 2))
    return _t_estimate(slope, sd / math.sqrt(sxx), wr.size - 2, wr.size, level)
