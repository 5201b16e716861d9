"""Density from removal at many sites: one hierarchical likelihood for the chance of capture.

At one site with a dozen fish the passes hardly tell the chance of capture; over many sites they do. Given how many fish a site
gave in all, their spread over the passes is multinomial with that site's chance (Huggins 1989, Biometrika 76, 133-140);
chances are logit-normal among sites (Wyatt 2002, Can. J. Fish. Aquat. Sci. 59, 695-706; both from memory) and are integrated
out by Gauss and Hermite. Sites without a catch count as sites.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common.arrays import Floats
from nailwright_core.common.checks import check_level, numbers, whole_counts
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.fitting.maximum import maximise
from nailwright_core.fitting.model import Model, Parameter

_NODES, _WEIGHTS = np.polynomial.hermite_e.hermegauss(24)
_SPREADS = (0.02, 2.5)
#: So many parts are left out in turn, sites or lots of sites.
_PARTS = 40


@dataclass(frozen=True)
class SiteRemoval:
    """Density over many sites.

    Attributes:
        density: fish per unit of size (100 m, or hectare), with an interval over sites.
        n: fish at each site, shape (sites,).
        p: mean chance of capture in one pass; ``p_spread`` the SD of its logit among sites.
    """

    density: Estimate
    n: Floats
    p: float
    p_spread: float
    assumptions: tuple[Assumption, ...]


def removal_sites(catches: ArrayLike, size: ArrayLike, level: float = 0.95) -> SiteRemoval:
    """Density from passes at several sites.

    Args:
        catches: shape (sites, passes).
        size: of each site, in units of 100 m, hectares or whatever density is wanted by, shape (sites,).

    Raises:
        CoreError: ``count_out_of_range``, ``passes_too_few``, ``sites_too_few`` (three are the least), ``no_fish``,
            ``no_solution`` where the catches of all sites together do not fall.
    """
    check_level(level)
    counts, sizes = whole_counts(catches, "catches", 2), numbers(size, "size")
    sites, passes = counts.shape
    if sizes.size != sites or not (sizes > 0).all():
        raise CoreError("count_out_of_range", f"Expected a size above 0 of each of {sites} sites.", "size")
    if passes < 2:
        raise CoreError("passes_too_few", f"Removal needs at least two passes; got {passes}.", "catches")
    if sites < 3:
        raise CoreError("sites_too_few", f"An interval over sites needs three or more; got {sites}.", "catches")
    if not counts.any():
        raise CoreError("no_fish", "No fish were caught at any site; there is nothing to estimate from.", "catches")
    if not _falls(counts):
        raise CoreError(
            "no_solution",
            f"The catches of all sites together ({', '.join(f'{c:g}' for c in counts.sum(axis=0))}) do not fall from pass to "
            "pass, so nothing says how many were left.",
            "catches",
        )
    mean, spread = _fit(counts)
    fish = _fish(counts, mean, spread)
    value = float(fish.sum() / sizes.sum())
    off = []
    parts = min(sites, _PARTS)
    without = _without_each(counts, np.arange(sites) % parts, parts, mean, spread)
    for part in range(parts):
        kept = np.arange(sites) % parts != part
        some = counts[kept]
        if not _falls(some):
            off.append(math.nan)  # the fall rests on the sites left out: nothing bounds the density
            continue
        left = float(_fish(some, *without[part]).sum() / sizes[kept].sum())
        off.append(math.log(max(left, 1e-12) / value))
    variance = (parts - 1) / parts * float(np.square(off).sum())
    se = math.sqrt(variance) if math.isfinite(variance) else math.inf
    # sites that all caught alike are no certainty: fish come by chance, and so are they caught
    by_chance = 1 / math.sqrt(counts.sum())
    half = max(
        float(special.stdtrit(parts - 1, 0.5 + level / 2)) * se, float(special.ndtri(0.5 + level / 2)) * by_chance
    )
    se = max(se, by_chance)
    density = Estimate(
        value, value * se, value * math.exp(-half), value * math.exp(half) if half < 700 else math.inf, level,
        f"t over {parts} parts, log scale", sites,
    )  # fmt: skip
    told = f"SD of its logit {spread:.2f}, mean {special.expit(mean):.2f}."
    return SiteRemoval(
        density, fish, float(special.expit(mean)), spread,
        (
            Assumption("Chances of capture among sites are spread as a logit-normal", "not checked", told),
            Assumption(
                "The chance of capture is the same in every pass", "not checked",
                "It usually falls, and density is then too low; one site's passes show it where fish are many.",
            ),
            Assumption("Stretches are closed while they are fished", "not checked", "Nets or riffles at both ends."),
        ),
    )  # fmt: skip


def _falls(counts: Floats) -> bool:
    passes = counts.shape[1]
    together = counts.sum(axis=0)
    return bool(together @ np.arange(passes - 1, -1, -1.0) > together.sum() * (passes - 1) / 2)


def _chances(mean: float, spread: float, passes: int) -> tuple[Floats, Floats]:
    """At each node: chance of each pass given that a fish was caught at all, shape (nodes, passes), and that of being caught."""
    p = special.expit(np.clip(mean + spread * _NODES, -14, 14))[:, None]
    each = p * (1 - p) ** np.arange(passes)
    caught = each.sum(axis=1)
    return each / caught[:, None], caught


def _weights(counts: Floats, mean: float, spread: float) -> tuple[Floats, Floats]:
    """Log likelihood of each site, and how likely each node is for it, shape (sites, nodes)."""
    shares, _ = _chances(mean, spread, counts.shape[1])
    log = counts @ np.log(shares.T) + np.log(_WEIGHTS / _WEIGHTS.sum())
    site = special.logsumexp(log, axis=1)
    return site, np.exp(log - site[:, None])


def _fit(counts: Floats) -> tuple[float, float]:
    """Mean and SD of the logit of the chance of capture."""
    # sites of the same passes say the same
    rows, times = np.unique(counts, axis=0, return_counts=True)

    model = Model(
        "removal at many sites",
        (
            Parameter("mean logit of the chance of capture", -6.0, 6.0),
            Parameter("SD of that logit among sites", *_SPREADS, link="log"),
        ),
        lambda at: float(_weights(rows, float(at[0]), float(at[1]))[0] @ times),
        starts=((-0.2, 0.3), (0.5, 1.0)),
        n=len(counts),
    )
    mean, spread = maximise(model, curvature=False).values
    return float(mean), float(spread)


def _without_each(
    counts: Floats, part: NDArray[np.int64], parts: int, mean: float, spread: float
) -> list[tuple[float, float]]:
    """Mean and SD without each part in turn: one step of Newton's from those of all, which is as near as is needed.

    Derivatives by differences, over the mean and the logarithm of the SD.
    """
    step = 1e-3
    at = np.array([mean, math.log(spread)])

    def each_part(shift: tuple[float, ...]) -> Floats:
        moved = at + step * np.array(shift)
        site, _ = _weights(counts, float(moved[0]), math.exp(float(moved[1])))
        return np.asarray(np.bincount(part, site, parts), dtype=np.float64)

    around = {shift: each_part(shift) for shift in product((-1.0, 0.0, 1.0), repeat=2)}
    slope = np.stack([around[1, 0] - around[-1, 0], around[0, 1] - around[0, -1]], axis=-1) / (2 * step)
    bend = np.empty((parts, 2, 2))
    bend[:, 0, 0] = around[1, 0] - 2 * around[0, 0] + around[-1, 0]
    bend[:, 1, 1] = around[0, 1] - 2 * around[0, 0] + around[0, -1]
    bend[:, 0, 1] = bend[:, 1, 0] = (around[1, 1] - around[1, -1] - around[-1, 1] + around[-1, -1]) / 4
    left = (bend.sum(axis=0) - bend) / step**2
    # at an end of what it may be, the SD does not move
    held = not math.log(_SPREADS[0]) + step < at[1] < math.log(_SPREADS[1]) - step
    found = []
    for gone, curve in zip(slope, left, strict=True):
        if held or curve[1, 1] >= 0 or np.linalg.det(curve) <= 0:
            move = np.array([gone[0] / curve[0, 0] if curve[0, 0] < 0 else 0.0, 0.0])
        else:
            move = np.linalg.solve(curve, gone)
        to = at + np.clip(move, -1, 1)
        found.append((float(to[0]), float(np.clip(math.exp(to[1]), *_SPREADS))))
    return found


def _fish(counts: Floats, mean: float, spread: float) -> Floats:
    """Fish at each site: its catch over the chance of being caught there, averaged over what that may be."""
    _, caught = _chances(mean, spread, counts.shape[1])
    return np.asarray(counts.sum(axis=1) * (_weights(counts, mean, spread)[1] @ (1 / caught)))
