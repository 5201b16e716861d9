"""Do length-mass lines, or condition, differ between groups?

ANCOVA on logged length and mass: slopes first; only where they may be parallel are the lines' heights compared, as
adjusted means at the common mean length (Sokal and Rohlf, Biometry, chapter on analysis of covariance, from memory).
Condition by Kruskal and Wallis (1952), pairs by Mann and Whitney (1947) with Holm's correction.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special, stats

from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Estimate
from nailwright_core.common.multiple import holm

Floats = NDArray[np.float64]
Groups = Mapping[str, tuple[ArrayLike, ArrayLike]]
#: Slopes are called different below this p.
SLOPES_P = 0.05


@dataclass(frozen=True)
class Pair:
    """Two groups: the difference of the second from the first, and its p corrected for the number of pairs."""

    first: str
    second: str
    difference: float
    p: float
    p_holm: float


@dataclass(frozen=True)
class LineComparison:
    """ANCOVA of log10 mass on log10 length by group.

    Attributes:
        slopes: slope of each group with its t interval.
        slopes_f, slopes_df, slopes_p: test that slopes are alike.
        parallel: whether they may be; where not, the three below are None and empty.
        heights_f, heights_df, heights_p: test that lines of one slope are of one height.
        common_slope: slope shared by all.
        at_mm: common (geometric) mean length.
        adjusted_mass_g: mass of each group at ``at_mm`` by its line, with interval.
        pairs: differences of log10 height in per cent of mass.
    """

    n: dict[str, int]
    slopes: dict[str, Estimate]
    slopes_f: float
    slopes_df: tuple[int, int]
    slopes_p: float
    parallel: bool
    heights_f: float | None
    heights_df: tuple[int, int] | None
    heights_p: float | None
    common_slope: Estimate | None
    at_mm: float
    adjusted_mass_g: dict[str, Estimate]
    pairs: tuple[Pair, ...]


@dataclass(frozen=True)
class ValueComparison:
    """Kruskal-Wallis over groups of values, and every pair with Holm's correction (differences of medians)."""

    n: dict[str, int]
    medians: dict[str, float]
    h: float
    df: int
    p: float
    pairs: tuple[Pair, ...]


def compare_lines(groups: Groups, level: float = 0.95) -> LineComparison:
    """Compare length-mass lines of two or more groups.

    Args:
        groups: name -> (lengths mm, masses g), pairs with nan left out.

    Raises:
        CoreError: ``too_few_groups``; ``too_few_lengths`` where a group has fewer than 3 different lengths;
            ``lengths_differ``, ``not_positive``.
    """
    logged = {name: _logged(name, *pair) for name, pair in groups.items()}
    if len(logged) < 2:
        raise CoreError("too_few_groups", f"A comparison needs at least two groups; got {len(logged)}.", "groups")
    names = list(logged)
    n = {name: x.size for name, (x, _) in logged.items()}
    total, g = sum(n.values()), len(names)
    parts = {name: _sums(x, y) for name, (x, y) in logged.items()}
    each_sse = {name: max(s.syy - s.sxy**2 / s.sxx, 0.0) for name, s in parts.items()}
    sse_separate, df_separate = sum(each_sse.values()), total - 2 * g
    sxx, sxy, syy = (sum(getattr(s, field) for s in parts.values()) for field in ("sxx", "sxy", "syy"))
    slope = sxy / sxx
    sse_parallel, df_parallel = max(syy - sxy**2 / sxx, 0.0), total - g - 1
    slopes_f, slopes_p = _f_test(sse_parallel, sse_separate, g - 1, df_separate)
    parallel = slopes_p >= SLOPES_P
    all_x = np.concatenate([x for x, _ in logged.values()])
    centre = float(all_x.mean())
    heights: tuple[float | None, tuple[int, int] | None, float | None] = (None, None, None)
    common: Estimate | None = None
    adjusted: dict[str, Estimate] = {}
    pairs: tuple[Pair, ...] = ()
    if parallel:
        whole = _sums(all_x, np.concatenate([y for _, y in logged.values()]))
        sse_one = max(whole.syy - whole.sxy**2 / whole.sxx, 0.0)
        f, p = _f_test(sse_one, sse_parallel, g - 1, df_parallel)
        heights = (f, (g - 1, df_parallel), p)
        variance = sse_parallel / df_parallel
        common = _t_estimate(slope, math.sqrt(variance / sxx), df_parallel, total, level)
        adjusted = {name: _adjusted(parts[name], slope, centre, variance, sxx, df_parallel, level) for name in names}
        pairs = _height_pairs(parts, slope, variance, sxx, df_parallel)
    slopes = {
        name: _t_estimate(s.sxy / s.sxx, math.sqrt(each_sse[name] / (s.n - 2) / s.sxx), s.n - 2, s.n, level)
        for name, s in parts.items()
    }
    return LineComparison(
        n, slopes, slopes_f, (g - 1, df_separate), slopes_p, parallel, *heights, common, 10**centre, adjusted, pairs
    )


