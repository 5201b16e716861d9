"""Do length-mass lines differ between groups?

Each group keeps its own line and its own spread: one residual variance for all gives false alarms where groups differ in it
(Welch's problem). Covariances are White's in the form HC3 (MacKinnon and White 1985, J. Econometrics 29, 305-325), or over
sites where they are told (``common/by_site``). A pair of lines is tested once, slope and height together, with Hotelling's F;
how far it differs is told at a short, a middle and a long length, since one number does not hold for all where slopes differ.
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
from nailwright_core.common.checks import check_level
from nailwright_core.common.clusters import jackknife, numbered, sums_by_site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate

Groups = Mapping[str, tuple[ArrayLike, ArrayLike]]
Sites = Mapping[str, ArrayLike]
#: Lengths at which lines are compared lie between these percentiles of each group's lengths, as far as groups share them.
_INNER = (5, 95)
#: A log10 mass this small is rounding: lines that differ by less are the same.
_ROUNDING = 1e-10


@dataclass(frozen=True)
class LinePair:
    """Two lines: how much heavier the second is at each length, per cent of mass, and one test that they are the same.

    ``f``, ``df`` and ``p`` are nan where there are too few sites to say.
    """

    first: str
    second: str
    differences: tuple[Estimate, ...]
    f: float
    df: tuple[int, float]
    p: float


@dataclass(frozen=True)
class LineComparison:
    """Lines of log10 mass on log10 length by group.

    Attributes:
        slopes: slope of each group with its t interval.
        at_mm: the short, middle and long length at which lines are compared.
        shared: whether every group holds fish of those lengths; else lines are drawn on beyond their fish.
        masses: mass (g) of each group at each of those lengths by its own line.
        pairs: every pair of groups.
    """

    n: dict[str, int]
    slopes: dict[str, Estimate]
    at_mm: tuple[float, ...]
    shared: bool
    masses: dict[str, tuple[Estimate, ...]]
    pairs: tuple[LinePair, ...]


@dataclass(frozen=True)
class _Line:
    """A group's logged fish about a common centre; ``at`` is (height, slope) there, ``covariance`` theirs, on ``df``."""

    x: Floats
    y: Floats
    site: NDArray[np.int64]
    at: Floats
    covariance: Floats
    df: float


def compare_lines(groups: Groups, level: float = 0.95, sites: Sites | None = None) -> LineComparison:
    """Compare length-mass lines of two or more groups.

    Args:
        groups: name -> (lengths mm, masses g), pairs with nan left out.
        sites: name -> site of each of those fish, labels of one numbering; without it each fish stands for itself.

    Raises:
        CoreError: ``too_few_groups``; ``too_few_lengths`` where a group has fewer than 3 different lengths;
            ``lengths_differ``, ``not_positive``.
    """
    check_level(level)
    if len(groups) < 2:
        raise CoreError("too_few_groups", f"A comparison needs at least two groups; got {len(groups)}.", "groups")
    logged = {name: _logged(name, *pair, None if sites is None else sites[name]) for name, pair in groups.items()}
    together, _ = numbered(
        np.concatenate([site for *_, site in logged.values()]), sum(x.size for x, *_ in logged.values())
    )
    numbers = np.split(together, np.cumsum([x.size for x, *_ in logged.values()])[:-1])
    lengths, shared = _lengths([x for x, *_ in logged.values()])
    centre = lengths[1]
    lines = {
        name: _line(x - centre, y, site, sites is not None)
        for (name, (x, y, _)), site in zip(logged.items(), numbers, strict=True)
    }
    n = {name: line.x.size for name, line in lines.items()}
    off = lengths - centre
    slope = np.array([0.0, 1.0])
    return LineComparison(
        n,
        {name: _estimate(line, slope, level) for name, line in lines.items()},
        tuple(float(10**length) for length in lengths),
        shared,
        {name: tuple(_grams(_estimate(line, np.array([1.0, x]), level)) for x in off) for name, line in lines.items()},
        tuple(_pair(a, b, lines[a], lines[b], off, sites is not None, level) for a, b in combinations(lines, 2)),
    )


