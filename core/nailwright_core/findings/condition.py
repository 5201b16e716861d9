"""Condition: the length-mass line, Fulton's K, relative condition and relative weight.

Sources: Le Cren (1951), J. Anim. Ecol. 20, 201-219; Wege and Anderson (1978) and later for relative weight
(equations named in the species table); Froese (2006), J. Appl. Ichthyol. 22, 241-253 for the line's reading.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import special

from nailwright_core.common import species as species_table
from nailwright_core.common.by_site import Likeness, mean_by_site, over_words
from nailwright_core.common.checks import check_level
from nailwright_core.common.clusters import Crossed, cells_of, numbered, over_clusters, sums_by_site
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.few_clusters import satterthwaite_df_of_fit
from nailwright_core.common.species import LengthMassLine, Species
from nailwright_core.findings.line_diagnostics import line_assumptions
from nailwright_core.findings.spread import Spread, spread_along

FLAG_STUDENTISED = 3.0
#: Said where a spread that is the same at every length is refuted.
BY_LENGTH = Assumption(
    "Spread changes evenly along the logarithm of length",
    "not checked",
    "Mean masses, and the interval of a new fish, go by the spread at their length.",
)
CATEGORIES = ("under stock", "S-Q", "Q-P", "P-M", "M-T", "T")


@dataclass(frozen=True)
class MassPrediction:
    """Mean mass (g) at each length with its interval, and the interval in which one new fish falls; arrays of one shape.

    The mean's interval is that of Cox for a lognormal mean (Land 1972, Technometrics 14, 145-158, from memory), with t.
    """

    mass_g: NDArray[np.float64]
    mean_lower_g: NDArray[np.float64]
    mean_upper_g: NDArray[np.float64]
    lower_g: NDArray[np.float64]
    upper_g: NDArray[np.float64]
    level: float


@dataclass(frozen=True)
class LengthMassFit:
    """log10 W = log10_a + b log10 L by ordinary least squares.

    Attributes:
        log10_a, b: Estimates with t intervals.
        covariance, df: of the line's height at the mean log length and of b, shape (2, 2), and its degrees of freedom; over
            sites (and years) where they were told.
        likeness: how alike residuals of one site are; None where sites were not told.
        residual_sd: residual standard deviation of all, log10 units; spread: how it changes with log10 length.
        r_squared, n, length_range_mm: data summary.
        isometry_t, isometry_p: t test of b = 3 on ``df``.
        back_transformation: factor 10^(s^2 ln10 / 2) from the median to the mean mass, by the spread of all.
        residual, studentised: shape (n,), log10 units and externally studentised (each fish against the spread of the
            others), in the order given.
        flagged: indices with |studentised| > 3; they stay in the fit.
        assumptions: each with a verdict.
    """

    log10_a: Estimate
    b: Estimate
    residual_sd: float
    spread: Spread
    r_squared: float
    n: int
    length_range_mm: tuple[float, float]
    mean_log10_length: float
    covariance: NDArray[np.float64]
    df: float
    likeness: Likeness | None
    isometry_t: float
    isometry_p: float
    back_transformation: float
    residual: NDArray[np.float64]
    studentised: NDArray[np.float64]
    flagged: NDArray[np.int64]
    assumptions: tuple[Assumption, ...]

    @property
    def line(self) -> LengthMassLine:
        """The line alone, for judging captures and for relative condition."""
        return LengthMassLine(self.log10_a.value, self.b.value, self.residual_sd)

    def predict(self, length_mm: ArrayLike, level: float = 0.95) -> MassPrediction:
        """Mean mass and prediction interval at each length (mm), back-transformed by the spread at that length."""
        x = np.log10(np.asarray(length_mm, dtype=float))
        centre = self.log10_a.value + self.b.value * x
        part = np.stack([np.ones_like(x), x - self.mean_log10_length], axis=-1)
        variance = np.einsum("...i,ij,...j->...", part, self.covariance, part)
        t = _t_quantile(self.df, level) if self.df > 0 else math.nan
        of_fish = self.spread.variance(x)
        half = t * np.sqrt(of_fish + variance)
        mean = 10 ** (centre + of_fish * math.log(10) / 2)
        spread = (math.log(10) / 2) ** 2 * self.spread.variance_of_variance(x)
        factor = 10 ** (t * np.sqrt(variance + spread))
        return MassPrediction(mean, mean / factor, mean * factor, 10 ** (centre - half), 10 ** (centre + half), level)


def fit_length_mass(
    length_mm: ArrayLike,
    mass_g: ArrayLike,
    level: float = 0.95,
    sites: ArrayLike | None = None,
    years: ArrayLike | None = None,
) -> LengthMassFit:
    """Fit the length-mass line to measured pairs of one species and length type.

    Args:
        length_mm, mass_g: shape (n,); pairs with nan in either are left out.
        level: of the intervals of a and b.
        sites: of each fish, shape (n,): intervals are then over sites (``common/by_site``); without it over fish.
        years: of each fish beside its site, where the question is about any year.

    Raises:
        CoreError: ``lengths_differ``, ``not_positive``, ``too_few_lengths`` (fewer than 3 distinct lengths).
    """
    check_level(level)
    length, mass, site, year = _pairs(length_mm, mass_g, sites, years)
    different = _different(length)
    if different < 3:
        raise CoreError(
            "too_few_lengths",
            f"A length-mass line needs weighed fish of at least 3 different lengths; got {different}.",
            "length_mm",
        )
    x, y = np.log10(length), np.log10(mass)
    n = x.size
    mean_x = float(x.mean())
    dx = x - mean_x
    sxx = float(dx @ dx)
    b = float(dx @ y) / sxx
    a = float(y.mean()) - b * mean_x
    residual = y - a - b * x
    # Over identical points rounding can leave a tiny negative or zero sum; the fit is then exact and has no spread.
    sse = float(residual @ residual)
    sd = math.sqrt(sse / (n - 2)) if n > 2 else 0.0
    total = float(((y - y.mean()) ** 2).sum())
    spread = spread_along(x, residual)
    covariance, df, likeness, over = _by_spread(dx, sxx, spread, x), float(n - 2), None, "t"
    if site is not None:
        likeness = mean_by_site(residual, site, level, year)[1]
        if likeness.sites > 1 and likeness.years != 1:
            cells = cells_of(site, year, n)
            covariance, df = _over_sites(dx, y, *cells)
            over = over_words("t", likeness.sites, cells[2])
    se_b = math.sqrt(covariance[1, 1])
    at_one = np.array([1.0, -mean_x])
    se_a = math.sqrt(max(float(at_one @ covariance @ at_one), 0.0)) if np.isfinite(covariance).all() else math.nan
    leverage = 1 / n + dx**2 / sxx
    studentised = _studentised(residual, leverage, sse)
    t = (b - 3) / se_b if se_b > 0 else math.inf * math.copysign(1, b - 3) if abs(b - 3) > 1e-9 else 0.0
    return LengthMassFit(
        log10_a=_t_estimate(a, se_a, df, n, level, over),
        b=_t_estimate(b, se_b, df, n, level, over),
        residual_sd=sd,
        spread=spread,
        r_squared=1 - sse / total if total > 0 else math.nan,
        n=n,
        length_range_mm=(float(length.min()), float(length.max())),
        mean_log10_length=mean_x,
        covariance=covariance,
        df=df,
        likeness=likeness,
        isometry_t=t,
        isometry_p=float(2 * special.stdtr(df, -abs(t))) if math.isfinite(t) else 0.0,
        back_transformation=10 ** (sd**2 * math.log(10) / 2),
        residual=residual,
        studentised=studentised,
        flagged=np.flatnonzero(np.abs(studentised) > FLAG_STUDENTISED),
        assumptions=(
            *line_assumptions(x, residual, leverage, sd),
            *([BY_LENGTH] if spread.slope else []),
            *([likeness.assumption] if likeness else []),
        ),
    )


def _by_spread(dx: NDArray[np.float64], sxx: float, spread: Spread, x: NDArray[np.float64]) -> NDArray[np.float64]:
    """Covariance of height and slope where each fish has the spread of its length."""
    if spread.slope == 0:
        return np.diag([1 / dx.size, 1 / sxx]) * math.exp(spread.at)
    of_fish = spread.variance(x)
    weighted = dx * of_fish
    height, both, slope = (
        float(of_fish.sum()) / dx.size**2,
        float(weighted.sum()) / dx.size / sxx,
        float(weighted @ dx) / sxx**2,
    )
    return np.array([[height, both], [both, slope]])


def _over_sites(
    dx: NDArray[np.float64], y: NDArray[np.float64], cell: NDArray[np.int64], cells: int, crossed: Crossed | None
) -> tuple[NDArray[np.float64], float]:
    """Covariance of height and slope by leaving out one site (and year) after the other, and the fewer of their degrees
    of freedom."""

    def line(sums: NDArray[np.float64]) -> NDArray[np.float64]:
        n, sx, sy, sxx, sxy = np.moveaxis(sums, -1, 0)
        slope = (sxy - sx * sy / n) / (sxx - sx * sx / n)
        return np.stack([(sy - slope * sx) / n, slope], axis=-1)

    def df_of(sums: NDArray[np.float64]) -> list[float]:
        normal = sums[:, [0, 1, 1, 3]].reshape(-1, 2, 2)
        return [satterthwaite_df_of_fit(normal, wanted) for wanted in np.eye(2)]

    sums = sums_by_site(cell, cells, dx, y, dx * dx, dx * y)
    _, covariance, df = over_clusters(sums, line, crossed, df_of)
    return covariance, float(df.min())


def fulton_k(length_mm: ArrayLike, mass_g: ArrayLike) -> NDArray[np.float64]:
    """Fulton's K = 10^5 W / L^3 (g, mm), elementwise; comparable only among fish of like length.

    Args:
        length_mm: lengths, mm, of any shape.
        mass_g: masses, g, of the same shape.
    """
    length, mass = np.asarray(length_mm, dtype=float), np.asarray(mass_g, dtype=float)
    return np.asarray(1e5 * mass / length**3)


def relative_condition(
    length_mm: ArrayLike, mass_g: ArrayLike, line: LengthMassLine | LengthMassFit
) -> NDArray[np.float64]:
    """Kn = W / W', elementwise, with W' from the stated line (Le Cren 1951); 1 is on the line.

    Args:
        length_mm: lengths, mm, of any shape.
        mass_g: masses, g, of the same shape.
        line: from which the expected mass is taken.
    """
    used = line.line if isinstance(line, LengthMassFit) else line
    length, mass = np.asarray(length_mm, dtype=float), np.asarray(mass_g, dtype=float)
    return np.asarray(mass / 10 ** (used.log10_a + used.b * np.log10(length)))


def relative_weight(species: Species | str, length_mm: ArrayLike, mass_g: ArrayLike) -> NDArray[np.float64]:
    """Wr = 100 W / Ws, elementwise; nan below the equation's minimum length and for species with no equation.

    Args:
        species: a Species or its code. Lengths must be of the species' own length type.

    Raises:
        CoreError: ``species_unknown``.
    """
    kind = species_table.get(species) if isinstance(species, str) else species
    length, mass = np.asarray(length_mm, dtype=float), np.asarray(mass_g, dtype=float)
    standard = kind.standard_weight
    if standard is None:
        return np.full(np.broadcast(length, mass).shape, np.nan)
    with np.errstate(invalid="ignore", divide="ignore"):
        # exp of a sum of logs: several times faster than powers
        wr = mass * np.exp(math.log(100) - math.log(10) * standard.a - standard.b * np.log(length))
    return np.where(length >= standard.min_mm, wr, np.nan)


def _studentised(residual: NDArray[np.float64], leverage: NDArray[np.float64], sse: float) -> NDArray[np.float64]:
    """Externally studentised residuals: each fish against the spread of the others.

    Internal ones can never pass sqrt(n - 2) however far off a fish is. Source: Weisberg (2005), Applied Linear Regression,
    section 9.1 (from memory).
    """
    n = residual.size
    if n <= 3 or sse <= 1e-24 * n:
        return np.zeros_like(residual)  # no others to hold it against, or all on the line
    others = 1 - leverage
    others *= sse
    others -= residual * residual
    floor = 1e-9 * sse  # one fish off a line that all others lie on exactly
    alone = others <= floor
    np.maximum(others, floor, out=others)
    np.divide(n - 3, others, out=others)
    np.sqrt(others, out=others)
    others *= residual
    if alone.any():
        others[alone] = np.where(np.abs(residual[alone]) > 1e-12, np.copysign(np.inf, residual[alone]), 0.0)
    return others


def _different(values: NDArray[np.float64]) -> int:
    """How many different values there are, counted only as far as it matters: in most fish the first thousand tell."""
    # lengths a rounding error apart are one length: a line through them would have any slope
    few = np.unique(values[:1000].round(6)).size
    return few if few >= 3 or values.size <= 1000 else np.unique(values.round(6)).size


def _mean(values: NDArray[np.float64], level: float) -> Estimate:
    n = values.size
    if n == 1:
        return Estimate(float(values[0]), math.nan, math.nan, math.nan, level, "t", 1)
    return _t_estimate(float(values.mean()), float(values.std(ddof=1)) / math.sqrt(n), n - 1, n, level)


def _t_estimate(value: float, se: float, df: float, n: int, level: float, name: str = "t") -> Estimate:
    half = _t_quantile(df, level) * se
    return Estimate(value, se, value - half, value + half, level, name, n)


def _t_quantile(degrees: float, level: float) -> float:
    return float(special.stdtrit(degrees, 0.5 + level / 2))


def _pairs(
    length_mm: ArrayLike, mass_g: ArrayLike, sites: ArrayLike | None, years: ArrayLike | None = None
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.int64] | None, NDArray[np.int64] | None]:
    length, mass = np.asarray(length_mm, dtype=float).ravel(), np.asarray(mass_g, dtype=float).ravel()
    site, year = (None if labels is None else numbered(labels, length.size)[0] for labels in (sites, years))
    if length.size != mass.size:
        raise CoreError(
            "lengths_differ", f"Got {length.size} lengths and {mass.size} masses; they must pair up.", "mass_g"
        )
    # the extremes tell whether any is missing, below zero or infinite
    if length.size and length.min() > 0 and mass.min() > 0 and length.max() < math.inf and mass.max() < math.inf:
        return length, mass, site, year
    keep = ~(np.isnan(length) | np.isnan(mass))
    length, mass = length[keep], mass[keep]
    if length.size and not (
        np.all(length > 0) and np.all(mass > 0) and np.isfinite(length).all() and np.isfinite(mass).all()
    ):
        raise CoreError("not_positive", "Every length and mass must be a finite number above zero.", "mass_g")
    return length, mass, None if site is None else site[keep], None if year is None else year[keep]