def compare_values(groups: Mapping[str, ArrayLike]) -> ValueComparison:
    """Compare values, such as relative weights, of two or more groups by ranks.

    Args:
        groups: name -> values, shape (n,), nan left out.

    Raises:
        CoreError: ``too_few_groups``, ``too_few_fish`` for a group with none, ``values_all_equal``.
    """
    data = {name: np.asarray(values, dtype=np.float64).ravel() for name, values in groups.items()}
    data = {name: values[~np.isnan(values)] for name, values in data.items()}
    if len(data) < 2:
        raise CoreError("too_few_groups", f"A comparison needs at least two groups; got {len(data)}.", "groups")
    for name, values in data.items():
        if values.size == 0:
            raise CoreError("too_few_fish", f"Group {name} holds no fish with a value. Widen the selection.", "groups")
    if np.unique(np.concatenate(list(data.values()))).size == 1:
        raise CoreError("values_all_equal", "All values are equal; there is nothing to compare.", "groups")
    found = stats.kruskal(*data.values())
    couples = list(combinations(data, 2))
    p = np.array([stats.mannwhitneyu(data[a], data[b], method="asymptotic").pvalue for a, b in couples])
    medians = {name: float(np.median(values)) for name, values in data.items()}
    pairs = tuple(
        Pair(a, b, medians[b] - medians[a], float(raw), float(corrected))
        for (a, b), raw, corrected in zip(couples, p, holm(np.nan_to_num(p, nan=1.0)), strict=True)
    )
    return ValueComparison(
        {name: values.size for name, values in data.items()},
        medians, float(found.statistic), len(data) - 1, float(found.pvalue), pairs,
    )  # fmt: skip


@dataclass(frozen=True)
class _Sums:
    n: int
    mean_x: float
    mean_y: float
    sxx: float
    sxy: float
    syy: float


def _sums(x: Floats, y: Floats) -> _Sums:
    dx, dy = x - x.mean(), y - y.mean()
    return _Sums(x.size, float(x.mean()), float(y.mean()), float(dx @ dx), float(dx @ dy), float(dy @ dy))


def _logged(name: str, length_mm: ArrayLike, mass_g: ArrayLike) -> tuple[Floats, Floats]:
    length, mass = np.asarray(length_mm, dtype=np.float64).ravel(), np.asarray(mass_g, dtype=np.float64).ravel()
    if length.size != mass.size:
        raise CoreError(
            "lengths_differ", f"Group {name}: {length.size} lengths and {mass.size} masses must pair up.", "groups"
        )
    keep = ~(np.isnan(length) | np.isnan(mass))
    length, mass = length[keep], mass[keep]
    if not (np.all(length > 0) and np.all(mass > 0)):
        raise CoreError("not_positive", f"Group {name}: every length and mass must be above zero.", "groups")
    if np.unique(length).size < 3:
        raise CoreError(
            "too_few_lengths",
            f"Group {name}: a line needs weighed fish of at least 3 different lengths; got {np.unique(length).size}.",
            "groups",
        )
    return np.log10(length), np.log10(mass)


def _f_test(sse_simple: float, sse_full: float, df: int, df_full: int) -> tuple[float, float]:
    gain = max(sse_simple - sse_full, 0.0)
    if df_full <= 0 or sse_full <= 1e-18:
        return (math.inf, 0.0) if gain > 1e-15 and df_full > 0 else (0.0, 1.0)
    f = gain / df / (sse_full / df_full)
    return f, float(special.fdtrc(df, df_full, f))


def _t_estimate(value: float, se: float, df: int, n: int, level: float) -> Estimate:
    half = float(special.stdtrit(df, 0.5 + level / 2)) * se
    return Estimate(value, se, value - half, value + half, level, "t", n)


def _adjusted(s: _Sums, slope: float, centre: float, variance: float, sxx: float, df: int, level: float) -> Estimate:
    height = s.mean_y + slope * (centre - s.mean_x)
    se = math.sqrt(variance * (1 / s.n + (centre - s.mean_x) ** 2 / sxx))
    half = float(special.stdtrit(df, 0.5 + level / 2)) * se
    value = 10**height
    return Estimate(
        value, value * math.log(10) * se, 10 ** (height - half), 10 ** (height + half), level, "t on log mass", s.n
    )


def _height_pairs(parts: dict[str, _Sums], slope: float, variance: float, sxx: float, df: int) -> tuple[Pair, ...]:
    couples = list(combinations(parts, 2))
    differences, p = [], []
    for a, b in couples:
        first, second = parts[a], parts[b]
        difference = (second.mean_y - first.mean_y) - slope * (second.mean_x - first.mean_x)
        se = math.sqrt(variance * (1 / first.n + 1 / second.n + (second.mean_x - first.mean_x) ** 2 / sxx))
        t = difference / se if se > 0 else math.inf
        differences.append(100 * (10**difference - 1))
        p.append(float(2 * special.stdtr(df, -abs(t))))
    return tuple(
        Pair(a, b, difference, raw, float(corrected))
        for (a, b), difference, raw, corrected in zip(couples, differences, p, holm(p), strict=True)
    )