def _logged(
    name: str, length_mm: ArrayLike, mass_g: ArrayLike, sites: ArrayLike | None
) -> tuple[Floats, Floats, NDArray[np.int64]]:
    length, mass = np.asarray(length_mm, dtype=np.float64).ravel(), np.asarray(mass_g, dtype=np.float64).ravel()
    site = np.zeros(length.size, dtype=np.int64) if sites is None else np.asarray(sites).ravel()
    if not length.size == mass.size == site.size:
        raise CoreError(
            "lengths_differ", f"Group {name}: {length.size} lengths and {mass.size} masses must pair up.", "groups"
        )
    keep = ~(np.isnan(length) | np.isnan(mass))
    length, mass = length[keep], mass[keep]
    if not (np.all(length > 0) and np.all(mass > 0) and np.isfinite(length).all() and np.isfinite(mass).all()):
        raise CoreError("not_positive", f"Group {name}: every length and mass must be above zero.", "groups")
    different = np.unique(length.round(6)).size
    if different < 3:
        raise CoreError(
            "too_few_lengths",
            f"Group {name}: a line needs weighed fish of at least 3 different lengths; got {different}.",
            "groups",
        )
    return np.log10(length), np.log10(mass), site[keep]


def _lengths(groups: list[Floats]) -> tuple[Floats, bool]:
    """A short, a middle and a long length (log10) that every group holds, and whether there are such."""
    inner = np.array([np.percentile(x, _INNER) for x in groups])
    low, high = float(inner[:, 0].max()), float(inner[:, 1].min())
    if low < high:
        return np.array([low, (low + high) / 2, high]), True
    low, high = map(float, np.percentile(np.concatenate(groups), _INNER))
    return np.array([low, (low + high) / 2, high]), False


def _line(x: Floats, y: Floats, site: NDArray[np.int64], over_sites: bool) -> _Line:
    mean = float(x.mean())
    dx = x - mean
    sxx = float(dx @ dx)
    b = float(dx @ y) / sxx
    at = np.array([float(y.mean()) - b * mean, b])
    if over_sites:
        number, n_sites = numbered(site, x.size)
        _, covariance = jackknife(_sums(x, y, number, n_sites), _height_and_slope)
        return _Line(x, y, site, at, covariance, n_sites - 1)
    residual = y - at[0] - b * x
    residual[np.abs(residual) < _ROUNDING] = 0.0
    weight = (residual / np.maximum(1 - 1 / x.size - dx * dx / sxx, 1e-9)) ** 2
    design = np.stack([np.ones_like(x), x])
    inverse = np.linalg.inv(design @ design.T)
    return _Line(x, y, site, at, inverse @ (design * weight) @ design.T @ inverse, x.size - 2)


def _sums(x: Floats, y: Floats, site: NDArray[np.int64], n_sites: int) -> Floats:
    return sums_by_site(site, n_sites, x, y, x * x, x * y)


def _height_and_slope(sums: Floats) -> Floats:
    """From n and sums of x, y, xx, xy, shape (..., 5), to height and slope at x = 0."""
    n, x, y, xx, xy = np.moveaxis(sums, -1, 0)
    sxx = xx - x * x / n
    slope = np.where(sxx > 1e-9 * np.maximum(np.abs(xx), 1e-12), (xy - x * y / n) / sxx, np.nan)
    return np.stack([(y - slope * x) / n, slope], axis=-1)


