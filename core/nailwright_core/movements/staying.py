"""How many marked fish stay near where they were let go, and from which zone to which the others go."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from nailwright_core.common.arrays import Floats
from nailwright_core.common.by_site import share_by_site
from nailwright_core.common.checks import check_level, numbers
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.intervals import wilson


@dataclass(frozen=True)
class Stay:
    """Of the journeys of one group the share that ended within a distance; ``share.n`` journeys, of ``fish`` fish."""

    name: str
    share: Estimate
    stayed: int
    fish: int


@dataclass(frozen=True)
class Staying:
    """Attributes:
    all: every journey that can be told. groups: in order of their names.
    unsure: journeys whose places are known too roughly to say on which side of the distance they ended.
    assumptions: what it takes for granted.
    """

    all: Stay
    groups: tuple[Stay, ...]
    unsure: int
    assumptions: tuple[Assumption, ...]


def staying(
    distance_m: ArrayLike,
    error_m: ArrayLike,
    fish: ArrayLike,
    groups: Sequence[str],
    within_m: float,
    level: float = 0.95,
) -> Staying:
    """Share of journeys that ended within a distance of where they began, with intervals over fish.

    A journey is told only where its error leaves no doubt: with ``distance + error`` within the distance, or ``distance - error`` beyond it.

    Args:
        distance_m, error_m: of each journey, shape (n,); the error is that of both places together.
        fish: whose journey it is, shape (n,): journeys of one fish are alike.
        groups: the group's name of each, shape (n,).
        within_m: above 0.

    Raises:
        CoreError: ``no_journeys`` where none can be told, ``lengths_differ``, ``number_out_of_range``, ``level_out_of_range``.

    Source: Wilson's interval for as many independent journeys as would tell as much (Korn and Graubard 1998).
    """
    check_level(level)
    far, error = numbers(distance_m, "distance_m"), numbers(error_m, "error_m")
    whose, of = np.asarray(fish), np.asarray(groups)
    if not far.size == error.size == whose.size == of.size:
        raise CoreError("lengths_differ", "Expected distance, error, fish and group of each journey.", "distance_m")
    if not 0 < within_m < np.inf or (far < 0).any() or (error < 0).any():
        raise CoreError(
            "number_out_of_range",
            "Expected distances and errors of 0 m or more, and a distance above 0 m to stay within.",
            "within_m",
        )
    inside, outside = far + error <= within_m, far - error > within_m
    told = inside | outside
    if not told.any():
        raise CoreError(
            "no_journeys",
            f"Expected journeys whose places are known well enough to say whether they ended within {within_m:g} m; got none.",
            "distance_m",
        )
    here, who, name = inside[told], whose[told], of[told]
    return Staying(
        share_of_fish("all", here, who, level),
        tuple(share_of_fish(str(each), here[name == each], who[name == each], level) for each in np.unique(name)),
        int((~told).sum()),
        _ASSUMPTIONS,
    )


def share_of_fish(name: str, yes: ArrayLike, fish: ArrayLike, level: float = 0.95) -> Stay:
    """The share of journeys of which something is true, with an interval over fish: journeys of one fish are alike.

    Args:
        yes: of each journey, shape (n,). fish: whose it is, shape (n,).

    Raises:
        CoreError: ``no_journeys`` of none, ``level_out_of_range``.
    """
    check_level(level)
    true = np.asarray(yes, dtype=bool)
    many, whose = np.unique(np.asarray(fish), return_inverse=True)
    k, n = int(true.sum()), int(true.size)
    if not n:
        raise CoreError("no_journeys", "Expected journeys; got none.", "yes")
    if many.size == n:  # each fish once
        low, high = wilson(k, n, level)
        share = Estimate(k / n, (k / n * (1 - k / n) / n) ** 0.5, low, high, level, "Wilson", n)
    else:
        share, _ = share_by_site(np.bincount(whose, true), np.bincount(whose), level)
    return Stay(name, share, k, int(many.size))


_ASSUMPTIONS = (
    Assumption(
        "Fish are as likely to be met far away as near",
        "not checked",
        "Where nobody fishes nobody is found: the share is that of fish met again, by where people looked. The table by zone has the effort beside it.",
    ),
    Assumption(
        "Fish behave as they did before they were tagged",
        "not checked",
        "Many fish move in the first days after handling; ask for journeys of more days.",
    ),
)


@dataclass(frozen=True)
class ZoneMatrix:
    """Journeys from zone to zone.

    Attributes:
        zones: in their order. counts: row let go in, column met in, shape (z, z).
        effort: spent in each zone, shape (z,).
        corrected: share of each row as it would be with like effort everywhere; nan in zones without effort, and in rows of which
            nothing was met where there was any, shape (z, z).
    """

    zones: tuple[str, ...]
    counts: np.ndarray
    effort: Floats
    corrected: Floats


def zone_matrix(start: ArrayLike, end: ArrayLike, zones: Sequence[str], effort: ArrayLike) -> ZoneMatrix:
    """Journeys by the zone in which they began and ended, each count over the effort where the fish was met.

    Args:
        start, end: number of the zone of each journey's ends, shape (n,). zones: names. effort: of each zone, shape (z,).

    Raises:
        CoreError: ``zone_unknown`` where a number is none of the zones, ``effort_missing`` where fish were met in a zone without effort,
            ``lengths_differ``, ``number_out_of_range``.

    Source: counts over effort estimate where fish go as long as a fish is as easy to catch in every zone (Hilborn 1990, Can. J. Fish. Aquat.
    Sci. 47, 635-643; from memory).
    """
    a, b = np.asarray(start, dtype=np.int64), np.asarray(end, dtype=np.int64)
    spent, z = numbers(effort, "effort"), len(zones)
    if a.shape != b.shape or spent.size != z:
        raise CoreError("lengths_differ", "Expected two zones of each journey, and the effort of each zone.", "start")
    if (spent < 0).any():
        raise CoreError("number_out_of_range", "Expected effort of 0 or more in every zone.", "effort")
    if a.size and (min(a.min(), b.min()) < 0 or max(a.max(), b.max()) >= z):
        raise CoreError("zone_unknown", f"Expected numbers of zones from 0 to {z - 1}.", "start")
    counts = np.bincount(a * z + b, minlength=z * z).reshape(z, z)
    found = counts.sum(axis=0)
    lost = [zones[place] for place in np.flatnonzero((found > 0) & (spent == 0)).tolist()]
    if lost:
        raise CoreError(
            "effort_missing",
            f"Fish were met in {', '.join(lost)}, where no effort is written down. Enter the effort of those runs.",
            "effort",
        )
    with np.errstate(divide="ignore", invalid="ignore"):
        rate = np.where(spent > 0, counts / spent, np.nan)
        whole = np.nansum(rate, axis=1, keepdims=True)
        corrected = np.where(whole > 0, rate / whole, np.nan)
    return ZoneMatrix(tuple(zones), counts, spent, corrected)
