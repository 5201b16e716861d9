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
from nailwright_core.common.checks import check_level
from nailwright_core.common.errors import CoreError
from nailwright_core.common.estimate import Assumption, Estimate
from nailwright_core.common.species import LengthMassLine, Species
from nailwright_core.findings.line_comparison import compare_lines, compare_values
from nailwright_core.findings.line_diagnostics import line_assumptions

__all__ = [
    "LengthMassFit",
    "MassPrediction",
    "RelativeWeightSummary",
    "compare_lines",
    "compare_values",
    "fit_length_mass",
    "fulton_k",
    "relative_condition",
    "relative_weight",
    "summarise_relative_weight",
]

FLAG_STUDENTISED = 3.0


@dataclass(frozen=True)
class MassPrediction:
    """Mean mass (g) at each length, and the interval in which one new fish's mass falls; arrays of one shape."""

    mass_g: NDArray[np.float64]
    lower_g: NDArray[np.float64]
    upper_g: NDArray[np.float64]
    level: float


@dataclass(frozen=True)
class LengthMassFit:
    """log10 W = log10_a + b log10 L by ordinary least squares.

    Attributes:
        log10_a, b: Estimates with t intervals.
        residual_sd: residual standard deviation, log10 units.
        r_squared, n, length_range_mm: data summary.
        isometry_t, isometry_p: t test of b = 3 on n - 2 degrees of freedom.
        back_transformation: factor 10^(s^2 ln10 / 2) from the median to the mean mass.
        residual, studentised: shape (n,), log10 units and externally studentised (each fish against the spread of the
            others), in the order given.
        flagged: indices with |studentised| > 3; they stay in the fit.
        assumptions: each with a verdict.
    """

    log10_a: Estimate
    b: Estimate
    residual_sd: float
    r_squared: float
    n: int
    length_range_mm: tuple[float, float]
    mean_log10_length: float
    sum_squares_log10_length: float
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
        """Mean mass and prediction interval at each length (mm), back-transformed."""
        length = np.asarray(length_mm, dtype=float)
        x = np.log10(length)
        centre = self.log10_a.value + self.b.value * x
        leverage = 1 / self.n + (x - self.mean_log10_length) ** 2 / self.sum_squares_log10_length
        half = _t_quantile(self.n - 2, level) * self.residual_sd * np.sqrt(1 + leverage)
        return MassPrediction(
            10**centre * self.back_transformation, 10 ** (centre - half), 10 ** (centre + half), level
        )


def fit_length_mass(length_mm: ArrayLike, mass_g: ArrayLike, level: float = 0.95) -> LengthMassFit:
    """Fit the length-mass line to measured pairs of one species and length type.

    Args:
        length_mm, mass_g: shape (n,); pairs with nan in either are left out.
        level: of the intervals of a and b.

    Raises:
        CoreError: ``lengths_differ``, ``not_positive``, ``too_few_lengths`` (fewer than 3 distinct lengths).
    """
    check_level(level)
    length, mass = _pairs(length_mm, mass_g)
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
    se_b = sd / math.sqrt(sxx)
    se_a = sd * math.sqrt(1 / n + mean_x**2 / sxx)
    leverage = 1 / n + dx**2 / sxx
    spread = sd * np.sqrt(np.maximum(1 - leverage, 1e-12))
    internal = np.divide(residual, spread, out=np.zeros_like(residual), where=spread > 1e-12)
    studentised = _without_itself(internal, n)
    t = (b - 3) / se_b if se_b > 0 else math.inf * math.copysign(1, b - 3) if abs(b - 3) > 1e-9 else 0.0
    return LengthMassFit(
        log10_a=_t_estimate(a, se_a, n, 2, level),
        b=_t_estimate(b, se_b, n, 2, level),
        residual_sd=sd,
        r_squared=1 - sse / total if total > 0 else math.nan,
        n=n,
        length_range_mm=(float(length.min()), float(length.max())),
        mean_log10_length=mean_x,
        sum_squares_log10_length=sxx,
        isometry_t=t,
        isometry_p=float(2 * special.stdtr(n - 2, -abs(t))) if math.isfinite(t) else 0.0,
        back_transformation=10 ** (sd**2 * math.log(10) / 2),
        residual=residual,
        studentised=studentised,
        flagged=np.flatnonzero(np.abs(studentised) > FLAG_STUDENTISED),
        assumptions=line_assumptions(x, residual, leverage, sd),
    )


def fulton_k(length_mm: ArrayLike, mass_g: ArrayLike) -> NDArray[np.float64]:
    """Fulton's K = 10^5 W / L^3 (g, mm), elementwise; comparable only among fish of like length."""
    length, mass = np.asarray(length_mm, dtype=float), np.asarray(mass_g, dtype=float)
    return np.asarray(1e5 * mass / length**3)


def relative_condition(
    length_mm: ArrayLike, mass_g: ArrayLike, line: LengthMassLine | LengthMassFit
) -> NDArray[np.float64]:
    """Kn = W / W', elementwise, with W' from the stated line (Le Cren 1951); 1 is on the line."""
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