def _pair(a: str, b: str, first: _Line, second: _Line, off: Floats, over_sites: bool, level: float) -> LinePair:
    apart = second.at - first.at
    apart[np.abs(apart) < _ROUNDING] = 0.0
    n_sites = 0
    if over_sites:
        number, n_sites = numbered(np.concatenate([first.site, second.site]), first.x.size + second.x.size)
        at = np.split(number, [first.x.size])
        sums = np.concatenate(
            [_sums(line.x, line.y, site, n_sites) for line, site in zip((first, second), at, strict=True)], axis=1
        )
        _, covariance = jackknife(sums, lambda s: _height_and_slope(s[..., 5:]) - _height_and_slope(s[..., :5]))
    else:
        covariance = first.covariance + second.covariance
    # three sites against nine tell little more than three do, and the same nine for both no more than nine
    most = n_sites - 1.0 if over_sites else math.inf
    freedoms = [min(_freedom(first, second, np.array([1.0, x])), most) for x in off]
    differences = [
        _differing(apart, covariance, np.array([1.0, x]), each, level, first, second)
        for x, each in zip(off, freedoms, strict=True)
    ]
    df = min(freedoms)
    f, p = _same_line(apart, covariance, df)
    return LinePair(a, b, tuple(differences), f, (2, df - 1), p)


def _freedom(first: _Line, second: _Line, part: Floats) -> float:
    """Degrees of freedom of a difference after Welch (1938) and Satterthwaite (1946)."""
    if min(first.df, second.df) <= 0:
        return 0.0
    v = [float(part @ line.covariance @ part) for line in (first, second)]
    spread = sum(each * each / line.df for each, line in zip(v, (first, second), strict=True))
    return sum(v) ** 2 / spread if spread > 0 else float(first.df + second.df)


def _same_line(apart: Floats, covariance: Floats, df: float) -> tuple[float, float]:
    """Hotelling's F that height and slope are the same."""
    if not apart.any():
        return 0.0, 1.0
    if df <= 1 or not np.isfinite(covariance).all():
        return math.nan, math.nan
    if np.abs(covariance).max() < _ROUNDING**2:  # exact lines, and not the same
        return math.inf, 0.0
    # in units of their own errors, so that neither is lost beside the other
    scale = np.sqrt(np.maximum(np.diag(covariance), _ROUNDING**2))
    correlation = covariance / np.outer(scale, scale)
    f = float((apart / scale) @ np.linalg.pinv(correlation, rcond=1e-10) @ (apart / scale)) * (df - 1) / (2 * df)
    return f, float(special.fdtrc(2, df - 1, f))


def _differing(
    apart: Floats, covariance: Floats, part: Floats, df: float, level: float, first: _Line, second: _Line
) -> Estimate:
    n = first.x.size + second.x.size
    value = float(part @ apart)
    variance = float(part @ covariance @ part)
    if df <= 0 or not math.isfinite(variance):
        return Estimate(100 * math.expm1(value * math.log(10)), math.nan, math.nan, math.nan, level, "too few sites", n)
    se = math.sqrt(max(variance, 0.0))
    half = float(special.stdtrit(df, 0.5 + level / 2)) * se
    with np.errstate(over="ignore"):
        share, low, high = (float(100 * np.expm1(each * math.log(10))) for each in (value, value - half, value + half))
    return Estimate(share, (100 + share) * math.log(10) * se, low, high, level, "t on log mass", n)


def _estimate(line: _Line, part: Floats, level: float) -> Estimate:
    value, variance = float(part @ line.at), float(part @ line.covariance @ part)
    if line.df <= 0 or not math.isfinite(variance):
        return Estimate(value, math.nan, math.nan, math.nan, level, "too few sites", line.x.size)
    se = math.sqrt(max(variance, 0.0))
    half = float(special.stdtrit(line.df, 0.5 + level / 2)) * se
    return Estimate(value, se, value - half, value + half, level, "t", line.x.size)


def _grams(height: Estimate) -> Estimate:
    value = 10**height.value
    with np.errstate(over="ignore"):  # hardly any sites: an end may be beyond all masses
        low, high = (float(np.power(10.0, each)) for each in (height.lower, height.upper))
    return Estimate(
        value,
        value * math.log(10) * height.se,
        low,
        high,
        height.level,
        "t on log mass",
        height.n,
    )
