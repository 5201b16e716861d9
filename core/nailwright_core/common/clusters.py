"""What fish are alike within: the site they come from and, where the question is about any year, the year.

Variances by leaving out one cluster after the other. Where sites and years are crossed they are added: what is drawn once in both is
counted twice, which errs to the safe side and never gives less than none, as the form of Cameron, Gelbach and Miller (2011, J. Bus.
Econ. Stat. 29, 238-249, from memory) may, that takes it off once. Degrees of freedom of the sum by Welch and Satterthwaite: with three
years it holds 93 to 97 of 100, where t on the fewer degrees of freedom holds 99 and is half as wide again (docs/methods/coverage.md).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from nailwright_core.common.arrays import Floats
from nailwright_core.common.errors import CoreError
from nailwright_core.common.few_clusters import satterthwaite_df


def numbered(sites: ArrayLike, n: int) -> tuple[NDArray[np.int64], int]:
    """Labels of sites, shape (n,), as numbers from 0 on, and how many different ones there are.

    Args:
        sites: label of the site of each fish, shape (n,).
        n: how many fish there are.

    Raises:
        CoreError: ``lengths_differ`` unless there is a site for each fish; ``sites_unreadable`` where some is no label.
    """
    labels = np.asarray(sites).ravel()
    if labels.size != n:
        raise CoreError("lengths_differ", f"Expected a site for each of {n} fish; got {labels.size}.", "sites")
    if labels.dtype.kind in "iu" and n and labels.min() >= 0 and labels.max() <= max(1000, 4 * n):
        # already small numbers: no sorting of them all
        present = np.flatnonzero(np.bincount(labels))
        place = np.zeros(int(labels.max()) + 1, dtype=np.int64)
        place[present] = np.arange(present.size)
        return place[labels], int(present.size)
    try:
        lost = labels.dtype.kind == "f" and bool(np.isnan(labels).any())
        different, number = np.unique(labels, return_inverse=True)
    except TypeError as error:  # labels of several kinds have no order
        raise CoreError(
            "sites_unreadable", "Expected labels of sites, all texts or all whole numbers.", "sites"
        ) from error
    if lost:
        raise CoreError("sites_unreadable", "Expected a site for each fish; some have none.", "sites")
    return number.ravel().astype(np.int64), int(different.size)


def sums_by_site(sites: NDArray[np.int64], n_sites: int, *columns: Floats) -> Floats:
    """Number of fish and sums of the columns at each site, shape (sites, 1 + columns).

    Args:
        sites: number of the site of each fish, shape (n,).
        n_sites: how many different sites there are.
        columns: figures of each fish, shape (n,) each.
    """
    each = [np.bincount(sites, column, n_sites) for column in columns]
    return np.column_stack([np.bincount(sites, minlength=n_sites).astype(np.float64), *each])


@dataclass(frozen=True)
class Crossed:
    """Site and year of each cell, that is of a site in a year, by number; shapes (cells,)."""

    site: NDArray[np.int64]
    year: NDArray[np.int64]


def cells_of(sites: ArrayLike, years: ArrayLike | None, n: int) -> tuple[NDArray[np.int64], int, Crossed | None]:
    """Number of the cell of each fish, shape (n,), how many there are, and where they belong; cells are sites where there are no years.

    Args:
        sites, years: labels of each fish, shape (n,).
        n: how many fish there are.

    Raises:
        CoreError: as ``numbered``.
    """
    site, n_sites = numbered(sites, n)
    if years is None:
        return site, n_sites, None
    year, many = numbered(years, n)
    cell, cells = numbered(site * many + year, n)
    present = np.unique(site * many + year)
    return cell, cells, Crossed(present // many, present % many)


def put_together(sums: Floats, place: NDArray[np.int64]) -> Floats:
    """Sums over cells, shape (cells, k), as sums over what each cell belongs to."""
    found = np.zeros((int(place.max()) + 1, *sums.shape[1:]))
    np.add.at(found, place, sums)
    return found


def over_clusters(
    sums: Floats, estimate: Callable[[Floats], Floats], crossed: Crossed | None, df_of: Callable[[Floats], ArrayLike]
) -> tuple[Floats, Floats, Floats]:
    """As ``jackknife`` over sites, or over sites and years where they are crossed.

    Args:
        sums: shape (cells, k), of cells as ``cells_of`` has them.
        estimate: as there.
        df_of: from sums over clusters, shape (clusters, k), to the degrees of freedom of each part of the estimate, or of all.

    Returns:
        Value, covariance and degrees of freedom, shapes (m,), (m, m) and (m,).
    """
    ways = [sums] if crossed is None else [put_together(sums, place) for place in (crossed.site, crossed.year)]
    found = [jackknife(way, estimate) for way in ways]
    value, covariance = found[0][0], np.sum([of_way for _, of_way in found], axis=0)
    variance = np.stack([np.diag(of_way) for _, of_way in found])
    df = np.stack([np.broadcast_to(np.asarray(df_of(way), dtype=np.float64), value.shape) for way in ways])
    with np.errstate(divide="ignore", invalid="ignore"):
        together = variance.sum(axis=0) ** 2 / (variance**2 / df).sum(axis=0)
    return value, covariance, np.where(np.isfinite(together), together, df.min(axis=0))


def df_of_mean(sums: Floats) -> float:
    """Degrees of freedom of a mean over fish, from sums over clusters of which the first is their number."""
    return satterthwaite_df(sums[:, 0])


def jackknife(sums: Floats, estimate: Callable[[Floats], Floats]) -> tuple[Floats, Floats]:
    """A function of sums over sites, and the covariance of its parts by leaving out one site after the other.

    Args:
        sums: shape (sites, k).
        estimate: from sums, shape (..., k), to its parts, shape (..., m).

    Returns:
        Shapes (m,) and (m, m); nan where an estimate cannot do without one of the sites.
    """
    whole = sums.sum(axis=0)
    with np.errstate(divide="ignore", invalid="ignore"):
        value = estimate(whole)
        off = estimate(whole - sums) - value
    n = len(sums)
    return value, (n - 1) / n * np.einsum("si,sj->ij", off, off)


def n_years(crossed: Crossed | None) -> int:
    """How many years there are; 0 where the question is about those that were fished."""
    return 0 if crossed is None else int(crossed.year.max()) + 1


def some_of(crossed: Crossed | None, some: NDArray[np.bool_]) -> Crossed | None:
    """Those cells alone, numbered anew."""
    if crossed is None or some.all():
        return crossed
    return Crossed(*(numbered(place[some], int(some.sum()))[0] for place in (crossed.site, crossed.year)))