@dataclass(frozen=True)
class RelativeWeightSummary:
    """Mean Wr by size category and over length.

    ``by_category`` maps "under stock", "S-Q", "Q-P", "P-M", "M-T", "T" to a mean with its t interval, only those
    that hold fish; ``overall`` is the mean over all; ``trend`` the change of Wr per 100 mm of length, None where
    fewer than 3 lengths were weighed. ``wr`` is shape (n,), nan where undefined.
    """

    wr: NDArray[np.float64]
    overall: Estimate
    by_category: dict[str, Estimate]
    trend: Estimate | None
    n_undefined: int


def summarise_relative_weight(
    species: Species, length_mm: ArrayLike, mass_g: ArrayLike, level: float = 0.95
) -> RelativeWeightSummary:
    """Mean Wr by size category with intervals, and whether Wr changes with length.

    Raises:
        CoreError: ``no_standard_weight`` for a species with no equation, ``no_relative_weight`` where no fish reaches
            its minimum length, and as ``fit_length_mass`` for the pairs.
    """
    if species.standard_weight is None:
        raise CoreError(
            "no_standard_weight", f"No standard-weight equation is known for {species.common_name}.", "species"
        )
    length, mass = _pairs(length_mm, mass_g)
    wr = relative_weight(species, length, mass)
    defined = ~np.isnan(wr)
    if not defined.any():
        raise CoreError(
            "no_relative_weight",
            f"The equation for {species.common_name} starts at {species.standard_weight.min_mm:g} mm; no weighed fish "
            "is that long.",
            "length_mm",
        )
    return RelativeWeightSummary(
        wr=wr,
        overall=_mean(wr[defined], level),
        by_category=_by_category(species, length[defined], wr[defined], level),
        trend=_trend(length[defined], wr[defined], level),
        n_undefined=int((~defined).sum()),
    )


def _by_category(
    species: Species, length: NDArray[np.float64], wr: NDArray[np.float64], level: float
) -> dict[str, Estimate]:
    if species.size_categories is None:
        return {}
    limits = [limit for _, limit in species.size_categories]
    group = np.searchsorted(limits, length, side="right")
    names = ("under stock", "S-Q", "Q-P", "P-M", "M-T", "T")
    return {name: _mean(wr[group == i], level) for i, name in enumerate(names) if np.any(group == i)}


def _trend(length: NDArray[np.float64], wr: NDArray[np.float64], level: float) -> Estimate | None:
    if _different(length) < 3:
        return None
    dx = (length - length.mean()) / 100
    sxx = float(dx @ dx)
    slope = float(dx @ wr) / sxx
    residual = wr - wr.mean() - slope * dx
    sd = math.sqrt(float(residual @ residual) / (wr.size - 2))
    return _t_estimate(slope, sd / math.sqrt(sxx), wr.size, 2, level)


def _without_itself(internal: NDArray[np.float64], n: int) -> NDArray[np.float64]:
    """Externally studentised residuals from internal ones, which can never pass sqrt(n - 2) however far off a fish is.

    Source: Weisberg (2005), Applied Linear Regression, section 9.1 (from memory).
    """
    left = (n - 2) - internal * internal
    with np.errstate(divide="ignore", invalid="ignore"):
        external = internal * np.sqrt((n - 3) / left)
    # one fish off a line that all others lie on exactly
    return np.where(left > 1e-9 * n, external, np.copysign(np.inf, internal)) if n > 3 else internal


def _different(values: NDArray[np.float64]) -> int:
    """How many different values there are, counted only as far as it matters: in most fish the first thousand tell."""
    # lengths a rounding error apart are one length: a line through them would have any slope
    few = np.unique(values[:1000].round(6)).size
    return few if few >= 3 or values.size <= 1000 else np.unique(values.round(6)).size


def _mean(values: NDArray[np.float64], level: float) -> Estimate:
    n = values.size
    if n == 1:
        return Estimate(float(values[0]), math.nan, math.nan, math.nan, level, "t", 1)
    return _t_estimate(float(values.mean()), float(values.std(ddof=1)) / math.sqrt(n), n, 1, level)


def _t_estimate(value: float, se: float, n: int, parameters: int, level: float) -> Estimate:
    half = _t_quantile(n - parameters, level) * se
    return Estimate(value, se, value - half, value + half, level, "t", n)


def _t_quantile(degrees: int, level: float) -> float:
    return float(special.stdtrit(degrees, 0.5 + level / 2))


def _pairs(length_mm: ArrayLike, mass_g: ArrayLike) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    length, mass = np.asarray(length_mm, dtype=float).ravel(), np.asarray(mass_g, dtype=float).ravel()
    if length.size != mass.size:
        raise CoreError(
            "lengths_differ", f"Got {length.size} lengths and {mass.size} masses; they must pair up.", "mass_g"
        )
    keep = ~(np.isnan(length) | np.isnan(mass))
    length, mass = length[keep], mass[keep]
    if length.size and not (
        np.all(length > 0) and np.all(mass > 0) and np.isfinite(length).all() and np.isfinite(mass).all()
    ):
        raise CoreError("not_positive", "Every length and mass must be a finite number above zero.", "mass_g")
    return length, mass
